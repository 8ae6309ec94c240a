import { array, number, object, string } from "yup";
import { addDays, dayIn } from "../../core/scheduling";
import { fail, instantMs, isBefore, laterBy, nthId, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { MeasureSchedule, Packet, Visit } from "../../db/repositories";
import {
  command,
  idInput,
  inOrder,
  libraryRight,
  notFound,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { askAgain } from "../sending/ask-again";
import { linkHolders, writeTo } from "../sending/people";
import { sendOne, type SendError } from "../sending/send-packet";
import { targetOfPacket } from "../sending/target";
import { isReturned } from "../review/returns";

export interface ScheduleLine {
  readonly id: Id<"MeasureSchedule">;
  readonly titles: readonly string[];
  /** Undefined: before every visit; 0: at the beginning and the end. */
  readonly everyWeeks: number | undefined;
  readonly recall: MeasureSchedule["recall"];
  readonly since: Instant;
  readonly lastAskedAt: Instant | undefined;
}
export async function scheduleLines(ctx: Context, clientId: Id<"Client">): Promise<ScheduleLine[]> {
  const { repo } = ctx;
  return inOrder(await repo.measureSchedules.ofClient(clientId), async (one) => {
    const current = await repo.versions.current(one.questionnaireIds);
    return {
      id: one.id,
      titles: await inOrder([...current.values()], async (id) => (await repo.versions.definition(id)).title),
      everyWeeks: one.everyWeeks ?? undefined,
      recall: one.recall,
      since: one.createdAt,
      lastAskedAt: one.lastAskedAt ?? undefined,
    };
  });
}
/** Measures in use that this member of staff may send. */
export async function measuresToAsk({
  repo,
  practice,
  actor,
}: Context<StaffActor>): Promise<{ readonly id: Id<"Questionnaire">; readonly title: string }[]> {
  return (await repo.questionnaires.all(practice.id, actor.id))
    .filter((one) => one.kind === "measure" && one.state === "active" && libraryRight(actor, one) !== "none")
    .map(({ id, title }) => ({ id, title }));
}
const mostWeeks = 52;
const mostMeasures = 6;
const rhythm = {
  /** Every so many weeks; 0: first and last; null: before every visit. */
  everyWeeks: number().integer().min(0).max(mostWeeks).nullable().default(null),
  recall: string<MeasureSchedule["recall"]>().oneOf(["as-written", "since-last"]).default("as-written"),
};
/** From now on a client is asked for the same measures: before every visit, every so many weeks, or first and last. */
export const scheduleMeasures = command({
  name: "schedule-measures",
  access: "packet.send",
  input: object({
    requestId: requestInput,
    clientId: idInput<"Client">(),
    questionnaireIds: array(idInput<"Questionnaire">())
      .min(1, "Choose what is asked.")
      .max(mostMeasures, `At most ${mostMeasures} at once.`)
      .required(),
    ...rhythm,
  }),
  async run(ctx, { requestId, clientId, questionnaireIds, everyWeeks, recall }): Promise<Result<null, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client || client.archivedAt !== null) return notFound;
    const known = new Set((await measuresToAsk(ctx)).map(({ id }) => id));
    if (!questionnaireIds.every((id) => known.has(id))) return notFound;
    const added = await repo.measureSchedules.add({
      id: requestId as Id<"MeasureSchedule">,
      practiceId: practice.id,
      clientId,
      requestId,
      staffId: actor.id,
      questionnaireIds: [...new Set(questionnaireIds)],
      everyWeeks,
      recall,
      createdAt: now,
    });
    ctx.journal(added ? "measures.schedule" : "measures.schedule-repeated", `client:${clientId}`, {
      schedule: requestId,
    });
    return ok(null);
  },
});
/** Asked in another rhythm, or about another time, by the link there is. */
export const changeSchedule = command({
  name: "change-schedule",
  access: "packet.send",
  input: object({ scheduleId: idInput<"MeasureSchedule">(), ...rhythm }),
  async run(ctx, { scheduleId, everyWeeks, recall }): Promise<Result<null, CommonError>> {
    const { repo } = ctx;
    const schedule = await repo.measureSchedules.byId(scheduleId, true);
    if (!schedule || schedule.endedAt !== null) return notFound;
    await repo.measureSchedules.update(scheduleId, { everyWeeks, recall });
    ctx.journal("measures.schedule-change", `client:${schedule.clientId}`, { schedule: scheduleId });
    return ok(null);
  },
});
/** Nobody is asked by it any more; one of the first and the last asks a last time, where that is wished. */
export const endSchedule = command({
  name: "end-schedule",
  access: "packet.send",
  input: object({ scheduleId: idInput<"MeasureSchedule">(), last: string().oneOf(["yes", "no"]).default("no") }),
  async run(ctx, { scheduleId, last }): Promise<Result<null, SendError>> {
    const { repo, now } = ctx;
    const schedule = await repo.measureSchedules.byId(scheduleId, true);
    if (!schedule) return notFound;
    if (schedule.endedAt === null) {
      if (last === "yes") {
        const asked = await ask(ctx, schedule, undefined);
        if (!asked.ok) return asked;
      }
      await repo.measureSchedules.update(scheduleId, { endedAt: now });
    }
    ctx.journal("measures.schedule-end", `client:${schedule.clientId}`, { schedule: scheduleId });
    return ok(null);
  },
});

