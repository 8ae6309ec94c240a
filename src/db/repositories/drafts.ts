import { eq } from "drizzle-orm";
import { type Id } from "../../core/shared";
import type { Db } from "../database";
import { questionnaireDraft } from "../schema";

export type Draft = typeof questionnaireDraft.$inferSelect;
/** What is being written: at most one draft a questionnaire. */
export const draftRepository = (db: Db) => {
  return {
    async of(id: Id<"Questionnaire">, forUpdate = false): Promise<Draft | undefined> {
      const query = db.select().from(questionnaireDraft).where(eq(questionnaireDraft.questionnaireId, id));
      if (forUpdate) query.for("update");
      return (await query)[0];
    },

    /** Starts a draft; gives false when there is one already. */
    async start(draft: Draft): Promise<boolean> {
      return (
        (
          await db
            .insert(questionnaireDraft)
            .values(draft)
            .onConflictDoNothing()
            .returning({ id: questionnaireDraft.questionnaireId })
        ).length === 1
      );
    },

    /** Writes over the draft that was read and held before. */
    async replace({ questionnaireId, ...set }: Draft): Promise<void> {
      await db.update(questionnaireDraft).set(set).where(eq(questionnaireDraft.questionnaireId, questionnaireId));
    },

    async drop(id: Id<"Questionnaire">): Promise<void> {
      await db.delete(questionnaireDraft).where(eq(questionnaireDraft.questionnaireId, id));
    },
  };
};
