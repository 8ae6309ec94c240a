import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { pdfForms } from "../../src/adapters/pdf-forms";
import { sharpPictures } from "../../src/adapters/pictures";
import { cookieIn, staffCookie } from "../../src/app/_server/cookie-names";
import { parseJson } from "../../src/app/_server/json";
import { cleanTitle, sniff } from "../../src/core/files";
import { readHandOff, readQuestionnaireText, sheetsIn, writeQuestionnaire } from "../../src/core/fhir";
import { readChange, readOptions, textsOf } from "../../src/core/questionnaire";
import { isPlain } from "../../src/core/shared";
import { pageLines, readPaper } from "../../src/core/worksheet";
import { readXliff, writeXliff } from "../../src/core/xliff";
import { isOurHost, isReadable } from "../../guards.mjs";
import { fromRepository } from "../support/questionnaires";
import { sleepDiary } from "../support/pdf";

// Each reader of bytes that strangers made ends, with a value or with what is wrong, and throws nothing, whatever it
// is given.
const runs = { numRuns: 400 };
const intake = fromRepository("adult-intake");
/** A text with pieces of it taken out, doubled, swapped for something else or put elsewhere. */
const bent = (whole: string): fc.Arbitrary<string> => {
  const piece = fc.constantFrom(
    '"',
    "{",
    "}",
    "[",
    "]",
    ",",
    ":",
    "null",
    "1e999",
    "-1",
    '"\\ud800"',
    "<",
    ">",
    "</",
    "&",
    "&#0;",
    "<![CDATA[",
    "]]>",
    "\u0000",
    "\ufeff",
    '"__proto__":{}',
    '"constructor":1',
    '"linkId":"__proto__"',
    '"item":[{}]',
    '"type":"group"',
    '"repeats":true',
    '"enableWhen":[{}]',
    '"extension":[{}]',
  );
  const change = fc.tuple(
    fc.nat(whole.length),
    fc.nat(60),
    fc.oneof(piece, fc.constant(""), fc.string({ unit: "binary", maxLength: 20 })),
  );
  return fc
    .array(change, { minLength: 1, maxLength: 8 })
    .map((changes) => changes.reduce((text, [at, cut, put]) => text.slice(0, at) + put + text.slice(at + cut), whole));
};
const anyBytes = (whole: Uint8Array): fc.Arbitrary<Uint8Array> =>
  fc
    .tuple(
      fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 30 }),
      fc.nat(whole.length),
      fc.boolean(),
    )
    .map(([changes, cut, isCut]) => {
      const bytes = whole.slice(0, isCut ? cut : undefined);
      for (const [at, byte] of changes) if (at < bytes.length) bytes[at] = byte;
      return bytes;
    });
const isResult = (given: unknown): boolean => typeof (given as { ok?: unknown }).ok === "boolean";

