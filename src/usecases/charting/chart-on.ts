import { string } from "yup";
import { foldChart, type Chart, type ChartEntry } from "../../core/chart";
import { boundsOf, isDay } from "../../core/scheduling";
import { isBefore } from "../../core/shared";

/** A day that a chart is looked at as it was on. */
export const onInput = string()
  .optional()
  .test("day", "Choose a day.", (day) => day === undefined || isDay(day));
/** A chart as it is now, or as it was at the end of a day. */
export function chartOn(entries: readonly ChartEntry[], on: string | undefined, zone: string): Chart {
  const until = on === undefined ? undefined : boundsOf(on, zone)[1];
  return foldChart(until === undefined ? entries : entries.filter((entry) => isBefore(entry.at, until)));
}
