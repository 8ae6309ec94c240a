import { and, asc, desc, eq, getTableColumns, inArray, isNotNull, isNull, lt, ne, or, type SQL } from "drizzle-orm";
import { contentOf, type NoteContent, type TakeHomeDocument } from "../../core/notes";
import { isBefore, laterBy, type Id, type Instant, type Sealer } from "../../core/shared";
import type { Db } from "../database";
import { note, noteAddendum, noteDesk, noteHabit, noteVersion, takeHome } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, type Sight } from "./sight";

export interface Note {
  readonly id: Id<"Note">;
  readonly clientId: Id<"Client">;
  readonly visitId: Id<"Visit"> | null;
  readonly layoutId: string;
  readonly author: Id<"Staff">;
  readonly revision: number;
  readonly content: NoteContent;
  readonly createdAt: Instant;
  readonly updatedAt: Instant;
  /** Who saved it last; null where that was not noted yet. */
  readonly updatedBy: Id<"Staff"> | null;
  readonly signedAt: Instant | null;
  readonly signedBy: Id<"Staff"> | null;
  readonly cosignBy: Id<"Staff"> | null;
  readonly cosignedAt: Instant | null;
}
/** A note without what stands in it. */
export type NoteHead = Omit<Note, "content">;
export interface Addendum {
  readonly by: Id<"Staff">;
  readonly at: Instant;
  readonly text: string;
}
export interface SharedTakeHome {
  readonly noteId: Id<"Note">;
  readonly version: number;
  readonly packetId: Id<"Packet">;
  readonly sharedAt: Instant;
  readonly sharedBy: Id<"Staff">;
  readonly document: TakeHomeDocument;
}
export interface NoteVersion {
  readonly revision: number;
  readonly by: Id<"Staff">;
  readonly at: Instant;
  readonly content: NoteContent;
}

/** While one person types, what stood there is kept this often, in ms: a note is saved with every pause. */
const keptEvery = 5 * 60_000;

