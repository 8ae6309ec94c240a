import { allQuestions, sameValue, type AnswerValue, type Question, type Questionnaire, type ScoreRule } from '../questionnaire';
import { combine, contribution, numbersOf } from '../scoring';
import type { Paths } from './paths';

/** What a score can come out as. `values` lists every value there can be, where the items count in steps; `exact` is false where it is only an outer bound. */
export interface ScoreRange {
  readonly low: number;
  readonly high: number;
  readonly values: readonly number[] | undefined;
  readonly exact: boolean;
}
const mostValues = 5_000;

/**
 * The computed possible range: over every way through the questionnaire in which somebody answers what is required, with
 * items that are hidden or may be left out counted as the rule says. Undefined when no score can ever be given.
 */
export function possibleScores(questionnaire: Questionnaire, rule: ScoreRule, paths: Paths): ScoreRange | undefined {
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  const items = rule.items.flatMap((id) => byId.get(id) ?? []).filter((q) => numbersOf(q));
  if (items.length === 0) return undefined;
  let all: Sums = new Map();
  const whole = paths.eachWay(items, (way) => { all = union(all, sumsOf(rule, items.filter((i) => way.shown(i)), (i) => way.answers(i.linkId))); });
  if (!whole) all = sumsOf({ ...rule }, items, () => undefined, () => true);
  const values = new Set<number>();
  let stepped = true;
  for (const [answered, { low, high, step }] of all) {
    if (step === undefined) stepped = false;
    const ends = [low, high].flatMap((sum) => combine(rule, sum, answered, rule.items.length) ?? []);
    if (ends.length === 0) continue;
    ends.forEach((v) => values.add(v));
    if (step !== undefined && step > 0 && values.size < mostValues) for (let sum = low + step; sum < high; sum += step) values.add(combine(rule, round(sum), answered, rule.items.length)!);
  }
  if (values.size === 0) return undefined;
  const sorted = [...values].sort((a, b) => a - b);
  return { low: sorted[0]!, high: sorted.at(-1)!, values: stepped && values.size < mostValues ? sorted : undefined, exact: whole };
}

/** By how many items were answered: lowest and highest sum, and the grid the sums lie on (undefined when they lie on none). */
type Sums = Map<number, { low: number; high: number; step: number | undefined }>;

type Given = readonly (readonly AnswerValue[])[] | undefined;
/** The numbers a controlling question's answer counts as on one way; null when it was left out. */
function numbersGiven(item: Question, answers: NonNullable<Given>): readonly number[] | null {
  const numbers = answers.flatMap((a) => {
    const first = a[0];
    if (!first) return [];
    if (first.type === 'integer' || first.type === 'decimal') return [first.value];
    if (first.type === 'quantity') return [first.value.value];
    return item.options.find((o) => sameValue(o.value, first))?.ordinal ?? [];
  });
  return numbers.length === 0 ? null : numbers;
}

function sumsOf(rule: ScoreRule, items: readonly Question[], given: (item: Question) => Given, mayBeLeftOut: (item: Question) => boolean = (i) => !i.required): Sums {
  let sums: Sums = new Map([[0, { low: 0, high: 0, step: 0 }]]);
  for (const item of items) {
    const answers = given(item);
    const fixed = answers && numbersGiven(item, answers);
    const numbers = fixed === null ? undefined : contributions(rule, item, fixed);
    const next: Sums = new Map();
    const add = (answered: number, low: number, high: number, step: number | undefined): void => {
      const known = next.get(answered);
      next.set(answered, known ? { low: Math.min(known.low, low), high: Math.max(known.high, high), step: grid(known.step, step, known.low - low) } : { low, high, step });
    };
    for (const [answered, s] of sums) {
      if (numbers) add(answered + 1, round(s.low + numbers.low), round(s.high + numbers.high), grid(s.step, numbers.step, 0));
      if (fixed === null || (fixed === undefined && mayBeLeftOut(item))) add(answered, s.low, s.high, s.step);
    }
    sums = next;
  }
  return sums;
}

function contributions(rule: ScoreRule, item: Question, only: readonly number[] | undefined): { low: number; high: number; step: number | undefined } {
  const range = numbersOf(item)!;
  const each = (only ?? range.each ?? [range.low, range.high]).map((n) => contribution(rule, item, n));
  const low = Math.min(...each), high = Math.max(...each);
  if (range.each) return { low, high, step: each.reduce<number | undefined>((step, n) => grid(step, 0, n - low), 0) };
  const whole = item.type === 'integer' ? Math.abs(rule.weights?.[item.linkId] ?? 1) * (item.step ?? 1) : undefined;
  return { low, high, step: whole };
}

function union(a: Sums, b: Sums): Sums {
  const out: Sums = new Map(a);
  for (const [n, s] of b) {
    const known = out.get(n);
    out.set(n, known ? { low: Math.min(known.low, s.low), high: Math.max(known.high, s.high), step: grid(known.step, s.step, known.low - s.low) } : s);
  }
  return out;
}

/** The greatest common step of two grids that lie `apart` from each other; numbers with up to four decimals. */
function grid(a: number | undefined, b: number | undefined, apart: number): number | undefined {
  if (a === undefined || b === undefined) return undefined;
  const scaled = [a, b, apart].map((n) => Math.round(Math.abs(n) * 10_000));
  return scaled.reduce(gcd, 0) / 10_000;
}
const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
const round = (n: number): number => Math.round(n * 10_000) / 10_000;
