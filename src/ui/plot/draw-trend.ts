import type { Chart } from "chart.js";
import type { AnnotationOptions } from "chartjs-plugin-annotation";
import { instantMs, type Instant } from "@/core/shared";
import type { Trend } from "@/core/measures";

export interface TrendLook {
  readonly dayOf: (at: Instant) => string;
  /** Larger, for a screen that several people look at. */
  readonly large?: boolean;
  /** Another score drawn on the same time axis, by a scale of its own. */
  readonly beside?: Trend | undefined;
  /** Asked once what draws has been loaded: whether this is still what is to be drawn. */
  readonly isWanted: () => boolean;
}
/** What a test reads back: where each point was drawn, in CSS pixels. */
const drawnOf = (chart: Chart): string =>
  JSON.stringify(
    chart.data.datasets.map((_, index) =>
      chart.getDatasetMeta(index).data.map(({ x, y }) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10]),
    ),
  );

/** Draws a score over time: bands as ruled zones with their words, cut-point, corridor, visits and events. */
export async function drawTrend(canvas: HTMLCanvasElement, trend: Trend, look: TrendLook): Promise<Chart | undefined> {
  const [{ Chart: Plot, Filler, LinearScale, LineController, LineElement, PointElement }, { default: annotation }] =
    await Promise.all([import("chart.js"), import("chartjs-plugin-annotation")]);
  if (!look.isWanted()) return undefined;
  // Whoever asked before and was loaded later drew already.
  Plot.getChart(canvas)?.destroy();
  Plot.register(Filler, LinearScale, LineController, LineElement, PointElement, annotation);
  const style = getComputedStyle(canvas);
  const colour = (name: string): string => style.getPropertyValue(name).trim();
  const size = look.large ? 20 : 13;
  const font = { family: style.fontFamily, size };
  const gaps = new Set(trend.gaps);
  const pointSize = trend.points.length > 60 ? 1.5 : 4 * (look.large ? 1.75 : 1);
  const line = (of: Trend, axis: string, ink: string, dashed: boolean) => ({
    label: of.title,
    yAxisID: axis,
    data: of.points.map(({ at, value }) => ({ x: instantMs(at), y: value })),
    borderColor: ink,
    backgroundColor: ink,
    borderWidth: look.large ? 4 : 2,
    pointRadius: pointSize,
    pointStyle: dashed ? ("rectRot" as const) : ("circle" as const),
    ...(dashed ? { borderDash: [6, 4] } : {}),
    segment: {
      borderColor: (segment: { p0DataIndex: number }) =>
        !dashed && gaps.has(segment.p0DataIndex) ? "transparent" : undefined,
    },
  });
  const times = [...trend.points, ...(look.beside?.points ?? [])].map(({ at }) => instantMs(at));
  const [first, last] = [Math.min(...times), Math.max(...times)];
  // A little room, so that the first and the last point are whole.
  const room = Math.max((last - first) * 0.02, 6 * 3_600_000);
  const chart = new Plot(canvas, {
    type: "line",
    data: {
      datasets: [
        line(trend, "y", colour("--plum"), false),
        ...(look.beside ? [line(look.beside, "y2", colour("--fern"), true)] : []),
      ],
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      events: [],
      parsing: false,
      normalized: true,
      layout: { padding: { top: 4, right: look.large ? 170 : 118 } },
      plugins: { annotation: { clip: false, annotations: annotationsOf(trend, look, colour, font) } },
      scales: {
        x: {
          type: "linear",
          min: first - room,
          max: last + room,
          grid: { display: false },
          border: { color: colour("--rule-strong") },
          ticks: {
            font,
            color: colour("--soft"),
            maxTicksLimit: 7,
            maxRotation: 0,
            callback: (value) => look.dayOf(new Date(Number(value)).toISOString() as Instant),
          },
        },
        y: {
          min: trend.least,
          max: trend.most,
          grid: { display: false },
          border: { color: colour("--rule-strong") },
          ticks: { font, color: colour("--soft"), maxTicksLimit: 6 },
        },
        ...(look.beside
          ? {
              y2: {
                position: "right" as const,
                min: look.beside.least,
                max: look.beside.most,
                grid: { display: false },
                ticks: { font, color: colour("--fern"), maxTicksLimit: 6 },
              },
            }
          : {}),
      },
    },
  });
  canvas.dataset["drawn"] = drawnOf(chart);
  chart.options.onResize = (resized) => {
    canvas.dataset["drawn"] = drawnOf(resized);
  };
  return chart;
}

type Font = { readonly family: string; readonly size: number };
function annotationsOf(
  trend: Trend,
  { large = false, beside }: TrendLook,
  colour: (name: string) => string,
  font: Font,
): Record<string, AnnotationOptions> {
  const found: Record<string, AnnotationOptions> = {};
  const small = { ...font, size: font.size - 1 };
  if (trend.corridor)
    found["corridor"] = {
      type: "box",
      yMin: trend.corridor[0],
      yMax: trend.corridor[1],
      backgroundColor: `${colour("--plum")}1f`,
      borderWidth: 0,
      drawTime: "beforeDatasetsDraw",
    };
  trend.zones.forEach((zone, index) => {
    found[`zone ${index}`] = {
      type: "line",
      yMin: zone.high,
      yMax: zone.high,
      borderColor: colour("--rule-strong"),
      borderWidth: 1,
      drawTime: "beforeDatasetsDraw",
    };
    // Words stand beside the zone, not on it; a second scale needs that room.
    if (!beside)
      found[`words ${index}`] = {
        type: "label",
        content: inLines(zone.label, large ? 18 : 17),
        font: small,
        color: colour("--ink"),
        xValue: (context) => context.chart.scales["x"]!.max,
        yValue: (zone.low + zone.high) / 2,
        position: { x: "start", y: "center" },
        xAdjust: 6,
        textAlign: "start",
        padding: 0,
      };
  });
  if (trend.cutoff)
    found["cutoff"] = {
      type: "line",
      yMin: trend.cutoff.value,
      yMax: trend.cutoff.value,
      borderColor: colour("--clay"),
      borderDash: [6, 4],
      borderWidth: 2,
      label: {
        display: true,
        content: `cut-point ${Math.round(trend.cutoff.value * 10) / 10}`,
        position: "start",
        font: small,
        color: colour("--clay"),
        backgroundColor: colour("--paper"),
        padding: 2,
      },
    };
  const height = trend.most - trend.least;
  let events = 0;
  trend.moments.forEach(({ at, words, kind }, index) => {
    const across = instantMs(at);
    const isEvent = kind === "event";
    found[`moment ${index}`] = {
      type: "line",
      xMin: across,
      xMax: across,
      yMin: trend.least,
      yMax: isEvent ? trend.most : trend.least + height * 0.03,
      borderColor: colour(isEvent ? "--ink" : "--rule-strong"),
      borderWidth: isEvent ? 1 : 2,
      ...(isEvent ? { borderDash: [2, 3] } : {}),
      ...(isEvent
        ? {
            label: {
              display: true,
              content: words.length > 24 ? `${words.slice(0, 23)}…` : words,
              position: "end" as const,
              font: small,
              color: colour("--ink"),
              backgroundColor: colour("--paper"),
              padding: 2,
              yAdjust: 16 * (events++ % 3),
            },
          }
        : {}),
    };
  });
  return found;
}
/** So many signs a line at most, by whole words. */
function inLines(words: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of words.split(" ")) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
