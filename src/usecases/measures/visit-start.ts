import { array, object, string } from "yup";
import { foldChart, valueOn } from "../../core/chart";
import { isScored, lastChange, mostChecks, type Course, type VisitChecks } from "../../core/measures";
import { allQuestions, textOf, weightOf, type Answers, type Questionnaire } from "../../core/questionnaire";
import { alertsOf } from "../../core/scoring";
import { fail, isBefore, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Visit } from "../../db/repositories";
import { command, idInput, inOrder, may, notFound, query, type CommonError, type Context } from "../kit";
import { alertLines, type AlertLine } from "./alerts";
import { KnownScores, pointsOfClients } from "./courses";

interface Given {
  readonly number: number;
  readonly words: string;
}
/** An item of a score; `before`: what it was the last time, where it was asked and answered then. */
export interface StartItem {
  readonly text: string;
  readonly before: Given | undefined;
  readonly now: Given;
}
export interface StartPart {
  readonly packetId: Id<"Packet">;
  readonly title: string;
  readonly at: Instant;
  readonly alarms: readonly { readonly message: string; readonly question: string; readonly answer: string }[];
  /** All items where they are few, as of a measure of how one works together; else those that moved, the most first. */
  readonly items: readonly StartItem[];
  /** What they wrote in words of their own. */
  readonly written: readonly { readonly question: string; readonly answer: string }[];
  /** The score turned round: it had been rising and fell, or the other way. */
  readonly turned: boolean;
  readonly courses: readonly Course[];
}
export interface VisitStart {
  readonly clientId: Id<"Client">;
  readonly parts: readonly StartPart[];
  readonly alerts: readonly AlertLine[];
  /** What they said they came for, as it stands in the chart. */
  readonly askedFor: readonly { readonly label: string; readonly words: string }[];
  readonly lastNote: { readonly id: Id<"Note">; readonly at: Instant } | undefined;
  /** Of a remote visit alone: what is asked first, and what of it was ticked off. */
  readonly checklist: readonly string[];
  readonly checks: VisitChecks | undefined;
}
/** A return this many days before a visit is still about it; and any since the visit before. */
const nearDays = 14;
const mostItems = 5;
const day = 86_400_000;

/** What somebody answered for a visit, those answers first that stand out, and what is asked at its start. */
export const visitStart = query({
  name: "visit-start",
  access: "answers.read",
  input: object({ visitId: idInput<"Visit">() }),
  async run(ctx, { visitId }): Promise<Result<VisitStart, CommonError>> {
    const { repo, practice } = ctx;
    const visit = await repo.visits.byId(practice.id, visitId);
    if (!visit) return notFound;
    const clientId = visit.client.id;
    const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
    const courses = await new KnownScores(ctx).coursesOf(points);
    // Who may read answers alone is told nothing of charts and notes.
    const chart = may(ctx, "chart.read") ? foldChart(await repo.charts.entries(clientId)) : undefined;
    const [note] = may(ctx, "note.write") ? await repo.notes.headsOf(practice.id, clientId) : [];
    const asked = [
      ["goals", "Goals"],
      ["care-wishes", "Wishes for the work"],
    ] as const;
    ctx.journal("measures.view", `client:${clientId}`, { visit: visitId });
    return ok({
      clientId,
      parts: await partsNear(ctx, courses, await nearTo(ctx, visit)),
      alerts: (await alertLines(ctx, [clientId])).filter(({ done }) => !done),
      askedFor: asked.flatMap(([key, label]) => {
        const words = (chart && valueOn(chart, key)) ?? "";
        return words === "" ? [] : [{ label, words }];
      }),
      lastNote: note && { id: note.id, at: note.createdAt },
      checklist: visit.remote ? practice.measures.checklist : [],
      checks: visit.checks ?? undefined,
    });
  },
});

