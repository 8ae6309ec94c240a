import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, notInArray, or, sql } from "drizzle-orm";
import { noAnswers, applyChange, type AnswerChange, type Answers } from "../../core/questionnaire";
import { changeName, type KeptAnswer, type LinkRole } from "../../core/packet";
import type { SignedStatement } from "../../core/signing";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import {
  answer,
  doorPass,
  packet,
  packetPart,
  personalLink,
  questionnaire,
  questionnaireVersion,
  signature,
  staff,
  visit,
} from "../schema";
import { hashedText, type JournalLine } from "./journal";

export type Packet = typeof packet.$inferSelect;
export type Part = typeof packetPart.$inferSelect;
export type PersonalLink = typeof personalLink.$inferSelect;
/** What a pass opens, for whom, and until when. `handedBy`: the name of who handed over a device of the practice. */
export interface DoorPass {
  readonly packetId: Id<"Packet">;
  readonly linkId: Id<"Link">;
  readonly role: LinkRole;
  readonly relationId: Id<"Relation"> | null;
  readonly proved: boolean;
  readonly handedBy: string | null;
  readonly expiresAt: Instant;
}
export interface Signature {
  readonly id: Id<"Signature">;
  readonly partId: Id<"Part">;
  readonly place: string;
  readonly statement: SignedStatement;
  readonly digest: string;
  readonly at: Instant;
  readonly address: string;
  readonly device: string;
}

/** What became of a save: the revisions that were written, and what another device had written since. Keys: `changeName`. */
export interface SavedAnswers {
  readonly kept: Readonly<Record<string, number>>;
  readonly clashes: readonly KeptAnswer[];
}

/** A packet and the first one of its series, whose links are its own too. */
const seriesOf = (row: Packet): Id<"Packet">[] => [row.id, ...(row.seriesOf ? [row.seriesOf] : [])];

const versionsOfParts = new Map<string, { readonly packetId: Id<"Packet">; readonly versionId: Id<"Version"> }>();
const mostVersionsOfParts = 20_000;