describe("a reader of foreign bytes ends with a value or a list of problems (fuzzed)", () => {
  it("of questionnaire files", () => {
    const file = JSON.stringify(writeQuestionnaire(intake));
    const bundle = JSON.stringify({
      resourceType: "Bundle",
      type: "collection",
      entry: [{ resource: writeQuestionnaire(intake) }],
    });
    fc.assert(
      fc.property(fc.oneof(bent(file), bent(bundle), fc.json(), fc.string()), (text) => {
        expect(isResult(readHandOff(text))).toBe(true);
        expect(isResult(readQuestionnaireText(text))).toBe(true);
        expect(sheetsIn(text)).toBeInstanceOf(Map);
      }),
      runs,
    );
  });
  it("of any JSON where FHIR stands", () => {
    const odd = fc.anything({
      key: fc.constantFrom(
        "item",
        "linkId",
        "type",
        "text",
        "enableWhen",
        "answerOption",
        "extension",
        "url",
        "valueString",
        "valueCoding",
        "resourceType",
        "title",
        "status",
        "__proto__",
        "contained",
        "initial",
      ),
      maxDepth: 6,
    });
    fc.assert(
      fc.property(odd, (json) => {
        let text: string | undefined;
        try {
          text = JSON.stringify(
            { resourceType: "Questionnaire", title: "T", status: "draft", item: [json] },
            (_, value: unknown) => (typeof value === "bigint" ? String(value) : value),
          );
        } catch {
          return;
        }
        expect(isResult(readHandOff(text))).toBe(true);
      }),
      { numRuns: 1500 },
    );
  });
  it("of translations", () => {
    const xliff = writeXliff(intake, "fr");
    expect(textsOf(intake).length).toBeGreaterThan(10);
    fc.assert(
      fc.property(fc.oneof(bent(xliff), fc.string()), (text) => {
        expect(isResult(readXliff(text))).toBe(true);
      }),
      runs,
    );
  });
  it("of answers", () => {
    const values = fc.array(
      fc.record({
        type: fc.constantFrom("string", "coding", "date", "quantity", "attachment", "x"),
        value: fc.anything(),
      }),
      { maxLength: 4 },
    );
    const key = fc.oneof(
      fc.constantFrom(
        "occupation",
        "medicines",
        "medicines:r1/name",
        "__proto__",
        "constructor",
        "a/b/c",
        ":",
        "/",
        "medicines:/",
      ),
      fc.string(),
    );
    const change = fc.record(
      {
        kind: fc.constantFrom("values", "rows", "x"),
        key,
        values: fc.oneof(values, fc.anything()),
        rows: fc.anything(),
      },
      { requiredKeys: ["kind"] },
    );
    fc.assert(
      fc.property(fc.oneof(change, fc.anything()), (json) => {
        expect(isResult(readChange(intake, json))).toBe(true);
      }),
      { numRuns: 3000 },
    );
  });
  it("of a request's JSON, names of files, hosts, addresses and cookies", () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.json(), fc.string({ unit: "binary" }), bent('{"partId":"x","changes":[{"kind":"values"}]}')),
        (text) => {
          parseJson(text, 1000);
          expect(cleanTitle(text, "application/pdf")).toMatch(/^[^\\/\r\n"<>]{1,84}\.pdf$/);
          expect(typeof isOurHost(text, "https://rooms.example")).toBe("boolean");
          expect(typeof isReadable(text)).toBe("boolean");
          cookieIn(text, staffCookie, "https://rooms.example");
          sniff(new TextEncoder().encode(text));
        },
      ),
      { numRuns: 2000 },
    );
    for (const text of [
      `${"[".repeat(30_000)}${"]".repeat(30_000)}`,
      '{"a":{"__proto__":{"x":1}}}',
      '[{"constructor":1}]',
    ])
      expect(isPlain(parseJson(text, 1e6))).toBe(false);
    expect(isPlain({ bytes: new Uint8Array(1e7), list: [{ a: null }] })).toBe(true);
  });
  it("of pasted options and of printed forms", () => {
    const text = fc.array(
      fc.oneof(
        fc.string({ unit: "grapheme" }),
        fc.constantFrom("☐ Yes", "____", "1 2 3 4 5", "a) b) c)", "…………", "Name: ______ Date: ____"),
      ),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(text, (lines) => {
        readOptions(lines.join("\n"), [], "urn:o");
        const placed = lines.map((words, index) => ({
          text: words,
          x: (index * 37) % 500,
          y: 800 - index * 13,
          width: 100,
          size: 11,
        }));
        readPaper(pageLines(placed));
      }),
      runs,
    );
  });
  it("of PDFs and pictures", async () => {
    const sheet = sleepDiary();
    const png = new Uint8Array(
      await sharp({ create: { width: 40, height: 30, channels: 3, background: "#a33" } })
        .png()
        .toBuffer(),
    );
    await fc.assert(
      fc.asyncProperty(anyBytes(sheet), anyBytes(png), async (pdf, picture) => {
        expect(isResult(await pdfForms.check(pdf))).toBe(true);
        expect(isResult(await sharpPictures.redraw(picture, "image/png"))).toBe(true);
      }),
      { numRuns: 150 },
    );
  });
});
