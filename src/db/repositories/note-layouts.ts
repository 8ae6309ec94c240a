import { and, asc, eq } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { NoteLayout } from "../../core/notes";
import type { Db } from "../database";
import { noteLayout } from "../schema";

export interface KeptLayout {
  readonly id: Id<"NoteLayout">;
  readonly staffId: Id<"Staff">;
  readonly shared: boolean;
  readonly revision: number;
  readonly layout: NoteLayout;
  readonly updatedAt: Instant;
  readonly updatedBy: string;
}
/** Layouts of the practice's own. */
export const noteLayoutRepository = (db: Db) => {
  return {
    async all(practiceId: Id<"Practice">): Promise<KeptLayout[]> {
      const rows = await db
        .select()
        .from(noteLayout)
        .where(eq(noteLayout.practiceId, practiceId))
        .orderBy(asc(noteLayout.updatedAt), asc(noteLayout.id));
      return rows.map(({ practiceId: _, layout, ...row }) => ({ ...row, layout: { ...layout, id: row.id } }));
    },
    async put(practiceId: Id<"Practice">, { layout, ...row }: KeptLayout): Promise<void> {
      const { id: _, ...held } = layout;
      const values = { ...row, practiceId, layout: held };
      await db.insert(noteLayout).values(values).onConflictDoUpdate({ target: noteLayout.id, set: values });
    },
    async drop(practiceId: Id<"Practice">, id: Id<"NoteLayout">): Promise<void> {
      await db.delete(noteLayout).where(and(eq(noteLayout.practiceId, practiceId), eq(noteLayout.id, id)));
    },
  };
};
