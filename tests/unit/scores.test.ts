import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { phq9 as phq9Answers } from "../../demo/answers";
import { readQuestionnaire, writeQuestionnaire, writeResponse } from "../../src/core/fhir";
import { shownQuestions, type Answers } from "../../src/core/questionnaire";
import { alertsOf, scoresOf } from "../../src/core/scoring";
import { instant } from "../../src/core/shared";
import { evaluate, fhirProblems } from "../support/fhir";
import { fromRepository, question } from "../support/questionnaires";

const phq9 = fromRepository("phq-9");
const frame = {
  id: "r1",
  client: { id: "c1", name: "Test" },
  authored: instant("2026-11-25T08:00:00Z"),
  status: "completed" as const,
};
function answersOf(items: readonly (number | undefined)[]): Answers {
  const options = new Map(
    phq9.items
      .flatMap((i) => (i.type === "group" ? i.items : []))
      .flatMap((i) => (i.type === "choice" ? [[i.linkId, i.options] as const] : [])),
  );
  const ids = Object.keys(phq9Answers([]).values);
  return {
    rows: {},
    values: Object.fromEntries(
      items.flatMap((n, i) => (n === undefined ? [] : [[ids[i]!, [options.get(ids[i]!)![n]!.value]]])),
    ),
  };
}
const spread = (total: number): number[] =>
  Array.from({ length: 9 }, (_, i) => Math.max(0, Math.min(3, total - i * 3)));

describe("PHQ-9", () => {
  // Kroenke, Spitzer, Williams, J Gen Intern Med 2001;16:606-613: every boundary.
  it.each([
    [0, "minimal"],
    [4, "minimal"],
    [5, "mild"],
    [9, "mild"],
    [10, "moderate"],
    [14, "moderate"],
    [15, "moderately severe"],
    [19, "moderately severe"],
    [20, "severe"],
    [27, "severe"],
  ])("%i is %s", (total, band) => {
    const [score] = scoresOf(phq9, answersOf(spread(total)));
    expect([score?.value, score?.band?.label, score?.range]).toEqual([total, band, [0, 27]]);
    expect(score?.band?.source).toContain("2001;16:606-613");
  });
  it("has nine items from 0 to 3 with one LOINC code each, and bands without gap or overlap", () => {
    const items = phq9.items
      .flatMap((i) => (i.type === "group" ? i.items : []))
      .filter((i) => i.type === "choice" && i.required);
    expect(items).toHaveLength(9);
    for (const item of items)
      if (item.type === "choice") expect(item.options.map((o) => o.ordinal)).toEqual([0, 1, 2, 3]);
    expect(new Set(items.map((i) => i.codes[0]?.code)).size).toBe(9);
    const total = phq9.items.find((i) => i.linkId === "44261-6");
    const bands = total?.type === "integer" ? total.score!.bands : [];
    expect(Array.from({ length: 28 }, (_, n) => bands.filter((b) => n >= b.low && n <= b.high).length)).toEqual(
      Array(28).fill(1),
    );
  });
  it("gives no score while an item is unanswered", () => {
    expect(scoresOf(phq9, answersOf([3, 3, 3, 3, 3, 3, 3, 3, undefined]))[0]).toMatchObject({
      value: undefined,
      band: undefined,
      answered: 8,
    });
  });
  it("raises item 9 from 1 up, whatever the total", () => {
    expect(alertsOf(phq9, answersOf([3, 3, 3, 3, 3, 3, 3, 3, 0]))).toEqual([]);
    for (const n of [1, 2, 3])
      expect(alertsOf(phq9, answersOf([0, 0, 0, 0, 0, 0, 0, 0, n]))[0]?.linkId).toBe("44260-8");
  });
  it('asks how difficult it was only when something was answered above "not at all"', () => {
    const asks = (items: number[]): boolean =>
      shownQuestions(phq9, answersOf(items)).some((p) => p.item.linkId === "69722-7");
    expect(asks([0, 0, 0, 0, 0, 0, 0, 0, 0])).toBe(false);
    for (let i = 0; i < 9; i++) expect(asks(Array.from({ length: 9 }, (_, j) => Number(i === j)))).toBe(true);
  });
  it("agrees with fhirpath evaluating the file's own calculatedExpression on the exported response", () => {
    const questionnaire = writeQuestionnaire(phq9);
    const expression = evaluate(
      questionnaire,
      "Questionnaire.item.where(linkId='44261-6').extension.where(url.endsWith('calculatedExpression')).value.expression",
    )[0] as string;
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 9, maxLength: 9 }), (items) => {
        const response = writeResponse(phq9, answersOf(items), frame);
        expect(evaluate(response, expression, { questionnaire })).toEqual([items.reduce((a, b) => a + b, 0)]);
        expect(evaluate(response, "QuestionnaireResponse.item.where(linkId='44261-6').answer.value")).toEqual([
          scoresOf(phq9, answersOf(items))[0]!.value,
        ]);
      }),
      { numRuns: 60 },
    );
  });
});

