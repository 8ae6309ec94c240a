import { type CalendarDate, parseDate, toZoned } from "@internationalized/date";
import { instant, instantMs, laterBy, type Instant } from "../shared";
import { dayIn } from "./day-in";

/** A calendar day as YYYY-MM-DD, meaningful only with a time zone beside it. */
export type Day = string;

export const isDay = (text: string): boolean => {
  try {
    return parseDate(text).toString() === text;
  } catch {
    return false;
  }
};

/** A day's first moment and the next day's, in UTC: 23 to 25 hours apart where clocks change. */
export function boundsOf(day: Day, zone: string): readonly [Instant, Instant] {
  const start = parseDate(day);
  return [startOf(start, zone), startOf(start.add({ days: 1 }), zone)];
}
const startOf = (day: CalendarDate, zone: string): Instant => instant(toZoned(day, zone).toDate().getTime());

/** The same day of the month that many months on, or that month's last. */
export const addMonths = (day: Day, months: number): Day => parseDate(day).add({ months }).toString();
/** The same moment of that day, as long after its beginning, in `zone`. */
export function monthsLater(now: Instant, months: number, zone: string): Instant {
  const day = parseDate(dayIn(now, zone));
  const sinceStart = instantMs(now) - instantMs(startOf(day, zone));
  return laterBy(startOf(day.add({ months }), zone), sinceStart);
}
export const addDays = (day: Day, days: number): Day => parseDate(day).add({ days }).toString();

/** A wall-clock time on a day, as a moment. `time` is HH:MM. A time the clocks skip moves forward. */
export function at(day: Day, time: string, zone: string): Instant {
  const [hour, minute] = time.split(":").map(Number);
  return instant(
    toZoned(parseDate(day), zone)
      .set({ hour: hour ?? 0, minute: minute ?? 0 })
      .toDate()
      .getTime(),
  );
}
