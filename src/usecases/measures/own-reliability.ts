import { object, string } from "yup";
import { cronbachAlpha, inTime, isScored, testRetest, type Scored, type ScorePoint } from "../../core/measures";
import { allQuestions, contribution, weightOf } from "../../core/questionnaire";
import { dayIn } from "../../core/scheduling";
import { ok, type Id, type Result } from "../../core/shared";
import { idInput, inOrder, query, type CommonError, type Context } from "../kit";
import { KnownScores, pointsOfEverybody } from "./courses";

interface Found {
  readonly value: number;
  readonly people: number;
  /** Says that it is the practice's own. */
  readonly source: string;
}
export interface OwnReliability {
  readonly alpha: Found | undefined;
  readonly testRetest: Found | undefined;
  /** So many people are needed. */
  readonly fewest: number;
}
/** Fewer say little of how reliable a score is (common practice). */
const fewest = 30;
const mostPeople = 1000;
/** Two measurements further apart than this are of two different times (common practice), in days. */
const mostDays = 42;

/** How reliable a score is in the answers of the practice's own clients, each by their first return of it. */
export const ownReliability = query({
  name: "own-reliability",
  access: "answers.read",
  input: object({ questionnaireId: idInput<"Questionnaire">(), linkId: string().max(200).required() }),
  async run(ctx, { questionnaireId, linkId }): Promise<Result<OwnReliability, CommonError>> {
    const known = new KnownScores(ctx);
    const own: Scored[][] = [];
    for (const points of (await pointsOfEverybody(ctx, mostPeople)).made.values()) {
      const [course] = (await known.coursesOf(points.filter((one) => one.questionnaireId === questionnaireId))).filter(
        (one) => one.linkId === linkId,
      );
      const current = course?.versions.at(-1)?.scoring;
      const alike = (course?.points ?? []).filter(
        (point): point is Scored =>
          isScored(point) &&
          point.partId !== undefined &&
          course!.versions.find(({ versionId }) => versionId === point.versionId)?.scoring === current,
      );
      if (alike.length > 0) own.push(inTime(alike) as Scored[]);
    }
    const today = dayIn(ctx.now, ctx.practice.zone);
    const source = (people: number): string => `this practice’s own answers, ${people} people, ${today}`;
    const rows = await rowsOf(
      ctx,
      own.slice(0, mostPeople).map((all) => all[0]!),
      linkId,
    );
    const alpha = rows.length < fewest ? undefined : cronbachAlpha(rows);
    const again = testRetest(own, mostDays);
    ctx.journal("measures.reliability", `questionnaire:${questionnaireId}`);
    return ok({
      fewest,
      alpha: isReliability(alpha) ? { value: alpha, people: rows.length, source: source(rows.length) } : undefined,
      testRetest:
        again && again.pairs >= fewest && isReliability(again.r)
          ? { value: again.r, people: again.pairs, source: source(again.pairs) }
          : undefined,
    });
  },
});
const isReliability = (value: number | undefined): value is number => value !== undefined && value >= 0 && value < 1;

/** What every item added to the score, of those who answered them all. */
async function rowsOf({ repo }: Context, points: readonly ScorePoint[], linkId: string): Promise<number[][]> {
  const rows = await inOrder(points, async (point): Promise<number[] | undefined> => {
    const questions = allQuestions(await repo.versions.definition(point.versionId as Id<"Version">));
    const rule = questions.find((one) => one.linkId === linkId)?.score;
    const { values } = await repo.answers.ofPart(point.partId as Id<"Part">);
    const numbers = (rule?.items ?? []).map((id) => {
      const [question, [value]] = [questions.find((one) => one.linkId === id), values[id] ?? []];
      const number = question && value ? weightOf(question, value) : undefined;
      return number === undefined ? undefined : contribution(rule!, question!, number);
    });
    return numbers.every((number): number is number => number !== undefined) ? numbers : undefined;
  });
  return rows.flatMap((row) => (row ? [row] : []));
}
