import { dateFormat, type Instant } from "../shared";
import type { Day } from "./days";

// Apart from the calendar's arithmetic: every page says days, and few count with them.
/** The day it is in a zone at a moment, in the Gregorian calendar. @throws RangeError for a zone that is none */
export function dayIn(at: Instant, zone: string): Day {
  const parts = dateFormat("en-u-ca-iso8601-nu-latn", {
    timeZone: zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
  }).formatToParts(new Date(at));
  const part = (type: Intl.DateTimeFormatPartTypes): string => parts.find((one) => one.type === type)!.value;
  return `${part("year").padStart(4, "0")}-${part("month")}-${part("day")}`;
}
/** Whole days from one day to another. */
export const daysBetween = (from: Day, to: Day): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
