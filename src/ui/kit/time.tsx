"use client";
import { createContext, use, type ReactNode } from "react";
import type { Instant } from "@/core/shared";
import { clockTime, fullMoment, nearDay, nearMoment, type TimeFrame } from "@/i18n/moments";

const FrameContext = createContext<TimeFrame | undefined>(undefined);
export function TimeFrameProvider({ frame, children }: { readonly frame: TimeFrame; readonly children: ReactNode }) {
  return <FrameContext value={frame}>{children}</FrameContext>;
}
export function useTimeFrame(): TimeFrame {
  const frame = use(FrameContext);
  if (!frame) throw new Error("Wrap the page in a TimeFrameProvider.");
  return frame;
}
/**
 * A moment in words, with the full date on hover and for machines. As the server said it, which may know other words
 * for it than this browser.
 */
export function Moment({ at, as = "near" }: { readonly at: Instant; readonly as?: "near" | "clock" | "day" | "full" }) {
  const frame = useTimeFrame();
  const words = { near: nearMoment, clock: clockTime, day: nearDay, full: fullMoment }[as](at, frame);
  return (
    <time dateTime={at} title={fullMoment(at, frame)} suppressHydrationWarning>
      {words}
    </time>
  );
}
