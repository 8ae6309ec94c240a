import { and, asc, desc, eq, isNotNull, max } from "drizzle-orm";
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

/** The chart ledger: entries are added and read; there is no update and no delete, here or in the database. */
export const chartRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  const place = (clientId: string, seq: number): string => `chart:${clientId}:${seq}`;
  return {
    async entries(clientId: Id<"Client">): Promise<ChartEntry[]> {
      const rows = await db
        .select({ entry: chartEntry })
        .from(chartEntry)
        .innerJoin(client, eq(client.id, chartEntry.clientId))
        .where(and(eq(chartEntry.clientId, clientId), isNotNull(client.keyId), seen(chartEntry.clientId)))
        .orderBy(asc(chartEntry.seq));
      await keys.knowFor(rows.map(({ entry }) => entry.sealed));
      return rows.map(({ entry: r }) => ({
        seq: r.seq,
        posting: r.postingId,
        at: r.at,
        by: r.by,
        ...sealer.open<Sealed>(place(clientId, r.seq), r.sealed),
      }));
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
