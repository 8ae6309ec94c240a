import { describe, expect, it } from "vitest";
import { builtInFields } from "../../src/core/chart";
import { readQuestionnaire, writeQuestionnaire, writeResponse } from "../../src/core/fhir";
import { quotable } from "../../src/core/notes";
import { proof, type FindingCode } from "../../src/core/proof";
import {
  forClient,
  isQuestion,
  newLine,
  withKind,
  type AlertTest,
  type AnswerValue,
  type Item,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../../src/core/questionnaire";
import { alertsOf, missingWords, scoresOf, scoreText } from "../../src/core/scoring";
import { instant } from "../../src/core/shared";
import { starterLibrary } from "../../src/core/starter";
import { fhirProblems } from "../support/fhir";
import { question } from "../support/questionnaires";

const questionnaire = (items: readonly Item[], rest: Partial<Questionnaire> = {}): Questionnaire => ({
  url: "urn:alerts",
  version: "1",
  title: "Test",
  status: "draft",
  kind: "intake",
  codes: [],
  signed: false,
  items,
  ...rest,
});
const coded = (code: string): AnswerValue => ({ type: "coding", value: { code, display: code } });
const choice = (id: string, rest: Partial<Question> = {}): Question =>
  question(id, { type: "choice", options: ["fever", "weak legs", "none"].map((c) => ({ value: coded(c) })), ...rest });
const yes: AnswerValue = { type: "boolean", value: true };
const no: AnswerValue = { type: "boolean", value: false };
const whole = (value: number): AnswerValue => ({ type: "integer", value });
const alarming = (asked: Question, test: AlertTest, given: readonly AnswerValue[]): boolean => {
  const whole = questionnaire([
    question("before", { type: "boolean" }),
    { ...asked, alert: { test, message: "Look" } },
  ]);
  return alertsOf(whole, { values: { before: [no], q: given }, rows: {} }).length > 0;
};

describe("an alert", () => {
  const ofOptions: AlertTest = { kind: "answers", answers: [coded("fever"), coded("weak legs")] };
  it.each<[string, Question, AlertTest, readonly AnswerValue[], boolean]>([
    ["an option without a number", choice("q"), ofOptions, [coded("weak legs")], true],
    ["another option", choice("q"), ofOptions, [coded("none")], false],
    ["one of several", choice("q", { repeats: true }), ofOptions, [coded("none"), coded("fever")], true],
    ["no", question("q", { type: "boolean" }), { kind: "answers", answers: [no] }, [no], true],
    ["yes where no alarms", question("q", { type: "boolean" }), { kind: "answers", answers: [no] }, [yes], false],
    ["a low number", question("q", { type: "integer" }), { kind: "numbers", high: 2 }, [whole(2)], true],
    ["a number above it", question("q", { type: "integer" }), { kind: "numbers", high: 2 }, [whole(3)], false],
    ["a number within", question("q", { type: "integer" }), { kind: "numbers", low: 4, high: 6 }, [whole(5)], true],
    ["nothing", choice("q"), { kind: "unanswered" }, [], true],
    ["something, where nothing alarms", choice("q"), { kind: "unanswered" }, [coded("none")], false],
    [
      "what was answered elsewhere",
      choice("q"),
      {
        kind: "condition",
        rule: { behavior: "all", conditions: [{ question: "before", operator: "=", answer: no }] },
      },
      [],
      true,
    ],
  ])("is raised by %s: %#", (_, asked, test, given, expected) => {
    expect(alarming(asked, test, given)).toBe(expected);
    // It comes back from FHIR as it was.
    const before = questionnaire([
      question("before", { type: "boolean" }),
      { ...asked, alert: { test, message: "Look" } },
    ]);
    const json = writeQuestionnaire(before);
    expect(fhirProblems(json)).toEqual([]);
    const back = readQuestionnaire(json);
    expect(back.ok && back.value.items.map((i) => isQuestion(i) && i.alert)).toEqual([
      undefined,
      { test, message: "Look" },
    ]);
  });
  it("in a file of before, from a number upwards, is read as that", () => {
    const json = writeQuestionnaire(questionnaire([question("q", { type: "integer" })])) as { item: object[] };
    const extension = [
      {
        url: "https://kindledger.example/fhir/StructureDefinition/alert",
        extension: [
          { url: "from", valueDecimal: 2 },
          { url: "message", valueString: "Look" },
        ],
      },
    ];
    const read = readQuestionnaire({ ...json, item: [{ ...json.item[0], extension }] });
    expect(read.ok && (read.value.items[0] as Question).alert).toEqual({
      test: { kind: "numbers", low: 2 },
      message: "Look",
    });
  });
  it("of what is left open is not in the client's page: an empty page must not frighten", () => {
    const before = questionnaire([{ ...choice("q"), alert: { test: { kind: "unanswered" }, message: "Look" } }]);
    expect(alertsOf(forClient(before), { values: {}, rows: {} })).toEqual([]);
  });
  it("that no answer can raise is an error", () => {
    const codes = (test: AlertTest): FindingCode[] =>
      proof(questionnaire([{ ...choice("q"), alert: { test, message: "Look" } }]), builtInFields)
        .findings.filter((f) => f.level === "error")
        .map((f) => f.code);
    expect(codes({ kind: "answers", answers: [] })).toEqual(["alert-no-answer"]);
    expect(codes({ kind: "answers", answers: [coded("gone")] })).toEqual(["alert-no-answer"]);
    expect(codes({ kind: "numbers" })).toEqual(["alert-no-answer"]);
    const gone = { question: "gone", operator: "=", answer: yes } as const;
    expect(codes({ kind: "condition", rule: { behavior: "all", conditions: [gone] } })).toEqual(["alert-nowhere"]);
    expect(codes({ kind: "answers", answers: [coded("fever")] })).toEqual([]);
  });
});

describe("starters", () => {
  it("alarm where something must be seen before the visit; each was read for it", () => {
    const alarms = Object.fromEntries(
      starterLibrary.map((starter) => {
        const found: string[] = [];
        const visit = (items: readonly Item[]): void =>
          items.forEach((i) => {
            if (isQuestion(i) && i.alert) found.push(i.alert.message);
            if (i.type !== "display") visit(i.items);
          });
        visit(starter.items);
        return [starter.name, found];
      }),
    );
    expect(alarms).toMatchObject({
      "physiotherapy-intake": [
        "Very strong pain now",
        "Red flag before the first visit",
        "Takes a medicine that thins the blood",
      ],
      "dietitian-intake": ["Weight loss without a known reason", "Worries a lot about food or weight"],
      "perinatal-intake": ["High blood pressure in pregnancy", "Very sick on most days"],
      "skin-consultation": [
        "Not to be treated before it was looked at",
        "May be pregnant, or breastfeeds",
        "Uses a medicine that a treatment must wait for",
      ],
      "remote-consent": ["Cannot talk freely where they will be", "Does not agree to visits by video or phone"],
      "cancellation-terms": ["Does not agree to the terms"],
      // Nothing in these calls for being read before all else; AUDIT, K10 and the others give bands, not alarms.
      "child-intake": [],
      "photo-consent": [],
      "privacy-notice": [],
      "goals-preparation": [],
      "yearly-check": [],
      "session-feedback": [],
    });
    const physio = starterLibrary.find((q) => q.name === "physiotherapy-intake")!;
    const warning = physio.items
      .flatMap((i) => (i.type === "group" ? i.items : []))
      .find((i) => i.linkId === "warning");
    const options = (warning as Question).options.map((o) => o.value);
    const raised = options.map((o) => alertsOf(physio, { values: { warning: [o] }, rows: {} }).length);
    expect(raised).toEqual([1, 1, 1, 1, 0]);
  });
});

describe("a score with something missing", () => {
  const items = ["Sleep", "Rest", "Calm"].map((text, i) =>
    question(`i${i}`, { type: "integer", minValue: 0, maxValue: 10, text }),
  );
  const rule = (more: Partial<ScoreRule>): ScoreRule => ({
    method: "sum",
    items: items.map((i) => i.linkId),
    fewestAnswered: 1,
    proration: "none",
    bands: [{ low: 0, high: 9, label: "low burden", source: "invented" }],
    ...more,
  });
  const scored = (more: Partial<ScoreRule> = {}): Questionnaire =>
    questionnaire(
      [...items, question("total", { type: "decimal", readOnly: true, score: rule(more), text: "Total" })],
      { kind: "measure" },
    );
  const one = { values: { i0: [whole(3)] }, rows: {} };

  it("made in the Composer asks for all", () => {
    const fresh = withKind(newLine("short-text", "s"), "score") as Question;
    // Counting more of them raises what it asks for, as the editor does it.
    const asks = { ...fresh.score!, items: ["i0", "i1", "i2"] };
    expect(fresh.score!.fewestAnswered >= fresh.score!.items.length).toBe(true);
    expect(scoresOf(scored({ ...asks, fewestAnswered: 3 }), one)[0]!.value).toBeUndefined();
  });
  it("says so wherever it stands", () => {
    const words = "1 of 3 items answered; missing: “Rest”, “Calm”";
    const [score] = scoresOf(scored(), one);
    expect([score!.value, missingWords(score!)]).toEqual([3, words]);
    expect(scoreText(score!)).toBe(`3 (low burden); ${words}`);
    expect(quotable({ partId: "p", questionnaire: scored(), answers: one }).at(-1)!.answer).toContain(words);
    const frame = {
      id: "r",
      client: { id: "c", name: "Test" },
      authored: instant("2026-11-25T08:00:00Z"),
      status: "completed" as const,
    };
    const response = writeResponse(scored(), one, frame);
    expect(fhirProblems(response)).toEqual([]);
    expect(JSON.stringify(response)).toContain("missing: “Rest”, “Calm”");
    expect(JSON.stringify(writeResponse(scored({ fewestAnswered: 3 }), one, frame))).toContain("missing: “Rest”");
    const all = { values: Object.fromEntries(items.map((i) => [i.linkId, [whole(3)]])), rows: {} };
    expect(missingWords(scoresOf(scored(), all)[0]!)).toBe("");
  });
  it("is warned about, unless all are asked for or the rule is published", () => {
    const codes = (more: Partial<ScoreRule>, required = false): FindingCode[] => {
      const whole = scored({ bands: [], ...more });
      const asked = whole.items.map((i) => (isQuestion(i) && !i.score ? { ...i, required } : i));
      return proof({ ...whole, items: asked }, builtInFields).findings.map((f) => f.code);
    };
    expect(codes({})).toContain("score-too-few");
    expect(codes({}, true)).not.toContain("score-too-few");
    expect(codes({ fewestAnswered: 3 })).not.toContain("score-too-few");
    expect(codes({ missingSource: "Example, J Invented 2020;1:1" })).not.toContain("score-too-few");
  });
  it("keeps lines of its bands that do not read yet, and a source before the first band", () => {
    const before = scored({ bands: [], unread: ["0 too 4 minimal"], bandsSource: "Example 2020" });
    const back = readQuestionnaire(writeQuestionnaire(before));
    expect(back).toEqual({ ok: true, value: before });
    expect(proof(before, builtInFields).findings.map((f) => f.code)).toContain("band-unread");
  });
});

it("Proof: help and terms are read for grade, sensitive questions are found by their words, a scale ends on a stop", () => {
  const hard =
    "Notwithstanding contractual stipulations, organisational representatives retain discretionary authority.";
  const codes = (item: Question, rest: Partial<Questionnaire> = {}, practice = {}): FindingCode[] =>
    proof(questionnaire([item], rest), builtInFields, practice).findings.map((f) => f.code);
  expect(codes(question("q", { help: hard }))).toContain("hard-to-read");
  expect(codes(question("q", { type: "boolean", terms: hard }))).toContain("hard-to-read");
  const sensitive = { type: "boolean", required: true, text: "Has anybody hurt or abused you?" } as const;
  expect(codes(question("q", sensitive))).toContain("no-way-out");
  expect(codes(question("q", { ...sensitive, required: false }))).not.toContain("no-way-out");
  const spanish = { ...sensitive, text: "¿Ha sufrido violencia en su casa?" };
  expect(codes(question("q", spanish), { language: "es" })).toContain("no-way-out");
  const scale = { type: "integer", control: "slider", minValue: 0, maxValue: 10 } as const;
  expect(codes(question("q", { ...scale, step: 3 }))).toContain("scale-step");
  expect(codes(question("q", { ...scale, step: 5 }))).not.toContain("scale-step");
  expect(codes(question("q"))).toContain("goes-nowhere");
  expect(codes(question("q"), {}, { quoted: true })).not.toContain("goes-nowhere");
  const alarm = { alert: { test: { kind: "answers", answers: [yes] }, message: "Look" }, type: "boolean" } as const;
  expect(codes(question("q", alarm), {}, { supportIn: ["en"] })).not.toContain("no-support");
  expect(codes(question("q", alarm), {}, { supportIn: [] })).toContain("no-support");
  const french = { translations: { fr: { "text:q": { text: "Q", of: "Q" } } } };
  expect(codes(question("q", alarm), french, { supportIn: ["en"] })).toContain("no-support");
});
