import { staffReader, type Staff } from "./staff";
import { and, eq, gt, lt } from "drizzle-orm";
import type { Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { staff, staffSession } from "../schema";

export const sessionRepository = (db: Db, sealer: Sealer) => {
  const read = staffReader(sealer);
  return {
    async add(row: typeof staffSession.$inferInsert): Promise<void> {
      await db.insert(staffSession).values(row);
    },

    async byDigest(
      digest: string,
      now: Instant,
    ): Promise<{ complete: boolean; staff: Staff; expiresAt: Instant } | undefined> {
      const [row] = await db
        .select()
        .from(staffSession)
        .innerJoin(staff, eq(staff.id, staffSession.staffId))
        .where(and(eq(staffSession.digest, digest), gt(staffSession.expiresAt, now), eq(staff.active, true)));
      if (!row) return undefined;
      const { complete, expiresAt } = row.staff_session;
      return { complete, expiresAt, staff: read(row.staff) };
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
