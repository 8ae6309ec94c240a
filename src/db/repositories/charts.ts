import { and, asc, desc, eq, gt, isNotNull, max } from "drizzle-orm";
import type { ChartEntry } from "../../core/chart";
import type { Id, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { chartEntry, client, posting } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { rowDigest } from "./row-digest";
import { inSight, type Sight } from "./sight";

export type Posting = typeof posting.$inferSelect;
type Sealed = Pick<ChartEntry, "change" | "source">;

type EntryRow = typeof chartEntry.$inferSelect;
/** SHA-256 over a posting and its entries as they lie in the database, sealed. */
export const postingDigest = (
  { id, clientId, kind, packetId, reverses, by, at }: Omit<Posting, "seq">,
  entries: readonly EntryRow[],
): string =>
  rowDigest({
    posting: { id, clientId, kind, packetId, reverses, by, at },
    entries: entries.map((e) => ({ ...e, sealed: Buffer.from(e.sealed).toString("base64") })),
  });

/** Entries that were opened, by client: the charts that were looked at last, of each installation. */
const opened = new WeakMap<Sealer, Map<string, readonly ChartEntry[]>>();
/** Entries in all charts together: some tens of megabytes. */
const mostOpened = 100_000;
function remember(sealer: Sealer, clientId: string, entries: readonly ChartEntry[]): void {
  const charts = opened.get(sealer) ?? new Map<string, readonly ChartEntry[]>();
  opened.set(sealer, charts);
  charts.delete(clientId);
  charts.set(clientId, entries);
  let all = [...charts.values()].reduce((sum, one) => sum + one.length, 0);
  for (const [oldest, { length }] of charts) {
    if (all <= mostOpened) break;
    charts.delete(oldest);
    all -= length;
  }
}

/** Nothing of an erased client stays in memory. */
export const forgetChart = (sealer: Sealer, clientId: string): void => void opened.get(sealer)?.delete(clientId);

/** The chart ledger: entries are added and read; there is no update and no delete, here or in the database. */
export const chartRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  const place = (clientId: string, seq: number): string => `chart:${clientId}:${seq}`;
  return {
    /** In their order. A ledger only grows: what was opened once is not opened again while it is still there. */
    async entries(clientId: Id<"Client">): Promise<readonly ChartEntry[]> {
      const known = opened.get(sealer)?.get(clientId) ?? [];
      const last = known.at(-1);
      const [there] = await db
        .select({ keyId: client.keyId, posting: chartEntry.postingId })
        .from(client)
        .leftJoin(chartEntry, and(eq(chartEntry.clientId, client.id), eq(chartEntry.seq, last?.seq ?? 0)))
        .where(and(eq(client.id, clientId), isNotNull(client.keyId), seen(client.id)));
      if (!there) return [];
      // What was written in a transaction that came to nothing is not there, or something else is in its place.
      const kept = last && there.posting === last.posting ? known : [];
      const rows = await db
        .select()
        .from(chartEntry)
        .where(and(eq(chartEntry.clientId, clientId), gt(chartEntry.seq, kept.at(-1)?.seq ?? 0)))
        .orderBy(asc(chartEntry.seq));
      if (rows.length === 0 && kept.length > 0) return kept;
      await keys.knowFor(rows.map((row) => row.sealed));
      const entries = [
        ...kept,
        ...rows.map((r) => ({
          seq: r.seq,
          posting: r.postingId,
          at: r.at,
          by: r.by,
          ...sealer.open<Sealed>(place(clientId, r.seq), r.sealed),
        })),
      ];
      remember(sealer, clientId, entries);
      return entries;
    },
    /** Call with the client held. Gives the digest of what was added, for the journal. */
    async append(row: Omit<Posting, "seq">, entries: readonly Sealed[]): Promise<string> {
      await db.insert(posting).values(row);
      const [top] = await db
        .select({ seq: max(chartEntry.seq) })
        .from(chartEntry)
        .where(eq(chartEntry.clientId, row.clientId));
      const first = (top?.seq ?? 0) + 1;
      const keyId = await keys.of(row.clientId);
      const added = entries.map((e, i) => ({
        clientId: row.clientId,
        seq: first + i,
        postingId: row.id,
        at: row.at,
        by: row.by,
        sealed: sealer.seal(place(row.clientId, first + i), { change: e.change, source: e.source }, keyId),
      }));
      if (added.length > 0) await db.insert(chartEntry).values(added);
      return postingDigest(row, added);
    },
    async postingByRequest(requestId: string): Promise<Posting | undefined> {
      return (
        await db
          .select()
          .from(posting)
          .where(and(eq(posting.requestId, requestId), seen(posting.clientId)))
      )[0];
    },
    async postings(clientId: Id<"Client">): Promise<Posting[]> {
      return db
        .select()
        .from(posting)
        .where(and(eq(posting.clientId, clientId), seen(posting.clientId)))
        .orderBy(desc(posting.seq));
    },
  };
};
