import type { ChangeRule, Norm } from "../questionnaire";
import { z95 } from "./statistics";

/**
 * Jacobson and Truax, J Consult Clin Psychol 1991;59:12-19: the standard error of a measurement, of the difference of
 * two, and that difference in units of it.
 */
export interface ReliableChange {
  /** SD x sqrt(1 - reliability). */
  readonly standardError: number;
  /** sqrt(2) x standard error. */
  readonly differenceError: number;
  /** Beyond this a difference is hardly chance (95 %), in points of the score. */
  readonly least: number;
}
/** @throws RangeError where the SD is not above 0, or the reliability not from 0 to below 1. */
export function reliableChange(sd: number, reliability: number): ReliableChange {
  if (!(sd > 0)) throw new RangeError("A standard deviation is above 0.");
  if (!(reliability >= 0 && reliability < 1)) throw new RangeError("A reliability is from 0 to below 1.");
  const standardError = sd * Math.sqrt(1 - reliability);
  const differenceError = Math.SQRT2 * standardError;
  return { standardError, differenceError, least: z95 * differenceError };
}

/** Where the clinical range ends, by each criterion that can be worked out. */
export interface Cutoffs {
  /** Two standard deviations from the clinical group's mean, towards better. */
  readonly a?: number;
  /** Within two standard deviations of the general group's mean. */
  readonly b?: number;
  /** Nearer to the general group's mean than to the clinical group's, each by its own spread. */
  readonly c?: number;
}
export function cutoffs({ better, clinical, general }: ChangeRule): Cutoffs {
  const towards = better === "lower" ? -1 : 1;
  return {
    ...(clinical ? { a: clinical.mean + towards * 2 * clinical.sd } : {}),
    ...(general ? { b: general.mean - towards * 2 * general.sd } : {}),
    ...(clinical && general ? { c: halfway(clinical, general) } : {}),
  };
}
const halfway = (one: Norm, other: Norm): number => (one.sd * other.mean + other.sd * one.mean) / (one.sd + other.sd);

export type Criterion = "published" | "c" | "a" | "b";
export interface Measuring {
  /** A change as large as this, or larger than this where it was computed, is reliable. */
  readonly reliable?: {
    readonly least: number;
    readonly from: "published" | "computed";
    readonly source: string;
    readonly computed?: ReliableChange;
  };
  readonly cutoff?: { readonly value: number; readonly by: Criterion; readonly source: string };
  readonly cutoffs: Cutoffs;
}
/**
 * What a rule lets one say: a published smallest change before a computed one; a published cut-point, else criterion c,
 * else a, else b (the order in which Jacobson and Truax prefer them).
 */
export function measuringOf(rule: ChangeRule | undefined): Measuring {
  if (!rule) return { cutoffs: {} };
  const { reliability, clinical, general } = rule;
  const norm = clinical ?? general;
  const computed = reliability && norm ? reliableChange(norm.sd, reliability.value) : undefined;
  const byCriterion = cutoffs(rule);
  const published = rule.reliableChange;
  return {
    cutoffs: byCriterion,
    ...reliableBy(),
    ...cutoffBy(),
  };
  function reliableBy(): Pick<Measuring, "reliable"> {
    const more = computed ? { computed } : {};
    if (published)
      return { reliable: { least: published.value, from: "published", source: published.source, ...more } };
    if (!computed) return {};
    const source = `${reliability!.source}; ${norm!.source}`;
    return { reliable: { least: computed.least, from: "computed", source, ...more } };
  }
  function cutoffBy(): Pick<Measuring, "cutoff"> {
    if (rule!.cutPoint)
      return { cutoff: { value: rule!.cutPoint.value, by: "published", source: rule!.cutPoint.source } };
    const by = (["c", "a", "b"] as const).find((criterion) => byCriterion[criterion] !== undefined);
    if (!by) return {};
    const source = [clinical?.source, general?.source].filter((one) => one !== undefined).join("; ");
    return { cutoff: { value: byCriterion[by]!, by, source } };
  }
}

export const changeStates = ["recovered", "improved", "no-change", "worse", "not-known"] as const;
export type ChangeState = (typeof changeStates)[number];
export interface Change {
  readonly state: ChangeState;
  /** Last minus first, in points. */
  readonly difference: number;
  /** Difference in units of its own error; above zero is better. Where the error is known. */
  readonly index?: number;
  /** Whether each end lies in the clinical range. */
  readonly clinical?: readonly [first: boolean, last: boolean];
  /** At least as large as the smallest change that matters; undefined where that is not published. */
  readonly important?: boolean;
}
/** A computed threshold has to be passed, as chance reaches it; a published one to be reached. */
const reaches = (amount: number, { least, from }: NonNullable<Measuring["reliable"]>): boolean =>
  from === "published" ? amount >= least : amount > least;

/** Whether a number lies in the clinical range. A published cut-point is the first that does; a computed one lies between. */
export function isClinical(
  value: number,
  better: ChangeRule["better"],
  cutoff: NonNullable<Measuring["cutoff"]>,
): boolean {
  if (cutoff.by === "published") return better === "lower" ? value >= cutoff.value : value <= cutoff.value;
  return better === "lower" ? value > cutoff.value : value < cutoff.value;
}

/** What became of a score from one moment to another. Without a rule the difference alone is known. */
export function changeOf(first: number, last: number, rule: ChangeRule | undefined): Change {
  const difference = last - first;
  if (!rule) return { state: "not-known", difference };
  const measuring = measuringOf(rule);
  const { reliable, cutoff } = measuring;
  const gain = rule.better === "lower" ? -difference : difference;
  const clinical = cutoff
    ? ([isClinical(first, rule.better, cutoff), isClinical(last, rule.better, cutoff)] as const)
    : undefined;
  return {
    state: state(),
    difference,
    ...(reliable?.computed ? { index: gain / reliable.computed.differenceError } : {}),
    ...(clinical ? { clinical } : {}),
    ...(rule.important ? { important: Math.abs(gain) >= rule.important.value } : {}),
  };
  function state(): ChangeState {
    if (!reliable) return "not-known";
    if (reaches(-gain, reliable)) return "worse";
    if (!reaches(gain, reliable)) return "no-change";
    return clinical?.[0] && !clinical[1] ? "recovered" : "improved";
  }
}
