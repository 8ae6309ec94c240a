"use client";
import type { Chart } from "chart.js";
import { useEffect, useRef } from "react";
import styled from "styled-components";
import type { Trend } from "@/core/measures";
import { dateFormat, instantMs, type Instant } from "@/core/shared";
import { useTimeFrame } from "@/ui/kit/time";

export interface TrendPlotProps {
  readonly trend: Trend;
  /** The sentence that says what it shows; a table of the same numbers stands with it on the page. */
  readonly says: string;
  readonly beside?: Trend | undefined;
  readonly large?: boolean;
  readonly onDrawn?: ((canvas: HTMLCanvasElement) => void) | undefined;
}
/** A score over time. Drawn anew when anything of it changes, and when light turns to dark. */
export function TrendPlot({ trend, says, beside, large, onDrawn }: TrendPlotProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { locale, zone } = useTimeFrame();
  useEffect(() => {
    const on = canvas.current;
    if (!on) return undefined;
    let gone = false;
    let chart: Chart | undefined;
    const dark = matchMedia("(prefers-color-scheme: dark)");
    const day = dateFormat(locale, { day: "numeric", month: "short", year: "2-digit", timeZone: zone });
    const dayOf = (at: Instant): string => day.format(instantMs(at));
    const draw = async (): Promise<void> => {
      const { drawTrend } = await import("./draw-trend");
      chart = await drawTrend(on, trend, { dayOf, beside, isWanted: () => !gone, ...(large ? { large } : {}) });
      if (chart) onDrawn?.(on);
    };
    void draw();
    const again = (): void => void draw();
    dark.addEventListener("change", again);
    return () => {
      gone = true;
      dark.removeEventListener("change", again);
      chart?.destroy();
    };
  }, [trend, beside, large, locale, zone, onDrawn]);
  return (
    <Frame $large={large === true}>
      <canvas ref={canvas} role="img" aria-label={says} />
    </Frame>
  );
}
const Frame = styled.div<{ $large: boolean }>`
  position: relative;
  block-size: ${({ $large }) => ($large ? "min(62vh, 40rem)" : "19rem")};
  min-inline-size: 0;
  /* The canvas has the width of before until it is drawn anew, and must not hold the page to it. */
  overflow: hidden;
  /* A time axis runs from left to right in every language we draw it in. */
  direction: ltr;
`;
