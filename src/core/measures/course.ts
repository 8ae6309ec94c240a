import { allQuestions, numbersOf, type Band, type ChangeRule, type Questionnaire } from "../questionnaire";
import { dayIn } from "../scheduling";
import { fullRange, type Gist } from "../scoring";
import { instantMs, type Instant } from "../shared";
import { changeOf, type Change } from "./change";
import { correlation, slope } from "./statistics";

/** One score of one return, or of an earlier one that was brought from a file. */
export interface ScorePoint {
  readonly at: Instant;
  readonly questionnaireId: string;
  readonly versionId: string;
  /** The score's question. */
  readonly linkId: string;
  /** Undefined when fewer items than its rule asks for were answered. */
  readonly value: number | undefined;
  readonly answered: number;
  readonly items: number;
  readonly prorated: boolean;
  /** It was answered in; "" where that is not known. */
  readonly language: string;
  /** The return it came with; none of one that was brought from a file. */
  readonly packetId?: string;
  readonly partId?: string;
}
/** The points of a return, for a client's course. */
export const pointsOf = (
  { scores }: Pick<Gist, "scores">,
  from: Pick<ScorePoint, "at" | "questionnaireId" | "versionId" | "language" | "packetId" | "partId">,
): ScorePoint[] =>
  scores.map(({ linkId, value, answered, items, prorated }) => ({ ...from, linkId, value, answered, items, prorated }));

/** A score as one version of its questionnaire makes it. */
export interface ScoredVersion {
  readonly versionId: string;
  /** As the practice numbers it. */
  readonly version: string;
  readonly title: string;
  readonly items: number;
  readonly least: number;
  readonly most: number;
  readonly bands: readonly Band[];
  readonly change?: ChangeRule;
  /** Two versions whose scores are made alike have the same: items, what each counts as, and how they are put together. */
  readonly scoring: string;
}
/** How each score of a questionnaire is made. */
export function scoredVersions(
  questionnaire: Questionnaire,
  versionId: string,
): (ScoredVersion & { readonly linkId: string })[] {
  const questions = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  return allQuestions(questionnaire).flatMap((scored) => {
    const rule = scored.score;
    if (!rule) return [];
    const items = rule.items.flatMap((id) => questions.get(id) ?? []);
    const counted = items.map((item) => [item.linkId, numbersOf(item)] as const);
    const [least, most] = fullRange(rule, items);
    return [
      {
        linkId: scored.linkId,
        versionId,
        version: questionnaire.version ?? "",
        title: scored.text,
        items: items.length,
        least,
        most,
        bands: rule.bands,
        ...(rule.change ? { change: rule.change } : {}),
        scoring: JSON.stringify([
          rule.method,
          rule.factor ?? 1,
          rule.proration,
          rule.reversed ?? [],
          rule.weights ?? {},
          counted,
        ]),
      },
    ];
  });
}

/** A score of one questionnaire over time. */
export interface Course {
  readonly questionnaireId: string;
  readonly linkId: string;
  readonly title: string;
  /** The oldest first; several of one day in their order. */
  readonly points: readonly ScorePoint[];
  /** Those the points came on and the one in use, the oldest first. */
  readonly versions: readonly ScoredVersion[];
}
/** Moments sort as text. */
export const momentOrder = (one: Instant, other: Instant): number => {
  if (one === other) return 0;
  return one < other ? -1 : 1;
};
/** Names a course in an address. */
export const courseKey = ({ questionnaireId, linkId }: Pick<Course, "questionnaireId" | "linkId">): string =>
  `${questionnaireId}.${linkId}`;
/** Points in the order in which they were answered. */
export const inTime = (points: readonly ScorePoint[]): ScorePoint[] =>
  points.every(({ at }, index) => index === 0 || at >= points[index - 1]!.at)
    ? [...points]
    : [...points].sort((one, other) => momentOrder(one.at, other.at));

type Versions = Pick<Course, "versions">;
type OnVersion = Pick<ScorePoint, "versionId">;
/** What there is to read of a point: how its version makes it. */
export const versionOf = ({ versions }: Versions, { versionId }: OnVersion): ScoredVersion | undefined =>
  versions.find((one) => one.versionId === versionId);
/**
 * How a point is judged: by what is known of its score by now, where it is still made as it was; else by its own
 * version.
 */
