import { and, eq } from "drizzle-orm";
import type { LetterKind } from "../../core/messages";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { wording } from "../schema";

export type OwnWording = typeof wording.$inferSelect;
/** A practice's own wordings of letters and texts. */
export const wordingRepository = (db: Db) => {
  return {
    async all(practiceId: Id<"Practice">): Promise<OwnWording[]> {
      return db.select().from(wording).where(eq(wording.practiceId, practiceId));
    },

    async set(row: OwnWording): Promise<void> {
      const { subject, body, updatedAt, updatedBy } = row;
      await db
        .insert(wording)
        .values(row)
        .onConflictDoUpdate({
          target: [wording.practiceId, wording.kind, wording.way, wording.language],
          set: { subject, body, updatedAt, updatedBy },
        });
    },

    /** Back to the starting wording. */
    async drop(practiceId: Id<"Practice">, kind: LetterKind, way: "email" | "text", language: string): Promise<void> {
      await db
        .delete(wording)
        .where(
          and(
            eq(wording.practiceId, practiceId),
            eq(wording.kind, kind),
            eq(wording.way, way),
            eq(wording.language, language),
          ),
        );
    },
  };
};
