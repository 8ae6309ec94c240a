import { and, asc, count, eq, inArray, isNotNull, isNull, lt, not } from "drizzle-orm";
import type { ClientRow, ImportState } from "../../core/chart";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { clientImport, clientImportRow } from "../schema";

export type ClientImport = typeof clientImport.$inferSelect;
export interface ImportRow {
  /** In the file, from 1; its heading is line 1. */
  readonly line: number;
  readonly state: ImportState;
  readonly cells: ClientRow;
  /** Why it is refused. */
  readonly reason: string | undefined;
}
type Held = Pick<ImportRow, "cells" | "reason">;

export const clientImportRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string, line: number): string => `import:${id}:${line}`;
  const read = ({ importId, line, state, sealed }: typeof clientImportRow.$inferSelect): ImportRow => ({
    line,
    state,
    ...(sealed ? sealer.open<Held>(place(importId, line), sealed) : { cells: {}, reason: undefined }),
  });
  return {
    /** Gives false when this request already began it. */
    async add(row: Pick<ClientImport, "id" | "practiceId" | "staffId" | "createdAt">): Promise<boolean> {
      return (
        (await db.insert(clientImport).values(row).onConflictDoNothing().returning({ id: clientImport.id })).length ===
        1
      );
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Import">, forUpdate = false): Promise<ClientImport | undefined> {
      const query = db
        .select()
        .from(clientImport)
        .where(and(eq(clientImport.practiceId, practiceId), eq(clientImport.id, id)));
      if (forUpdate) query.for("update");
      return (await query)[0];
    },
    /** Begun by somebody and not dropped, oldest first. */
    async ofStaff(staffId: Id<"Staff">): Promise<ClientImport[]> {
      return db
        .select()
        .from(clientImport)
        .where(eq(clientImport.staffId, staffId))
        .orderBy(asc(clientImport.createdAt));
    },
    async unfinished(practiceId: Id<"Practice">): Promise<ClientImport[]> {
      return db
        .select()
        .from(clientImport)
        .where(
          and(
            eq(clientImport.practiceId, practiceId),
            isNotNull(clientImport.startedAt),
            isNull(clientImport.finishedAt),
          ),
        )
        .orderBy(asc(clientImport.createdAt));
    },
    async set(id: Id<"Import">, set: { readonly startedAt?: Instant; readonly finishedAt?: Instant }): Promise<void> {
      await db.update(clientImport).set(set).where(eq(clientImport.id, id));
    },
    /** Forgets those that were begun before, unless they are being added just now. */
    async clearOld(before: Instant): Promise<void> {
      const isUnderWay = and(isNotNull(clientImport.startedAt), isNull(clientImport.finishedAt));
      await db.delete(clientImport).where(and(lt(clientImport.createdAt, before), not(isUnderWay!)));
    },
    /** With its rows. */
    async remove(id: Id<"Import">): Promise<void> {
      await db.delete(clientImport).where(eq(clientImport.id, id));
    },
    /** A row that came before stays as it is. */
    async addRows(id: Id<"Import">, rows: readonly ImportRow[]): Promise<void> {
      if (rows.length === 0) return;
      await db
        .insert(clientImportRow)
        .values(
          rows.map(({ line, state, cells, reason }) => ({
            importId: id,
            line,
            state,
            sealed: sealer.seal(place(id, line), { cells, reason } satisfies Held),
          })),
        )
        .onConflictDoNothing();
    },
    async clearRows(id: Id<"Import">): Promise<void> {
      await db.delete(clientImportRow).where(eq(clientImportRow.importId, id));
    },
    async tally(id: Id<"Import">): Promise<Readonly<Record<ImportState, number>>> {
      const rows = await db
        .select({ state: clientImportRow.state, n: count() })
        .from(clientImportRow)
        .where(eq(clientImportRow.importId, id))
        .groupBy(clientImportRow.state);
      const counted: Record<ImportState, number> = { ready: 0, refused: 0, added: 0 };
      for (const { state, n: many } of rows) counted[state] = Number(many);
      return counted;
    },
    async rows(id: Id<"Import">, state: ImportState, most: number): Promise<ImportRow[]> {
      const rows = await db
        .select()
        .from(clientImportRow)
        .where(and(eq(clientImportRow.importId, id), eq(clientImportRow.state, state)))
        .orderBy(asc(clientImportRow.line))
        .limit(most);
      return rows.map(read);
    },
    /** The next rows to add, held until the transaction ends; nobody else takes them meanwhile. */
    async next(id: Id<"Import">, most: number): Promise<ImportRow[]> {
      const rows = await db
        .select()
        .from(clientImportRow)
        .where(and(eq(clientImportRow.importId, id), eq(clientImportRow.state, "ready")))
        .orderBy(asc(clientImportRow.line))
        .limit(most)
        .for("update", { skipLocked: true });
      return rows.map(read);
    },
    /** What was added is in the charts now, and kept here no longer. */
    async markAdded(id: Id<"Import">, lines: readonly number[]): Promise<void> {
      if (lines.length === 0) return;
      await db
        .update(clientImportRow)
        .set({ state: "added", sealed: null })
        .where(and(eq(clientImportRow.importId, id), inArray(clientImportRow.line, [...lines])));
    },
    async refuse(id: Id<"Import">, { line, cells }: ImportRow, reason: string): Promise<void> {
      await db
        .update(clientImportRow)
        .set({ state: "refused", sealed: sealer.seal(place(id, line), { cells, reason } satisfies Held) })
        .where(and(eq(clientImportRow.importId, id), eq(clientImportRow.line, line)));
    },
  };
};