export function judgedBy(course: Versions, point: OnVersion): ScoredVersion | undefined {
  const own = versionOf(course, point);
  return own && course.versions.findLast((one) => one.scoring === own.scoring);
}
const bandAt = (bands: readonly Band[], value: number): Band | undefined =>
  bands.find(({ low, high }) => value >= low && value <= high);

/** The words of the band a point lies in, as it is judged by now; "" where it lies in none or was not scorable. */
export function bandOf(course: Course, point: ScorePoint): string {
  const { value } = point;
  return value === undefined ? "" : (bandAt(judgedBy(course, point)?.bands ?? [], value)?.label ?? "");
}
export type Scored = ScorePoint & { readonly value: number };
export const isScored = (point: ScorePoint): point is Scored => point.value !== undefined;
/** What a change takes of a point. */
export type EndPoint = Pick<Scored, "at" | "versionId" | "value">;

/** Why a change is not told. */
export type NoChange = "no-score" | "one-score" | "made-differently";
export type ChangeFound<Point extends EndPoint = Scored> =
  | {
      readonly known: true;
      readonly change: Change;
      readonly from: Point;
      readonly to: Point;
      readonly rule: ChangeRule | undefined;
    }
  | { readonly known: false; readonly why: NoChange };
/**
 * The change from one score to the last: from the first, where no other is chosen as baseline. Scores that two versions
 * make differently are never set against each other.
 */
export function changeIn(course: Course, baseline?: Instant): ChangeFound {
  const scored = course.points.filter(isScored);
  const to = scored.at(-1);
  if (!to) return { known: false, why: "no-score" };
  return changeBetween(course, (baseline !== undefined && scored.find(({ at }) => at === baseline)) || scored[0]!, to);
}
export function changeBetween<Point extends EndPoint>(of: Versions, from: Point, to: Point): ChangeFound<Point> {
  if (from.at >= to.at) return { known: false, why: "one-score" };
  const [before, after] = [versionOf(of, from), judgedBy(of, to)];
  if (!before || !after || before.scoring !== after.scoring) return { known: false, why: "made-differently" };
  return { known: true, from, to, rule: after.change, change: changeOf(from.value, to.value, after.change) };
}
/** The change from the score before the last. */
export function lastChange(course: Course): ChangeFound {
  const scored = course.points.filter(isScored);
  return changeIn(course, scored.at(-2)?.at);
}

/** What a reader has to know before they compare points with each other. */
export interface Mixed {
  readonly versions: readonly string[];
  /** Some of them make the score differently. */
  readonly madeDifferently: boolean;
  readonly languages: readonly string[];
  readonly brought: number;
  readonly prorated: number;
  readonly unscorable: number;
  /** Days with more than one. */
  readonly sameDay: readonly string[];
}
export function mixedIn(course: Course, zone: string): Mixed {
  const { points } = course;
  const of = points.flatMap((point) => versionOf(course, point) ?? []);
  const days = points.map(({ at }) => dayIn(at, zone));
  return {
    versions: [...new Set(of.map(({ version }) => version))],
    madeDifferently: new Set(of.map(({ scoring }) => scoring)).size > 1,
    languages: [...new Set(points.map(({ language }) => language).filter((one) => one !== ""))],
    brought: points.filter(({ partId }) => partId === undefined).length,
    prorated: points.filter(({ prorated }) => prorated).length,
    unscorable: points.filter(({ value }) => value === undefined).length,
    sameDay: [...new Set(days.filter((day, index) => days.indexOf(day) !== index))],
  };
}

/** A silence this many times as long as is usual between two scores is a gap. */
const longSilence = 1.75;
/**
 * Where something is missing between one score and the next: somebody came to a visit and was not measured, or much more
 * time went by than is usual between their scores (common practice).
 * @returns the places after which the line is broken, counted from 0.
 */
export function gapsAfter(times: readonly number[], visits: readonly number[]): number[] {
  const silences = times.slice(1).map((at, index) => at - times[index]!);
  const usual = [...silences].sort((a, b) => a - b)[Math.floor(silences.length / 2)] ?? 0;
  return silences.flatMap((silence, index) => {
    const [from, to] = [times[index]!, times[index + 1]!];
    const isLong = silences.length > 2 && silence > longSilence * usual;
    // A score belongs to the visit of its own day or the next, so visits close to either end were measured.
    const isMissed = visits.some((visit) => visit > from + nearby && visit < to - nearby);
    return isLong || isMissed ? [index] : [];
  });
}
const nearby = 2 * 86_400_000;

