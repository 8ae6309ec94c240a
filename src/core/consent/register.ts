import { isBefore, laterBy, type Instant } from "../shared";

/** Where a consent of a client stands, the most urgent first. */
export const consentStates = [
  "withdrawn",
  "missing",
  "ended",
  "out-of-date",
  "running-out",
  "asked",
  "stands",
] as const;
export type ConsentState = (typeof consentStates)[number];
export const consentWords: Readonly<Record<ConsentState, string>> = {
  withdrawn: "Withdrawn",
  missing: "Missing",
  ended: "Run out",
  "out-of-date": "Out of date",
  "running-out": "Running out",
  asked: "Asked for",
  stands: "Given",
};
/** Something has to be done about it before the client is seen. */
export const isTrouble = (state: ConsentState): boolean => state !== "stands" && state !== "asked";

/** So long before it runs out a consent is to be renewed, in days. Common practice. */
const soonDays = 30;
const dayMs = 86_400_000;

/** One consent as it was given. */
export interface GivenConsent {
  readonly from: Instant;
  readonly until: Instant | null;
  readonly withdrawnAt: Instant | null;
  /** A version whose text changed materially is in use since. */
  readonly outOfDate: boolean;
}
/** How a consent that was given stands at a moment. */
export function consentState(given: GivenConsent, now: Instant): ConsentState {
  if (given.withdrawnAt !== null) return "withdrawn";
  if (given.until !== null && !isBefore(now, given.until)) return "ended";
  if (given.outOfDate) return "out-of-date";
  if (given.until !== null && !isBefore(laterBy(now, soonDays * dayMs), given.until)) return "running-out";
  return "stands";
}

/** What the register says of one consent text for one client. */
export interface ConsentLine<C extends GivenConsent = GivenConsent> {
  readonly state: ConsentState;
  /** The one that counts: the newest; undefined where there is none. */
  readonly consent: C | undefined;
  /** A renewal was sent and is not back or not complete yet. */
  readonly asked: boolean;
}
/**
 * How one consent text stands for one client. @param given oldest first; a later one renews the earlier ones
 *
 * @param needed whether they have to have given it; undefined is returned where nothing is there to be said
 * @param asked whether it was sent and is on its way
 */
export function registerOf<C extends GivenConsent>(
  given: readonly C[],
  needed: boolean,
  asked: boolean,
  now: Instant,
): ConsentLine<C> | undefined {
  const newest = given.at(-1);
  if (newest) return { state: consentState(newest, now), consent: newest, asked };
  if (asked) return { state: "asked", consent: undefined, asked };
  return needed ? { state: "missing", consent: undefined, asked } : undefined;
}
