import { and, asc, desc, eq } from "drizzle-orm";
import type { NoteBlock } from "../../core/notes";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { note, noteVersion } from "../schema";

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
  /** Who saved it last; null where that was not noted yet. */
  readonly updatedBy: Id<"Staff"> | null;
}
export interface NoteVersion {
  readonly revision: number;
  readonly by: Id<"Staff">;
  readonly at: Instant;
  readonly blocks: readonly NoteBlock[];
}

export const noteRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `note:${id}`;
  const read = (row: typeof note.$inferSelect): Note => ({
    ...row,
    blocks: sealer.open<NoteBlock[]>(place(row.id), row.blocks),
  });
  const versionPlace = (id: string, revision: number): string => `note:${id}:${revision}`;
  const keep = async (
    noteId: Id<"Note">,
    revision: number,
    by: Id<"Staff">,
    at: Instant,
    blocks: readonly NoteBlock[],
  ): Promise<void> => {
    await db
      .insert(noteVersion)
      .values({ noteId, revision, by, at, blocks: sealer.seal(versionPlace(noteId, revision), blocks) })
      .onConflictDoNothing();
  };
  return {
    async add(row: Omit<typeof note.$inferInsert, "blocks" | "revision">, blocks: readonly NoteBlock[]): Promise<void> {
      await db
        .insert(note)
        .values({ ...row, revision: 1, updatedBy: row.author, blocks: sealer.seal(place(row.id), blocks) });
      await keep(row.id, 1, row.author, row.createdAt, blocks);
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
    /** Saves over exactly the revision the writer saw, which stays among its versions; false when somebody saved in between. */
    async save(
      id: Id<"Note">,
      seen: number,
      blocks: readonly NoteBlock[],
      by: Id<"Staff">,
      at: Instant,
    ): Promise<boolean> {
      const [before] = await db
        .select()
        .from(note)
        .where(and(eq(note.id, id), eq(note.revision, seen)));
      if (!before) return false;
      // One from before versions were kept has none of itself yet.
      await keep(id, seen, before.updatedBy ?? before.author, before.updatedAt, read(before).blocks);
      const done = await db
        .update(note)
        .set({ blocks: sealer.seal(place(id), blocks), revision: seen + 1, updatedBy: by, updatedAt: at })
        .where(and(eq(note.id, id), eq(note.revision, seen)))
        .returning({ id: note.id });
      if (done.length !== 1) return false;
      await keep(id, seen + 1, by, at, blocks);
      return true;
    },
    /** Each time it was saved, the first one first. */
    async versions(id: Id<"Note">): Promise<NoteVersion[]> {
      const rows = await db
        .select()
        .from(noteVersion)
        .where(eq(noteVersion.noteId, id))
        .orderBy(asc(noteVersion.revision));
      return rows.map((row) => ({
        ...row,
        blocks: sealer.open<NoteBlock[]>(versionPlace(id, row.revision), row.blocks),
      }));
    },
  };
};
