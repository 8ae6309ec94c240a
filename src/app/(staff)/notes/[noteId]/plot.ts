import type { Chart } from "chart.js";
import type { MeasureFact, Quote } from "@/core/notes";

/** Draws a score over time, as small as a line of text is wide. What it shows is said beside it, too. */
export async function drawPlot(
  canvas: HTMLCanvasElement,
  { points, least, most }: MeasureFact,
  dayOf: (at: Quote["at"]) => string,
): Promise<Chart | undefined> {
  const {
    CategoryScale,
    Chart: Plot,
    LinearScale,
    LineController,
    LineElement,
    PointElement,
  } = await import("chart.js");
  if (!canvas.isConnected) return undefined;
  Plot.register(CategoryScale, LinearScale, LineController, LineElement, PointElement);
  const ink = getComputedStyle(canvas);
  return new Plot(canvas, {
    type: "line",
    data: {
      labels: points.map(({ at }) => dayOf(at)),
      datasets: [
        {
          data: points.map(({ value }) => value),
          borderColor: ink.getPropertyValue("--plum"),
          pointBackgroundColor: ink.getPropertyValue("--plum"),
          borderWidth: 2,
          pointRadius: 2.5,
        },
      ],
    },
    options: {
      animation: false,
      responsive: false,
      events: [],
      scales: {
        x: { display: false },
        y: {
          display: true,
          ...(least === undefined ? {} : { min: least }),
          ...(most === undefined ? {} : { max: most }),
          ticks: { maxTicksLimit: 3, color: ink.getPropertyValue("--soft") },
          grid: { display: false },
          border: { display: false },
        },
      },
    },
  });
}
