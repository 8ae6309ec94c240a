import { and, asc, desc, eq, max } from "drizzle-orm";
import type { ChartEntry } from "../../core/chart";
import type { NoteBlock } from "../../core/notes";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { chartEntry, note, posting } from "../schema";

export type Posting = typeof posting.$inferSelect;
type Sealed = Pick<ChartEntry, "change" | "source">;
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

/** The chart ledger: entries are added and read; there is no update and no delete, here or in the database. */
export const chartRepository = (db: Db, sealer: Sealer) => {
  const place = (clientId: string, seq: number): string => `chart:${clientId}:${seq}`;
  return {
    async entries(clientId: Id<"Client">): Promise<ChartEntry[]> {
      const rows = await db
        .select()
        .from(chartEntry)
        .where(eq(chartEntry.clientId, clientId))
        .orderBy(asc(chartEntry.seq));
      return rows.map((r) => ({
        seq: r.seq,
        posting: r.postingId,
        at: r.at,
        by: r.by,
        ...sealer.open<Sealed>(place(clientId, r.seq), r.sealed),
      }));
    },
    /** Call with the client held. Gives the seq of the last entry. */
    async append(row: Omit<Posting, "seq">, entries: readonly Sealed[]): Promise<number> {
      await db.insert(posting).values(row);
      const [top] = await db
        .select({ seq: max(chartEntry.seq) })
        .from(chartEntry)
        .where(eq(chartEntry.clientId, row.clientId));
      const first = (top?.seq ?? 0) + 1;
      if (entries.length > 0)
        await db.insert(chartEntry).values(
          entries.map((e, i) => ({
            clientId: row.clientId,
            seq: first + i,
            postingId: row.id,
            at: row.at,
            by: row.by,
            sealed: sealer.seal(place(row.clientId, first + i), { change: e.change, source: e.source }),
          })),
        );
      return first + entries.length - 1;
    },
    async postingByRequest(requestId: string): Promise<Posting | undefined> {
      return (await db.select().from(posting).where(eq(posting.requestId, requestId)))[0];
    },
    async postings(clientId: Id<"Client">): Promise<Posting[]> {
      return db.select().from(posting).where(eq(posting.clientId, clientId)).orderBy(desc(posting.seq));
    },
  };
};

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
