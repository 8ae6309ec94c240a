import { staffReader, type Staff } from "./staff";
import { and, eq, gt, lt, sql } from "drizzle-orm";
import type { Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { staff, staffSession } from "../schema";

export interface Session {
  readonly complete: boolean;
  readonly staff: Staff;
  readonly expiresAt: Instant;
  readonly usedAt: Instant;
}
const usedAt = sql`coalesce(${staffSession.seenAt}, ${staffSession.createdAt})`;

export const sessionRepository = (db: Db, sealer: Sealer) => {
  const read = staffReader(sealer);
  return {
    async add(row: typeof staffSession.$inferInsert): Promise<void> {
      await db.insert(staffSession).values(row);
    },

    /** One that still holds: `idleSince` is the moment since which it must have been used. */
    async byDigest(digest: string, now: Instant, idleSince: Instant): Promise<Session | undefined> {
      const [row] = await db
        .select()
        .from(staffSession)
        .innerJoin(staff, eq(staff.id, staffSession.staffId))
        .where(
          and(
            eq(staffSession.digest, digest),
            gt(staffSession.expiresAt, now),
            gt(usedAt, idleSince),
            eq(staff.active, true),
          ),
        );
      if (!row) return undefined;
      const { complete, expiresAt, createdAt, seenAt } = row.staff_session;
      return { complete, expiresAt, usedAt: seenAt ?? createdAt, staff: read(row.staff) };
    },

    async touch(digest: string, at: Instant): Promise<void> {
      await db.update(staffSession).set({ seenAt: at }).where(eq(staffSession.digest, digest));
    },

    async extend(digest: string, expiresAt: Instant): Promise<void> {
      await db.update(staffSession).set({ expiresAt }).where(eq(staffSession.digest, digest));
    },

    async end(digest: string): Promise<void> {
      await db.delete(staffSession).where(eq(staffSession.digest, digest));
    },

    async clearOld(now: Instant): Promise<void> {
      await db.delete(staffSession).where(lt(staffSession.expiresAt, now));
    },
  };
};
