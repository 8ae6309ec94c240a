import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { consentWords, isTrouble, type ConsentState } from "../../core/consent";
import { readinessOf, stateAt, type Readiness } from "../../core/packet";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { addDays, boundsOf, dayIn, isDay, type Day } from "../../core/scheduling";
import { idInput, may, query, type Context, type StaffActor } from "../kit";
import { registerLines } from "../consent/lines";
import { firstSteps, type FirstStep } from "./first-steps";
import { withOne, type WithOne } from "./with-one";

/** More than these are shown for one practitioner at a time. */
const mostOnSheet = 60;

export interface DayLine {
  readonly visitId: Id<"Visit">;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  /** The made-up client's: not counted. */
  readonly isTest: boolean;
  readonly visitType: string;
  readonly practitioner: string;
  readonly readiness: Readiness;
  readonly packetId: Id<"Packet"> | undefined;
  /** Returns of theirs that are for no visit or another one and are not charted, the oldest first. */
  readonly uncharted: readonly Id<"Packet">[];
  /** So many of theirs alarm, and nobody wrote yet what was done. */
  readonly openAlerts: number;
  /** Consents to be seen to before the visit, the most urgent first. */
  readonly consents: readonly { readonly title: string; readonly state: ConsentState; readonly words: string }[];
}
export interface DaySheet {
  readonly day: Day;
  readonly today: Day;
  readonly before: Day;
  readonly after: Day;
  readonly zone: string;
  readonly with: WithOne;
  readonly lines: readonly DayLine[];
  readonly cancelled: readonly CancelledLine[];
  /** What the practice still lacks to begin; empty for who cannot do it, and once it has begun. */
  readonly firstSteps: readonly FirstStep[];
  /** Notes of whoever looks that are not signed off, or that they are asked to sign beside, the oldest first. */
  readonly unfinished: readonly UnfinishedNote[];
}
export interface UnfinishedNote {
  readonly id: Id<"Note">;
  readonly clientName: string;
  readonly at: Instant;
  /** Somebody else wrote it, and asks them to sign beside. */
  readonly toCosign: boolean;
}
export interface CancelledLine {
  readonly visitId: Id<"Visit">;
  readonly startsAt: Instant;
  readonly clientName: string;
  readonly by: "client" | "practice";
}

const mostUnfinished = 12;
async function unfinishedNotes({ repo, practice, actor }: Context<StaffActor>): Promise<UnfinishedNote[]> {
  const heads = (await repo.notes.unfinished(practice.id, actor.id)).reverse().slice(0, mostUnfinished);
  const clients = await repo.clients.byIds(
    practice.id,
    heads.map((head) => head.clientId),
  );
  return heads.flatMap(({ id, clientId, createdAt, signedAt }) => {
    const client = clients.get(clientId);
    return client ? [{ id, clientName: nameOf(client), at: createdAt, toCosign: signedAt !== null }] : [];
  });
}

/** A day's visits in time order, each with how ready it is. Without a day: today in the practice's zone. */
export const daySheet = query({
  name: "day-sheet",
  access: "day.read",
  input: object({
    day: string().test("day", "No such day.", (v) => v === undefined || isDay(v)),
    staffId: idInput<"Staff">().optional(),
  }),
  async run(ctx, { day: asked, staffId }): Promise<Result<DaySheet, never>> {
    const { repo, practice, now } = ctx;
    const today = dayIn(now, practice.zone);
    const day = asked ?? today;
    const everybodys = await repo.visits.allBetween(practice.id, ...boundsOf(day, practice.zone));
    const { shown: all, ...who } = withOne(everybodys, mostOnSheet, staffId, ctx.actor.id);
    const visits = all.filter(({ cancelledAt }) => cancelledAt === null);
    const packets = await repo.packets.ofVisits(visits.map((v) => v.id));
    const troubles = await repo.outbox.troubles(
      practice.id,
      packets.map((p) => p.id),
    );
    const clientIds = [...new Set(visits.map((v) => v.client.id))];
    const uncharted = await repo.packets.uncharted(practice.id, clientIds);
    const alarming = (await repo.alerts.ofClients(clientIds)).filter(({ done }) => !done);
    const troubled = (await registerLines(ctx, clientIds)).filter((line) => isTrouble(line.state) && !line.asked);
    return ok({
      day,
      today,
      before: addDays(day, -1),
      after: addDays(day, 1),
      zone: practice.zone,
      with: who,
      firstSteps: await firstSteps(ctx),
      unfinished: may(ctx, "note.write") ? await unfinishedNotes(ctx) : [],
      cancelled: all
        .filter(({ cancelledAt }) => cancelledAt !== null)
        .map(({ id, startsAt, client, cancelledBy }) => ({
          visitId: id,
          startsAt,
          clientName: nameOf(client),
          by: cancelledBy ?? "practice",
        })),
      lines: visits.map((visit) => {
        const own = packets.filter((p) => p.visitId === visit.id);
        const glance = own.map((p) => ({
          state: stateAt(p.state, p.expiresAt, now),
          locked: p.lockedAt !== null,
          answered: p.answered,
          alerts: p.alerts,
          letter: troubles.get(p.id),
        }));
        return {
          visitId: visit.id,
          startsAt: visit.startsAt,
          endsAt: visit.endsAt,
          clientId: visit.client.id,
          clientName: nameOf(visit.client),
          isTest: visit.client.isTest,
          visitType: visit.visitType,
          practitioner: visit.staffName,
          readiness: readinessOf(glance),
          packetId: own.filter((p) => p.state !== "withdrawn").at(-1)?.id,
          openAlerts: alarming.filter(({ clientId }) => clientId === visit.client.id).length,
          uncharted: uncharted
            .filter((one) => one.clientId === visit.client.id && one.visitId !== visit.id)
            .map((one) => one.id),
          consents: troubled
            .filter((line) => line.clientId === visit.client.id)
            .map(({ text, state }) => ({ title: text.title, state, words: consentWords[state] })),
        };
      }),
    });
  },
});
