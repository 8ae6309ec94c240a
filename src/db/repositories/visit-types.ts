import { asc, eq } from "drizzle-orm";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { visitType } from "../schema";

export const visitTypeRepository = (db: Db) => {
  return {
    async all(practiceId: Id<"Practice">): Promise<{ id: Id<"VisitType">; name: string }[]> {
      return db
        .select({ id: visitType.id, name: visitType.name })
        .from(visitType)
        .where(eq(visitType.practiceId, practiceId))
        .orderBy(asc(visitType.name));
    },

    async add(row: typeof visitType.$inferInsert): Promise<void> {
      await db.insert(visitType).values(row);
    },
  };
};
