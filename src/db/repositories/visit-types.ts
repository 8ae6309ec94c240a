import { and, asc, eq, isNotNull, isNull } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { visitType } from "../schema";

export type VisitType = Omit<typeof visitType.$inferSelect, "practiceId">;

export const visitTypeRepository = (db: Db) => {
  return {
    /** Those that are offered. */
    async all(practiceId: Id<"Practice">): Promise<VisitType[]> {
      return (
        await db
          .select()
          .from(visitType)
          .where(and(eq(visitType.practiceId, practiceId), isNull(visitType.retiredAt)))
          .orderBy(asc(visitType.name), asc(visitType.id))
      ).map(({ practiceId: _, ...type }) => type);
    },

    async byId(practiceId: Id<"Practice">, id: Id<"VisitType">): Promise<VisitType | undefined> {
      const [row] = await db
        .select()
        .from(visitType)
        .where(and(eq(visitType.practiceId, practiceId), eq(visitType.id, id)));
      return row;
    },

    /** Gives false where there is one by this id. */
    async add(row: typeof visitType.$inferInsert): Promise<boolean> {
      return (await db.insert(visitType).values(row).onConflictDoNothing().returning({ id: visitType.id })).length > 0;
    },

    async set(
      id: Id<"VisitType">,
      set: Partial<Pick<typeof visitType.$inferInsert, "name" | "minutes" | "remote" | "room" | "practitioners">>,
    ): Promise<void> {
      await db.update(visitType).set(set).where(eq(visitType.id, id));
    },

    /** Those that are no longer offered. */
    async retired(practiceId: Id<"Practice">): Promise<{ id: Id<"VisitType">; name: string }[]> {
      return db
        .select({ id: visitType.id, name: visitType.name })
        .from(visitType)
        .where(and(eq(visitType.practiceId, practiceId), isNotNull(visitType.retiredAt)))
        .orderBy(asc(visitType.name), asc(visitType.id));
    },

    /** @param at null to offer it again */
    async retire(id: Id<"VisitType">, at: Instant | null): Promise<void> {
      await db.update(visitType).set({ retiredAt: at }).where(eq(visitType.id, id));
    },
  };
};