/** What is done by itself when it is time: one letter, with a link that asks for today. */
export const askForMeasures = command({
  name: "ask-for-measures",
  access: "packet.send",
  input: object({ scheduleId: idInput<"MeasureSchedule">() }),
  async run(ctx, { scheduleId }): Promise<Result<{ readonly more: boolean }, SendError>> {
    const { repo, practice, now } = ctx;
    const held = await repo.measureSchedules.byId(scheduleId, true);
    if (!held) return notFound;
    // Whoever held it before may have asked already.
    const isDue = (await repo.measureSchedules.due(practice.id, now, scheduleId)).length > 0;
    ctx.journal("measures.ask", `client:${held.clientId}`, { schedule: scheduleId, due: isDue });
    if (!isDue) return ok({ more: false });
    const client = await repo.clients.byId(practice.id, held.clientId);
    if (!client || client.archivedAt !== null) {
      await repo.measureSchedules.update(scheduleId, { endedAt: now });
      return ok({ more: false });
    }
    const visit = (await repo.visits.ofClient(practice.id, held.clientId))
      .filter(({ startsAt, cancelledAt }) => cancelledAt === null && isBefore(now, startsAt))
      .sort((one, other) => instantMs(one.startsAt) - instantMs(other.startsAt))[0];
    const asked = await ask(ctx, held, held.everyWeeks === null ? visit : undefined);
    return asked.ok ? ok({ more: false }) : asked;
  },
});
const aYear = 365;
/** A link that ends before this many days is followed by another, in ms. */
const soon = 21 * 86_400_000;
async function ask(
  ctx: Context<StaffActor>,
  schedule: MeasureSchedule,
  visit: Visit | undefined,
): Promise<Result<null, SendError>> {
  const { repo, practice, now, random } = ctx;
  const before = schedule.seriesId ? await repo.packets.byId(practice.id, schedule.seriesId) : undefined;
  const newest = before && (await repo.packets.newestOfSeries(before));
  const goesOn =
    newest !== undefined &&
    newest.repeats &&
    newest.state !== "withdrawn" &&
    isBefore(laterBy(now, soon), newest.expiresAt);
  const set = { lastAskedAt: now, ...(visit ? { lastVisitId: visit.id } : {}) };
  if (goesOn) {
    const packet = isReturned(newest) && isEarlierDay(ctx, newest) ? await askAgain(ctx, newest) : newest;
    // Not answered for the last visit, it is for this one.
    if (visit && !isReturned(packet)) await repo.packets.update(packet.id, { visitId: visit.id });
    const target = await targetOfPacket(ctx, packet);
    if (!target) return notFound;
    const people = (await linkHolders(ctx, packet, target.client)).filter(({ role }) => role === "fills");
    if (!people.some(({ recipient }) => recipient.contact)) return fail({ reason: "no-contact" });
    // Who answered today needs no letter.
    if (!isReturned(packet))
      await writeTo(ctx, packet, visit ? { ...target, visit } : target, people, "packet", random.id());
    await repo.measureSchedules.update(schedule.id, set);
    return ok(null);
  }
  const client = await repo.clients.byId(practice.id, schedule.clientId);
  if (!client) return notFound;
  const practitioner = (await repo.staff.byId(schedule.staffId))?.name ?? practice.name;
  const today = dayIn(now, practice.zone);
  const sent = await sendOne(
    ctx,
    // Another each time a link is followed by another.
    nthId(schedule.id, Math.floor(instantMs(now) / 1000)),
    { client, visit, staffId: visit?.staffId ?? schedule.staffId, practitioner },
    {
      questionnaireIds: [...schedule.questionnaireIds],
      prefillIds: [],
      leafletIds: [],
      repeats: true,
      expiresOn: addDays(today, aYear),
    },
  );
  if (!sent.ok) return sent;
  await repo.measureSchedules.update(schedule.id, { ...set, seriesId: sent.value.packetId });
  return ok(null);
}
const isEarlierDay = ({ now, practice }: Context, { returnedAt }: Packet): boolean =>
  returnedAt !== null && dayIn(returnedAt, practice.zone) < dayIn(now, practice.zone);

/** Since when a client is asked about, where their schedule says since the last session and there was one. */
export async function recallOf({ repo, practice, now }: Context, packet: Packet): Promise<Instant | undefined> {
  if (!packet.repeats) return undefined;
  const schedule = await repo.measureSchedules.ofSeries(packet.seriesOf ?? packet.id);
  if (schedule?.recall !== "since-last") return undefined;
  const visit = packet.visitId ? await repo.visits.byId(practice.id, packet.visitId) : undefined;
  // What is asked for a visit is about the time up to it, whenever it is answered.
  const until = visit?.startsAt ?? packet.returnedAt ?? now;
  return (await repo.visits.ofClient(practice.id, packet.clientId))
    .filter(({ startsAt, cancelledAt }) => cancelledAt === null && isBefore(startsAt, until))
    .map(({ startsAt }) => startsAt)
    .sort()
    .at(-1);
}
