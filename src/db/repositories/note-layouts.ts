import { and, asc, eq } from "drizzle-orm";
import type { NoteLayout } from "../../core/notes";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { noteLayout } from "../schema";

export const noteLayoutRepository = (db: Db) => {
  return {
    async all(practiceId: Id<"Practice">): Promise<NoteLayout[]> {
      const rows = await db
        .select()
        .from(noteLayout)
        .where(eq(noteLayout.practiceId, practiceId))
        .orderBy(asc(noteLayout.position));
      return rows.map((r) => r.layout as NoteLayout);
    },

    async byId(practiceId: Id<"Practice">, id: string): Promise<NoteLayout | undefined> {
      const [row] = await db
        .select()
        .from(noteLayout)
        .where(and(eq(noteLayout.practiceId, practiceId), eq(noteLayout.id, id)));
      return row?.layout as NoteLayout | undefined;
    },
  };
};