describe("score rules", () => {
  const items = [0, 1, 2, 3].map((i) => question(`i${i}`, { type: "integer", minValue: 0, maxValue: 4 }));
  const scored = (
    method: "sum" | "mean" | "count",
    fewestAnswered: number,
    proration: "none" | "person-mean",
    given: (number | null)[],
  ) =>
    scoresOf(
      {
        ...phq9,
        items: [
          ...items,
          question("s", {
            type: "decimal",
            readOnly: true,
            score: { method, items: items.map((i) => i.linkId), fewestAnswered, proration, bands: [] },
          }),
        ],
      },
      {
        rows: {},
        values: Object.fromEntries(
          given.flatMap((n, i) => (n === null ? [] : [[`i${i}`, [{ type: "integer" as const, value: n }]]])),
        ),
      },
    )[0]!;
  // Person-mean substitution is common practice; the rule of each published instrument stands with it.
  it("prorates a sum by the person's own mean", () => {
    expect(scored("sum", 3, "person-mean", [2, 3, null, 4])).toMatchObject({ value: 12, prorated: true });
  });
  it("leaves a sum alone where the rule says so", () => {
    expect(scored("sum", 3, "none", [2, 3, null, 4])).toMatchObject({ value: 9, prorated: false });
  });
  it("gives a mean and a count", () => {
    expect([
      scored("mean", 2, "none", [2, 3, null, null]).value,
      scored("count", 1, "none", [2, 3, null, null]).value,
    ]).toEqual([2.5, 2]);
  });
  // SDC calculatedExpression, evaluated by an independent engine on the exported response.
  it("is exported as an expression that fhirpath evaluates to the same number, whatever the rule", () => {
    const kinds = [
      question("n0", { type: "integer", minValue: 1, maxValue: 5 }),
      question("n1", { type: "decimal", minValue: 0, maxValue: 2 }),
      ...[0, 1].map((i) =>
        question(`c${i}`, {
          type: "choice",
          options: [0, 1, 2].map((o) => ({
            value: { type: "coding" as const, value: { system: "urn:t", code: `o${o}` } },
            ordinal: o * 2,
          })),
        }),
      ),
    ];
    const rule = fc.record({
      method: fc.constantFrom("sum", "mean", "count") as fc.Arbitrary<"sum" | "mean" | "count">,
      fewestAnswered: fc.nat(4),
      proration: fc.constantFrom("none", "person-mean") as fc.Arbitrary<"none" | "person-mean">,
      reversed: fc.subarray(kinds.map((k) => k.linkId)),
      weights: fc.dictionary(fc.constantFrom(...kinds.map((k) => k.linkId)), fc.constantFrom(2, 3, -1)),
      factor: fc.constantFrom(1, 4),
    });
    fc.assert(
      fc.property(
        rule,
        fc.array(fc.option(fc.nat(2)), { minLength: 4, maxLength: 4 }),
        ({ reversed, weights, factor, ...reader }, given) => {
          const scored = {
            ...phq9,
            items: [
              ...kinds,
              question("s", {
                type: "decimal",
                readOnly: true,
                score: {
                  ...reader,
                  items: kinds.map((k) => k.linkId),
                  bands: [],
                  ...(reversed.length > 0 ? { reversed } : {}),
                  ...(Object.keys(weights).length > 0 ? { weights } : {}),
                  ...(factor === 1 ? {} : { factor }),
                },
              }),
            ],
          };
          const answers: Answers = {
            rows: {},
            values: Object.fromEntries(
              given.flatMap((score, index) => {
                if (score === null) return [];
                const answered = () => {
                  if (index === 0) return { type: "integer" as const, value: score + 1 };
                  if (index === 1) return { type: "decimal" as const, value: score };
                  return kinds[index]!.options[score]!.value;
                };
                return [[kinds[index]!.linkId, [answered()]]];
              }),
            ),
          };
          const questionnaire = writeQuestionnaire(scored);
          const expression = evaluate(
            questionnaire,
            "Questionnaire.item.where(linkId='s').extension.where(url.endsWith('calculatedExpression')).value.expression",
          )[0] as string;
          const value = scoresOf(scored, answers)[0]!.value;
          const computed = evaluate(writeResponse(scored, answers, frame), expression, { questionnaire });
          expect(computed.map((n) => Number(Number(n).toFixed(6)))).toEqual(
            value === undefined ? [] : [Number(value.toFixed(6))],
          );
          const back = readQuestionnaire(questionnaire);
          expect(back.ok && back.value.items.at(-1)).toEqual(scored.items.at(-1));
          expect(fhirProblems(questionnaire)).toEqual([]);
        },
      ),
      { numRuns: 80 },
    );
  }, 60_000);
  it("gives nothing below the fewest answered", () => {
    expect(scored("sum", 3, "person-mean", [2, 3, null, null]).value).toBeUndefined();
  });
});
