import { and, asc, desc, eq, gt, gte, isNotNull, max } from "drizzle-orm";
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

interface Opened {
  readonly entries: readonly ChartEntry[];
  /** The newest first. */
  readonly postings: readonly Posting[];
}
/** What was opened and read, by client: the charts that were looked at last, of each installation. */
const opened = new WeakMap<Sealer, Map<string, Opened>>();
/** Entries and postings in all charts together: some tens of megabytes. */
const mostOpened = 100_000;
const sizeOf = ({ entries, postings }: Opened): number => entries.length + postings.length;
const known = (sealer: Sealer, clientId: string): Opened =>
  opened.get(sealer)?.get(clientId) ?? { entries: [], postings: [] };
function remember(sealer: Sealer, clientId: string, change: Partial<Opened>): void {
  const charts = opened.get(sealer) ?? new Map<string, Opened>();
  const now = { ...known(sealer, clientId), ...change };
  opened.set(sealer, charts);
  charts.delete(clientId);
  charts.set(clientId, now);
  let all = [...charts.values()].reduce((sum, one) => sum + sizeOf(one), 0);
  for (const [oldest, one] of charts) {
    if (all <= mostOpened) break;
    charts.delete(oldest);
    all -= sizeOf(one);
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
      const before = known(sealer, clientId).entries;
      const last = before.at(-1);
      const [there] = await db
        .select({ keyId: client.keyId, posting: chartEntry.postingId })
        .from(client)
        .leftJoin(chartEntry, and(eq(chartEntry.clientId, client.id), eq(chartEntry.seq, last?.seq ?? 0)))
        .where(and(eq(client.id, clientId), isNotNull(client.keyId), seen(client.id)));
      if (!there) return [];
      // What was written in a transaction that came to nothing is not there, or something else is in its place.
      const kept = last && there.posting === last.posting ? before : [];
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
      remember(sealer, clientId, { entries });
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
    /** The newest first. As with entries, what was read once is not read again. */
    async postings(clientId: Id<"Client">): Promise<readonly Posting[]> {
      const before = known(sealer, clientId).postings;
      const from = async (seq: number): Promise<Posting[]> =>
        db
          .select()
          .from(posting)
          .where(and(eq(posting.clientId, clientId), gte(posting.seq, seq), seen(posting.clientId)))
          .orderBy(desc(posting.seq));
      const last = before[0];
      const since = await from(last?.seq ?? 0);
      // What was written in a transaction that came to nothing is not there; nor is what is not in sight.
      const isThere = last === undefined || since.at(-1)?.id === last.id;
      const postings = isThere ? [...since, ...before.slice(1)] : await from(0);
      if (since.length > 1 || !isThere || last === undefined) remember(sealer, clientId, { postings });
      return postings;
    },
  };
};
