import {
  fieldByKey,
  foldChart,
  nameOf,
  standingIn,
  valueOn,
  wordsIn,
  type Chart,
  type ChartField,
} from "../../core/chart";
import {
  layoutById,
  measureWords,
  quotable,
  type DraftFacts,
  type DraftSource,
  type MeasureFact,
  type NoteLayout,
  type NoteValues,
  type Quote,
} from "../../core/notes";
import { allItems, dateWords, isQuestion, linkIdOf } from "../../core/questionnaire";
import { dayIn } from "../../core/scheduling";
import { bandOf, isScored, judgedBy, versionOf, type Course } from "../../core/measures";
import { dateFormat, instantMs, type Id, type Instant } from "../../core/shared";
import type { Client, Packet, Visit } from "../../db/repositories";
import { fieldsOf, inOrder, plansOf, type Context, type StaffActor } from "../kit";
import { KnownScores, pointsOfClients } from "../measures/courses";
import { readParts, staffWords } from "../review";

/** Layouts of the practice's own that somebody may use, and those that every practice has. */
export async function layoutFor(ctx: Context<StaffActor>, id: string): Promise<NoteLayout | undefined> {
  return layoutById(id, await ownLayouts(ctx));
}
export const ownLayouts = async ({ repo, practice, actor }: Context<StaffActor>): Promise<NoteLayout[]> =>
  (await repo.noteLayouts.all(practice.id)).flatMap(({ layout, shared, staffId }) =>
    shared || staffId === actor.id ? [layout] : [],
  );

/** What a note for somebody is drafted from. */
export interface About {
  readonly client: Client;
  readonly visit: Visit | undefined;
  readonly packets: readonly Packet[];
}
const mostMeasures = 4;
const mostPoints = 40;

export async function factsFor(ctx: Context<StaffActor>, about: About, layout: NoteLayout): Promise<DraftFacts> {
  const { client, packets } = about;
  const chart = foldChart(await ctx.repo.charts.entries(client.id));
  const fields = await fieldsOf(ctx);
  const measures = await measuresOf(ctx, client.id);
  const habits = await ctx.repo.notes.habits(ctx.actor.id);
  const sources = (
    await inOrder(packets, async (packet) => sourcesOf(ctx, client, packet, { fields, habits, layoutId: layout.id }))
  ).flat();
  const { practice } = ctx;
  const keys = layout.sections.flatMap((section) => section.fields ?? []);
  return {
    sources,
    chart: Object.fromEntries(keys.flatMap((key) => quoteOfField(chart, fieldByKey(key, fields)))),
    measures,
    values: valuesFor(ctx, about, chart, measures, practice.locale),
    language: client.language,
    takeHomeValues: valuesFor(ctx, about, chart, measures, client.language),
  };
}
interface Known {
  readonly fields: readonly ChartField[];
  readonly habits: Awaited<ReturnType<Context["repo"]["notes"]["habits"]>>;
  readonly layoutId: string;
}
export async function sourcesOf(
  ctx: Context<StaffActor>,
  client: Client,
  packet: Packet,
  { fields, habits, layoutId }: Known,
): Promise<DraftSource[]> {
  const plans = await plansOf(ctx);
  return inOrder(await readParts(ctx, packet.id), async ({ part, questionnaire, answers }): Promise<DraftSource> => {
    const questionnaireId = await ctx.repo.versions.questionnaireOf(part.versionId);
    const planned = plans(questionnaireId, questionnaire).lines;
    const charted = Object.fromEntries(
      planned.flatMap(({ linkId, target }) => {
        const section = target && fieldByKey(target.field, fields)?.section;
        return section ? [[linkId, section]] : [];
      }),
    );
    // The questions of a list go where the list goes.
    for (const item of allItems(questionnaire))
      if (item.type === "group" && charted[item.linkId])
        for (const inner of item.items) if (isQuestion(inner)) charted[inner.linkId] ??= charted[item.linkId]!;
    return {
      packetId: packet.id,
      partId: part.id,
      kind: questionnaire.kind,
      title: questionnaire.title,
      by: nameOf(client),
      at: packet.returnedAt ?? packet.createdAt,
      uncharted: packet.state === "returned",
      lines: quotable({ partId: part.id, questionnaire, answers }, staffWords(ctx.practice.locale)),
      charted,
      habit: habits.find((one) => one.questionnaireId === questionnaireId && one.layoutId === layoutId)?.habit ?? {},
    };
  });
}
function quoteOfField(chart: Chart, field: ChartField | undefined): [string, Quote][] {
  if (!field) return [];
  const dated = standingIn(chart, field).at(-1)?.dated;
  const answer = wordsIn(chart, field);
  if (!dated || answer === "") return [];
  const { at, by, source } = dated;
  const from = source.kind === "answer" ? source.questionnaire : "Chart";
  return [[field.key, { kind: "chart", question: field.label, answer, by, at, source: from, section: "" }]];
}

/** Scores of everything they returned, the oldest first; those of the last returns, where there are many. */
export async function measuresOf(ctx: Context, clientId: Id<"Client">): Promise<Readonly<Record<string, MeasureFact>>> {
  const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
  const courses = (await new KnownScores(ctx).coursesOf(points)).filter((course) => course.points.some(isScored));
  return Object.fromEntries(
    courses
      .slice(0, mostMeasures)
      .reverse()
      .map((course) => [`${course.questionnaireId} ${course.linkId}`, factOf(course)]),
  );
}
function factOf(course: Course): MeasureFact {
  const scored = course.points.filter(isScored);
  const several = new Set(scored.map(({ versionId }) => versionId)).size > 1;
  const made = judgedBy(course, scored.at(-1)!);
  return {
    title: course.title,
    points: scored.slice(-mostPoints).map((point) => ({
      at: point.at,
      value: point.value,
      // What is missing, and which version it is of, stands beside a score wherever it is told.
      band: [
        bandOf(course, point),
        point.answered < point.items ? `${point.answered} of ${point.items} items answered` : "",
        several ? `version ${versionOf(course, point)?.version ?? ""}` : "",
      ]
        .filter((said) => said !== "")
        .join("; "),
    })),
    least: made?.least,
    most: made?.most,
  };
}

/** What placeholders stand for, in a reader's way of writing. */
export function valuesFor(
  { practice, actor, now }: Pick<Context<StaffActor>, "practice" | "actor" | "now">,
  { client, visit }: Pick<About, "client" | "visit">,
  chart: Chart,
  measures: Readonly<Record<string, MeasureFact>>,
  locale: string,
): NoteValues {
  const day = (at: Instant): string =>
    dateFormat(locale, { dateStyle: "long", timeZone: client.zone ?? practice.zone }).format(instantMs(at));
  const all = Object.values(measures);
  return {
    "client.preferredName": client.preferredName ?? client.firstName,
    "client.name": nameOf(client),
    "client.goals": valueOn(chart, "goals") ?? "",
    "visit.date": visit ? day(visit.startsAt) : dateWords(dayIn(now, practice.zone), locale),
    "visit.type": visit?.visitType ?? "",
    today: dateWords(dayIn(now, practice.zone), locale),
    "practitioner.name": actor.name,
    "practice.name": practice.name,
    "practice.email": practice.email,
    "scores.latest": all.map(({ title, points }) => `${title}: ${points.at(-1)?.value ?? ""}`).join("; "),
    "scores.change": all.map(measureWords).join("; "),
  };
}
/** The linkId of a quote's key. */
export const linkOf = (quote: string): string => linkIdOf(quote.slice(quote.indexOf(" ") + 1));
