import { createHash } from "node:crypto";
import { and, asc, desc, eq, gt, sql } from "drizzle-orm";
import type { JournalAction } from "../../core/audit";
import { canonicalText } from "../../core/signing";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { journal, journalHead } from "../schema";

export interface JournalLine {
  /** `staff:<id>`, `client:<packet id>`, `stranger` or `system`. */
  readonly actor: string;
  readonly action: JournalAction;
  /** What it was done to, as `kind:id`. Never a name and never an answer. */
  readonly subject: string;
  readonly address: string;
  readonly detail: Readonly<Record<string, string | number | boolean>>;
}
export interface JournalRow extends JournalLine {
  readonly seq: number;
  readonly at: Instant;
  readonly prevHash: string;
  readonly hash: string;
}

/** SHA-256 over the row's canonical JSON, the hash before it included. */
export function journalHash(practiceId: string, row: Omit<JournalRow, "hash">): string {
  const { seq, at, actor, action, subject, address, detail, prevHash } = row;
  return createHash("sha256")
    .update(canonicalText({ practiceId, seq, at, actor, action, subject, address, detail, prevHash }))
    .digest("hex");
}

/** The row's canonical JSON, cut where the hash before it and its number stand: what `journalHash` digests, in three pieces for `write_journal`. */
export function hashedText(
  practiceId: string,
  at: Instant,
  { actor, action, subject, address, detail }: JournalLine,
): [string, string, string] {
  const whole = canonicalText({ practiceId, seq: -1, at, actor, action, subject, address, detail, prevHash: "" });
  // Canonical JSON sorts its keys: nothing but `seq` and `subject`, an id, stands after `prevHash`.
  const hashAt = whole.lastIndexOf('"prevHash":"') + '"prevHash":"'.length;
  const seqAt = whole.indexOf('"seq":', hashAt) + '"seq":'.length;
  return [whole.slice(0, hashAt), whole.slice(hashAt, seqAt), whole.slice(seqAt + "-1".length)];
}

/** No update, no delete: a journal only grows. */
export const journalRepository = (db: Db) => ({
  /** Writes the lines. Holds the chain's head until the transaction ends, so call it last. */
  async write(practiceId: Id<"Practice">, at: Instant, lines: readonly JournalLine[]): Promise<void> {
    for (const line of lines)
      await db.execute(
        sql`select write_journal(${practiceId}::uuid, ${at}::timestamptz, ${JSON.stringify(line)}::jsonb, ${JSON.stringify(hashedText(practiceId, at, line))}::jsonb)`,
      );
  },
  async start(practiceId: Id<"Practice">): Promise<void> {
    await db.insert(journalHead).values({ practiceId, seq: 0, prevHash: "", hash: "0".repeat(64) });
  },
  async latest(practiceId: Id<"Practice">, limit: number, subject?: string): Promise<JournalRow[]> {
    return db
      .select()
      .from(journal)
      .where(and(eq(journal.practiceId, practiceId), subject === undefined ? undefined : eq(journal.subject, subject)))
      .orderBy(desc(journal.seq))
      .limit(limit);
  },
  /** Walks the chain from the first row to the head; gives the first seq that does not fit, or undefined when all do. */
  async firstBroken(practiceId: Id<"Practice">): Promise<number | undefined> {
    let seq = 0;
    let hash = "0".repeat(64);
    for (;;) {
      const rows = await db
        .select()
        .from(journal)
        .where(and(eq(journal.practiceId, practiceId), gt(journal.seq, seq)))
        .orderBy(asc(journal.seq))
        .limit(1000);
      for (const row of rows) {
        if (row.seq !== seq + 1 || row.prevHash !== hash || journalHash(practiceId, row) !== row.hash) return seq + 1;
        seq = row.seq;
        hash = row.hash;
      }
      if (rows.length < 1000) break;
    }
    const [head] = await db.select().from(journalHead).where(eq(journalHead.practiceId, practiceId));
    return head?.seq === seq && head.hash === hash ? undefined : seq + 1;
  },
  async notify(channel: string, payload: string): Promise<void> {
    await db.execute(sql`select pg_notify(${channel}, ${payload})`);
  },
});
