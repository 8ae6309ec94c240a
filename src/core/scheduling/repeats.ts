import { addDays, at, type Day } from "./days";
import { instant, instantMs, type Instant } from "../shared";

export interface TimeOfVisit {
  readonly day: Day;
  /** HH:MM by the practice's clock. */
  readonly time: string;
  readonly minutes: number;
}
/** How often a visit may be repeated at once. */
export const mostRepeats = 26;
/**
 * The times of a visit and its repeats, `weeks` apart: at the same time by the wall clock, also where clocks change in
 * between. @param count how many in all, from 1
 */
export const timesOf = (
  { day, time, minutes }: TimeOfVisit,
  count: number,
  weeks: number,
  zone: string,
): readonly { readonly startsAt: Instant; readonly endsAt: Instant }[] =>
  Array.from({ length: count }, (_, n) => {
    const startsAt = at(addDays(day, n * weeks * 7), time, zone);
    return { startsAt, endsAt: instant(instantMs(startsAt) + minutes * 60_000) };
  });
/** The Monday of a day's week (ISO 8601). */
export function mondayOf(day: Day): Day {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
  return addDays(day, -((weekday + 6) % 7));
}
