import {
  allQuestions,
  combine,
  contribution,
  numbersOf,
  sameValue,
  type AnswerValue,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../questionnaire";
import type { Paths } from "./paths";

/**
 * What a score can come out as. `values` lists every value there can be, where the items count in steps; `exact` is
 * false where it is only an outer bound.
 */
export interface ScoreRange {
  readonly low: number;
  readonly high: number;
  readonly values: readonly number[] | undefined;
  readonly exact: boolean;
}
const mostValues = 5_000;

/**
 * The computed possible range: over every way through the questionnaire in which somebody answers what is required,
 * with items that are hidden or may be left out counted as the rule says. Undefined when no score can ever be given.
 */
export function possibleScores(questionnaire: Questionnaire, rule: ScoreRule, paths: Paths): ScoreRange | undefined {
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  const items = rule.items.flatMap((id) => byId.get(id) ?? []).filter((q) => numbersOf(q));
  if (items.length === 0) return undefined;
  const counted = new Set(items.map((i) => i.linkId));
  const { value: all, exact: whole } = paths.gather<Sums>({
    start: none,
    step: (sums, item, shown, alike) =>
      shown && counted.has(item.linkId)
        ? withItem(rule, sums, item as Question, alike, !(item as Question).required)
        : sums,
    merge: union,
    join: sumOfBoth,
    bound: (members) =>
      items.filter((i) => members.includes(i)).reduce((sums, i) => withItem(rule, sums, i, undefined, true), none),
  });
  const values = new Set<number>();
  let stepped = true;
  for (const [answered, { low, high, step }] of all) {
    if (step === undefined) stepped = false;
    const ends = [low, high].flatMap((sum) => combine(rule, sum, answered, rule.items.length) ?? []);
    if (ends.length === 0) continue;
    ends.forEach((v) => values.add(v));
    if (step !== undefined && step > 0 && values.size < mostValues)
      for (let sum = low + step; sum < high; sum += step)
        values.add(combine(rule, round(sum), answered, rule.items.length)!);
  }
  if (values.size === 0) return undefined;
  const sorted = [...values].sort((a, b) => a - b);
  return {
    low: sorted[0]!,
    high: sorted.at(-1)!,
    values: stepped && values.size < mostValues ? sorted : undefined,
    exact: whole,
  };
}

/**
 * By how many items were answered: lowest and highest sum, and the grid the sums lie on (undefined when they lie on
 * none).
 */
interface Sum {
  readonly low: number;
  readonly high: number;
  readonly step: number | undefined;
}
type Sums = Map<number, Sum>;

type Given = readonly (readonly AnswerValue[])[] | undefined;
/** The numbers a controlling question's answer counts as on one way; null when it was left out. */
function numbersGiven(item: Question, answers: NonNullable<Given>): readonly number[] | null {
  const numbers = answers.flatMap((a) => {
    const first = a[0];
    if (!first) return [];
    if (first.type === "integer" || first.type === "decimal") return [first.value];
    if (first.type === "quantity") return [first.value.value];
    return item.options.find((o) => sameValue(o.value, first))?.ordinal ?? [];
  });
  return numbers.length === 0 ? null : numbers;
}

const none: Sums = new Map([[0, { low: 0, high: 0, step: 0 }]]);

/** The sums with one item more, answered in each way it can be, or left out. */
function withItem(rule: ScoreRule, sums: Sums, item: Question, answers: Given, mayBeLeftOut: boolean): Sums {
  const fixed = answers && numbersGiven(item, answers);
  const next: Sums = new Map();
  const numbers = fixed === null ? undefined : contributions(rule, item, fixed);
  for (const [answered, sum] of sums) {
    if (numbers)
      put(next, answered + 1, {
        low: round(sum.low + numbers.low),
        high: round(sum.high + numbers.high),
        step: grid(sum.step, numbers.step, 0),
      });
    if (fixed === null || (fixed === undefined && mayBeLeftOut)) put(next, answered, sum);
  }
  return next;
}
function put(sums: Sums, answered: number, sum: Sum): void {
  const known = sums.get(answered);
  sums.set(
    answered,
    known
      ? {
          low: Math.min(known.low, sum.low),
          high: Math.max(known.high, sum.high),
          step: grid(known.step, sum.step, known.low - sum.low),
        }
      : sum,
  );
}
function union(left: Sums, right: Sums): Sums {
  const out: Sums = new Map(left);
  for (const [index, sum] of right) put(out, index, sum);
  return out;
}
function sumOfBoth(left: Sums, right: Sums): Sums {
  const out: Sums = new Map();
  for (const [index, sum] of left)
    for (const [minutes, t] of right)
      put(out, index + minutes, {
        low: round(sum.low + t.low),
        high: round(sum.high + t.high),
        step: grid(sum.step, t.step, 0),
      });
  return out;
}

function contributions(
  rule: ScoreRule,
  item: Question,
  only: readonly number[] | undefined,
): { low: number; high: number; step: number | undefined } {
  const range = numbersOf(item)!;
  const each = (only ?? range.each ?? [range.low, range.high]).map((n) => contribution(rule, item, n));
  const low = Math.min(...each);
  const high = Math.max(...each);
  if (range.each) return { low, high, step: each.reduce<number | undefined>((step, n) => grid(step, 0, n - low), 0) };
  const whole = item.type === "integer" ? Math.abs(rule.weights?.[item.linkId] ?? 1) * (item.step ?? 1) : undefined;
  return { low, high, step: whole };
}

/** The greatest common step of two grids that lie `apart` from each other; numbers with up to four decimals. */
function grid(left: number | undefined, right: number | undefined, apart: number): number | undefined {
  if (left === undefined || right === undefined) return undefined;
  const scaled = [left, right, apart].map((n) => Math.round(Math.abs(n) * 10_000));
  return scaled.reduce(gcd, 0) / 10_000;
}
const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
const round = (n: number): number => Math.round(n * 10_000) / 10_000;
