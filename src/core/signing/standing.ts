import type { PlannedPlace } from "./places";

/** A signature that was given at a place. */
export interface GivenSignature {
  readonly place: string;
  /** Its number among all signatures: what was given later is higher. */
  readonly order: number;
  /** What was read when it was given is what stands there now. */
  readonly fresh: boolean;
}
export interface PlaceStanding extends PlannedPlace {
  /** A signature stands there. */
  readonly signed: boolean;
  /** There is one, and it stands no longer: what it covers changed, or somebody before them signed anew. */
  readonly voided: boolean;
  /** It can be signed now. */
  readonly turn: boolean;
}

/**
 * How each place of a plan stands. A signature stands where it is fresh and everybody before them had signed before it:
 * of several at one place the newest counts.
 */
export function standingOf(plan: readonly PlannedPlace[], given: readonly GivenSignature[]): readonly PlaceStanding[] {
  const newest = new Map<string, GivenSignature>();
  for (const one of given) if (one.order > (newest.get(one.place)?.order ?? -Infinity)) newest.set(one.place, one);
  const byPlace = new Map(plan.map((planned) => [planned.place, planned]));
  const known = new Map<string, boolean>();
  const stands = (place: string): boolean => {
    const before = known.get(place);
    if (before !== undefined) return before;
    // While it is being found out: a place that waits for itself never stands.
    known.set(place, false);
    const own = newest.get(place);
    const planned = byPlace.get(place);
    const found =
      own?.fresh === true &&
      planned !== undefined &&
      planned.after.every((other) => stands(other) && newest.get(other)!.order < own.order);
    known.set(place, found);
    return found;
  };
  return plan.map((planned) => {
    const signed = stands(planned.place);
    return {
      ...planned,
      signed,
      voided: !signed && newest.has(planned.place),
      turn: !signed && planned.after.every(stands),
    };
  });
}
/** Every signature there has to be stands, and there is one. */
export const isComplete = (standing: readonly PlaceStanding[]): boolean =>
  standing.some((one) => one.signed) && standing.every((one) => one.signed || !one.required);

/** `nobody`: staff have to say who signs. */
export type SigningState = "signed" | "turn" | "waits" | "void" | "declined" | "paper" | "nobody";
export const signingStateWords: Readonly<Record<SigningState, string>> = {
  signed: "Signed",
  turn: "Their turn",
  waits: "Waits",
  void: "To sign anew",
  declined: "Declined",
  paper: "Asks for paper",
  nobody: "Nobody chosen",
};
