import { and, asc, desc, eq, inArray, isNotNull, type SQL } from "drizzle-orm";
import type { NoteBlock } from "../../core/notes";
import { isBefore, laterBy, type Id, type Instant, type Sealer } from "../../core/shared";
import type { Db } from "../database";
import { note, noteVersion } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, type Sight } from "./sight";

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

/** While one person types, what stood there is kept this often, in ms: a note is saved with every pause. */
const keptEvery = 5 * 60_000;

export const noteRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  const place = (id: string): string => `note:${id}`;
  const read = ({ keyId: _key, ...row }: typeof note.$inferSelect): Note => ({
    ...row,
    blocks: sealer.open<NoteBlock[]>(place(row.id), row.blocks),
  });
  /** Newest first, without those of clients who were erased. */
  async function notesWhere(where: SQL | undefined): Promise<Note[]> {
    const rows = await db
      .select()
      .from(note)
      .where(and(where, isNotNull(note.keyId), seen(note.clientId)))
      .orderBy(desc(note.createdAt));
    await keys.know(rows.map(({ keyId }) => keyId));
    return rows.map(read);
  }
  const versionPlace = (id: string, revision: number): string => `note:${id}:${revision}`;
  /** What is about to be saved over stays, where somebody else wrote it, or nothing was kept for a while. */
  async function keepBefore(before: Note, by: Id<"Staff">, keyId: Id<"ClientKey">): Promise<void> {
    const { id, revision, author, updatedBy, updatedAt, blocks } = before;
    const [last] = await db
      .select({ at: noteVersion.at })
      .from(noteVersion)
      .where(eq(noteVersion.noteId, id))
      .orderBy(desc(noteVersion.revision))
      .limit(1);
    const isDue = !last || (updatedBy ?? author) !== by || !isBefore(updatedAt, laterBy(last.at, keptEvery));
    if (!isDue) return;
    await db.insert(noteVersion).values({
      noteId: id,
      revision,
      by: updatedBy ?? author,
      at: updatedAt,
      blocks: sealer.seal(versionPlace(id, revision), blocks, keyId),
    });
  }
  return {
    async add(row: Omit<typeof note.$inferInsert, "blocks" | "revision">, blocks: readonly NoteBlock[]): Promise<void> {
      const keyId = await keys.of(row.clientId);
      await db.insert(note).values({
        ...row,
        keyId,
        revision: 1,
        updatedBy: row.author,
        blocks: sealer.seal(place(row.id), blocks, keyId),
      });
    },
    async byRequest(requestId: string): Promise<Note | undefined> {
      return (await notesWhere(eq(note.requestId, requestId)))[0];
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Note">): Promise<Note | undefined> {
      return (await notesWhere(and(eq(note.practiceId, practiceId), eq(note.id, id))))[0];
    },
    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Note[]> {
      return notesWhere(and(eq(note.practiceId, practiceId), eq(note.clientId, clientId)));
    },
    /** Also of those who were erased. */
    async idsOf(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Id<"Note">[]> {
      const rows = await db
        .select({ id: note.id })
        .from(note)
        .where(and(eq(note.practiceId, practiceId), eq(note.clientId, clientId), seen(note.clientId)));
      return rows.map(({ id }) => id);
    },
    /** Whose these are, also of those who were erased. */
    async clientsOf(
      practiceId: Id<"Practice">,
      ids: readonly Id<"Note">[],
    ): Promise<ReadonlyMap<string, Id<"Client">>> {
      if (ids.length === 0) return new Map();
      const rows = await db
        .select({ id: note.id, clientId: note.clientId })
        .from(note)
        .where(and(eq(note.practiceId, practiceId), inArray(note.id, [...ids]), seen(note.clientId)));
      return new Map(rows.map(({ id, clientId }) => [id, clientId]));
    },
    /** Saves over exactly the revision the writer saw; false when somebody saved in between. */
    async save(
      id: Id<"Note">,
      seen: number,
      blocks: readonly NoteBlock[],
      by: Id<"Staff">,
      at: Instant,
    ): Promise<boolean> {
      // Held, so that of two who saw the same revision one saves.
      const [before] = await db
        .select()
        .from(note)
        .where(and(eq(note.id, id), eq(note.revision, seen)))
        .for("update");
      if (!before?.keyId) return false;
      await keys.know([before.keyId]);
      await keepBefore(read(before), by, before.keyId);
      await db
        .update(note)
        .set({ blocks: sealer.seal(place(id), blocks, before.keyId), revision: seen + 1, updatedBy: by, updatedAt: at })
        .where(eq(note.id, id));
      return true;
    },
    /** What was saved over, the first one first; as it stands now is not among them. */
    async versions(id: Id<"Note">): Promise<NoteVersion[]> {
      const rows = await db
        .select()
        .from(noteVersion)
        .where(eq(noteVersion.noteId, id))
        .orderBy(asc(noteVersion.revision));
      await keys.knowFor(rows.map(({ blocks }) => blocks));
      return rows.map((row) => ({
        ...row,
        blocks: sealer.open<NoteBlock[]>(versionPlace(id, row.revision), row.blocks),
      }));
    },
  };
};