export const packetRepository = (db: Db, sealer: Sealer) => {
  const answerPlace = (partId: string, slot: string): string => `answer:${partId}:${slot}`;
  const slotOf = (partId: string, change: Pick<AnswerChange, "kind" | "key">): string =>
    sealer.keyedDigest(`slot:${partId}`, changeName(change));
  const signaturePlace = (id: string): string => `signature:${id}`;
  const linksOf = (clientId: Id<"Client">, relationId: Id<"Relation"> | null) =>
    and(
      inArray(personalLink.packetId, db.select({ id: packet.id }).from(packet).where(eq(packet.clientId, clientId))),
      relationId === null ? isNull(personalLink.relationId) : eq(personalLink.relationId, relationId),
    );
  return {
    /** Gives false when this request already made a packet. */
    async add(row: typeof packet.$inferInsert, parts: (typeof packetPart.$inferInsert)[]): Promise<boolean> {
      const made = await db
        .insert(packet)
        .values(row)
        .onConflictDoNothing({ target: packet.requestId })
        .returning({ id: packet.id });
      if (made.length === 0) return false;
      await db.insert(packetPart).values(parts);
      return true;
    },
    async byRequest(requestId: string): Promise<Packet | undefined> {
      return (await db.select().from(packet).where(eq(packet.requestId, requestId)))[0];
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Packet">, forUpdate = false): Promise<Packet | undefined> {
      const query = db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.id, id)));
      if (forUpdate) query.for("update");
      return (await query)[0];
    },
    seal: (id: Id<"Packet">, what: "personalLine" | "comment" | "sentBack", value: unknown): Uint8Array =>
      sealer.seal(`packet:${id}:${what}`, value),
    /** What is sealed in a packet's own row; undefined where there is nothing. */
    unseal: <T>(row: Packet, what: "personalLine" | "comment" | "sentBack"): T | undefined => {
      const sealed = row[what];
      return sealed ? sealer.open<T>(`packet:${row.id}:${what}`, sealed) : undefined;
    },
    async update(id: Id<"Packet">, set: Partial<Packet>): Promise<void> {
      await db.update(packet).set(set).where(eq(packet.id, id));
    },
    async parts(id: Id<"Packet">): Promise<Part[]> {
      return db.select().from(packetPart).where(eq(packetPart.packetId, id)).orderBy(asc(packetPart.position));
    },
    /** @param forUpdate holds the packet: a save and a return of it come one after the other, so nothing changes after a return. */
    async part(
      practiceId: Id<"Practice">,
      partId: Id<"Part">,
      forUpdate = false,
    ): Promise<{ part: Part; packet: Packet } | undefined> {
      const query = db
        .select()
        .from(packetPart)
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(packetPart.id, partId), eq(packet.practiceId, practiceId)));
      if (forUpdate) query.for("update", { of: packet });
      const [row] = await query;
      return row && { part: row.packet_part, packet: row.packet };
    },
    /** The version a part of this packet is on. Neither ever changes, so what was read once is kept. */
    async versionOfPart(packetId: Id<"Packet">, partId: Id<"Part">): Promise<Id<"Version"> | undefined> {
      const known = versionsOfParts.get(partId);
      if (known) return known.packetId === packetId ? known.versionId : undefined;
      const [row] = await db
        .select({ packetId: packetPart.packetId, versionId: packetPart.versionId })
        .from(packetPart)
        .where(eq(packetPart.id, partId));
      if (!row) return undefined;
      if (versionsOfParts.size >= mostVersionsOfParts) versionsOfParts.clear();
      versionsOfParts.set(partId, row);
      return row.packetId === packetId ? row.versionId : undefined;
    },
    /** What a packet asks, in its order, on the versions in use by now; on its own where a questionnaire is no longer in use. */
    async askAgain(
      packetId: Id<"Packet">,
    ): Promise<{ versionId: Id<"Version">; position: number; prefill: boolean }[]> {
      const rows = await db
        .select({ part: packetPart, state: questionnaire.state, inUse: questionnaire.inUse })
        .from(packetPart)
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId))
        .where(eq(packetPart.packetId, packetId))
        .orderBy(asc(packetPart.position));
      return rows.map(({ part, state, inUse }) => ({
        versionId: state === "active" && inUse ? inUse : part.versionId,
        position: part.position,
        prefill: part.prefill,
      }));
    },
    async markPosted(partId: Id<"Part">, at: Instant | null): Promise<void> {
      await db.update(packetPart).set({ postedAt: at }).where(eq(packetPart.id, partId));
    },
    async ofVisits(ids: readonly Id<"Visit">[]): Promise<(Packet & { answered: number })[]> {
      if (ids.length === 0) return [];
      const answered = db
        .select({ packetId: packetPart.packetId, n: count().as("n") })
        .from(answer)
        .innerJoin(packetPart, eq(packetPart.id, answer.partId))
        .where(eq(answer.blank, false))
        .groupBy(packetPart.packetId)
        .as("answered");
      const rows = await db
        .select({ packet, n: sql<number>`coalesce(${answered.n}, 0)`.mapWith(Number) })
        .from(packet)
        .leftJoin(answered, eq(answered.packetId, packet.id))
        .where(inArray(packet.visitId, [...ids]))
        .orderBy(asc(packet.createdAt), asc(packet.id));
      return rows.map((r) => ({ ...r.packet, answered: r.n }));
    },
    /** What the newest packet for this kind of visit asked, else the newest of all, in its order; empty before the first. */
    async lastAskedFor(practiceId: Id<"Practice">, visitTypeId: Id<"VisitType">): Promise<Id<"Questionnaire">[]> {
      const [newest] = await db
        .select({ id: packet.id })
        .from(packet)
        .leftJoin(visit, eq(visit.id, packet.visitId))
        .where(eq(packet.practiceId, practiceId))
        .orderBy(sql`(${visit.visitTypeId} = ${visitTypeId}) desc nulls last`, desc(packet.createdAt))
        .limit(1);
      if (!newest) return [];
      const rows = await db
        .select({ id: questionnaireVersion.questionnaireId })
        .from(packetPart)
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(eq(packetPart.packetId, newest.id))
        .orderBy(asc(packetPart.position));
      return rows.map((r) => r.id);
    },
    /** What lies open before whom. */
    async openQuestionnaires(
      practiceId: Id<"Practice">,
      now: Instant,
    ): Promise<{ clientId: Id<"Client">; questionnaireId: Id<"Questionnaire"> }[]> {
      return db
        .selectDistinct({ clientId: packet.clientId, questionnaireId: questionnaireVersion.questionnaireId })
        .from(packet)
        .innerJoin(packetPart, eq(packetPart.packetId, packet.id))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            inArray(packet.state, ["sent", "opened", "under-way", "sent-back"]),
            gt(packet.expiresAt, now),
          ),
        );
    },
    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.clientId, clientId)))
        .orderBy(desc(packet.createdAt));
    },
    /** Returned ones first, then settled, newest first. */
    async returned(practiceId: Id<"Practice">, limit: number): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), inArray(packet.state, ["returned", "settled"])))
        .orderBy(sql`${packet.state} <> 'returned'`, sql`${packet.alerts} = 0`, desc(packet.returnedAt))
        .limit(limit);
    },

    /**
     * Saves answers, moves the packet on and writes the journal line in one statement, and so in one transaction: it runs
     * with every pause in typing. `moves` gives, for each state in which answers are taken, the state that follows.
     * An answer whose `base` is not the revision there is, because another device saved it meanwhile, is left as it is and
     * given back. Gives undefined, with nothing written, when the packet is in none of those states, has lapsed, or the door
     * pass no longer holds or only reads.
     */
    async saveAnswers({
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
      const answers = changes.map(({ change, base }) => {
        const slot = slotOf(partId, change);
        names.set(slot, changeName(change));
        return {
          slot,
          sealed: Buffer.from(sealer.seal(answerPlace(partId, slot), change)).toString("base64"),
          blank: change.kind === "rows" || change.values.length === 0,
          base,
        };
      });
      const { rows } = (await db.execute(
        sql`select save_answers(${JSON.stringify({ ...save, answers, hashed: hashedText(save.practiceId, save.at, save.line) })}::jsonb) as saved`,
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
              change: sealer.open<AnswerChange>(answerPlace(partId, c.slot), Buffer.from(c.sealed, "base64")),
              revision: c.revision,
              by: c.by ?? undefined,
            })),
          };
    },
    /** Begins a part with what the chart holds: each answer waits for the client to say that it is right. */
    async prefill(partId: Id<"Part">, changes: readonly AnswerChange[], at: Instant): Promise<void> {
      if (changes.length === 0) return;
      await db.insert(answer).values(
        changes.map((change) => {
          const slot = slotOf(partId, change);
          return {
            partId,
            slot,
            sealed: sealer.seal(answerPlace(partId, slot), change),
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
      const rows = await db
        .select()
        .from(answer)
        .where(and(eq(answer.partId, partId), eq(answer.prefilled, true)));
      return rows.map((r) => sealer.open<AnswerChange>(answerPlace(partId, r.slot), r.sealed).key);
    },
    async answers(partId: Id<"Part">): Promise<Answers> {
      return (await this.kept(partId)).reduce<Answers>((all, k) => applyChange(all, k.change), noAnswers);
    },
    /** The answers of a part with their revisions and whose they are. */
    async kept(partId: Id<"Part">): Promise<KeptAnswer[]> {
      const rows = await db.select().from(answer).where(eq(answer.partId, partId));
      return rows.map((r) => ({
        change: sealer.open<AnswerChange>(answerPlace(partId, r.slot), r.sealed),
        revision: r.revision,
        by: r.byLink ?? undefined,
      }));
    },
    /** Which questions the client answered, and when. */
    async given(partId: Id<"Part">): Promise<{ key: string; at: Instant }[]> {
      const rows = await db
        .select()
        .from(answer)
        .where(and(eq(answer.partId, partId), eq(answer.blank, false), eq(answer.prefilled, false)));
      return rows.map((r) => ({
        key: sealer.open<AnswerChange>(answerPlace(partId, r.slot), r.sealed).key,
        at: r.savedAt,
      }));
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
    /** Leaves only these answers of those there are: what was typed into questions that ended up hidden, and options that are not offered any more, are not kept. */
    async keepOnly(partId: Id<"Part">, kept: Answers, there: Answers): Promise<void> {
      const slots = [
        ...Object.keys(kept.values).map((k) => `values ${k}`),
        ...Object.keys(kept.rows).map((k) => `rows ${k}`),
      ].map((k) => sealer.keyedDigest(`slot:${partId}`, k));
      await db
        .delete(answer)
        .where(and(eq(answer.partId, partId), slots.length > 0 ? notInArray(answer.slot, slots) : undefined));
      for (const [key, values] of Object.entries(kept.values)) {
        if (values.length === there.values[key]?.length) continue;
        const slot = sealer.keyedDigest(`slot:${partId}`, `values ${key}`);
        await db
          .update(answer)
          .set({
            sealed: sealer.seal(answerPlace(partId, slot), { kind: "values", key, values } satisfies AnswerChange),
          })
          .where(and(eq(answer.partId, partId), eq(answer.slot, slot)));
      }
    },

    async addSignature(given: Signature): Promise<void> {
      await db
        .insert(signature)
        .values({ ...given, statement: sealer.seal(signaturePlace(given.id), given.statement) });
    },
    /** The newest signature at each place of a part, in the order they were given. */
    async signatures(partId: Id<"Part">): Promise<Signature[]> {
      const rows = await db.select().from(signature).where(eq(signature.partId, partId)).orderBy(asc(signature.seq));
      return [...new Map(rows.map((r) => [r.place, r])).values()].map((row) => ({
        ...row,
        statement: sealer.open<SignedStatement>(signaturePlace(row.id), row.statement),
      }));
    },

    async addLink(row: typeof personalLink.$inferInsert): Promise<void> {
      await db.insert(personalLink).values(row);
    },
    async hasLink(packetId: Id<"Packet">, id: Id<"Link">): Promise<boolean> {
      return (
        (
          await db
            .select({ id: personalLink.id })
            .from(personalLink)
            .where(and(eq(personalLink.id, id), eq(personalLink.packetId, packetId)))
        ).length > 0
      );
    },
    /** A link nobody can have used yet is forgotten. */
    async dropLink(id: Id<"Link">): Promise<void> {
      await db.delete(doorPass).where(eq(doorPass.linkId, id));
      await db.delete(personalLink).where(eq(personalLink.id, id));
    },
    /** The newest of the packets that one link asked for, this one included. */
    async newestOfSeries(row: Packet): Promise<Packet> {
      const first = row.seriesOf ?? row.id;
      return (
        await db
          .select()
          .from(packet)
          .where(or(eq(packet.id, first), eq(packet.seriesOf, first)))
          .orderBy(desc(packet.createdAt), desc(packet.id))
          .limit(1)
      )[0]!;
    },
    /** Its link asks for no further packet. */
    async endSeries(row: Packet): Promise<void> {
      const first = row.seriesOf ?? row.id;
      await db
        .update(packet)
        .set({ repeats: false })
        .where(or(eq(packet.id, first), eq(packet.seriesOf, first)));
    },
    /** Every link there was, in the order they were made. */
    async links(row: Packet): Promise<PersonalLink[]> {
      return db
        .select()
        .from(personalLink)
        .where(inArray(personalLink.packetId, seriesOf(row)))
        .orderBy(asc(personalLink.createdAt), asc(personalLink.id));
    },
    /** Links that still work; those of the first packet where one link asks for many. */
    async liveLinks(row: Packet): Promise<PersonalLink[]> {
      return db
        .select()
        .from(personalLink)
        .where(and(inArray(personalLink.packetId, seriesOf(row)), isNull(personalLink.revokedAt)));
    },
    async revokeLinks(row: Packet, at: Instant): Promise<void> {
      await db
        .update(personalLink)
        .set({ revokedAt: at, codeDigest: null })
        .where(and(inArray(personalLink.packetId, seriesOf(row)), isNull(personalLink.revokedAt)));
      await db.delete(doorPass).where(inArray(doorPass.packetId, seriesOf(row)));
    },
    /** Codes that are out for this person's links, to all of the client's packets, stop working: they went to where they are reached no longer. */
    async dropCodes(clientId: Id<"Client">, relationId: Id<"Relation"> | null): Promise<void> {
      await db
        .update(personalLink)
        .set({ codeDigest: null, codeExpiresAt: null })
        .where(and(linksOf(clientId, relationId), isNotNull(personalLink.codeDigest)));
    },
    /** This person's links to all of the client's packets end, and every door they opened. Gives the packets. */
    async endLinks(clientId: Id<"Client">, relationId: Id<"Relation">, at: Instant): Promise<Id<"Packet">[]> {
      const ended = await db
        .update(personalLink)
        .set({ revokedAt: at, codeDigest: null })
        .where(and(linksOf(clientId, relationId), isNull(personalLink.revokedAt)))
        .returning({ id: personalLink.id, packetId: personalLink.packetId });
      if (ended.length > 0)
        await db.delete(doorPass).where(
          inArray(
            doorPass.linkId,
            ended.map((l) => l.id),
          ),
        );
      return [...new Set(ended.map((l) => l.packetId))];
    },
    /** @param forUpdate holds the link, so that two codes tried at once are counted one after the other. */
    async linkByDigest(digest: string, forUpdate = false): Promise<{ link: PersonalLink; packet: Packet } | undefined> {
      const query = db
        .select()
        .from(personalLink)
        .innerJoin(packet, eq(packet.id, personalLink.packetId))
        .where(eq(personalLink.digest, digest));
      if (forUpdate) query.for("update");
      const [row] = await query;
      return row && { link: row.personal_link, packet: row.packet };
    },
    async link(id: Id<"Link">): Promise<PersonalLink | undefined> {
      return (await db.select().from(personalLink).where(eq(personalLink.id, id)))[0];
    },
    async updateLink(id: Id<"Link">, set: Partial<PersonalLink>): Promise<void> {
      await db.update(personalLink).set(set).where(eq(personalLink.id, id));
    },
    async addPass(row: typeof doorPass.$inferInsert): Promise<void> {
      await db.insert(doorPass).values(row);
    },
    /** A pass ends, and with it the link that was made for it alone. */
    async endPass(digest: string, linkId: Id<"Link">, at: Instant): Promise<void> {
      await db.delete(doorPass).where(eq(doorPass.digest, digest));
      await db.update(personalLink).set({ revokedAt: at, codeDigest: null }).where(eq(personalLink.id, linkId));
    },
    /** A pass that still holds. Read by keys, since much stands behind it: revoking a link deletes its passes. */
    async byPass(digest: string, now: Instant): Promise<DoorPass | undefined> {
      const [row] = await db
        .select({
          packetId: doorPass.packetId,
          linkId: doorPass.linkId,
          role: personalLink.role,
          relationId: personalLink.relationId,
          proved: doorPass.proved,
          handedBy: staff.name,
          expiresAt: doorPass.expiresAt,
        })
        .from(doorPass)
        .innerJoin(personalLink, eq(personalLink.id, doorPass.linkId))
        .leftJoin(staff, eq(staff.id, doorPass.handedBy))
        .where(and(eq(doorPass.digest, digest), gt(doorPass.expiresAt, now)));
      return row;
    },
  };
};
