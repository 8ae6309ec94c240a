import { array, object, string } from "yup";
import { foldChart, valueOn } from "../../core/chart";
import { isScored, lastChange, mostChecks, type Course, type VisitChecks } from "../../core/measures";
import { allQuestions, textOf, weightOf, type Answers, type Questionnaire } from "../../core/questionnaire";
import { alertsOf } from "../../core/scoring";
import { fail, instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, inOrder, may, notFound, query, type CommonError, type Context } from "../kit";
import { alertLines, type AlertLine } from "./alerts";
import { KnownScores, pointsOfClients } from "./courses";

/** An item whose number moved since the last time. */
export interface MovedItem {
  readonly text: string;
  readonly before: { readonly number: number; readonly words: string };
  readonly now: { readonly number: number; readonly words: string };
}
export interface StartPart {
  readonly packetId: Id<"Packet">;
  readonly title: string;
  readonly at: Instant;
  readonly alarms: readonly { readonly message: string; readonly question: string; readonly answer: string }[];
  readonly moved: readonly MovedItem[];
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
/** A return this many days before a visit is still about it. */
const nearDays = 14;
const mostMoved = 5;

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
      parts: await partsNear(ctx, courses, visit.startsAt),
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

/** The last return of each questionnaire, where it came for this visit or not long before. */
async function partsNear(ctx: Context, courses: readonly Course[], visitAt: Instant): Promise<StartPart[]> {
  const byQuestionnaire = new Map<string, Course[]>();
  for (const course of courses)
    byQuestionnaire.set(course.questionnaireId, [...(byQuestionnaire.get(course.questionnaireId) ?? []), course]);
  const parts = await inOrder([...byQuestionnaire.values()], async (own): Promise<StartPart[]> => {
    const returned = own[0]!.points.filter(({ partId }) => partId !== undefined);
    const [last, before] = [returned.at(-1), returned.at(-2)];
    const away = last ? (instantMs(visitAt) - instantMs(last.at)) / 86_400_000 : Infinity;
    // Also what came while the visit went on.
    if (!last || away > nearDays || away < -1) return [];
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
        moved: before ? movedBetween(await read(before), now) : [],
        turned: hasTurned(own[0]!),
        courses: own,
      },
    ];
  });
  return parts.flat();
}
interface Read {
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
}
/** Items that moved the most, the largest step first; of those alike, in the order they were asked. */
function movedBetween(before: Read, now: Read): MovedItem[] {
  const counted = new Set(allQuestions(now.questionnaire).flatMap(({ score }) => score?.items ?? []));
  const moved = allQuestions(now.questionnaire).flatMap((question): MovedItem[] => {
    if (!counted.has(question.linkId)) return [];
    const asked = allQuestions(before.questionnaire).find(({ linkId }) => linkId === question.linkId);
    const [was] = before.answers.values[question.linkId] ?? [];
    const [is] = now.answers.values[question.linkId] ?? [];
    const [first, last] = [asked && was && weightOf(asked, was), is && weightOf(question, is)];
    if (first === undefined || last === undefined || first === last) return [];
    return [
      {
        text: question.text,
        before: { number: first, words: textOf(was!) },
        now: { number: last, words: textOf(is!) },
      },
    ];
  });
  const step = ({ before: { number: first }, now: { number: last } }: MovedItem): number => Math.abs(last - first);
  return moved.sort((one, other) => step(other) - step(one)).slice(0, mostMoved);
}
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
