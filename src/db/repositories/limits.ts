import { and, eq, gte, lt, sql } from "drizzle-orm";
import type { Instant } from "../../core/shared";
import type { Db } from "../database";
import { limit } from "../schema";

export const limitRepository = (db: Db) => {
  return {
    /** Counts one try and gives the number within the window, this one included. One statement: two at once both count. */
    async count(key: string, now: Instant, windowStart: Instant): Promise<number> {
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

    /** How many there were within the window so far. */
    async sofar(key: string, windowStart: Instant): Promise<number> {
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
