import { and, asc, eq, gt, inArray, sql } from "drizzle-orm";
import type { JournalBreak, JournalFault, KeptHead } from "../../core/audit";
import type { Id, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { chartEntry, journal, journalHead, posting, signature } from "../schema";
import { postingDigest } from "./charts";
import { journalHash, markOf, type JournalRow } from "./journal";
import { firstHash, isMarked } from "./kept-head";
import { signatureDigest } from "./signatures";

export interface CheckStep {
  /** The last row that was looked at and holds. */
  readonly seq: number;
  readonly hash: string;
  /** The number of rows there are. */
  readonly head: number;
  readonly done: boolean;
  readonly broken: JournalBreak | undefined;
}

/**
 * Walks the journal's chain, some rows at a time. `kept`: where it stood at moments before, as kept outside the
 * database.
 */
export const journalCheckRepository = (db: Db, sealer: Sealer) => {
  const headOf = async (practiceId: Id<"Practice">) =>
    (await db.select().from(journalHead).where(eq(journalHead.practiceId, practiceId)))[0];
  const rowAt = async (practiceId: Id<"Practice">, seq: number): Promise<JournalRow | undefined> =>
    (
      await db
        .select()
        .from(journal)
        .where(and(eq(journal.practiceId, practiceId), eq(journal.seq, seq)))
    )[0];

  /** What a row says was added must lie there as it was. */
  async function additionsFault(rows: readonly JournalRow[]): Promise<JournalBreak | undefined> {
    const appends = rows.filter((r) => r.action === "chart.append");
    const signed = rows.filter((r) => r.action === "signature" && typeof r.detail["row"] === "string");
    const digests = new Map<string, string>();
    if (appends.length > 0) {
      const ids = appends.map((r) => r.detail["posting"] as Id<"Posting">);
      const postings = await db.select().from(posting).where(inArray(posting.id, ids));
      const entries = await db
        .select()
        .from(chartEntry)
        .where(inArray(chartEntry.postingId, ids))
        .orderBy(asc(chartEntry.clientId), asc(chartEntry.seq));
      const byPosting = new Map<string, (typeof entries)[number][]>();
      for (const entry of entries) byPosting.set(entry.postingId, [...(byPosting.get(entry.postingId) ?? []), entry]);
      for (const one of postings) digests.set(one.id, postingDigest(one, byPosting.get(one.id) ?? []));
    }
    if (signed.length > 0) {
      const ids = signed.map((r) => r.detail["signature"] as Id<"Signature">);
      for (const one of await db.select().from(signature).where(inArray(signature.id, ids)))
        digests.set(one.id, signatureDigest(one));
    }
    const faults: [JournalRow, JournalFault][] = [
      ...appends
        .filter((r) => digests.get(String(r.detail["posting"])) !== r.detail["digest"])
        .map((r): [JournalRow, JournalFault] => [r, "chart-changed"]),
      ...signed
        .filter((r) => digests.get(String(r.detail["signature"])) !== r.detail["row"])
        .map((r): [JournalRow, JournalFault] => [r, "signature-changed"]),
    ];
    const first = faults.sort(([a], [b]) => a.seq - b.seq)[0];
    return first && { seq: first[0].seq, fault: first[1] };
  }

  /** Rows of the chart and signatures that no row of the journal speaks of, from when it began to. */
  async function hasUnknownRows(practiceId: Id<"Practice">): Promise<boolean> {
    const { rows } = (await db.execute(sql`
      with since as (select at from journal where practice_id = ${practiceId} and mark <> '' order by seq limit 1)
      select exists (select from posting p, since where p.at >= since.at and not exists
          (select from journal j where j.practice_id = ${practiceId} and j.action = 'chart.append' and j.detail->>'posting' = p.id::text))
        or exists (select from signature s, since where s.at >= since.at and not exists
          (select from journal j where j.practice_id = ${practiceId} and j.action = 'signature' and j.detail->>'signature' = s.id::text)) as unknown`)) as unknown as {
      rows: { unknown: boolean }[];
    };
    return rows[0]!.unknown;
  }

  /** The chain went through each of these, if nobody wrote it anew or cut it off. */
  async function keptFault(
    practiceId: Id<"Practice">,
    head: number,
    genuine: readonly KeptHead[],
  ): Promise<JournalBreak | undefined> {
    if (genuine.some((k) => k.seq > head)) return { seq: head + 1, fault: "cut-off" };
    if (genuine.length === 0) return undefined;
    const rows = await db
      .select({ seq: journal.seq, hash: journal.hash })
      .from(journal)
      .where(
        and(
          eq(journal.practiceId, practiceId),
          inArray(
            journal.seq,
            genuine.map((k) => k.seq),
          ),
        ),
      );
    const hashes = new Map(rows.map((r) => [r.seq, r.hash]));
    const other = genuine.filter((k) => hashes.get(k.seq) !== k.hash).map((k) => k.seq);
    return other.length === 0 ? undefined : { seq: Math.min(...other), fault: "other-than-kept" };
  }

  return {
    /**
     * Looks at the next rows after `from` (0: all of them, from the first). Each must follow on the one before it, hash
     * to what it says, and be marked by somebody with the key; what it says was added must be there.
     */
    async step(practiceId: Id<"Practice">, from: number, most: number, kept: readonly KeptHead[]): Promise<CheckStep> {
      const top = await headOf(practiceId);
      const head = top?.seq ?? 0;
      const before = from > 0 ? await rowAt(practiceId, from) : undefined;
      const at = (seq: number, hash: string, fault?: JournalFault, broken = seq + 1): CheckStep => ({
        seq,
        hash,
        head,
        done: fault !== undefined,
        broken: fault && { seq: broken, fault },
      });
      const genuine = kept.filter((k) => k.practiceId === practiceId && isMarked(sealer, k) && k.seq > 0);
      const outside = await keptFault(practiceId, head, genuine);
      if (outside) return at(Math.max(0, outside.seq - 1), "", outside.fault, outside.seq);
      if (from > 0 && !before) return at(from - 1, "", "row-missing", from);
      // Rows from before there were marks come first, and none of them after what was kept first.
      const unmarkedUpTo = Math.min(...genuine.map((k) => k.seq), Infinity);
      let hasMarks = before !== undefined && before.mark !== "";
      let seq = from;
      let hash = before?.hash ?? firstHash;
      const rows = await db
        .select()
        .from(journal)
        .where(and(eq(journal.practiceId, practiceId), gt(journal.seq, from)))
        .orderBy(asc(journal.seq))
        .limit(most);
      for (const row of rows) {
        if (row.seq !== seq + 1 || row.prevHash !== hash) return at(seq, hash, "row-missing");
        const isRight =
          row.mark === "" ? !hasMarks && row.seq <= unmarkedUpTo : row.mark === markOf(sealer, practiceId, row.at, row);
        if (!isRight || journalHash(practiceId, row) !== row.hash) return at(seq, hash, "row-changed");
        hasMarks ||= row.mark !== "";
        seq = row.seq;
        hash = row.hash;
      }
      const additions = await additionsFault(rows);
      if (additions) return at(additions.seq - 1, hash, additions.fault, additions.seq);
      if (rows.length === most) return at(seq, hash);
      // The head is read first, so the rows may be further on by now; behind it they may not be.
      if (seq < head || (seq === head && top !== undefined && hash !== top.hash)) return at(seq, hash, "cut-off");
      if (await hasUnknownRows(practiceId)) return at(seq, hash, "unknown-rows");
      return { seq, hash, head: seq, done: true, broken: undefined };
    },
  };
};
