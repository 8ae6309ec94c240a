import { staffReader, type Staff } from "./staff";
import { and, desc, eq, gt, lt, ne, sql } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
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

    /** What a passkey has to sign next in this session. */
    async setChallenge(digest: string, challenge: string): Promise<void> {
      await db.update(staffSession).set({ challenge }).where(eq(staffSession.digest, digest));
    },
    /** Gives it out once: of two at once only one gets it. */
    async takeChallenge(digest: string): Promise<string | undefined> {
      const [row] = await db
        .select({ challenge: staffSession.challenge })
        .from(staffSession)
        .where(eq(staffSession.digest, digest))
        .for("update");
      if (!row?.challenge) return undefined;
      await db.update(staffSession).set({ challenge: null }).where(eq(staffSession.digest, digest));
      return row.challenge;
    },

    /** Until when the stored signature of who is behind it may be used. */
    async release(digest: string, until: Instant): Promise<void> {
      await db.update(staffSession).set({ releasedUntil: until }).where(eq(staffSession.digest, digest));
    },
    async releasedUntil(digest: string): Promise<Instant | undefined> {
      const [row] = await db
        .select({ until: staffSession.releasedUntil })
        .from(staffSession)
        .where(eq(staffSession.digest, digest));
      return row?.until ?? undefined;
    },

    async end(digest: string): Promise<void> {
      await db.delete(staffSession).where(eq(staffSession.digest, digest));
    },

    /** Those that hold, newest first. */
    async ofStaff(
      staffId: Id<"Staff">,
      now: Instant,
      idleSince: Instant,
    ): Promise<{ digest: string; device: string; createdAt: Instant; usedAt: Instant }[]> {
      const rows = await db
        .select()
        .from(staffSession)
        .where(
          and(
            eq(staffSession.staffId, staffId),
            eq(staffSession.complete, true),
            gt(staffSession.expiresAt, now),
            gt(usedAt, idleSince),
          ),
        )
        .orderBy(desc(staffSession.createdAt), staffSession.digest);
      return rows.map(({ digest, device, createdAt, seenAt }) => ({
        digest,
        device,
        createdAt,
        usedAt: seenAt ?? createdAt,
      }));
    },

    /** Ends all sessions of somebody, but `keep`. Gives how many ended. */
    async endAll(staffId: Id<"Staff">, keep = ""): Promise<number> {
      const ended = await db
        .delete(staffSession)
        .where(and(eq(staffSession.staffId, staffId), ne(staffSession.digest, keep)))
        .returning({ digest: staffSession.digest });
      return ended.length;
    },

    async clearOld(now: Instant): Promise<void> {
      await db.delete(staffSession).where(lt(staffSession.expiresAt, now));
    },
  };
};
