import { object } from "yup";
import { nameOf } from "../../core/chart";
import { isScored, type Course, type Moment } from "../../core/measures";
import { allQuestions, weightOf, numbersOf } from "../../core/questionnaire";
import { mainLanguage, ok, type Id, type Instant, type Result } from "../../core/shared";
import { idInput, inOrder, may, notFound, query, type CommonError, type Context } from "../kit";
import { alertLines, type AlertLine } from "./alerts";
import { KnownScores, pointsOfClients } from "./courses";
import { momentsOf } from "./moments";
import { measuresToAsk, scheduleLines, type ScheduleLine } from "./schedule";

/** One item of a score over the last returns: the number each answer counts as. */
export interface ItemSeries {
  readonly linkId: string;
  readonly text: string;
  readonly least: number;
  readonly most: number;
  /** Undefined where it was not answered. */
  readonly numbers: readonly { readonly at: Instant; readonly number: number | undefined }[];
}
export interface MeasuresView {
  readonly clientId: Id<"Client">;
  readonly name: string;
  readonly courses: readonly Course[];
  readonly moments: readonly Moment[];
  /** Titles of the questionnaires, by id. */
  readonly titles: Readonly<Record<string, string>>;
  /** Items of each questionnaire, by its id. */
  readonly items: Readonly<Record<string, readonly ItemSeries[]>>;
  readonly alerts: readonly AlertLine[];
  /** What they are asked by itself, and what could be; undefined for who may not send. */
  readonly schedules:
    | {
        readonly going: readonly ScheduleLine[];
        readonly measures: readonly { readonly id: string; readonly title: string }[];
      }
    | undefined;
  readonly mayTakeOut: boolean;
}
const mostReturns = 12;

/** What somebody's scores came to over time. */
export const measuresView = query({
  name: "measures-view",
  access: "answers.read",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<MeasuresView, CommonError>> {
    const { repo, practice } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
    const courses = await new KnownScores(ctx).coursesOf(points);
    const asked = [...new Set(courses.map(({ questionnaireId }) => questionnaireId as Id<"Questionnaire">))];
    const current = await repo.versions.current(asked);
    const titles: Record<string, string> = {};
    const items: Record<string, readonly ItemSeries[]> = {};
    for (const id of asked) {
      titles[id] = (await repo.versions.definition(current.get(id)!)).title;
      items[id] = await itemsOf(
        ctx,
        courses.filter((one) => one.questionnaireId === id),
      );
    }
    ctx.journal("measures.view", `client:${clientId}`);
    return ok({
      clientId,
      name: nameOf(client),
      courses,
      // Visits and medicines stand in the chart.
      moments: may(ctx, "chart.read") ? await momentsOf(ctx, clientId) : [],
      titles,
      items,
      alerts: await alertLines(ctx, [clientId]),
      schedules: may(ctx, "packet.send")
        ? {
            going: await scheduleLines(ctx, clientId),
            measures: await measuresToAsk(ctx),
          }
        : undefined,
      mayTakeOut: may(ctx, "export"),
    });
  },
});

/** The items of a questionnaire's first score, over its last returns. */
async function itemsOf({ repo }: Context, courses: readonly Course[]): Promise<ItemSeries[]> {
  const main = courses[0];
  const returned = (main?.points ?? []).filter(({ partId }) => partId !== undefined).slice(-mostReturns);
  const versionId = returned.at(-1)?.versionId as Id<"Version"> | undefined;
  if (!main || !versionId) return [];
  const answers = await inOrder(returned, async (point) => ({
    at: point.at,
    questionnaire: await repo.versions.definition(point.versionId as Id<"Version">),
    answers: await repo.answers.ofPart(point.partId as Id<"Part">),
  }));
  const latest = await repo.versions.definition(versionId);
  const rule = allQuestions(latest).find((one) => one.linkId === main.linkId)?.score;
  return (rule?.items ?? []).flatMap((linkId): ItemSeries[] => {
    const asked = allQuestions(latest).find((one) => one.linkId === linkId);
    const range = asked && numbersOf(asked);
    if (!asked || !range) return [];
    return [
      {
        linkId,
        text: asked.text,
        least: range.low,
        most: range.high,
        numbers: answers.map(({ at, questionnaire, answers: given }) => {
          const own = allQuestions(questionnaire).find((one) => one.linkId === linkId);
          const [value] = given.values[linkId] ?? [];
          return { at, number: own && value ? weightOf(own, value) : undefined };
        }),
      },
    ];
  });
}

export interface SharedScores {
  /** The client's; no name goes to a screen that others may see. */
  readonly language: string;
  /** Those with a score. */
  readonly courses: readonly Course[];
}
/** What a client is shown of their own scores in the room or on a call. */
export const sharedScores = query({
  name: "shared-scores",
  access: "answers.read",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<SharedScores, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
    const courses = await new KnownScores(ctx).coursesOf(points);
    ctx.journal("measures.view", `client:${clientId}`, { shared: true });
    const { locale } = ctx.practice;
    // In the practice's way of writing it, where that is their language.
    const language = mainLanguage(locale) === mainLanguage(client.language) ? locale : client.language;
    return ok({ language, courses: courses.filter((course) => course.points.some(isScored)) });
  },
});
