import { useEffect, useRef, useState } from "react";
import { instantMs, type Instant } from "@/core/shared";

const warnBefore = 10 * 60_000;
const mostWait = 2 ** 31 - 1;
/** How long until the warning, in ms. @param now the server's moment as the page was made, `passed` ms ago. */
export const untilWarning = (until: Instant, now: Instant, passed: number): number =>
  Math.min(mostWait, Math.max(0, instantMs(until) - instantMs(now) - passed - warnBefore));
/**
 * Whether something that ends at `until` ends within ten minutes. Counted from `now`, the server's moment as the page
 * was made, since the clock of a device may be wrong.
 */
export function useEndsSoon(until: Instant | undefined, now: Instant): boolean {
  const [soonFor, setSoonFor] = useState<Instant>();
  const made = useRef<{ readonly now: Instant; readonly at: number }>(undefined);
  useEffect(() => {
    if (made.current?.now !== now) made.current = { now, at: performance.now() };
    if (until === undefined) return;
    const wait = untilWarning(until, now, performance.now() - made.current.at);
    const timer = setTimeout(() => setSoonFor(until), wait);
    return () => clearTimeout(timer);
  }, [until, now]);
  return until !== undefined && soonFor === until;
}
