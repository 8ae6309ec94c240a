import type { Brand } from "./ids";

/** A moment in UTC, as ISO 8601 with milliseconds and Z. Sorts as text. */
export type Instant = Brand<string, "Instant">;

/** @throws RangeError when the text or number is not a moment. */
export function instant(from: string | number): Instant {
  return new Date(from).toISOString() as Instant;
}
/** Whether a text is a moment as it is written here. */
export function isInstant(text: string): text is Instant {
  const at = Date.parse(text);
  return !Number.isNaN(at) && new Date(at).toISOString() === text;
}
export const instantMs = (at: Instant): number => new Date(at).getTime();
export const laterBy = (at: Instant, ms: number): Instant => instant(instantMs(at) + ms);
export const isBefore = (a: Instant, b: Instant): boolean => instantMs(a) < instantMs(b);
