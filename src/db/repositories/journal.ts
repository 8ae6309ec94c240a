import { and, desc, eq, gte, inArray, lt, sql } from "drizzle-orm";
import type { JournalAction, KeptHead } from "../../core/audit";
import { canonicalText } from "../../core/signing";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { journal, journalHead, refusal } from "../schema";
import { firstHash, isMarked, markedHead } from "./kept-head";
import { rowDigest } from "./row-digest";

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
  readonly mark: string;
  readonly prevHash: string;
  readonly hash: string;
}

type HashedRow = Omit<JournalRow, "hash">;
/** Rows from before there were marks were hashed without one. */
const marked = (mark: string): { readonly mark?: string } => (mark === "" ? {} : { mark });
/** SHA-256 over the row's canonical JSON, the hash before it included. */
export function journalHash(practiceId: string, row: HashedRow): string {
  const { seq, at, actor, action, subject, address, detail, mark, prevHash } = row;
  return rowDigest({ practiceId, seq, at, actor, action, subject, address, detail, ...marked(mark), prevHash });
}
/**
 * What its mark is over: everything but where it stands in the chain, which only the database knows when it is written.
 */
export const markOf = (
  sealer: Sealer,
  practiceId: string,
  at: Instant,
  { actor, action, subject, address, detail }: JournalLine,
): string => sealer.mark(canonicalText({ practiceId, at, actor, action, subject, address, detail }));

/** A line as `write_journal` takes it. */
export interface WrittenLine {
  readonly line: JournalLine & { readonly mark: string };
  /**
   * The row's canonical JSON, cut where the hash before it and its number stand: what `journalHash` digests, in three
   * pieces.
   */
  readonly hashed: readonly [string, string, string];
}
export function writtenLine(sealer: Sealer, practiceId: string, at: Instant, given: JournalLine): WrittenLine {
  const line = { ...given, mark: markOf(sealer, practiceId, at, given) };
  const whole = canonicalText({ practiceId, seq: -1, at, ...line, prevHash: "" });
  // Canonical JSON sorts its keys: nothing but `seq` and `subject`, an id, stands after `prevHash`.
  const hashAt = whole.lastIndexOf('"prevHash":"') + '"prevHash":"'.length;
  const seqAt = whole.indexOf('"seq":', hashAt) + '"seq":'.length;
  return { line, hashed: [whole.slice(0, hashAt), whole.slice(hashAt, seqAt), whole.slice(seqAt + "-1".length)] };
}

export interface Refusal {
  readonly useCase: string;
  readonly actor: string;
  readonly count: number;
  readonly firstAt: Instant;
  readonly lastAt: Instant;
  readonly address: string;
}

