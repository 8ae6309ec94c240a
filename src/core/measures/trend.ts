import { instantMs, type Instant } from "../shared";
import { measuringOf, type Measuring } from "./change";
import { bandOf, gapsAfter, isScored, judgedBy, versionOf, type Course, type Scored } from "./course";

/** A band as a zone of the plot: its words stand in it, a rule parts it from the next. */
export interface Zone {
  readonly low: number;
  readonly high: number;
  readonly label: string;
}
/** Something that happened, on the time axis. */
export interface Moment {
  readonly at: Instant;
  readonly words: string;
  readonly kind: "visit" | "event";
}
/** What a plot of one score draws: the same for the screen, for the file and for the table beside it. */
export interface Trend {
  readonly title: string;
  readonly least: number;
  readonly most: number;
  readonly points: readonly (Scored & { readonly band: string; readonly version: string })[];
  /** Places after which the line is broken. */
  readonly gaps: readonly number[];
  readonly zones: readonly Zone[];
  readonly cutoff?: NonNullable<Measuring["cutoff"]>;
  /** Within it a change from the baseline may be chance. */
  readonly corridor?: readonly [low: number, high: number];
  readonly baseline: Instant | undefined;
  readonly moments: readonly Moment[];
}
/** Drawn anew for another baseline; a baseline that is not there is the first. */
export function trendOf(course: Course, moments: readonly Moment[], baseline?: Instant): Trend {
  const scored = course.points.filter(isScored);
  const last = scored.at(-1);
  const judging = (last && judgedBy(course, last)) ?? course.versions.at(-1);
  const from = scored.find(({ at }) => at === baseline) ?? scored[0];
  const visits = moments.filter(({ kind }) => kind === "visit").map(({ at }) => instantMs(at));
  const times = scored.map(({ at }) => instantMs(at));
  const made = scored.map((point) => versionOf(course, point)?.scoring);
  // No line leads from a score to one that is made otherwise.
  const seams = made.slice(1).flatMap((scoring, index) => (scoring === made[index] ? [] : [index]));
  const { reliable, cutoff } = measuringOf(judging?.change);
  const least = Math.min(judging?.least ?? 0, ...scored.map(({ value }) => value));
  const most = Math.max(judging?.most ?? 0, ...scored.map(({ value }) => value));
  return {
    title: course.title,
    least,
    most,
    points: scored.map((point) => ({
      ...point,
      band: bandOf(course, point),
      version: versionOf(course, point)?.version ?? "",
    })),
    gaps: [...new Set([...gapsAfter(times, visits), ...seams])].sort((one, other) => one - other),
    zones: zonesOf(judging?.bands ?? [], least, most),
    ...(cutoff ? { cutoff } : {}),
    ...(reliable && from && versionOf(course, from)?.scoring === judging?.scoring
      ? {
          corridor: [
            Math.max(least, from.value - reliable.least),
            Math.min(most, from.value + reliable.least),
          ] as const,
        }
      : {}),
    baseline: from?.at,
    moments: moments.filter(({ at }) => scored.length > 0 && isWithin(at, scored)),
  };
}
const isWithin = (at: Instant, scored: readonly Scored[]): boolean => at >= scored[0]!.at && at <= scored.at(-1)!.at;

/** Bands lie on whole numbers; the rule between two lies halfway. */
function zonesOf(bands: Course["versions"][number]["bands"], least: number, most: number): Zone[] {
  const inOrder = [...bands].sort((a, b) => a.low - b.low);
  return inOrder.map(({ label }, index) => ({
    label,
    low: index === 0 ? least : (inOrder[index - 1]!.high + inOrder[index]!.low) / 2,
    high: index === inOrder.length - 1 ? most : (inOrder[index]!.high + inOrder[index + 1]!.low) / 2,
  }));
}

/** A plot's points for a picture so wide: x by time, y by score, both from its top left. */
export interface Place {
  readonly x: number;
  readonly y: number;
}
export interface Frame {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}
export function placesIn({ points, least, most }: Trend, frame: Frame): Place[] {
  const times = points.map(({ at }) => instantMs(at));
  const [first, last] = [times[0] ?? 0, times.at(-1) ?? 0];
  const span = Math.max(1, last - first);
  return points.map(({ value }, index) => ({
    // A single point stands in the middle.
    x: frame.left + (points.length === 1 ? frame.width / 2 : ((times[index]! - first) / span) * frame.width),
    y: heightOf(value, { least, most }, frame),
  }));
}
export const heightOf = (value: number, { least, most }: Pick<Trend, "least" | "most">, frame: Frame): number =>
  frame.top + frame.height - ((value - least) / Math.max(1e-9, most - least)) * frame.height;
