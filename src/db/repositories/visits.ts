import { clientKeyRepository } from "./client-keys";
import { clientReader, type Client } from "./clients";
import { and, asc, desc, eq, gte, inArray, isNull, lt } from "drizzle-orm";
import type { VisitChecks } from "../../core/measures";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { StorageError, withoutValues } from "../errors";
import { client, staff, visit, visitType } from "../schema";
import { careTeamRepository } from "./care-teams";
import { inSight, ofReal, type Sight } from "./sight";

export interface Visit {
  readonly id: Id<"Visit">;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly client: Client;
  readonly staffId: Id<"Staff">;
  readonly staffName: string;
  readonly visitType: string;
  readonly visitTypeId: Id<"VisitType">;
  readonly remote: boolean;
  readonly room: string;
  readonly cancelledAt: Instant | null;
  readonly cancelledBy: "client" | "practice" | null;
  readonly checks: VisitChecks | null;
}
/** What is taken already at the time that was asked for. */
export type Taken = "person" | "room";
const exclusionViolation = "23P01";
/** @throws StorageError for anything but an overlap */
async function unlessTaken<T>(db: Db, work: (within: Db) => Promise<T>): Promise<T | Taken> {
  try {
    return await withoutValues(() => db.transaction(work));
  } catch (error) {
    if (error instanceof StorageError && error.code === exclusionViolation)
      return error.constraint === "visit_room_free" ? "room" : "person";
    throw error;
  }
}
export const visitRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const real = ofReal(db, visit.clientId);
  const whose = (within: Db) => careTeamRepository(within, sealer);
  const read = clientReader(sealer);
  const visitRows = () =>
    db
      .select({ visit, client, staffName: staff.name, typeName: visitType.name, remote: visitType.remote })
      .from(visit)
      .innerJoin(client, eq(client.id, visit.clientId))
      .innerJoin(staff, eq(staff.id, visit.staffId))
      .innerJoin(visitType, eq(visitType.id, visit.visitTypeId));
  const keys = clientKeyRepository(db, sealer);
  type VisitRow = Awaited<ReturnType<typeof visitRows>>[number];
  const readVisit = (row: VisitRow): Visit => ({
    id: row.visit.id,
    startsAt: row.visit.startsAt,
    endsAt: row.visit.endsAt,
    client: read(row.client),
    staffId: row.visit.staffId,
    staffName: row.staffName,
    visitType: row.typeName,
    visitTypeId: row.visit.visitTypeId,
    remote: row.remote,
    room: row.visit.room,
    cancelledAt: row.visit.cancelledAt,
    cancelledBy: row.visit.cancelledBy,
    checks: row.visit.checks,
  });
  async function readVisits(rows: readonly VisitRow[]): Promise<Visit[]> {
    await keys.know(rows.map((row) => row.client.keyId));
    return rows.map(readVisit);
  }
  return {
    async add(rows: (typeof visit.$inferInsert)[]): Promise<void> {
      await db.insert(visit).values(rows);
      await whose(db).joinByVisits(rows.map(({ id }) => id));
    },

    /**
     * Books visits, all or, where one overlaps with what is booked, none; in a savepoint, so that the transaction around
     * it goes on. Gives "repeated" where there is one by the first's id.
     */
    async book(
      rows: readonly (typeof visit.$inferInsert)[],
    ): Promise<"booked" | "repeated" | { readonly taken: Taken; readonly at: Instant }> {
      let at = rows[0]!.startsAt;
      const done = await unlessTaken(db, async (within) => {
        for (const [index, row] of rows.entries()) {
          at = row.startsAt;
          const added = await within.insert(visit).values(row).onConflictDoNothing({ target: visit.id }).returning();
          if (index === 0 && added.length === 0) return "repeated" as const;
        }
        await whose(within).joinByVisits(rows.map(({ id }) => id));
        return "booked" as const;
      });
      return done === "booked" || done === "repeated" ? done : { taken: done, at };
    },

    async move(
      id: Id<"Visit">,
      set: Pick<typeof visit.$inferInsert, "startsAt" | "endsAt" | "staffId" | "room">,
    ): Promise<"moved" | Taken> {
      return unlessTaken(db, async (within) => {
        await within.update(visit).set(set).where(eq(visit.id, id));
        await whose(within).joinByVisits([id]);
        return "moved" as const;
      });
    },

    async check(id: Id<"Visit">, checks: VisitChecks): Promise<void> {
      await db.update(visit).set({ checks }).where(eq(visit.id, id));
    },
    async cancel(id: Id<"Visit">, by: "client" | "practice", at: Instant): Promise<void> {
      await db.update(visit).set({ cancelledAt: at, cancelledBy: by }).where(eq(visit.id, id));
    },

    /** Takes the cancelling back, where the time is still free. */
    async restore(id: Id<"Visit">): Promise<"restored" | Taken> {
      return unlessTaken(db, async (within) => {
        await within.update(visit).set({ cancelledAt: null, cancelledBy: null }).where(eq(visit.id, id));
        return "restored" as const;
      });
    },

    async hasAny(practiceId: Id<"Practice">): Promise<boolean> {
      return (
        (
          await db
            .select({ id: visit.id })
            .from(visit)
            .where(and(eq(visit.practiceId, practiceId), seen(visit.clientId), real))
            .limit(1)
        ).length > 0
      );
    },

    /** Visits of somebody that are still to come. */
    async aheadOf(staffId: Id<"Staff">, now: Instant): Promise<Id<"Visit">[]> {
      const rows = await db
        .select({ id: visit.id })
        .from(visit)
        .where(and(eq(visit.staffId, staffId), gte(visit.endsAt, now), isNull(visit.cancelledAt), seen(visit.clientId)))
        .orderBy(asc(visit.startsAt));
      return rows.map(({ id }) => id);
    },

    /** Hands visits to a colleague, all of them or, where one overlaps with theirs, none. */
    async handTo(ids: readonly Id<"Visit">[], staffId: Id<"Staff">): Promise<boolean> {
      const done = await unlessTaken(db, async (within) => {
        await within
          .update(visit)
          .set({ staffId })
          .where(inArray(visit.id, [...ids]));
        await whose(within).joinByVisits(ids);
        return "handed" as const;
      });
      return done === "handed";
    },

    /** In time order, without those that were cancelled. */
    async between(practiceId: Id<"Practice">, from: Instant, to: Instant): Promise<Visit[]> {
      return (await this.allBetween(practiceId, from, to)).filter(({ cancelledAt }) => cancelledAt === null);
    },

    /** In time order, also those that were cancelled. */
    async allBetween(practiceId: Id<"Practice">, from: Instant, to: Instant): Promise<Visit[]> {
      const rows = await visitRows()
        .where(
          and(
            eq(visit.practiceId, practiceId),
            gte(visit.startsAt, from),
            lt(visit.startsAt, to),
            seen(visit.clientId),
          ),
        )
        .orderBy(asc(visit.startsAt), asc(visit.id));
      return readVisits(rows);
    },

    async byId(practiceId: Id<"Practice">, id: Id<"Visit">): Promise<Visit | undefined> {
      const [row] = await visitRows().where(
        and(eq(visit.practiceId, practiceId), eq(visit.id, id), seen(visit.clientId)),
      );
      return (await readVisits(row ? [row] : []))[0];
    },

    /** Newest first, without those that were cancelled. */
    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Visit[]> {
      const rows = await visitRows()
        .where(
          and(
            eq(visit.practiceId, practiceId),
            eq(visit.clientId, clientId),
            isNull(visit.cancelledAt),
            seen(visit.clientId),
          ),
        )
        .orderBy(desc(visit.startsAt));
      return readVisits(rows);
    },

    async byIds(practiceId: Id<"Practice">, ids: readonly Id<"Visit">[]): Promise<Map<string, Visit>> {
      if (ids.length === 0) return new Map();
      const rows = await visitRows().where(
        and(eq(visit.practiceId, practiceId), inArray(visit.id, [...ids]), seen(visit.clientId)),
      );
      return new Map((await readVisits(rows)).map((one) => [one.id as string, one]));
    },
  };
};