/** Which rows are looked up; what is left out does not matter. */
export interface JournalWish {
  readonly actor?: string | undefined;
  readonly actions?: readonly JournalAction[] | undefined;
  readonly subjects?: readonly string[] | undefined;
  readonly from?: Instant | undefined;
  readonly until?: Instant | undefined;
  readonly before?: number | undefined;
}
/** No update, no delete: a journal only grows. */
export const journalRepository = (db: Db, sealer: Sealer) => ({
  /** Writes the lines. Holds the chain's head until the transaction ends, so call it last. */
  async write(practiceId: Id<"Practice">, at: Instant, lines: readonly JournalLine[]): Promise<void> {
    for (const given of lines) {
      const { line, hashed } = writtenLine(sealer, practiceId, at, given);
      await db.execute(
        sql`select write_journal(${practiceId}::uuid, ${at}::timestamptz, ${JSON.stringify(line)}::jsonb, ${JSON.stringify(hashed)}::jsonb)`,
      );
    }
  },
  async start(practiceId: Id<"Practice">): Promise<void> {
    await db.insert(journalHead).values({ practiceId, seq: 0, prevHash: "", hash: firstHash });
  },
  /** Whether it was ever done. */
  async hasAction(practiceId: Id<"Practice">, action: JournalAction): Promise<boolean> {
    const [row] = await db
      .select({ seq: journal.seq })
      .from(journal)
      .where(and(eq(journal.practiceId, practiceId), eq(journal.action, action)))
      .limit(1);
    return row !== undefined;
  },
  async latest(practiceId: Id<"Practice">, limit: number, subject?: string): Promise<JournalRow[]> {
    return db
      .select()
      .from(journal)
      .where(and(eq(journal.practiceId, practiceId), subject === undefined ? undefined : eq(journal.subject, subject)))
      .orderBy(desc(journal.seq))
      .limit(limit);
  },
  /** The number of the line that tells of each signature of a packet, by the signature's id. */
  async linesOfSignatures(practiceId: Id<"Practice">, packetId: Id<"Packet">): Promise<Map<string, number>> {
    const rows = await db
      .select({ seq: journal.seq, detail: journal.detail })
      .from(journal)
      .where(
        and(
          eq(journal.practiceId, practiceId),
          eq(journal.subject, `packet:${packetId}`),
          eq(journal.action, "signature"),
        ),
      );
    return new Map(rows.map(({ seq, detail }) => [String(detail["signature"]), seq]));
  },

  /** Newest first, of those before a number. */
  async find(practiceId: Id<"Practice">, wish: JournalWish, most: number): Promise<JournalRow[]> {
    const { actor, actions, subjects, from, until, before } = wish;
    return db
      .select()
      .from(journal)
      .where(
        and(
          eq(journal.practiceId, practiceId),
          actor === undefined ? undefined : eq(journal.actor, actor),
          actions === undefined ? undefined : inArray(journal.action, [...actions]),
          subjects === undefined ? undefined : inArray(journal.subject, [...subjects]),
          from === undefined ? undefined : gte(journal.at, from),
          until === undefined ? undefined : lt(journal.at, until),
          before === undefined ? undefined : lt(journal.seq, before),
        ),
      )
      .orderBy(desc(journal.seq))
      .limit(most);
  },
  async hashAt(practiceId: Id<"Practice">, seq: number): Promise<string | undefined> {
    const [row] = await db
      .select({ hash: journal.hash })
      .from(journal)
      .where(and(eq(journal.practiceId, practiceId), eq(journal.seq, seq)));
    return row?.hash;
  },
  async head(practiceId: Id<"Practice">): Promise<Pick<KeptHead, "seq" | "hash">> {
    const [head] = await db
      .select({ seq: journalHead.seq, hash: journalHead.hash })
      .from(journalHead)
      .where(eq(journalHead.practiceId, practiceId));
    return head ?? { seq: 0, hash: firstHash };
  },
  /** Up to where it was walked last; undefined where it never was, or somebody without the key says so. */
  async checked(practiceId: Id<"Practice">): Promise<KeptHead | undefined> {
    const [head] = await db
      .select({ checked: journalHead.checked })
      .from(journalHead)
      .where(eq(journalHead.practiceId, practiceId));
    const kept = head?.checked ?? undefined;
    return kept && kept.practiceId === practiceId && isMarked(sealer, kept) ? kept : undefined;
  },
  async setChecked(head: Omit<KeptHead, "mark">): Promise<void> {
    await db
      .update(journalHead)
      .set({ checked: markedHead(sealer, head) })
      .where(eq(journalHead.practiceId, head.practiceId));
  },
  /** Counts one refused call. */
  async countRefusal(
    practiceId: Id<"Practice">,
    useCase: string,
    actor: string,
    at: Instant,
    address: string,
  ): Promise<void> {
    await db
      .insert(refusal)
      .values({ practiceId, useCase, actor, count: 1, firstAt: at, lastAt: at, address })
      .onConflictDoUpdate({
        target: [refusal.practiceId, refusal.useCase, refusal.actor],
        set: { count: sql`${refusal.count} + 1`, lastAt: at, address },
      });
  },
  /** What was refused, the latest first. */
  async refusals(practiceId: Id<"Practice">, most: number): Promise<Refusal[]> {
    return db
      .select()
      .from(refusal)
      .where(eq(refusal.practiceId, practiceId))
      .orderBy(desc(refusal.lastAt))
      .limit(most);
  },
  async notify(channel: string, payload: string): Promise<void> {
    await db.execute(sql`select pg_notify(${channel}, ${payload})`);
  },
});
