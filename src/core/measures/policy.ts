import type { Id, Instant } from "../shared";

/** How a practice works with measures. */
export interface MeasurePolicy {
  /** An alert that is open for longer is told to the owners, in hours. */
  readonly alertHours: number;
  /** What is asked at the start of a remote session, a line each. */
  readonly checklist: readonly string[];
}
export const startingMeasurePolicy: MeasurePolicy = {
  alertHours: 24,
  checklist: [
    "You are alone, and nobody can listen in",
    "You are in a safe place, at this address",
    "A phone number, in case the call breaks off or something happens",
    "The questions are about the time since the last session",
  ],
};
/** What somebody ticked off at the start of a visit. */
export interface VisitChecks {
  readonly at: Instant;
  readonly by: Id<"Staff">;
  readonly ticked: readonly string[];
}
export const longestAlertHours = 14 * 24;
export const mostChecks = 12;
