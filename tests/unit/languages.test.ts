import { js2xliff, xliff2js } from "xliff";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import { proof } from "../../src/core/proof";
import {
  answerText,
  bestLanguage,
  differences,
  duplicateItem,
  forClient,
  languagesOf,
  removeItem,
  shownQuestions,
  textsOf,
  translate,
  translationState,
  updateItem,
  withTranslation,
  type Question,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { directionOf, isLanguageTag } from "../../src/core/shared";
import { intentSentence } from "../../src/core/signing";
import { starterLibrary } from "../../src/core/starter";
import { readXliff, takeXliff, writeXliff } from "../../src/core/xliff";
import { ar } from "../../src/i18n/client/ar";
import { en } from "../../src/i18n/client/en";
import { es } from "../../src/i18n/client/es";
import { fr } from "../../src/i18n/client/fr";
import { clientWords, fillMessages } from "../../src/i18n/client-words";
import { fillTranslator } from "../../src/i18n/page-words";
import { fhirProblems } from "../support/fhir";
import { anyQuestionnaire, answersFor, fromRepository } from "../support/questionnaires";

const words = fc
  .string({ unit: "grapheme", minLength: 1, maxLength: 30 })
  .filter((s) => s.trim() !== "" && /^[ \S]+$/u.test(s) && !/[\u0000-\u001F\uFFFE\uFFFF]|\p{Surrogate}/u.test(s));
/** A questionnaire of which some texts are translated, some of those from words that stand no longer. */
const translated = fc
  .tuple(
    anyQuestionnaire,
    fc.array(fc.tuple(fc.nat(), fc.constantFrom("ar", "es", "pt-BR"), words, fc.boolean()), { maxLength: 12 }),
  )
  .map(([questionnaire, all]) =>
    all.reduce<Questionnaire>(
      (now, [n, language, text, old]) => {
        const texts = textsOf(now);
        const at = texts[n % texts.length];
        return at ? withTranslation(now, language, old ? { ...at, source: `${at.source} before` } : at, text) : now;
      },
      { ...questionnaire, language: "en" },
    ),
  );
const intake = fromRepository("adult-intake");
const place = (q: Questionnaire, name: string) => textsOf(q).find((t) => t.place === name)!;

describe("translations", () => {
  it("go out and come in with FHIR unchanged, out-of-date ones as such, in files that the validators take", () => {
    fc.assert(
      fc.property(translated, (questionnaire) => {
        const written = JSON.parse(JSON.stringify(writeQuestionnaire(questionnaire))) as object;
        expect(fhirProblems(written)).toEqual([]);
        const read = readQuestionnaire(written);
        if (!read.ok) throw new Error(JSON.stringify(read.error));
        expect(Object.fromEntries(languagesOf(read.value).map((l) => [l, read.value.translations![l]]))).toEqual(
          Object.fromEntries(languagesOf(questionnaire).map((l) => [l, questionnaire.translations![l]])),
        );
        expect(writeQuestionnaire(read.value)).toEqual(written);
      }),
      { numRuns: 60 },
    );
  });
  it("stand beside what others wrote at the same text, which is kept", () => {
    const theirs = { url: "https://elsewhere.example/said-by", valueString: "somebody" };
    const file = {
      resourceType: "Questionnaire",
      status: "active",
      title: "T",
      item: [
        {
          linkId: "a",
          type: "string",
          text: "Hello",
          _text: {
            id: "x",
            extension: [
              theirs,
              {
                url: "http://hl7.org/fhir/StructureDefinition/translation",
                extension: [
                  { url: "lang", valueCode: "es" },
                  { url: "content", valueString: "Hola" },
                ],
              },
            ],
          },
        },
      ],
    };
    const read = readQuestionnaire(file);
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    expect(translate(read.value, "es").items[0]!.text).toBe("Hola");
    expect(
      (writeQuestionnaire(read.value)["item"] as { _text: { id: string; extension: unknown[] } }[])[0]!._text,
    ).toMatchObject({ id: "x", extension: expect.arrayContaining([theirs]) as unknown });
    for (const extension of [
      [
        { url: "lang", valueCode: "__proto__" },
        { url: "content", valueString: "x" },
      ],
      [{ url: "lang", valueCode: "es" }],
    ])
      expect(
        readQuestionnaire({
          ...file,
          item: [
            {
              ...file.item[0],
              _text: { extension: [{ url: "http://hl7.org/fhir/StructureDefinition/translation", extension }] },
            },
          ],
        }),
      ).toMatchObject({ ok: false, error: [{ linkId: "a" }] });
  });
  it("change no answer: an option keeps its value, and what was chosen reads in the reader's words", () => {
    fc.assert(
      fc.property(
        translated.chain((q) => answersFor(q).map((given) => ({ q, given }))),
        ({ q, given }) => {
          const [before, after] = [q, translate(q, "ar")].map((one) =>
            shownQuestions(one, given).map((s) => ({ key: s.key, values: s.item.options.map((o) => o.value) })),
          );
          expect(after).toEqual(before);
        },
      ),
      { numRuns: 100 },
    );
    expect(forClient(translate(intake, "ar"))).not.toHaveProperty("translations");
    const pronouns = translate(intake, "ar")
      .items.flatMap((i) => (i.type === "group" ? i.items : []))
      .find((i) => i.text === "الضمائر") as Question;
    expect(answerText(pronouns, pronouns.options[0]!.value)).toBe("هي");
    expect(pronouns.options[0]!.value).toMatchObject({ value: { display: "she / her" } });
  });
  it("are out of date once the words change, and right again when somebody says so", () => {
    const changed = updateItem(intake, "first-name", (i) => ({ ...i, text: "Given name" }));
    const text = place(changed, "text:first-name");
    const said = changed.translations!["es"]![text.place];
    expect([translationState(text, said), translationState(text, undefined)]).toEqual(["out-of-date", "missing"]);
    expect(
      proof(changed, [])
        .findings.filter((f) => f.code === "untranslated")
        .map((f) => [f.linkId, f.message]),
    ).toEqual(
      ["Arabic", "Spanish", "French"].map((l) => [
        "first-name",
        `${l}: one translation is of words that have changed since.`,
      ]),
    );
    const right = withTranslation(changed, "es", text, said!.text);
    expect(translationState(text, right.translations!["es"]![text.place])).toBe("done");
    expect(languagesOf(withTranslation({ ...intake, translations: {} }, "es", text, " "))).toEqual([]);
    expect(
      differences(intake, withTranslation(intake, "fr", place(intake, "title"), "Autre")).map((d) => d.words),
    ).toEqual(["French: one text translated anew or taken away"]);
    // A copied line takes its translations along, and one that is gone leaves none behind in the file.
    const copied = duplicateItem(intake, "first-name", () => "copy");
    expect(copied.translations!["ar"]!["text:copy"]).toEqual(intake.translations!["ar"]!["text:first-name"]);
    expect(JSON.stringify(writeQuestionnaire(removeItem(intake, "first-name")))).not.toContain("الاسم الأول");
  });
  it.each([
    ["es", "es"],
    ["es-MX", "es"],
    ["ES", "es"],
    ["en", undefined],
    ["en-GB", undefined],
    ["de", undefined],
    ["", undefined],
  ])("for a reader of %s are those of %s", (asked, given) => {
    expect(bestLanguage(intake, asked)).toBe(given);
    expect(translate(intake, asked)).not.toHaveProperty("translations");
  });
  it("warn of what is missing", () => {
    const begun = withTranslation({ ...intake, translations: {} }, "so", place(intake, "title"), "X");
    expect(
      proof(begun, [])
        .findings.filter((f) => f.code === "untranslated")
        .map((f) => f.message),
    ).toEqual([`Somali: ${textsOf(intake).length - 1} texts are not translated, and will be shown in English.`]);
  });
  it("are written the way their script runs", () => {
    expect(["ar", "fa-IR", "he", "ur", "en", "uz-Latn", "uz-Arab", "nonsense tag"].map(directionOf)).toEqual([
      "rtl",
      "rtl",
      "rtl",
      "rtl",
      "ltr",
      "ltr",
      "rtl",
      "ltr",
    ]);
    expect(
      ["es", "pt-BR", "zh-Hant-TW", "__proto__", "constructor", "", "e", "es_MX", "../x"].map(isLanguageTag),
    ).toEqual([true, true, true, false, false, false, false, false, false]);
  });
});

describe("XLIFF 2.0", () => {
  it("is read back as it was written, and by another library, whatever the words", async () => {
    await fc.assert(
      fc.asyncProperty(translated, async (questionnaire) => {
        const file = writeXliff(questionnaire, "ar");
        const read = readXliff(file);
        if (!read.ok) throw new Error(read.error);
        const said = questionnaire.translations?.["ar"] ?? {};
        expect(read.value.units.map((u) => [u.name, u.source, u.target])).toEqual(
          textsOf(questionnaire).map((t) => [t.place, t.source, said[t.place]?.text]),
        );
        const theirs = await xliff2js(file);
        expect([theirs.sourceLanguage, theirs.targetLanguage]).toEqual(["en", "ar"]);
        const units = Object.values(Object.values(theirs.resources)[0] ?? {});
        expect(units.map((u) => u.source.trim())).toEqual(textsOf(questionnaire).map((t) => t.source.trim()));
        // Untouched, it changes nothing, not even what is out of date.
        expect(takeXliff(questionnaire, file)).toMatchObject({
          ok: true,
          value: { changed: 0, unknown: [], questionnaire: questionnaire },
        });
      }),
      { numRuns: 40 },
    );
  });
  it.each(starterLibrary.filter((q) => q.translations).map((q) => [q.name!, q] as const))(
    "of %s holds everything a translator needs, and comes back whole",
    (_, questionnaire) => {
      for (const language of languagesOf(questionnaire)) {
        const file = writeXliff(questionnaire, language);
        const read = readXliff(file);
        expect(read.ok && read.value.units.every((u) => u.confirmed && u.target !== undefined && u.target !== "")).toBe(
          true,
        );
        // Into a fresh one without translations, every text comes in, and none is out of date.
        expect(takeXliff({ ...questionnaire, translations: {} }, file)).toMatchObject({
          ok: true,
          value: {
            language,
            changed: textsOf(questionnaire).length,
            outOfDate: 0,
            unknown: [],
            questionnaire: { translations: { [language]: questionnaire.translations![language] } },
          },
        });
      }
    },
  );
  it("written by the other library is taken in", async () => {
    const resources = {
      q: Object.fromEntries(
        textsOf(intake)
          .slice(0, 5)
          .map((t) => [t.place, { source: t.source, target: `so ${t.source}` }]),
      ),
    };
    const file = (await js2xliff({ resources, sourceLanguage: "en", targetLanguage: "so" })).replace(
      '<file id="q"',
      `<file id="q" original="${intake.url}"`,
    );
    const taken = takeXliff(intake, file);
    expect(taken).toMatchObject({ ok: true, value: { language: "so", changed: 5, outOfDate: 0, unknown: [] } });
    expect(taken.ok && translate(taken.value.questionnaire, "so").title).toBe(`so ${intake.title}`);
  });
  it("marks what was made of words that have changed meanwhile, takes a confirmed one as right, and names what is no longer here", () => {
    const file = writeXliff(intake, "es").replace(">Nombre</target>", ">Nombre de pila</target>");
    const changed = removeItem(
      updateItem(intake, "first-name", (i) => ({ ...i, text: "Given name" })),
      "last-name",
    );
    expect(takeXliff(changed, file)).toMatchObject({
      ok: true,
      value: { changed: 1, outOfDate: 1, unknown: ["text:last-name"] },
    });
    // Sent out as out of date, it comes back as right only where the translator says so.
    const again = writeXliff(changed, "es");
    const right = again.replace(/state="initial">(\s*<source>Given name)/, 'state="reviewed">$1');
    expect(takeXliff(changed, again)).toMatchObject({ value: { changed: 0 } });
    const confirmed = takeXliff(changed, right);
    expect(confirmed).toMatchObject({ value: { changed: 1, outOfDate: 0 } });
    expect(
      confirmed.ok &&
        textsOf(changed).filter(
          (t) => translationState(t, confirmed.value.questionnaire.translations!["es"]![t.place]) !== "done",
        ),
    ).toEqual([]);
  });
  it("joins segments, and gives inline tags their text", () => {
    const file = `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="es"><file id="f" original="${intake.url}"><group id="g"><unit id="1" name="title"><segment state="final"><source>Before your </source><target>Antes <pc id="1">de &amp; <![CDATA[<]]></pc><cp hex="0041"/></target></segment><ignorable><source> </source></ignorable><segment state="final"><source>first visit</source><target>su visita</target></segment></unit></group></file></xliff>`;
    expect(readXliff(file)).toMatchObject({
      value: {
        units: [
          { name: "title", source: "Before your  first visit", target: "Antes de & <Asu visita", confirmed: true },
        ],
      },
    });
  });
  it.each([
    ["a document type", '<!DOCTYPE x [<!ENTITY a "b">]><xliff/>', "document type"],
    ["broken XML", "<xliff", "not well-formed"],
    ["something else", '<html xmlns="http://www.w3.org/1999/xhtml"/>', "not an XLIFF 2.0 file"],
    ["version 1.2", '<xliff xmlns="urn:oasis:names:tc:xliff:document:1.2" version="1.2"/>', "not an XLIFF 2.0 file"],
    ["another questionnaire", writeXliff({ ...intake, url: "urn:other" }, "es"), "another questionnaire"],
    ["no target language", writeXliff(intake, "es").replace('trgLang="es"', ""), "trgLang"],
    [
      "a made-up language",
      writeXliff(intake, "es").replace('trgLang="es"', 'trgLang="__proto__"'),
      "not a language tag",
    ],
    [
      "another source language",
      writeXliff(intake, "es").replace('srcLang="en"', 'srcLang="de"'),
      "translates from “de”",
    ],
    ["too much", `<xliff>${" ".repeat(4_000_000)}`, "larger than 4 MB"],
  ])("refuses %s and says why", (_, file, why) => {
    expect(takeXliff(intake, file)).toMatchObject({ ok: false, error: expect.stringContaining(why) as unknown });
  });
});

describe("the words of the client's pages", () => {
  const placeholders = (text: string): string[] =>
    [...new Set([...text.matchAll(/\{(\w+)/g)].map((m) => m[1]!))].filter((name) => /^[a-z]+$/.test(name)).sort();
  it.each(Object.entries({ es, fr, ar }))(
    "say the same in %s: every message, with its placeholders",
    (language, messages) => {
      for (const [namespace, own] of Object.entries(en))
        for (const [key, text] of Object.entries(own as Record<string, string>)) {
          const said = (messages as unknown as Record<string, Record<string, string>>)[namespace]![key];
          expect(said, `${language} ${key}`).toBeTruthy();
          // The words inside a plural's branches are words, not placeholders.
          expect(placeholders(said!.replace(/(?:zero|one|two|few|many|other) \{[^{}]*\}/g, ""))).toEqual(
            placeholders(text.replace(/(?:zero|one|two|few|many|other) \{[^{}]*\}/g, "")),
          );
        }
      expect(intentSentence(language)).not.toBe(intentSentence("en"));
    },
  );
  it.each(["en", "es", "fr", "ar"])("are said in %s as the library that reads ICU messages says them", (language) => {
    const compiled = fillMessages(language);
    const given = { count: 3, at: "2", of: "5", limit: 4 };
    const say = fillTranslator(language, compiled) as unknown as (key: string, values: object) => string;
    const read = clientWords("fill", language) as unknown as (key: string, values: object) => string;
    for (const [key, text] of Object.entries(en.fill)) {
      const names = placeholders(text.replace(/(?:zero|one|two|few|many|other) \{[^{}]*\}/g, ""));
      for (const count of [0, 1, 2, 3, 11, 100]) {
        const values = Object.fromEntries(
          names.map((name) => [name, name === "count" ? count : (given[name as keyof typeof given] ?? `<${name}>`)]),
        );
        expect(say(key, values), key).toBe(read(key, values));
      }
    }
    expect(JSON.parse(JSON.stringify(compiled))).toEqual(compiled);
  });
  it("count in Arabic as Arabic does", () => {
    const t = clientWords("fill", "ar");
    expect([1, 2, 3, 11].map((count) => t("problems", { count }))).toEqual([
      "إجابة واحدة تحتاج إلى نظر",
      "إجابتان تحتاجان إلى نظر",
      expect.stringMatching(/إجابات تحتاج/) as unknown,
      expect.stringMatching(/إجابة تحتاج/) as unknown,
    ]);
  });
});
