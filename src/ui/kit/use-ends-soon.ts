import { useEffect, useState } from "react";
import { instantMs, type Instant } from "@/core/shared";

const warnBefore = 10 * 60_000;
const mostWait = 2 ** 31 - 1;
/**
 * Whether something that ends at `until` ends within ten minutes. Counted from `now`, the server's moment as the page was
 * made, since the clock of a device may be wrong.
 */
export function useEndsSoon(until: Instant | undefined, now: Instant): boolean {
  const [soonFor, setSoonFor] = useState<Instant>();
  useEffect(() => {
    if (until === undefined) return;
    const wait = instantMs(until) - instantMs(now) - warnBefore;
    const timer = setTimeout(() => setSoonFor(until), Math.min(mostWait, Math.max(0, wait)));
    return () => clearTimeout(timer);
  }, [until, now]);
  return until !== undefined && soonFor === until;
}
