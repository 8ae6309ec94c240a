import { and, eq, gt, lt, sql } from "drizzle-orm";
import type { Id, Instant, Role, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { limit, staff, staffSession } from "../schema";

export interface Staff {
  readonly id: Id<"Staff">;
  readonly practiceId: Id<"Practice">;
  readonly email: string;
  readonly name: string;
  readonly title: string;
  readonly role: Role;
  readonly passwordHash: string;
  readonly totpSecret: string | undefined;
  readonly totpOn: boolean;
  readonly totpLastStep: number;
}
type Row = typeof staff.$inferSelect;
const placeOf = (id: string): string => `staff:${id}:totp`;

export const staffRepository = (db: Db, sealer: Sealer) => {
  const read = ({ totpSecret, active: _active, ...row }: Row): Staff => ({
    ...row,
    totpSecret: totpSecret ? sealer.open<string>(placeOf(row.id), totpSecret) : undefined,
  });
  return {
    async add(row: typeof staff.$inferInsert): Promise<void> {
      await db.insert(staff).values(row);
    },
    async byEmail(email: string): Promise<Staff | undefined> {
      const [row] = await db
        .select()
        .from(staff)
        .where(and(eq(staff.email, email.trim().toLowerCase()), eq(staff.active, true)));
      return row && read(row);
    },
    /** @param forUpdate holds the row, so that two tries with the same code come one after the other. */
    async byId(id: Id<"Staff">, forUpdate = false): Promise<Staff | undefined> {
      const query = db
        .select()
        .from(staff)
        .where(and(eq(staff.id, id), eq(staff.active, true)));
      if (forUpdate) query.for("update");
      const [row] = await query;
      return row && read(row);
    },
    async all(practiceId: Id<"Practice">): Promise<Staff[]> {
      return (await db.select().from(staff).where(eq(staff.practiceId, practiceId)).orderBy(staff.name)).map(read);
    },
    async setTotp(id: Id<"Staff">, secret: string | undefined, on: boolean, lastStep: number): Promise<void> {
      await db
        .update(staff)
        .set({
          totpSecret: secret === undefined ? null : sealer.seal(placeOf(id), secret),
          totpOn: on,
          totpLastStep: lastStep,
        })
        .where(eq(staff.id, id));
    },
    async addSession(row: typeof staffSession.$inferInsert): Promise<void> {
      await db.insert(staffSession).values(row);
    },
    async session(digest: string, now: Instant): Promise<{ complete: boolean; staff: Staff } | undefined> {
      const [row] = await db
        .select()
        .from(staffSession)
        .innerJoin(staff, eq(staff.id, staffSession.staffId))
        .where(and(eq(staffSession.digest, digest), gt(staffSession.expiresAt, now), eq(staff.active, true)));
      return row && { complete: row.staff_session.complete, staff: read(row.staff) };
    },
    async endSession(digest: string): Promise<void> {
      await db.delete(staffSession).where(eq(staffSession.digest, digest));
    },
    async clearOldSessions(now: Instant): Promise<void> {
      await db.delete(staffSession).where(lt(staffSession.expiresAt, now));
    },
    /** Counts one try and gives the number within the window, this one included. One statement: two at once both count. */
    async countTry(key: string, now: Instant, windowStart: Instant): Promise<number> {
      const [row] = await db
        .insert(limit)
        .values({ key, windowStart: now, count: 1 })
        .onConflictDoUpdate({
          target: limit.key,
          set: {
            count: sql`case when ${limit.windowStart} < ${windowStart} then 1 else ${limit.count} + 1 end`,
            windowStart: sql`case when ${limit.windowStart} < ${windowStart} then ${now} else ${limit.windowStart} end`,
          },
        })
        .returning({ count: limit.count });
      return row?.count ?? 1;
    },
    async clearTries(key: string): Promise<void> {
      await db.delete(limit).where(eq(limit.key, key));
    },
  };
};
