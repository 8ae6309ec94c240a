import { and, asc, desc, eq, gt, inArray } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { clientOpening, clientStaff, staff, visit } from "../schema";
import { clientKeyRepository } from "./client-keys";

/** Somebody opened a client who is not theirs. */
export interface Opening {
  readonly id: Id<"Opening">;
  readonly staffId: Id<"Staff">;
  readonly at: Instant;
  readonly until: Instant;
  readonly reason: string;
}

/** Whose clients they are. */
export const careTeamRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `opening:${id}`;
  const keys = clientKeyRepository(db, sealer);
  return {
    /** From now on they are this colleague's too; again is nothing. */
    async join(clientId: Id<"Client">, staffId: Id<"Staff">): Promise<void> {
      await db.insert(clientStaff).values({ clientId, staffId }).onConflictDoNothing();
    },
    async leave(clientId: Id<"Client">, staffId: Id<"Staff">): Promise<boolean> {
      const gone = await db
        .delete(clientStaff)
        .where(and(eq(clientStaff.clientId, clientId), eq(clientStaff.staffId, staffId)))
        .returning({ id: clientStaff.staffId });
      return gone.length > 0;
    },
    /** Whose visit it is, theirs the client is. */
    async joinByVisits(ids: readonly Id<"Visit">[]): Promise<void> {
      if (ids.length === 0) return;
      await db
        .insert(clientStaff)
        .select(
          db
            .selectDistinct({ clientId: visit.clientId, staffId: visit.staffId })
            .from(visit)
            .where(inArray(visit.id, [...ids])),
        )
        .onConflictDoNothing();
    },
    /** Those who still work here, by name. */
    async of(clientId: Id<"Client">): Promise<{ id: Id<"Staff">; name: string; email: string }[]> {
      return db
        .select({ id: staff.id, name: staff.name, email: staff.email })
        .from(clientStaff)
        .innerJoin(staff, eq(staff.id, clientStaff.staffId))
        .where(and(eq(clientStaff.clientId, clientId), eq(staff.active, true)))
        .orderBy(asc(staff.name));
    },
    /** Everybody's, in one query. */
    async all(): Promise<{ readonly clientId: Id<"Client">; readonly staffId: Id<"Staff"> }[]> {
      return db.select().from(clientStaff);
    },
    async clientsOf(staffId: Id<"Staff">): Promise<Id<"Client">[]> {
      const rows = await db
        .select({ id: clientStaff.clientId })
        .from(clientStaff)
        .where(eq(clientStaff.staffId, staffId));
      return rows.map(({ id }) => id);
    },
    /** All of somebody's clients are a colleague's from now on, and no longer theirs. */
    async handTo(staffId: Id<"Staff">, to: Id<"Staff">): Promise<void> {
      const own = (await this.clientsOf(staffId)).map((clientId) => ({ clientId, staffId: to }));
      if (own.length === 0) return;
      await db.insert(clientStaff).values(own).onConflictDoNothing();
      await db.delete(clientStaff).where(eq(clientStaff.staffId, staffId));
    },
    /** Everybody this member of staff may see now, where that is not everybody there is. */
    async inSightOf(staffId: Id<"Staff">, now: Instant): Promise<ReadonlySet<string>> {
      const opened = await db
        .select({ id: clientOpening.clientId })
        .from(clientOpening)
        .where(and(eq(clientOpening.staffId, staffId), gt(clientOpening.until, now)));
      return new Set<string>([...(await this.clientsOf(staffId)), ...opened.map(({ id }) => id)]);
    },
    async open(clientId: Id<"Client">, { reason, ...row }: Opening): Promise<void> {
      const keyId = await keys.of(clientId);
      await db.insert(clientOpening).values({ ...row, clientId, reason: sealer.seal(place(row.id), reason, keyId) });
    },
    /** Newest first. */
    async openings(clientId: Id<"Client">, limit: number): Promise<Opening[]> {
      const rows = await db
        .select()
        .from(clientOpening)
        .where(eq(clientOpening.clientId, clientId))
        .orderBy(desc(clientOpening.at))
        .limit(limit);
      await keys.knowFor(rows.map(({ reason }) => reason));
      return rows.map(({ clientId: _client, ...row }) => ({
        ...row,
        reason: sealer.open<string>(place(row.id), row.reason),
      }));
    },
  };
};