export const noteRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  const place = (id: string): string => `note:${id}`;
  const opened = (at: string, sealed: Uint8Array, when: Instant): NoteContent =>
    contentOf(sealer.open<NoteContent>(at, sealed), when);
  const read = ({ keyId: _key, blocks, ...row }: typeof note.$inferSelect): Note => ({
    ...row,
    content: opened(place(row.id), blocks, row.createdAt),
  });
  const addendumPlace = (id: string): string => `note-addendum:${id}`;
  const takeHomePlace = (id: string, version: number): string => `take-home:${id}:${version}`;
  async function keyOf(id: Id<"Note">): Promise<Id<"ClientKey">> {
    const [row] = await db.select({ keyId: note.keyId }).from(note).where(eq(note.id, id));
    if (!row?.keyId) throw new Error("A note without a key is nobody's any more.");
    return row.keyId;
  }
  /** Newest first, without those of clients who were erased. */
  async function notesWhere(where: SQL | undefined, limit = 100_000): Promise<Note[]> {
    const rows = await db
      .select()
      .from(note)
      .where(and(where, isNotNull(note.keyId), seen(note.clientId)))
      .orderBy(desc(note.createdAt))
      .limit(limit);
    await keys.know(rows.map(({ keyId }) => keyId));
    return rows.map(read);
  }
  async function headsWhere(where: SQL | undefined): Promise<NoteHead[]> {
    const { blocks: _, keyId: __, ...columns } = getTableColumns(note);
    return db
      .select(columns)
      .from(note)
      .where(and(where, isNotNull(note.keyId), seen(note.clientId)))
      .orderBy(desc(note.createdAt));
  }
  async function sharedWhere(where: SQL): Promise<SharedTakeHome[]> {
    const rows = await db.select().from(takeHome).where(where).orderBy(asc(takeHome.version));
    await keys.knowFor(rows.map(({ sealed }) => sealed));
    return rows.map(({ sealed, ...row }) => ({
      ...row,
      document: sealer.open<TakeHomeDocument>(takeHomePlace(row.noteId, row.version), sealed),
    }));
  }
  const versionPlace = (id: string, revision: number): string => `note:${id}:${revision}`;
  /** What is about to be saved over stays, where somebody else wrote it, or nothing was kept for a while. */
  async function keepBefore(before: Note, by: Id<"Staff">, keyId: Id<"ClientKey">, always: boolean): Promise<void> {
    const { id, revision, author, updatedBy, updatedAt, content } = before;
    const [last] = await db
      .select({ at: noteVersion.at })
      .from(noteVersion)
      .where(eq(noteVersion.noteId, id))
      .orderBy(desc(noteVersion.revision))
      .limit(1);
    const isDue = always || !last || (updatedBy ?? author) !== by || !isBefore(updatedAt, laterBy(last.at, keptEvery));
    if (!isDue) return;
    await db.insert(noteVersion).values({
      noteId: id,
      revision,
      by: updatedBy ?? author,
      at: updatedAt,
      blocks: sealer.seal(versionPlace(id, revision), content, keyId),
    });
  }
  return {
    async add(row: Omit<typeof note.$inferInsert, "blocks" | "revision">, content: NoteContent): Promise<void> {
      const keyId = await keys.of(row.clientId);
      await db.insert(note).values({
        ...row,
        keyId,
        revision: 1,
        updatedBy: row.author,
        blocks: sealer.seal(place(row.id), content, keyId),
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
      content: NoteContent,
      by: Id<"Staff">,
      at: Instant,
      /** Also where it is not due yet: what was there is to be found again. */
      keepsBefore = false,
    ): Promise<boolean> {
      // Held, so that of two who saw the same revision one saves.
      const [before] = await db
        .select()
        .from(note)
        .where(and(eq(note.id, id), eq(note.revision, seen), isNull(note.signedAt)))
        .for("update");
      if (!before?.keyId) return false;
      await keys.know([before.keyId]);
      await keepBefore(read(before), by, before.keyId, keepsBefore);
      await db
        .update(note)
        .set({
          blocks: sealer.seal(place(id), content, before.keyId),
          revision: seen + 1,
          updatedBy: by,
          updatedAt: at,
        })
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
      return rows.map(({ blocks, ...row }) => ({
        ...row,
        content: opened(versionPlace(id, row.revision), blocks, row.at),
      }));
    },
    /** Of one client, the newest first; nothing in them is opened. */
    async headsOf(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<NoteHead[]> {
      return headsWhere(and(eq(note.practiceId, practiceId), eq(note.clientId, clientId)));
    },
    /** What somebody has not signed off yet, or is asked to sign beside. */
    async unfinished(practiceId: Id<"Practice">, staffId: Id<"Staff">): Promise<NoteHead[]> {
      const own = and(eq(note.author, staffId), isNull(note.signedAt));
      const asked = and(eq(note.cosignBy, staffId), isNotNull(note.signedAt), isNull(note.cosignedAt));
      return headsWhere(and(eq(note.practiceId, practiceId), or(own, asked)));
    },
    /** A page of notes, the newest first, of those written before. */
    async page(practiceId: Id<"Practice">, before: Instant | undefined, limit: number): Promise<Note[]> {
      return notesWhere(
        and(eq(note.practiceId, practiceId), before === undefined ? undefined : lt(note.createdAt, before)),
        limit,
      );
    },
    async setLayout(id: Id<"Note">, layoutId: string): Promise<void> {
      await db.update(note).set({ layoutId }).where(eq(note.id, id));
    },
    async linkVisit(id: Id<"Note">, visitId: Id<"Visit"> | null): Promise<void> {
      await db.update(note).set({ visitId }).where(eq(note.id, id));
    },
    /** Nobody writes in it from now on. */
    async sign(id: Id<"Note">, by: Id<"Staff">, at: Instant, cosignBy: Id<"Staff"> | null): Promise<void> {
      await db.update(note).set({ signedAt: at, signedBy: by, cosignBy }).where(eq(note.id, id));
    },
    async cosign(id: Id<"Note">, at: Instant): Promise<void> {
      await db.update(note).set({ cosignedAt: at }).where(eq(note.id, id));
    },
    /** Held for whoever changes it next. */
    async hold(id: Id<"Note">): Promise<void> {
      await db.select({ id: note.id }).from(note).where(eq(note.id, id)).for("update");
    },
    /** False where it is there already. */
    async addAddendum(id: Id<"NoteAddendum">, noteId: Id<"Note">, { by, at, text }: Addendum): Promise<boolean> {
      const sealed = sealer.seal(addendumPlace(id), text, await keyOf(noteId));
      const added = await db
        .insert(noteAddendum)
        .values({ id, noteId, by, at, sealed })
        .onConflictDoNothing()
        .returning({ id: noteAddendum.id });
      return added.length > 0;
    },
    /** In the order they were written. */
    async addenda(noteId: Id<"Note">): Promise<Addendum[]> {
      const rows = await db
        .select()
        .from(noteAddendum)
        .where(eq(noteAddendum.noteId, noteId))
        .orderBy(asc(noteAddendum.at), asc(noteAddendum.id));
      await keys.knowFor(rows.map(({ sealed }) => sealed));
      return rows.map(({ id, by, at, sealed }) => ({ by, at, text: sealer.open<string>(addendumPlace(id), sealed) }));
    },
    async share({ document, ...row }: SharedTakeHome): Promise<void> {
      const sealed = sealer.seal(takeHomePlace(row.noteId, row.version), document, await keyOf(row.noteId));
      await db.insert(takeHome).values({ ...row, sealed });
    },
    /** The newest last. */
    async shared(noteId: Id<"Note">): Promise<SharedTakeHome[]> {
      return sharedWhere(eq(takeHome.noteId, noteId));
    },
    /** The newest that a packet opens. */
    async sharedBy(packetId: Id<"Packet">): Promise<SharedTakeHome | undefined> {
      return (await sharedWhere(eq(takeHome.packetId, packetId))).at(-1);
    },
    /** Says that a page has it open, and gives who else has: the others are forgotten. */
    async atDesk(
      row: typeof noteDesk.$inferInsert,
      seenSince: Instant,
    ): Promise<readonly { staffId: Id<"Staff">; since: Instant }[]> {
      await db.delete(noteDesk).where(and(eq(noteDesk.noteId, row.noteId), lt(noteDesk.seenAt, seenSince)));
      await db
        .insert(noteDesk)
        .values(row)
        .onConflictDoUpdate({ target: noteDesk.page, set: { seenAt: row.seenAt } });
      return db
        .select({ staffId: noteDesk.staffId, since: noteDesk.since })
        .from(noteDesk)
        .where(and(eq(noteDesk.noteId, row.noteId), ne(noteDesk.page, row.page)))
        .orderBy(asc(noteDesk.since));
    },
    async leaveDesk(page: string): Promise<void> {
      await db.delete(noteDesk).where(eq(noteDesk.page, page));
    },
    async habits(staffId: Id<"Staff">): Promise<readonly (typeof noteHabit.$inferSelect)[]> {
      return db.select().from(noteHabit).where(eq(noteHabit.staffId, staffId)).orderBy(desc(noteHabit.updatedAt));
    },
    async keepHabit(row: typeof noteHabit.$inferInsert): Promise<void> {
      await db
        .insert(noteHabit)
        .values(row)
        .onConflictDoUpdate({
          target: [noteHabit.staffId, noteHabit.questionnaireId, noteHabit.layoutId],
          set: { habit: row.habit, updatedAt: row.updatedAt },
        });
    },
  };
};