/** Points of the score a week, by least squares; undefined before three scores that are made alike. */
export function slopePerWeek(course: Course): number | undefined {
  const scored = course.points.filter(isScored);
  const last = scored.at(-1);
  if (!last) return undefined;
  const scoring = versionOf(course, last)?.scoring;
  const alike = scored.filter((point) => versionOf(course, point)?.scoring === scoring);
  if (alike.length < 3) return undefined;
  const week = 7 * 86_400_000;
  return slope(alike.map(({ at, value }) => [instantMs(at) / week, value] as const));
}
/** Pearson's r of first and second scores of many people, that were taken up to so many days apart. */
export function testRetest(
  courses: readonly (readonly Scored[])[],
  mostDays: number,
): { readonly r: number; readonly pairs: number } | undefined {
  const pairs = courses.flatMap(([first, second]): [number, number][] =>
    first && second && instantMs(second.at) - instantMs(first.at) <= mostDays * 86_400_000
      ? [[first.value, second.value]]
      : [],
  );
  const found = correlation(pairs);
  return found === undefined ? undefined : { r: found, pairs: pairs.length };
}

/** What became of somebody in one score: all that lists of many people need of its points. */
export interface Ends {
  readonly questionnaireId: string;
  readonly linkId: string;
  readonly first: EndPoint;
  readonly last: EndPoint;
  /** How often it was given. */
  readonly scores: number;
  /** The last few numbers, the oldest first. */
  readonly numbers: readonly number[];
}
const mostNumbers = 12;
/** Of each score that was given at all, the one that was given last before others. */
export function endsOf(points: readonly ScorePoint[]): Ends[] {
  const byScore = new Map<string, Scored[]>();
  for (const point of points.filter(isScored)) {
    const own = byScore.get(courseKey(point));
    if (own) own.push(point);
    else byScore.set(courseKey(point), [point]);
  }
  const endOf = ({ at, versionId, value }: Scored): EndPoint => ({ at, versionId, value });
  return [...byScore.values()]
    .map((own): Ends => {
      const { questionnaireId, linkId } = own[0]!;
      return {
        questionnaireId,
        linkId,
        first: endOf(own[0]!),
        last: endOf(own.at(-1)!),
        scores: own.length,
        numbers: own.slice(-mostNumbers).map(({ value }) => value),
      };
    })
    .sort((one, other) => momentOrder(other.last.at, one.last.at));
}

type Numbers = readonly [
  at: Instant,
  value: number | null,
  answered: number,
  prorated: 0 | 1,
  packetId: string,
  partId: string,
];
/** A client's points as they are kept: what is the same for many is said once. */
export interface PackedPoints {
  readonly of: readonly {
    readonly score: readonly [
      questionnaireId: string,
      versionId: string,
      linkId: string,
      items: number,
      language: string,
    ];
    readonly points: readonly Numbers[];
  }[];
}
export function packPoints(points: readonly ScorePoint[]): PackedPoints {
  const groups = new Map<string, { score: PackedPoints["of"][number]["score"]; points: Numbers[] }>();
  for (const one of points) {
    const score = [one.questionnaireId, one.versionId, one.linkId, one.items, one.language] as const;
    const key = JSON.stringify(score);
    const group = groups.get(key) ?? { score, points: [] };
    groups.set(key, group);
    group.points.push([
      one.at,
      one.value ?? null,
      one.answered,
      one.prorated ? 1 : 0,
      one.packetId ?? "",
      one.partId ?? "",
    ]);
  }
  return { of: [...groups.values()] };
}
/** The same points, the oldest first. */
export const unpackPoints = ({ of }: PackedPoints): ScorePoint[] =>
  inTime(
    of.flatMap(({ score: [questionnaireId, versionId, linkId, items, language], points }) =>
      points.map(([at, value, answered, prorated, packetId, partId]) => ({
        at,
        questionnaireId,
        versionId,
        linkId,
        value: value ?? undefined,
        answered,
        items,
        prorated: prorated === 1,
        language,
        ...(packetId === "" ? {} : { packetId }),
        ...(partId === "" ? {} : { partId }),
      })),
    ),
  );
