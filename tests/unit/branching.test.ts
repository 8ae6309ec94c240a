import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { writeQuestionnaire, writeResponse } from "../../src/core/fhir";
import { instant } from "../../src/core/shared";
import {
  allQuestions,
  applyChange,
  checkAnswers,
  createVisibility,
  noAnswers,
  place,
  prune,
  readChange,
  shownQuestions,
  type Answers,
  type Condition,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { anyQuestionnaire, answersFor, fromRepository, inRow, question } from "../support/questionnaires";
import { evaluate } from "../support/fhir";

const frame = {
  id: "r1",
  client: { id: "c1", name: "Test" },
  authored: instant("2026-11-25T08:00:00Z"),
  status: "completed" as const,
};

interface FhirItem {
  readonly linkId: string;
  readonly item?: readonly FhirItem[];
  readonly extension?: readonly {
    readonly url: string;
    readonly extension?: readonly {
      readonly url: string;
      readonly valueExpression?: { readonly expression: string };
    }[];
  }[];
}
/**
 * A condition as FHIRPath over the exported response (FHIR R4 enableWhen semantics, evaluated by an independent
 * engine).
 */
function asFhirpath({ question: id, operator, answer }: Condition): string {
  const values = `%resource.descendants().where(linkId = '${id}').answer.value`;
  if (operator === "exists") return `(${values}.exists()) = ${String(answer.value)}`;
  const one = answer.type === "coding" ? `(code = '${answer.value.code ?? ""}')` : `($this = ${String(answer.value)})`;
  if (operator === "=") return `${values}.where(${one}).exists()`;
  if (operator === "!=") return `${values}.where(${one}.not()).exists()`;
  return `${values}.where($this ${operator} ${String(answer.value)}).exists()`;
}

describe("shown when", () => {
  it("agrees with fhirpath on every condition of random questionnaires", () => {
    fc.assert(
      fc.property(
        anyQuestionnaire.chain((q) => fc.tuple(fc.constant(q), answersFor(q))),
        ([questionnaire, answers]) => {
          const response = writeResponse(questionnaire, answers, frame);
          const shown = new Set(shownQuestions(questionnaire, answers).map((p) => p.item.linkId));
          for (const item of questionnaire.items.flatMap((i) => (i.type === "group" ? i.items : [i]))) {
            if (!item.shownWhen) continue;
            const met = item.shownWhen.conditions.map((c) => evaluate(response, asFhirpath(c))[0] === true);
            expect(shown.has(item.linkId)).toBe(
              item.shownWhen.behavior === "all" ? met.every(Boolean) : met.some(Boolean),
            );
          }
          // An option is offered just when the file's own SDC expression says so.
          const toggles = new Map(
            (writeQuestionnaire(questionnaire)["item"] as FhirItem[])
              .flatMap((i) => [i, ...(i.item ?? [])])
              .flatMap((item) =>
                (item.extension ?? [])
                  .filter((e) => e.url.endsWith("answerOptionsToggleExpression"))
                  .map(
                    (e) =>
                      [
                        item.linkId,
                        e.extension!.find((x) => x.url === "expression")!.valueExpression!.expression,
                      ] as const,
                  ),
              ),
          );
          const visible = createVisibility(questionnaire, answers);
          for (const item of allQuestions(questionnaire))
            for (const option of item.options)
              if (option.shownWhen)
                expect(evaluate(response, toggles.get(item.linkId)!)[0] === true).toBe(
                  !visible.withheld(item, "").includes(option),
                );
        },
      ),
      { numRuns: 150 },
    );
  });

  it("never returns or requires what is hidden, and pruning again changes nothing", () => {
    fc.assert(
      fc.property(
        anyQuestionnaire.chain((q) => fc.tuple(fc.constant(q), answersFor(q))),
        ([questionnaire, answers]) => {
          const pruned = prune(questionnaire, answers);
          const shown = new Set(shownQuestions(questionnaire, answers).map((p) => p.key));
          expect(Object.keys(pruned.values).every((k) => shown.has(k))).toBe(true);
          expect(prune(questionnaire, pruned)).toEqual(pruned);
          expect(shownQuestions(questionnaire, pruned).map((p) => p.key)).toEqual([...shown]);
          for (const problem of checkAnswers(questionnaire, answers)) expect(shown.has(problem.key)).toBe(true);
          const required = shownQuestions(questionnaire, answers).filter(
            (p) => p.item.required && !pruned.values[p.key],
          );
          expect(
            checkAnswers(questionnaire, answers)
              .filter((p) => p.reason === "missing")
              .map((p) => p.key),
          ).toEqual(required.map((p) => p.key));
        },
      ),
      { numRuns: 300 },
    );
  });

  it("looks for a condition in the same row first, then outward", () => {
    const questionnaire: Questionnaire = {
      ...fromRepository("adult-intake"),
      items: [
        question("outer", { type: "boolean" }),
        {
          type: "group",
          linkId: "rows",
          text: "Rows",
          codes: [],
          required: false,
          repeats: true,
          items: [
            question("inner", { type: "boolean" }),
            question("follow", {
              shownWhen: {
                behavior: "all",
                conditions: [
                  { question: "inner", operator: "=", answer: { type: "boolean", value: true } },
                  { question: "outer", operator: "=", answer: { type: "boolean", value: true } },
                ],
              },
            }),
          ],
        },
      ],
    };
    const yes = [{ type: "boolean" as const, value: true }];
    const no = [{ type: "boolean" as const, value: false }];
    const answers: Answers = {
      rows: { rows: ["a", "b"] },
      values: { outer: yes, [inRow("rows", "a", "inner")]: yes, [inRow("rows", "b", "inner")]: no },
    };
    expect(shownQuestions(questionnaire, answers).map((p) => p.key)).toEqual([
      "outer",
      "rows:a/inner",
      "rows:a/follow",
      "rows:b/inner",
    ]);
    expect(
      shownQuestions(questionnaire, { ...answers, values: { ...answers.values, outer: no } }).map((p) => p.key),
    ).not.toContain("rows:a/follow");
  });

  it("ends on a circle: its questions stay hidden", () => {
    const on = (other: string) => ({
      shownWhen: {
        behavior: "all" as const,
        conditions: [
          { question: other, operator: "exists" as const, answer: { type: "boolean" as const, value: true } },
        ],
      },
    });
    const questionnaire: Questionnaire = {
      ...fromRepository("adult-intake"),
      items: [question("a", on("b")), question("b", on("a"))],
    };
    const text = [{ type: "string" as const, value: "x" }];
    expect(shownQuestions(questionnaire, { rows: {}, values: { a: text, b: text } })).toEqual([]);
  });

  it("keeps linkIds apart that hold the signs keys are made of", () => {
    const questionnaire: Questionnaire = {
      ...fromRepository("adult-intake"),
      items: [
        {
          type: "group",
          linkId: "/g:1",
          text: "",
          codes: [],
          required: false,
          repeats: true,
          items: [question("/44250-9")],
        },
        question("%2F44250-9"),
      ],
    };
    const read = readChange(questionnaire, {
      kind: "values",
      key: inRow("%2Fg%3A1", "a", "/44250-9"),
      values: [{ type: "string", value: "in" }],
    });
    expect(read.ok).toBe(true);
    const answers: Answers = {
      rows: { "%2Fg%3A1": ["a"] },
      values: {
        [inRow("%2Fg%3A1", "a", "/44250-9")]: [{ type: "string", value: "in" }],
        "%252F44250-9": [{ type: "string", value: "out" }],
      },
    };
    expect(shownQuestions(questionnaire, answers).map((p) => answers.values[p.key]?.[0]?.value)).toEqual(["in", "out"]);
  });
});

describe("what a browser may send", () => {
  const questionnaire = fromRepository("adult-intake");
  const text = (value: string) => [{ type: "string", value }];
  it("is kept while it is too long, and cannot be returned so", () => {
    const long = readChange(questionnaire, { kind: "values", key: "first-name", values: text("x".repeat(70_000)) });
    if (!long.ok) throw new Error(long.error.reason);
    expect(checkAnswers(questionnaire, applyChange(noAnswers, long.value))).toContainEqual({
      key: "first-name",
      linkId: "first-name",
      reason: "too-long",
      limit: expect.any(String) as string,
    });
  });
  it.each([
    ["a question that is not there", { kind: "values", key: "nobody", values: text("x") }],
    ["a row of a group that does not repeat", { kind: "values", key: "you:a/first-name", values: text("x") }],
    ["a question outside its row", { kind: "values", key: "medicine-name", values: text("x") }],
    ["a row name of its own making", { kind: "rows", key: "medicines", rows: ["../../a"] }],
    ["the same row twice", { kind: "rows", key: "medicines", rows: ["a", "a"] }],
    ["too many rows", { kind: "rows", key: "medicines", rows: Array.from({ length: 61 }, (_, i) => `r${i}`) }],
    ["a section as a question", { kind: "values", key: "you", values: text("x") }],
    ["text with a NUL", { kind: "values", key: "first-name", values: text("a\u0000b") }],
    ["half a surrogate", { kind: "values", key: "first-name", values: text("\ud83d") }],
    ["endless text", { kind: "values", key: "first-name", values: text("x".repeat(200_001)) }],
    [
      "an option that is not offered",
      { kind: "values", key: "alcohol", values: [{ type: "coding", value: { system: "x", code: "never" } }] },
    ],
    ["a number that is none", { kind: "values", key: "sleep-hours", values: [{ type: "decimal", value: Infinity }] }],
    ["two answers to one", { kind: "values", key: "first-name", values: [...text("a"), ...text("b")] }],
    ["a prototype", { kind: "values", key: "__proto__", values: text("x") }],
    ["nothing", null],
    ["a list", []],
    ["text", "first-name"],
  ])("refuses %s", (_, json) => {
    expect(readChange(questionnaire, json).ok).toBe(false);
  });

  it("keeps what is half typed, and the return says what is wrong with it", () => {
    for (const [key, value] of [
      ["email", "ines@"],
      ["phone", "020"],
      ["sleep-hours", "about six"],
    ] as const) {
      const read = readChange(questionnaire, { kind: "values", key, values: text(value) });
      expect(read.ok).toBe(true);
      expect(
        checkAnswers(questionnaire, { rows: {}, values: { [key]: [{ type: "string", value }] } }).some(
          (p) => p.key === key,
        ),
      ).toBe(true);
    }
  });
  it("says which answers are missing, in reading order", () => {
    expect(checkAnswers(questionnaire, noAnswers).map((p) => p.linkId)).toEqual([
      "first-name",
      "last-name",
      "birth-date",
      "phone",
      "emergency-name",
      "emergency-phone",
      "has-conditions",
      "has-medicines",
      "has-allergies",
      "had-operations",
      "main-concern",
    ]);
  });
  it("requires a row of a shown group, and each row's own required questions", () => {
    const yes: Answers = { rows: {}, values: { "has-medicines": [{ type: "boolean", value: true }] } };
    expect(checkAnswers(questionnaire, yes).find((p) => p.linkId === "medicines")?.reason).toBe("needs-a-row");
    expect(
      checkAnswers(questionnaire, { ...yes, rows: { medicines: ["a", "b"] } }).filter(
        (p) => p.linkId === "medicine-name",
      ),
    ).toHaveLength(2);
    expect(place(questionnaire, yes)).toHaveLength(5);
  });
});
