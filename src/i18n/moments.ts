import { daysBetween, dayIn } from "@/core/scheduling";
import { dateFormat, instantMs, type Instant } from "@/core/shared";

/** How a viewer sees time: their locale, the practice's zone, and the moment the page was made at. */
export interface TimeFrame {
  readonly locale: string;
  readonly zone: string;
  readonly now: Instant;
}
const format = (frame: TimeFrame, options: Intl.DateTimeFormatOptions, at: Instant): string =>
  dateFormat(frame.locale, { ...options, timeZone: frame.zone }).format(instantMs(at));

export const clockTime = (at: Instant, frame: TimeFrame): string =>
  format(frame, { hour: "2-digit", minute: "2-digit" }, at);
/** HH:MM as a field of a time takes it, whatever the locale. */
export const clockTime24 = (at: Instant, { zone }: TimeFrame): string =>
  dateFormat("en-GB", { hour: "2-digit", minute: "2-digit", hourCycle: "h23", timeZone: zone }).format(instantMs(at));
export const fullMoment = (at: Instant, frame: TimeFrame): string =>
  format(
    frame,
    { weekday: "long", day: "numeric", month: "long", year: "numeric", hour: "2-digit", minute: "2-digit" },
    at,
  );

/** "today 09:30", "tomorrow 09:30", "Mon 30 Nov 09:30", with the year when it is another one. */
export function nearMoment(at: Instant, frame: TimeFrame): string {
  return `${nearDay(at, frame)} ${clockTime(at, frame)}`;
}
export function nearDay(at: Instant, frame: TimeFrame): string {
  const day = dayIn(at, frame.zone);
  const today = dayIn(frame.now, frame.zone);
  const away = daysBetween(today, day);
  if (Math.abs(away) <= 1) return new Intl.RelativeTimeFormat(frame.locale, { numeric: "auto" }).format(away, "day");
  const sameYear = day.slice(0, 4) === today.slice(0, 4);
  return format(
    frame,
    {
      ...(Math.abs(away) < 300 ? { weekday: "short" } : {}),
      day: "numeric",
      month: "short",
      ...(sameYear ? {} : { year: "numeric" }),
    },
    at,
  );
}
/** A calendar day (no zone) in words. */
export const dayTitle = (day: string, locale: string): string =>
  dateFormat(locale, { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
