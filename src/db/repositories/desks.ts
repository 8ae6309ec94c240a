import { and, asc, eq, lt } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { draftDesk, questionnaire, staff } from "../schema";

export interface DeskPage {
  readonly page: string;
  readonly staffId: Id<"Staff">;
  readonly name: string;
  readonly writes: boolean;
  readonly since: Instant;
}
/** Who has a draft open. */
export const deskRepository = (db: Db) => {
  return {
    /**
     * The pages that were seen since then, in the order they came; the others are forgotten. Held, so that of two who
     * come at once one writes.
     */
    async of(id: Id<"Questionnaire">, seenSince: Instant): Promise<DeskPage[]> {
      await db.select({ id: questionnaire.id }).from(questionnaire).where(eq(questionnaire.id, id)).for("update");
      await db.delete(draftDesk).where(and(eq(draftDesk.questionnaireId, id), lt(draftDesk.seenAt, seenSince)));
      return db
        .select({
          page: draftDesk.page,
          staffId: draftDesk.staffId,
          name: staff.name,
          writes: draftDesk.writes,
          since: draftDesk.since,
        })
        .from(draftDesk)
        .innerJoin(staff, eq(staff.id, draftDesk.staffId))
        .where(eq(draftDesk.questionnaireId, id))
        .orderBy(asc(draftDesk.since), asc(draftDesk.page));
    },
    async put(row: typeof draftDesk.$inferInsert): Promise<void> {
      const { page: _page, questionnaireId: _of, since: _since, staffId: _who, ...set } = row;
      await db.insert(draftDesk).values(row).onConflictDoUpdate({ target: draftDesk.page, set });
    },
    /** Nobody writes any more. */
    async putDown(id: Id<"Questionnaire">): Promise<void> {
      await db.update(draftDesk).set({ writes: false }).where(eq(draftDesk.questionnaireId, id));
    },
    async leave(page: string): Promise<void> {
      await db.delete(draftDesk).where(eq(draftDesk.page, page));
    },
  };
};
