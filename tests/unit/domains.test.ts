import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { representatives } from "../../src/core/proof/domains";
import {
  checkAnswer,
  conditionMet,
  type AnswerValue,
  type Comparison,
  type Condition,
  type Question,
} from "../../src/core/questionnaire";
import { question } from "../support/questionnaires";

// What Proof rests on: whatever anybody answers, one of a few answers makes the same conditions true and false.
const coding = (i: number): AnswerValue => ({
  type: "coding",
  value: { system: "urn:t", code: `c${i}`, display: `Choice ${i}` },
});
const day = fc
  .date({ min: new Date("1990-01-01T00:00:00Z"), max: new Date("2030-12-31T00:00:00Z"), noInvalidDate: true })
  .map((d) => d.toISOString().slice(0, 10));
const minute = fc
  .nat(24 * 60 - 1)
  .map((m) => `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(m % 60).padStart(2, "0")}`);
const ordered: readonly Comparison[] = ["=", "!=", ">", "<", ">=", "<=", "exists"];
const alike: readonly Comparison[] = ["=", "!=", "exists"];

interface Case {
  readonly name: string;
  readonly question: Question;
  readonly operators: readonly Comparison[];
  readonly value: fc.Arbitrary<AnswerValue>;
}
const options = (n: number) => Array.from({ length: n }, (_, i) => ({ value: coding(i) }));
const cases: readonly Case[] = [
  {
    name: "yes or no",
    question: question("q", { type: "boolean" }),
    operators: alike,
    value: fc.boolean().map((value) => ({ type: "boolean", value })),
  },
  {
    name: "whole number",
    question: question("q", { type: "integer" }),
    operators: ordered,
    value: fc.integer({ min: -6, max: 6 }).map((value) => ({ type: "integer", value })),
  },
  {
    name: "whole number with bounds",
    question: question("q", { type: "integer", minValue: 1, maxValue: 4 }),
    operators: ordered,
    value: fc.integer({ min: -1, max: 6 }).map((value) => ({ type: "integer", value })),
  },
  {
    name: "number",
    question: question("q", { type: "decimal" }),
    operators: ordered,
    value: fc.integer({ min: -20, max: 20 }).map((n) => ({ type: "decimal", value: n / 4 })),
  },
  {
    name: "amount",
    question: question("q", { type: "quantity", unit: { code: "kg", display: "kg" } }),
    operators: [">", "<", ">=", "<=", "exists"],
    value: fc.integer({ min: -9, max: 9 }).map((n) => ({ type: "quantity", value: { value: n / 2, unit: "kg" } })),
  },
  {
    name: "date",
    question: question("q", { type: "date" }),
    operators: ordered,
    value: day.map((value) => ({ type: "date", value })),
  },
  {
    name: "date with bounds",
    question: question("q", { type: "date", minValue: "2000-01-01", maxValue: "2000-01-05" }),
    operators: ordered,
    value: fc.integer({ min: 1, max: 7 }).map((d) => ({ type: "date", value: `2000-01-0${d}` })),
  },
  {
    name: "time",
    question: question("q", { type: "time" }),
    operators: ordered,
    value: minute.map((value) => ({ type: "time", value })),
  },
  {
    name: "one of",
    question: question("q", { type: "choice", options: options(4) }),
    operators: alike,
    value: fc.nat(3).map(coding),
  },
  {
    name: "one of, or something else",
    question: question("q", { type: "open-choice", options: options(3) }),
    operators: alike,
    value: fc.oneof(
      fc.nat(2).map(coding),
      fc.string({ minLength: 1, maxLength: 5 }).map((value): AnswerValue => ({ type: "string", value })),
    ),
  },
  {
    name: "short text",
    question: question("q", { type: "string" }),
    operators: alike,
    value: fc.constantFrom("a", "b", "c", "Something else").map((value) => ({ type: "string", value })),
  },
];
const conditionsOn = ({ operators, value }: Case): fc.Arbitrary<Condition[]> =>
  fc.array(
    fc.tuple(fc.constantFrom(...operators), value, fc.boolean()).map(([operator, answer, yes]): Condition => ({
      question: "q",
      operator,
      answer: operator === "exists" ? { type: "boolean", value: yes } : answer,
    })),
    { maxLength: 4 },
  );
const effect = (conditions: readonly Condition[], answer: readonly AnswerValue[]): string =>
  conditions.map((c) => Number(conditionMet(c, answer))).join("");

describe("representatives", () => {
  it.each(cases.map((c) => [c.name, c] as const))(
    "%s: every answer has one with the same effect, and each can be given",
    (_, condition) => {
      fc.assert(
        fc.property(conditionsOn(condition), fc.array(condition.value, { maxLength: 6 }), (conditions, given) => {
          const { answers, alike: stands } = representatives(condition.question, conditions);
          const effects = new Set(answers.map((a) => effect(conditions, a)));
          expect(answers[0]).toEqual([]);
          for (const value of given)
            if (checkAnswer(condition.question, "q", [value]).length === 0)
              expect(effects.has(effect(conditions, [value])), JSON.stringify([conditions, value])).toBe(true);
          for (const answer of answers.slice(1)) expect(checkAnswer(condition.question, "q", answer)).toEqual([]);
          answers.forEach((a, i) =>
            stands[i]!.forEach((same) => expect(effect(conditions, same)).toBe(effect(conditions, a))),
          );
        }),
        { numRuns: 250 },
      );
    },
  );

  const several = question("q", {
    type: "choice",
    repeats: true,
    options: [...options(4), { value: coding(4), exclusive: true }],
  });
  it("several of: every set of options has one with the same effect, and none breaks the option that rules the others out", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("=" as const, "!=" as const), fc.nat(4)), { maxLength: 4 }),
        fc.subarray([0, 1, 2, 3, 4]),
        (asked, chosen) => {
          const conditions = asked.map(([operator, i]): Condition => ({ question: "q", operator, answer: coding(i) }));
          const { answers, exact } = representatives(several, conditions);
          expect(exact).toBe(true);
          const given = chosen.map(coding);
          if (given.length > 0 && checkAnswer(several, "q", given).length === 0)
            expect(answers.map((a) => effect(conditions, a))).toContain(effect(conditions, given));
          for (const answer of answers.slice(1)) expect(checkAnswer(several, "q", answer)).toEqual([]);
        },
      ),
      { numRuns: 300 },
    );
  });
  it("one of, or something else: words that a condition names are tried too", () => {
    const open = question("q", { type: "open-choice", options: options(3) });
    expect(
      representatives(open, [{ question: "q", operator: "=", answer: { type: "string", value: ">" } }]).answers,
    ).toContainEqual([{ type: "string", value: ">" }]);
  });
  it("says so when there are too many sets to tell apart", () => {
    const many = question("q", { type: "choice", repeats: true, options: options(9) });
    expect(
      representatives(
        many,
        Array.from({ length: 8 }, (_, i) => ({ question: "q", operator: "=", answer: coding(i) })),
      ).exact,
    ).toBe(false);
  });
});
