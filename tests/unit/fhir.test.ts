import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { consentYes, hugoIntake, phq9 } from "../../demo/answers";
import { builtInFields, postingProblems } from "../../src/core/chart";
import { readQuestionnaire, readQuestionnaireText, writeQuestionnaire, writeResponse } from "../../src/core/fhir";
import { allQuestions, type Answers, type AnswerValue, type Questionnaire } from "../../src/core/questionnaire";
import { signedText, textDigest } from "../../src/core/signing";
import { instant } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";
import { anyQuestionnaire, answersFor, fromRepository } from "../support/questionnaires";

const files = ["adult-intake", "consent-to-care", "phq-9"] as const;
const at = instant("2026-11-25T08:00:00Z");

describe("the outside validators", () => {
  const good = { resourceType: "Questionnaire", status: "active", item: [{ linkId: "a", type: "string" }] };
  it.each<[string, object]>([
    ["no status", { resourceType: "Questionnaire", item: good.item }],
    ["an unknown item type", { ...good, item: [{ linkId: "a", type: "mood" }] }],
    ["no linkId", { ...good, item: [{ type: "string" }] }],
    ["an unknown element", { ...good, colour: "red" }],
    ["a doubled linkId", { ...good, item: [...good.item, ...good.item] }],
    [
      "answers beside items",
      {
        resourceType: "QuestionnaireResponse",
        status: "completed",
        item: [{ linkId: "a", answer: [{ valueString: "x" }], item: [{ linkId: "b" }] }],
      },
    ],
  ])("do see %s", (_, broken) => {
    expect(fhirProblems(good)).toEqual([]);
    expect(fhirProblems(broken)).not.toEqual([]);
  });
});

describe("our own questionnaire files", () => {
  it.each(files)("%s is valid FHIR R4 as it stands and as we write it", (name) => {
    expect(fhirProblems(JSON.parse(readFileSync(`demo/questionnaires/${name}.json`, "utf8")) as object)).toEqual([]);
    expect(fhirProblems(writeQuestionnaire(fromRepository(name)))).toEqual([]);
  });
  it.each(files)("%s comes out of an import equal in meaning", (name) => {
    const once = fromRepository(name);
    const again = readQuestionnaire(JSON.parse(JSON.stringify(writeQuestionnaire(once))));
    expect(again).toEqual({ ok: true, value: once });
    expect(writeQuestionnaire((again as { value: Questionnaire }).value)).toEqual(writeQuestionnaire(once));
  });
  it.each(files)("%s posts only to chart fields that exist", (name) => {
    expect(postingProblems(fromRepository(name), builtInFields)).toEqual([]);
  });
  it("the intake is the size it should be: five sections, branching, a repeating group, a required contact block", () => {
    const q = fromRepository("adult-intake");
    expect(q.items).toHaveLength(5);
    expect(q.items.every((i) => i.type === "group")).toBe(true);
    expect(allQuestions(q).filter((i) => i.shownWhen).length).toBeGreaterThanOrEqual(4);
    expect(fromRepository("consent-to-care").signed).toBe(true);
  });
});

