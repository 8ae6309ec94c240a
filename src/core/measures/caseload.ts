import type { ChangeRule } from "../questionnaire";
import { laterBy, type Instant } from "../shared";
import { changeStates, type ChangeState } from "./change";
import { changeBetween, momentOrder, type Ends, type ScoredVersion } from "./course";
import { prePostEffect, wilson, type EffectSize } from "./statistics";

/** Where somebody stands in one score. */
export interface Case extends Ends {
  readonly clientId: string;
  readonly title: string;
  /** Not known of one score, or of two that are made differently. */
  readonly state: ChangeState;
  /** Last minus first; undefined where those are not set against each other. */
  readonly difference: number | undefined;
  /** The difference as a share of the whole range; above zero is worse. */
  readonly worse: number;
  readonly better: ChangeRule["better"] | undefined;
  readonly range: readonly [least: number, most: number];
}
/** @param versions those its points came on and the one in use, the oldest first */
export function caseOf(clientId: string, ends: Ends, versions: readonly ScoredVersion[]): Case {
  const whole = changeBetween({ versions }, ends.first, ends.last);
  const version = versions.at(-1);
  const rule = whole.known ? whole.rule : version?.change;
  const difference = whole.known ? whole.change.difference : undefined;
  const size = (version?.most ?? 1) - (version?.least ?? 0);
  return {
    ...ends,
    clientId,
    title: version?.title ?? "",
    state: whole.known ? whole.change.state : "not-known",
    difference,
    worse: difference === undefined ? 0 : ((rule?.better === "higher" ? -1 : 1) * difference) / Math.max(1e-9, size),
    better: rule?.better,
    range: [version?.least ?? 0, version?.most ?? 1],
  };
}

export const caseOrders = ["worse", "alert", "unmeasured", "better"] as const;
export type CaseOrder = (typeof caseOrders)[number];
const rank: Readonly<Record<ChangeState, number>> = {
  worse: 0,
  "no-change": 1,
  "not-known": 2,
  improved: 3,
  recovered: 4,
};
/**
 * Those first who need a look: who got worse, whose alert is open for longest, or who was not measured for longest.
 * @param alerts since when an alert of whom is open
 */
export function inOrderOf(cases: readonly Case[], order: CaseOrder, alerts: ReadonlyMap<string, Instant>): Case[] {
  const byTime = (one: Case, other: Case): number => momentOrder(one.last.at, other.last.at);
  if (order === "unmeasured") return [...cases].sort(byTime);
  const turn = order === "better" ? -1 : 1;
  const byState = (one: Case, other: Case): number =>
    turn * (rank[one.state] - rank[other.state] || other.worse - one.worse) || byTime(one, other);
  if (order !== "alert") return [...cases].sort(byState);
  const since = ({ clientId }: Case): Instant => alerts.get(clientId) ?? never;
  return [...cases].sort((one, other) => momentOrder(since(one), since(other)) || byState(one, other));
}
/** After every moment there is. */
const never = "9999" as Instant;

/** Fewer people than this could be known from the figures. */
export const fewest = 5;
/** After so long without a second score somebody counts as having stopped, in days (common practice). */
export const stoppedAfter = 84;
export interface Outcomes {
  /** With a first score, and so many of them with a later one to set against it. */
  readonly begun: number;
  readonly pairs: number;
  /** One score alone, and none for twelve weeks. */
  readonly stopped: number;
  /** Of the pairs, by what became of them: how many, and the 95 % interval of the share. Undefined of too few pairs. */
  readonly states:
    | readonly {
        readonly state: ChangeState;
        readonly count: number;
        readonly share: number;
        readonly low: number;
        readonly high: number;
      }[]
    | undefined;
  readonly effect: EffectSize | undefined;
}
/** Figures of many people in one score; undefined where there are too few to be told without naming anybody. */
export function outcomesOf(cases: readonly Case[], now: Instant): Outcomes | undefined {
  if (cases.length < fewest) return undefined;
  const pairs = cases.filter(({ difference }) => difference !== undefined);
  const long = laterBy(now, -stoppedAfter * 86_400_000);
  const better = pairs.find((one) => one.better)?.better;
  return {
    begun: cases.length,
    pairs: pairs.length,
    stopped: cases.filter(({ scores, last }) => scores === 1 && last.at < long).length,
    states:
      pairs.length < fewest
        ? undefined
        : changeStates.map((state) => {
            const count = pairs.filter((one) => one.state === state).length;
            const [low, high] = wilson(count, pairs.length);
            return { state, count, share: count / pairs.length, low, high };
          }),
    effect:
      better && pairs.length >= fewest
        ? prePostEffect(
            pairs.map(({ first, last }) => [first.value, last.value] as const),
            better,
          )
        : undefined,
  };
}
