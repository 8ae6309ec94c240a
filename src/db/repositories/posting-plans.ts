import { and, eq, isNull, or } from "drizzle-orm";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { postingPlan } from "../schema";

export type KeptPlan = typeof postingPlan.$inferSelect;
/** Where the lines of questionnaires go. */
export const postingPlanRepository = (db: Db) => {
  return {
    /** The practice's plans, and the variants of one of its staff. */
    async all(practiceId: Id<"Practice">, staffId: Id<"Staff"> | undefined): Promise<KeptPlan[]> {
      return db
        .select()
        .from(postingPlan)
        .where(
          and(
            eq(postingPlan.practiceId, practiceId),
            or(isNull(postingPlan.staffId), staffId && eq(postingPlan.staffId, staffId)),
          ),
        );
    },
    /** Everybody's, of one questionnaire. */
    async of(questionnaireId: Id<"Questionnaire">): Promise<KeptPlan[]> {
      return db.select().from(postingPlan).where(eq(postingPlan.questionnaireId, questionnaireId));
    },
    async put(row: KeptPlan): Promise<void> {
      const { id: _id, practiceId: _of, questionnaireId: _for, staffId: _whose, ...set } = row;
      await db.insert(postingPlan).values(row).onConflictDoUpdate({ target: postingPlan.id, set });
    },
    async drop(id: Id<"PostingPlan">): Promise<void> {
      await db.delete(postingPlan).where(eq(postingPlan.id, id));
    },
  };
};