/** Also what came while the visit went on. */
async function nearTo({ repo, practice }: Context, { client, startsAt }: Visit): Promise<readonly [Instant, Instant]> {
  const before = (await repo.visits.ofClient(practice.id, client.id))
    .filter((one) => one.cancelledAt === null && isBefore(one.startsAt, startsAt))
    .map((one) => one.startsAt);
  return [[laterBy(startsAt, -nearDays * day), ...before.sort().slice(-1)].sort()[0]!, laterBy(startsAt, day)];
}
/** The last return of each questionnaire, where it came between these; those that alarm first. */
async function partsNear(
  ctx: Context,
  courses: readonly Course[],
  [from, to]: readonly [Instant, Instant],
): Promise<StartPart[]> {
  const byQuestionnaire = new Map<string, Course[]>();
  for (const course of courses)
    byQuestionnaire.set(course.questionnaireId, [...(byQuestionnaire.get(course.questionnaireId) ?? []), course]);
  const parts = await inOrder([...byQuestionnaire.values()], async (own): Promise<StartPart[]> => {
    const returned = own[0]!.points.filter(({ partId }) => partId !== undefined);
    const [last, before] = [returned.at(-1), returned.at(-2)];
    if (!last || isBefore(last.at, from) || isBefore(to, last.at)) return [];
    const read = async (point: typeof last): Promise<Read> => ({
      questionnaire: await ctx.repo.versions.definition(point.versionId as Id<"Version">),
      answers: await ctx.repo.answers.ofPart(point.partId as Id<"Part">),
    });
    const now = await read(last);
    return [
      {
        packetId: last.packetId as Id<"Packet">,
        title: now.questionnaire.title,
        at: last.at,
        alarms: alertsOf(now.questionnaire, now.answers).map(({ message, question, answer }) => ({
          message,
          question,
          answer: answer ? textOf(answer) : "",
        })),
        items: itemsOf(now, before && (await read(before))),
        written: writtenIn(now),
        turned: hasTurned(own[0]!),
        courses: own,
      },
    ];
  });
  const alarms = ({ alarms: { length } }: StartPart): number => Math.sign(length);
  return parts.flat().sort((one, other) => alarms(other) - alarms(one));
}
interface Read {
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
}
/** In the order they were asked; of many those alone that moved, the largest step first. */
function itemsOf(now: Read, before: Read | undefined): StartItem[] {
  const counted = new Set(allQuestions(now.questionnaire).flatMap(({ score }) => score?.items ?? []));
  const items = allQuestions(now.questionnaire).flatMap((question): StartItem[] => {
    const is = counted.has(question.linkId) ? givenIn(now, question.linkId) : undefined;
    return is ? [{ text: question.text, before: before && givenIn(before, question.linkId), now: is }] : [];
  });
  if (counted.size <= mostItems) return items;
  const step = (item: StartItem): number => (item.before ? Math.abs(item.now.number - item.before.number) : 0);
  return items
    .filter((item) => step(item) > 0)
    .sort((one, other) => step(other) - step(one))
    .slice(0, mostItems);
}
function givenIn({ questionnaire, answers }: Read, linkId: string): Given | undefined {
  const question = allQuestions(questionnaire).find((one) => one.linkId === linkId);
  const [value] = answers.values[linkId] ?? [];
  const number = question && value && weightOf(question, value);
  return number === undefined ? undefined : { number, words: textOf(value!) };
}
const writtenIn = ({ questionnaire, answers }: Read): StartPart["written"] =>
  allQuestions(questionnaire).flatMap(({ linkId, type, text }) => {
    const [value] = type === "text" || type === "string" ? (answers.values[linkId] ?? []) : [];
    return value ? [{ question: text, answer: textOf(value) }] : [];
  });
function hasTurned(course: Course): boolean {
  const [third, second, first] = course.points.filter(isScored).slice(-3);
  if (!third || !second || !first || !lastChange(course).known) return false;
  return Math.sign(second.value - third.value) * Math.sign(first.value - second.value) < 0;
}

/** Ticks off what is asked at the start of a remote visit; what was ticked goes into its note. */
export const checkVisit = command({
  name: "check-visit",
  access: "note.write",
  input: object({
    visitId: idInput<"Visit">(),
    ticked: array(string().trim().max(300).required()).max(mostChecks).required(),
  }),
  async run(ctx, { visitId, ticked }): Promise<Result<null, CommonError | { readonly reason: "no-checklist" }>> {
    const { repo, practice, now, actor } = ctx;
    const visit = await repo.visits.byId(practice.id, visitId);
    if (!visit || visit.cancelledAt !== null) return notFound;
    if (!visit.remote) return fail({ reason: "no-checklist" });
    // What is no longer on the list, but was ticked under its old words, stays.
    const known = new Set([...practice.measures.checklist, ...(visit.checks?.ticked ?? [])]);
    await repo.visits.check(visitId, { at: now, by: actor.id, ticked: ticked.filter((one) => known.has(one)) });
    ctx.journal("visit.check", `visit:${visitId}`, { ticked: ticked.length });
    return ok(null);
  },
});
