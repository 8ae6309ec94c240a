import { and, asc, count, desc, eq, gt, inArray, lt, notExists, or, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { answer, packet, packetPart, questionnaire, questionnaireVersion, visit } from "../schema";

export type Packet = typeof packet.$inferSelect;
export type Part = typeof packetPart.$inferSelect;

const versionsOfParts = new Map<string, { readonly packetId: Id<"Packet">; readonly versionId: Id<"Version"> }>();
const mostVersionsOfParts = 20_000;

export const packetRepository = (db: Db, sealer: Sealer) => {
  const askedIn = async (id: Id<"Packet">): Promise<Id<"Questionnaire">[]> =>
    (
      await db
        .select({ id: questionnaireVersion.questionnaireId })
        .from(packetPart)
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(eq(packetPart.packetId, id))
        .orderBy(asc(packetPart.position))
    ).map((r) => r.id);
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
    /**
     * @param forUpdate holds the packet: a save and a return of it come one after the other, so nothing changes after a
     * return.
     */
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
    /**
     * What a packet asks, in its order, on the versions in use by now; on its own where a questionnaire is no longer in
     * use.
     */
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
    /**
     * What the newest packet for this kind of visit asked, else the newest of all, in its order; empty before the
     * first.
     */
    async lastAskedFor(practiceId: Id<"Practice">, visitTypeId: Id<"VisitType">): Promise<Id<"Questionnaire">[]> {
      const [newest] = await db
        .select({ id: packet.id })
        .from(packet)
        .leftJoin(visit, eq(visit.id, packet.visitId))
        .where(eq(packet.practiceId, practiceId))
        .orderBy(sql`(${visit.visitTypeId} = ${visitTypeId}) desc nulls last`, desc(packet.createdAt))
        .limit(1);
      return newest ? askedIn(newest.id) : [];
    },
    /** What the newest packet asked that was its client's first; empty before any. */
    async lastAskedOfNew(practiceId: Id<"Practice">): Promise<Id<"Questionnaire">[]> {
      const earlier = alias(packet, "earlier");
      const [newest] = await db
        .select({ id: packet.id })
        .from(packet)
        .where(
          and(
            eq(packet.practiceId, practiceId),
            notExists(
              db
                .select({ id: earlier.id })
                .from(earlier)
                .where(and(eq(earlier.clientId, packet.clientId), lt(earlier.createdAt, packet.createdAt))),
            ),
          ),
        )
        .orderBy(desc(packet.createdAt), desc(packet.id))
        .limit(1);
      return newest ? askedIn(newest.id) : [];
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
    async byIds(practiceId: Id<"Practice">, ids: readonly Id<"Packet">[]): Promise<Packet[]> {
      if (ids.length === 0) return [];
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), inArray(packet.id, [...ids])))
        .orderBy(desc(packet.createdAt));
    },
    async countReturned(practiceId: Id<"Practice">): Promise<number> {
      return db.$count(packet, and(eq(packet.practiceId, practiceId), eq(packet.state, "returned")));
    },
    async hasAny(practiceId: Id<"Practice">): Promise<boolean> {
      return (
        (await db.select({ id: packet.id }).from(packet).where(eq(packet.practiceId, practiceId)).limit(1)).length > 0
      );
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
  };
};