describe("import and export", () => {
  it("is a fixed point for random questionnaires, and both validators accept what we write", () => {
    fc.assert(
      fc.property(anyQuestionnaire, (q) => {
        const written = JSON.parse(JSON.stringify(writeQuestionnaire(q))) as object;
        const read = readQuestionnaire(written);
        if (!read.ok) throw new Error(JSON.stringify(read.error));
        expect(writeQuestionnaire(read.value)).toEqual(written);
        expect(read.value.items).toEqual(q.items);
        expect(fhirProblems(written)).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });
  it("gives back what it does not use: elements and extensions of others, on the root, items and options", () => {
    const theirs = {
      resourceType: "Questionnaire",
      url: "urn:other:1",
      version: "7",
      title: "Theirs",
      status: "active",
      date: "2020-01-01",
      effectivePeriod: { start: "2020-01-01" },
      meta: { profile: ["http://example.org/p"] },
      extension: [{ url: "http://example.org/ext", valueString: "kept" }],
      item: [
        {
          linkId: "1",
          text: "Colour?",
          type: "choice",
          definition: "http://example.org/def",
          initial: [{ valueCoding: { code: "r" } }],
          _text: { extension: [{ url: "http://example.org/t", valueString: "x" }] },
          extension: [{ url: "http://example.org/i", valueBoolean: true }],
          answerOption: [
            {
              valueCoding: { code: "r", display: "Red" },
              initialSelected: true,
              extension: [{ url: "http://example.org/o", valueString: "o" }],
            },
          ],
        },
      ],
    };
    const read = readQuestionnaire(theirs);
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    const { extension, ...rest } = writeQuestionnaire(read.value) as { extension: { url: string }[] } & Record<
      string,
      unknown
    >;
    expect(rest).toEqual((({ extension: _, ...r }) => r)(theirs));
    expect(extension).toContainEqual(theirs.extension[0]);
  });
  it("exports random responses that both validators accept", () => {
    fc.assert(
      fc.property(
        anyQuestionnaire.chain((q) => fc.tuple(fc.constant(q), answersFor(q))),
        ([questionnaire, answers]) => {
          expect(
            fhirProblems(
              writeResponse(questionnaire, answers, {
                id: "r1",
                client: { id: "c1", name: "Test" },
                authored: at,
                status: "completed",
              }),
            ),
          ).toEqual([]);
        },
      ),
      { numRuns: 40 },
    );
  });
  it.each([
    ["adult-intake", hugoIntake],
    ["phq-9", phq9([1, 2, 3, 0, 1, 2, 3, 0, 1])],
    ["consent-to-care", consentYes],
  ] as const)("exports a filled and signed %s validly", (name, filled) => {
    const questionnaire = fromRepository(name);
    const values = Object.fromEntries(
      Object.entries(filled.values).map(([id, visit]) => {
        const question = allQuestions(questionnaire).find((i) => i.linkId === id)!;
        const option = question.options.find(
          (o) => o.value.type === "coding" && o.value.value.display === visit,
        )?.value;
        const valueOf = (): AnswerValue => {
          if (typeof visit === "boolean") return { type: "boolean", value: visit };
          if (typeof visit === "number") return { type: "decimal", value: visit };
          if (question.type === "date") return { type: "date", value: visit };
          return { type: "string", value: visit };
        };
        const value: AnswerValue = option ?? valueOf();
        return [id, [value]];
      }),
    );
    const answers: Answers = {
      values: { ...values, "medicines:a/medicine-name": [{ type: "string", value: "Iron" }] },
      rows: { medicines: ["a"] },
    };
    const read = signedText(questionnaire, answers, "", "en");
    const mark = { kind: "typed", name: "Hugo" } as const;
    const statement = { ...read, textDigest: textDigest(read), signer: "Hugo", mark, at };
    expect(
      fhirProblems(
        writeResponse(questionnaire, answers, {
          id: "r1",
          client: { id: "c1", name: "Hugo" },
          relation: { id: "rel1", name: "Siri" },
          authored: at,
          status: "completed",
          signatures: [{ statement, data: Buffer.from("x").toString("base64") }],
        }),
      ),
    ).toEqual([]);
  });
});

describe("a bad file", () => {
  const item = (rest: object) => ({
    resourceType: "Questionnaire",
    title: "T",
    status: "active",
    item: [
      { linkId: "a", text: "A", type: "boolean" },
      { linkId: "b", text: "B", type: "string", ...rest },
    ],
  });
  const coded = (options: object[]) => item({ type: "choice", answerOption: options });
  const regex = (pattern: string) =>
    item({ extension: [{ url: "http://hl7.org/fhir/StructureDefinition/regex", valueString: pattern }] });
  const deep = (n: number): object =>
    n === 0
      ? { linkId: "x0", text: "x", type: "string" }
      : { linkId: `x${n}`, text: "x", type: "group", item: [deep(n - 1)] };
  it.each<[string, unknown, RegExp, string?]>([
    ["another resource", { resourceType: "Patient" }, /This is a Patient, not a Questionnaire/],
    [
      "no title",
      { resourceType: "Questionnaire", status: "active", item: [{ linkId: "a", type: "string" }] },
      /needs a title/,
    ],
    ["an unknown status", { ...item({}), status: "done" }, /must be draft, active, retired or unknown/],
    ["no questions", { resourceType: "Questionnaire", title: "T", status: "active" }, /no question/],
    ["a doubled linkId", item({ linkId: "a" }), /"a" stands twice/, "a"],
    ...["__proto__", "constructor", "toString", "hasOwnProperty"].map((linkId): [string, unknown, RegExp, string] => [
      `the linkId ${linkId}`,
      item({ linkId }),
      new RegExp(`linkId "${linkId}" has a meaning of its own`),
      linkId,
    ]),
    [
      "enableWhen pointing nowhere",
      item({ enableWhen: [{ question: "zz", operator: "=", answerBoolean: true }] }),
      /"zz" is answered, but there is no such question/,
      "b",
    ],
    [
      "an unknown operator",
      item({ enableWhen: [{ question: "a", operator: "~", answerBoolean: true }] }),
      /operator must be one of/,
      "b",
    ],
    [
      "a condition without an answer",
      item({ enableWhen: [{ question: "a", operator: "=" }] }),
      /exactly one answer\[x\]; it has 0/,
      "b",
    ],
    [
      "two conditions without a behaviour",
      item({
        enableWhen: [
          { question: "a", operator: "=", answerBoolean: true },
          { question: "a", operator: "exists", answerBoolean: true },
        ],
      }),
      /que-12/,
      "b",
    ],
    ["an unknown type", item({ type: "mood" }), /"mood" is not a FHIR R4 item type/, "b"],
    [
      "a day that is none",
      item({ enableWhen: [{ question: "a", operator: "=", answerDate: "2026-02-30" }] }),
      /no day “2026-02-30”/,
      "b",
    ],
    [
      "a limit that is no day",
      item({
        type: "date",
        extension: [{ url: "http://hl7.org/fhir/StructureDefinition/minValue", valueDate: "2026-13-01" }],
      }),
      /no day “2026-13-01”/,
      "b",
    ],
    [
      "a value set that is elsewhere",
      item({ type: "choice", answerValueSet: "http://elsewhere.example/set" }),
      /value set elsewhere/,
      "b",
    ],
    ["a choice without options", item({ type: "choice" }), /at least one answerOption/, "b"],
    ["an option twice", coded([{ valueString: "x" }, { valueString: "x" }]), /same option stands twice/, "b"],
    [
      "two values in an option",
      coded([{ valueString: "x", valueInteger: 1 }]),
      /exactly one value\[x\]; it has 2/,
      "b",
    ],
    [
      "a score of nothing",
      item({
        extension: [
          {
            url: "https://kindledger.example/fhir/StructureDefinition/score",
            extension: [
              { url: "method", valueCode: "sum" },
              { url: "item", valueString: "zz" },
            ],
          },
        ],
      }),
      /counts "zz"/,
      "b",
    ],
    ["a regex that could run forever", regex("(?=a)b"), /could be made to run forever/, "b"],
    ["a regex that cannot be read", regex("(["), /cannot be read/, "b"],
    [
      "sections without end",
      { resourceType: "Questionnaire", title: "T", status: "active", item: [deep(40)] },
      /nested more than/,
    ],
    ["a list instead of an object", [], /something else/],
  ])("%s is named, with its place", (_, json, problem, linkId) => {
    const read = readQuestionnaire(json);
    if (read.ok) throw new Error("It was taken.");
    expect(read.error.some((p) => problem.test(p.problem) && (linkId === undefined || p.linkId === linkId))).toBe(true);
  });
  it("that is not JSON, or too large, is said so before anything else", () => {
    for (const [text, problem] of [
      ['{"resourceType": ', /not JSON/],
      ["", /not JSON/],
      ["x".repeat(20_000_000), /larger than 2 MB/],
    ] as const) {
      const read = readQuestionnaireText(text);
      expect(!read.ok && read.error.length === 1 && problem.test(read.error[0]!.problem)).toBe(true);
    }
  });
  it("never makes the reader throw, whatever JSON it is", () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (first, second) => {
        readQuestionnaire(first);
        readQuestionnaire({
          resourceType: "Questionnaire",
          title: "T",
          status: "active",
          item: [
            { linkId: "a", type: "choice", answerOption: first, enableWhen: second, extension: first, item: second },
            first,
            second,
          ],
        });
      }),
      { numRuns: 300 },
    );
  });
});
