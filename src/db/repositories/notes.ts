import { and, desc, eq } from "drizzle-orm";
import type { NoteBlock } from "../../core/notes";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { note } from "../schema";

export interface Note {
  readonly id: Id<"Note">;
  readonly clientId: Id<"Client">;
  readonly visitId: Id<"Visit"> | null;
  readonly layoutId: string;
  readonly author: Id<"Staff">;
  readonly revision: number;
  readonly blocks: readonly NoteBlock[];
  readonly createdAt: Instant;
  readonly updatedAt: Instant;
}

export const noteRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `note:${id}`;
  const read = (row: typeof note.$inferSelect): Note => ({
    ...row,
    blocks: sealer.open<NoteBlock[]>(place(row.id), row.blocks),
  });
  return {
    async add(row: Omit<typeof note.$inferInsert, "blocks" | "revision">, blocks: readonly NoteBlock[]): Promise<void> {
      await db.insert(note).values({ ...row, revision: 1, blocks: sealer.seal(place(row.id), blocks) });
    },
    async byRequest(requestId: string): Promise<Note | undefined> {
      const [row] = await db.select().from(note).where(eq(note.requestId, requestId));
      return row && read(row);
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Note">): Promise<Note | undefined> {
      const [row] = await db
        .select()
        .from(note)
        .where(and(eq(note.practiceId, practiceId), eq(note.id, id)));
      return row && read(row);
    },
    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Note[]> {
      return (
        await db
          .select()
          .from(note)
          .where(and(eq(note.practiceId, practiceId), eq(note.clientId, clientId)))
          .orderBy(desc(note.createdAt))
      ).map(read);
    },
    /** Saves over exactly the revision the writer saw; false when somebody saved in between. */
    async save(id: Id<"Note">, seen: number, blocks: readonly NoteBlock[], at: Instant): Promise<boolean> {
      const done = await db
        .update(note)
        .set({ blocks: sealer.seal(place(id), blocks), revision: seen + 1, updatedAt: at })
        .where(and(eq(note.id, id), eq(note.revision, seen)))
        .returning({ id: note.id });
      return done.length === 1;
    },
  };
};
