import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { readinessOf, stateAt, type Readiness } from "../../core/packet";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { boundsOf, dayIn, isDay, type Day } from "../../core/scheduling";
import { query } from "../kit";

export interface DayLine {
  readonly visitId: Id<"Visit">;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly visitType: string;
  readonly practitioner: string;
  readonly readiness: Readiness;
  readonly packetId: Id<"Packet"> | undefined;
}
export interface DaySheet {
  readonly day: Day;
  readonly today: Day;
  readonly zone: string;
  readonly lines: readonly DayLine[];
}

/** A day's visits in time order, each with how ready it is. Without a day: today in the practice's zone. */
export const daySheet = query({
  name: "day-sheet",
  access: "day.read",
  input: object({ day: string().test("day", "No such day.", (v) => v === undefined || isDay(v)) }),
  async run({ repo, practice, now }, { day: asked }): Promise<Result<DaySheet, never>> {
    const today = dayIn(now, practice.zone);
    const day = asked ?? today;
    const visits = await repo.clients.visitsBetween(practice.id, ...boundsOf(day, practice.zone));
    const packets = await repo.packets.ofVisits(visits.map((v) => v.id));
    return ok({
      day,
      today,
      zone: practice.zone,
      lines: visits.map((v) => {
        const own = packets.filter((p) => p.visitId === v.id);
        const glance = own.map((p) => ({
          state: stateAt(p.state, p.expiresAt, now),
          locked: p.lockedAt !== null,
          answered: p.answered,
          alerts: p.alerts,
        }));
        return {
          visitId: v.id,
          startsAt: v.startsAt,
          endsAt: v.endsAt,
          clientId: v.client.id,
          clientName: nameOf(v.client),
          visitType: v.visitType,
          practitioner: v.staffName,
          readiness: readinessOf(glance),
          packetId: own.filter((p) => p.state !== "withdrawn").at(-1)?.id,
        };
      }),
    });
  },
});
