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

    async byDigest(digest: string, now: Instant): Promise<{ complete: boolean; staff: Staff } | undefined> {
      const [row] = await db
        .select()
        .from(staffSession)
        .innerJoin(staff, eq(staff.id, staffSession.staffId))
        .where(and(eq(staffSession.digest, digest), gt(staffSession.expiresAt, now), eq(staff.active, true)));
      return row && { complete: row.staff_session.complete, staff: read(row.staff) };
    },

    async end(digest: string): Promise<void> {
      await db.delete(staffSession).where(eq(staffSession.digest, digest));
    },

    async clearOld(now: Instant): Promise<void> {
      await db.delete(staffSession).where(lt(staffSession.expiresAt, now));
    },
  };
};
