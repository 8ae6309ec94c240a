import { assertNever } from "../shared";
import { sameValue, type AnswerValue } from "./answer-value";
import type { Question, ScoreRule } from "./definition";

/** The number an answer counts as: its option's ordinal, or the number itself; undefined when it has none. */
export function weightOf(question: Question, value: AnswerValue): number | undefined {
  if (value.type === "integer" || value.type === "decimal") return value.value;
  if (value.type === "quantity") return value.value.value;
  return question.options.find((o) => sameValue(o.value, value))?.ordinal;
}

/**
 * The numbers an item can count as, before weights: each option's, or the ends of what may be typed. Undefined when it
 * has none.
 */
export function numbersOf(
  question: Question,
): { readonly low: number; readonly high: number; readonly each: readonly number[] | undefined } | undefined {
  if (question.options.length > 0) {
    const each = question.options.flatMap(
      (o) => o.ordinal ?? (o.value.type === "integer" || o.value.type === "decimal" ? [o.value.value] : []),
    );
    return each.length === 0 ? undefined : { low: Math.min(...each), high: Math.max(...each), each };
  }
  if (question.type !== "integer" && question.type !== "decimal" && question.type !== "quantity") return undefined;
  const { minValue: low, maxValue: high } = question;
  return typeof low === "number" && typeof high === "number" ? { low, high, each: undefined } : undefined;
}

/** What an item adds to a score, for the number it was answered with. */
export function contribution(rule: ScoreRule, question: Question, number: number): number {
  const range = rule.reversed?.includes(question.linkId) ? numbersOf(question) : undefined;
  return (range ? range.low + range.high - number : number) * (rule.weights?.[question.linkId] ?? 1);
}

/** The score of so many contributions that add up to `sum`; undefined when they are too few. */
export function combine(rule: ScoreRule, sum: number, answered: number, items: number): number | undefined {
  if (answered === 0 || answered < rule.fewestAnswered) return undefined;
  const factor = rule.factor ?? 1;
  switch (rule.method) {
    case "sum":
      return (
        (rule.proration === "person-mean" && answered < items ? Math.floor((sum / answered) * items + 0.5) : sum) *
        factor
      );
    case "mean":
      return (sum / answered) * factor;
    case "count":
      return answered * factor;
    default:
      return assertNever(rule.method);
  }
}

/**
 * What a rule gives for these answers: how many of its questions gave a number, and the score, undefined when they are
 * too few.
 */
export function scoreValue(
  rule: ScoreRule,
  questions: readonly Question[],
  valuesOf: (question: Question) => readonly AnswerValue[],
): { readonly answered: number; readonly value: number | undefined; readonly missing: readonly Question[] } {
  const missing: Question[] = [];
  const given = questions.flatMap((q) => {
    const first = valuesOf(q)[0];
    const number = first && weightOf(q, first);
    if (number !== undefined) return [contribution(rule, q, number)];
    missing.push(q);
    return [];
  });
  return {
    answered: given.length,
    missing,
    value: combine(
      rule,
      given.reduce((a, b) => a + b, 0),
      given.length,
      questions.length,
    ),
  };
}
