import { instant, type Instant } from "../core/shared";

export interface Clock {
  now(): Instant;
}
/** The machine's clock, or one that stands still at a given moment (KIND_LEDGER_NOW). */
export const createClock = (fixed: string | undefined): Clock => {
  const stands = fixed === undefined ? undefined : instant(fixed);
  return { now: () => stands ?? instant(Date.now()) };
};
