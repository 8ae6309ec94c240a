import fc from "fast-check";
import { afterAll, describe, expect, it } from "vitest";
import { closeApart, handOffsApart, pdfFormsApart, picturesApart } from "../../src/adapters/apart";
import { standInScanner } from "../../src/adapters/scanner";
import { surveyPdf } from "../../src/core/files";
import { takeFile } from "../../src/usecases/kit";
import { hostileUploads } from "../hostile/uploads";
import { sleepDiary, throughQpdf } from "../support/pdf";

const ports = { pdf: pdfFormsApart, pictures: picturesApart, scanner: standInScanner };
afterAll(closeApart);

describe("a file made to cost much", () => {
  it.each(hostileUploads)("is refused: $what", async ({ name, make, why }) => {
    const taken = await takeFile(ports, name, make());
    expect(taken.ok ? "taken" : taken.error).toBe(why);
    // What reads files is there again at once.
    expect(await takeFile(ports, "a.pdf", sleepDiary())).toMatchObject({ ok: true });
  });

  it("does not stop what waits behind it", async () => {
    const hostile = hostileUploads.find((one) => one.what.startsWith("a tree of pages"))!.make();
    const [costly, ...good] = await Promise.all([
      pdfFormsApart.check(hostile),
      pdfFormsApart.check(sleepDiary()),
      pdfFormsApart.check(sleepDiary()),
    ]);
    expect(costly).toMatchObject({ error: "too-costly" });
    for (const each of good) expect(each).toMatchObject({ ok: true });
  });

  it("is told from a fault of ours, which throws", async () => {
    await expect(picturesApart.redraw(undefined as unknown as Uint8Array, "image/png")).resolves.toMatchObject({
      error: "broken-picture",
    });
    await expect(handOffsApart.read(undefined as unknown as string)).rejects.toThrow(/TypeError/);
  });
});

describe("a walk through a PDF", () => {
  it("finds what is packed as qpdf packs it", () => {
    const packed = surveyPdf(throughQpdf(sleepDiary(), "--object-streams=generate"));
    expect(packed.ok && packed.value.length).toBe(2);
    expect(surveyPdf(sleepDiary())).toEqual({ ok: true, value: [] });
  });

  it("ends on any bytes, with what is packed inside the file or with a problem (fuzzed)", () => {
    const tokens = fc.constantFrom(
      ..."<< >> [ ] ( ) < > / /Type /ObjStm /Obj#53tm /Filter /FlateDecode /Length /N stream endstream obj endobj R 1 0 99 % \\ \n".split(
        " ",
      ),
    );
    const made = fc.array(tokens, { maxLength: 300 }).map((all) => Buffer.from(all.join(" "), "latin1"));
    const base = sleepDiary();
    const torn = fc
      .array(fc.tuple(fc.nat(base.length - 1), fc.nat(255)), { minLength: 1, maxLength: 40 })
      .map((changes) => {
        const bytes = base.slice();
        for (const [at, byte] of changes) bytes[at] = byte;
        return bytes;
      });
    fc.assert(
      fc.property(fc.oneof(made, torn, fc.uint8Array({ maxLength: 500 })), (bytes) => {
        const found = surveyPdf(bytes);
        if (!found.ok) return;
        for (const { begin, end } of found.value) {
          expect(begin).toBeLessThanOrEqual(end);
          expect(end).toBeLessThanOrEqual(bytes.length);
        }
      }),
      { numRuns: 3000 },
    );
  });
});
