import { and, eq, gt, gte, inArray, lt, sql } from "drizzle-orm";
import type { Instant } from "../../core/shared";
import type { Db } from "../database";
import { limit } from "../schema";

export const limitRepository = (db: Db) => {
  return {
    /**
     * Counts one try and gives the number within the window, this one included. One statement: two at once both count.
     */
    async count(key: string, now: Instant, windowStart: Instant): Promise<number> {
      const [row] = await db
        .insert(limit)
        .values({ key, windowStart: now, count: 1 })
        .onConflictDoUpdate({
          target: limit.key,
          set: {
            count: sql`case when ${limit.windowStart} < ${windowStart} then 1 else ${limit.count} + 1 end`,
            windowStart: sql`case when ${limit.windowStart} < ${windowStart} then ${now} else ${limit.windowStart} end`,
            waitsUntil: sql`case when ${limit.windowStart} < ${windowStart} then null else ${limit.waitsUntil} end`,
          },
        })
        .returning({ count: limit.count });
      return row?.count ?? 1;
    },

    /** Until when whoever is behind these keys has to wait; undefined where nobody has to. */
    async waitsUntil(keys: readonly string[], now: Instant): Promise<Instant | undefined> {
      const rows = await db
        .select({ until: limit.waitsUntil })
        .from(limit)
        .where(and(inArray(limit.key, [...keys]), gt(limit.waitsUntil, now)));
      return rows
        .flatMap((row) => row.until ?? [])
        .sort()
        .at(-1);
    },
    async wait(key: string, until: Instant): Promise<void> {
      await db.update(limit).set({ waitsUntil: until }).where(eq(limit.key, key));
    },
    /** How many there were within the window so far. */
    async soFar(key: string, windowStart: Instant): Promise<number> {
      const [row] = await db
        .select({ count: limit.count })
        .from(limit)
        .where(and(eq(limit.key, key), gte(limit.windowStart, windowStart)));
      return row?.count ?? 0;
    },

    /** Forgets what was counted in windows that began before. */
    async clearOld(before: Instant): Promise<void> {
      await db.delete(limit).where(lt(limit.windowStart, before));
    },

    async clear(key: string): Promise<void> {
      await db.delete(limit).where(eq(limit.key, key));
    },
  };
};
