import type { Packet } from "./packets";
import { and, eq, notInArray, sql, type SQL } from "drizzle-orm";
import { noAnswers, applyChange, type AnswerChange, type Answers } from "../../core/questionnaire";
import { changeName, type KeptAnswer } from "../../core/packet";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { answer, packetPart } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { writtenLine, type JournalLine } from "./journal";
import { knownPart } from "./parts-known";

/**
 * What became of a save: the revisions that were written, and what another device had written since. Keys:
 * `changeName`.
 */
export interface SavedAnswers {
  readonly kept: Readonly<Record<string, number>>;
  readonly clashes: readonly KeptAnswer[];
}
/** What clients answered: one sealed row an answer, with its revision and whose it is. */
export const answerRepository = (db: Db, sealer: Sealer) => {
  const answerPlace = (partId: string, slot: string): string => `answer:${partId}:${slot}`;
  const slotOf = (partId: string, change: Pick<AnswerChange, "kind" | "key">): string =>
    sealer.keyedDigest(`slot:${partId}`, changeName(change));
  const keys = clientKeyRepository(db, sealer);
  type Row = Pick<typeof answer.$inferSelect, "partId" | "slot" | "sealed">;
  const opened = (row: Row): AnswerChange => sealer.open<AnswerChange>(answerPlace(row.partId, row.slot), row.sealed);
  /** Rows whose keys are known. */
  async function rowsWhere(where: SQL | undefined): Promise<(typeof answer.$inferSelect)[]> {
    const rows = await db.select().from(answer).where(where);
    await keys.knowFor(rows.map(({ sealed }) => sealed));
    return rows;
  }
  /** The key everything in a part is sealed with. @throws Error where the client was erased */
  async function keyOf(partId: Id<"Part">): Promise<Id<"ClientKey">> {
    const part = await knownPart(db, partId);
    if (!part) throw new Error("There is no such part, or its client was erased.");
    await keys.know([part.keyId]);
    return part.keyId;
  }
  return {
    /**
     * Saves answers, moves the packet on and writes the journal line in one statement, and so in one transaction: it
     * runs with every pause in typing. `moves` gives, for each state in which answers are taken, the state that
     * follows. An answer whose `base` is not the revision there is, because another device saved it meanwhile, is left
     * as it is and given back. Gives undefined, with nothing written, when the packet is in none of those states, has
     * lapsed, or the door pass no longer holds or only reads.
     */
    async save({
      changes,
      ...save
    }: {
      readonly practiceId: Id<"Practice">;
      readonly packetId: Id<"Packet">;
      readonly partId: Id<"Part">;
      readonly changes: readonly { readonly change: AnswerChange; readonly base: number | undefined }[];
      readonly moves: Readonly<Partial<Record<Packet["state"], Packet["state"]>>>;
      readonly at: Instant;
      readonly line: JournalLine;
      readonly passDigest: string;
    }): Promise<SavedAnswers | undefined> {
      const { partId } = save;
      const names = new Map<string, string>();
      const keyId = await keyOf(partId);
      const answers = changes.map(({ change, base }) => {
        const slot = slotOf(partId, change);
        names.set(slot, changeName(change));
        return {
          slot,
          sealed: Buffer.from(sealer.seal(answerPlace(partId, slot), change, keyId)).toString("base64"),
          blank: change.kind === "rows" || change.values.length === 0,
          base,
        };
      });
      const { rows } = (await db.execute(
        sql`select save_answers(${JSON.stringify({ ...save, answers, ...writtenLine(sealer, save.practiceId, save.at, save.line) })}::jsonb) as saved`,
      )) as unknown as {
        rows: {
          saved: {
            kept: Record<string, number>;
            clashes: { slot: string; sealed: string; revision: number; by: Id<"Link"> | null }[];
          } | null;
        }[];
      };
      const { saved } = rows[0]!;
      return saved === null
        ? undefined
        : {
            kept: Object.fromEntries(
              Object.entries(saved.kept).map(([slot, revision]) => [names.get(slot)!, revision]),
            ),
            clashes: saved.clashes.map((c) => ({
              change: opened({ partId, slot: c.slot, sealed: Buffer.from(c.sealed, "base64") }),
              revision: c.revision,
              by: c.by ?? undefined,
            })),
          };
    },

    /** Begins a part with what the chart holds: each answer waits for the client to say that it is right. */
    async prefill(partId: Id<"Part">, changes: readonly AnswerChange[], at: Instant): Promise<void> {
      if (changes.length === 0) return;
      const keyId = await keyOf(partId);
      await db.insert(answer).values(
        changes.map((change) => {
          const slot = slotOf(partId, change);
          return {
            partId,
            slot,
            sealed: sealer.seal(answerPlace(partId, slot), change, keyId),
            revision: 0,
            blank: change.kind === "rows",
            prefilled: change.kind === "values",
            savedAt: at,
          };
        }),
      );
    },

    /** Keys of the answers that came from the chart and were not said to be right. */
    async prefilled(partId: Id<"Part">): Promise<string[]> {
      const rows = await rowsWhere(and(eq(answer.partId, partId), eq(answer.prefilled, true)));
      return rows.map((r) => opened(r).key);
    },

    async ofPart(partId: Id<"Part">, ofPass?: string): Promise<Answers> {
      return (await this.kept(partId, ofPass)).reduce<Answers>((all, k) => applyChange(all, k.change), noAnswers);
    },

    /** The answers of a part with their revisions and whose they are; `ofPass`: only those typed through it. */
    async kept(partId: Id<"Part">, ofPass?: string): Promise<KeptAnswer[]> {
      const ofThese = ofPass === undefined ? undefined : eq(answer.byPass, ofPass);
      return (await rowsWhere(and(eq(answer.partId, partId), ofThese))).map((r) => ({
        change: opened(r),
        revision: r.revision,
        by: r.byLink ?? undefined,
      }));
    },

    /** Whether the packet holds answers that were not typed through this pass. */
    async holdsOthers(packetId: Id<"Packet">, pass: string): Promise<boolean> {
      const [row] = await db
        .select({ slot: answer.slot })
        .from(answer)
        .innerJoin(packetPart, eq(packetPart.id, answer.partId))
        .where(
          and(
            eq(packetPart.packetId, packetId),
            eq(answer.blank, false),
            sql`${answer.byPass} is distinct from ${pass}`,
          ),
        )
        .limit(1);
      return row !== undefined;
    },

    /** Which questions the client answered, and when. */
    async given(partId: Id<"Part">): Promise<{ key: string; at: Instant }[]> {
      const rows = await rowsWhere(
        and(eq(answer.partId, partId), eq(answer.blank, false), eq(answer.prefilled, false)),
      );
      return rows.map((r) => ({ key: opened(r).key, at: r.savedAt }));
    },

    /** Changes with every save of any answer of the packet, and only then. */
    async version(packetId: Id<"Packet">): Promise<number> {
      const [row] = await db
        .select({ n: sql<number>`coalesce(sum(${answer.revision} + 1), 0)`.mapWith(Number) })
        .from(answer)
        .innerJoin(packetPart, eq(packetPart.id, answer.partId))
        .where(eq(packetPart.packetId, packetId));
      return row!.n;
    },

    /**
     * Leaves only these answers of those there are: what was typed into questions that ended up hidden, and options
     * that are not offered any more, are not kept.
     */
    async keepOnly(partId: Id<"Part">, kept: Answers, there: Answers): Promise<void> {
      const slots = [
        ...Object.keys(kept.values).map((k) => `values ${k}`),
        ...Object.keys(kept.rows).map((k) => `rows ${k}`),
      ].map((k) => sealer.keyedDigest(`slot:${partId}`, k));
      await db
        .delete(answer)
        .where(and(eq(answer.partId, partId), slots.length > 0 ? notInArray(answer.slot, slots) : undefined));
      const keyId = await keyOf(partId);
      for (const [key, values] of Object.entries(kept.values)) {
        if (values.length === there.values[key]?.length) continue;
        const slot = sealer.keyedDigest(`slot:${partId}`, `values ${key}`);
        await db
          .update(answer)
          .set({
            sealed: sealer.seal(
              answerPlace(partId, slot),
              { kind: "values", key, values } satisfies AnswerChange,
              keyId,
            ),
          })
          .where(and(eq(answer.partId, partId), eq(answer.slot, slot)));
      }
    },
  };
};
