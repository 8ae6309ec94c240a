import { and, asc, count, desc, eq, exists, inArray, isNotNull, lt, notExists, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { answer, packet, packetPart, questionnaire, questionnaireVersion, visit } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";
import { inSight, ofReal, type Sight } from "./sight";

export type Packet = typeof packet.$inferSelect;
export type Part = typeof packetPart.$inferSelect;

const unsettledOf = (staffId: Id<"Staff">) =>
  and(
    eq(packet.staffId, staffId),
    inArray(packet.state, ["ready", "sent", "opened", "under-way", "returned", "sent-back"]),
  );
type SealedText = "personalLine" | "comment" | "sentBack";
const textPlace = (id: string, what: SealedText): string => `packet:${id}:${what}`;
const gistPlace = (id: string): string => `part:${id}:gist`;

export const packetRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const keys = clientKeyRepository(db, sealer);
  /** In sight, and not of somebody who was erased. */
  const seen = (clientId: typeof packet.clientId): SQL | undefined =>
    and(isNotNull(packet.keyId), inSight(db, sight)(clientId));
  async function known<Rows extends readonly { readonly keyId: Id<"ClientKey"> | null }[]>(rows: Rows): Promise<Rows> {
    await keys.know(rows.map(({ keyId }) => keyId));
    return rows;
  }
  async function withGists(parts: Part[]): Promise<Part[]> {
    await keys.knowFor(parts.map(({ gist }) => gist));
    return parts;
  }
  const real = ofReal(db, packet.clientId);
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
    async add(
      {
        personalLine,
        ...row
      }: Omit<typeof packet.$inferInsert, "keyId" | "personalLine"> & {
        readonly personalLine?: string | undefined;
      },
      parts: (typeof packetPart.$inferInsert)[],
    ): Promise<boolean> {
      const keyId = await keys.of(row.clientId);
      const made = await db
        .insert(packet)
        .values({
          ...row,
          keyId,
          personalLine: personalLine ? sealer.seal(textPlace(row.id, "personalLine"), personalLine, keyId) : null,
        })
        .onConflictDoNothing({ target: packet.requestId })
        .returning({ id: packet.id });
      if (made.length === 0) return false;
      if (parts.length > 0) await db.insert(packetPart).values(parts);
      return true;
    },
    async byRequest(requestId: string): Promise<Packet | undefined> {
      const rows = await db
        .select()
        .from(packet)
        .where(and(eq(packet.requestId, requestId), seen(packet.clientId)));
      return (await known(rows))[0];
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Packet">, forUpdate = false): Promise<Packet | undefined> {
      const query = db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.id, id), seen(packet.clientId)));
      if (forUpdate) query.for("update");
      return (await known(await query))[0];
    },
    /** For the packet's own row, which was read before. */
    seal: ({ id, keyId }: Packet, what: SealedText, value: unknown): Uint8Array => {
      if (keyId === null) throw new Error("The packet's client was erased.");
      return sealer.seal(textPlace(id, what), value, keyId);
    },
    /** What is sealed in a packet's own row; undefined where there is nothing. */
    unseal: <T>(row: Packet, what: SealedText): T | undefined => {
      const sealed = row[what];
      return sealed ? sealer.open<T>(textPlace(row.id, what), sealed) : undefined;
    },
    async update(id: Id<"Packet">, set: Partial<Packet>): Promise<void> {
      await db.update(packet).set(set).where(eq(packet.id, id));
    },
    async parts(id: Id<"Packet">): Promise<Part[]> {
      return withGists(
        await db.select().from(packetPart).where(eq(packetPart.packetId, id)).orderBy(asc(packetPart.position)),
      );
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
        .where(and(eq(packetPart.id, partId), eq(packet.practiceId, practiceId), seen(packet.clientId)));
      if (forUpdate) query.for("update", { of: packet });
      const [row] = await query;
      await keys.know([row?.packet.keyId]);
      return row && { part: row.packet_part, packet: row.packet };
    },
    /** The version a part of this packet is on. Neither ever changes, so what was read once is kept. */
    async versionOfPart(packetId: Id<"Packet">, partId: Id<"Part">): Promise<Id<"Version"> | undefined> {
      const part = await knownPart(db, partId);
      return part?.packetId === packetId ? part.versionId : undefined;
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
    /** Parts of several packets, by packet, in their order. */
    async partsOf(ids: readonly Id<"Packet">[]): Promise<Map<string, Part[]>> {
      const rows =
        ids.length === 0
          ? []
          : await withGists(
              await db
                .select()
                .from(packetPart)
                .where(inArray(packetPart.packetId, [...ids]))
                .orderBy(asc(packetPart.position)),
            );
      const found = new Map<string, Part[]>();
      for (const row of rows) found.set(row.packetId, [...(found.get(row.packetId) ?? []), row]);
      return found;
    },
    /** What lists need of a part that came back, so that they open no answer. */
    async keepGist(partId: Id<"Part">, gist: unknown): Promise<void> {
      const part = await knownPart(db, partId);
      await keys.know([part?.keyId]);
      await db
        .update(packetPart)
        .set({ gist: sealer.seal(gistPlace(partId), gist, part?.keyId) })
        .where(eq(packetPart.id, partId));
    },
    /** Undefined for a part that came back before gists were kept, or not yet. */
    gistOf: <T>(part: Part): T | undefined => (part.gist ? sealer.open<T>(gistPlace(part.id), part.gist) : undefined),
    async markPosted(partId: Id<"Part">, at: Instant | null): Promise<void> {
      await db.update(packetPart).set({ postedAt: at }).where(eq(packetPart.id, partId));
    },
    async ofVisits(ids: readonly Id<"Visit">[]): Promise<(Packet & { answered: number })[]> {
      if (ids.length === 0) return [];
      const answered = db
        .select({ packetId: packetPart.packetId, n: count().as("n") })
        .from(answer)
        .innerJoin(packetPart, eq(packetPart.id, answer.partId))
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(answer.blank, false), inArray(packet.visitId, [...ids])))
        .groupBy(packetPart.packetId)
        .as("answered");
      const rows = await db
        .select({ packet, n: sql<number>`coalesce(${answered.n}, 0)`.mapWith(Number) })
        .from(packet)
        .leftJoin(answered, eq(answered.packetId, packet.id))
        .where(and(inArray(packet.visitId, [...ids]), seen(packet.clientId)))
        .orderBy(asc(packet.createdAt), asc(packet.id));
      return known(rows.map((r) => ({ ...r.packet, answered: r.n })));
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
    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.clientId, clientId), seen(packet.clientId)))
        .orderBy(desc(packet.createdAt));
    },
    /** Also of those who were erased. */
    async idsOf(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Id<"Packet">[]> {
      const rows = await db
        .select({ id: packet.id })
        .from(packet)
        .where(
          and(eq(packet.practiceId, practiceId), eq(packet.clientId, clientId), inSight(db, sight)(packet.clientId)),
        );
      return rows.map(({ id }) => id);
    },
    /** Whose these are, also of those who were erased. */
    async clientsOf(
      practiceId: Id<"Practice">,
      ids: readonly Id<"Packet">[],
    ): Promise<ReadonlyMap<string, Id<"Client">>> {
      if (ids.length === 0) return new Map();
      const rows = await db
        .select({ id: packet.id, clientId: packet.clientId })
        .from(packet)
        .where(
          and(eq(packet.practiceId, practiceId), inArray(packet.id, [...ids]), inSight(db, sight)(packet.clientId)),
        );
      return new Map(rows.map(({ id, clientId }) => [id, clientId]));
    },
    async byIds(practiceId: Id<"Practice">, ids: readonly Id<"Packet">[]): Promise<Packet[]> {
      if (ids.length === 0) return [];
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), inArray(packet.id, [...ids]), seen(packet.clientId)))
        .orderBy(desc(packet.createdAt));
    },
    async countReturned(practiceId: Id<"Practice">): Promise<number> {
      return db.$count(
        packet,
        and(eq(packet.practiceId, practiceId), eq(packet.state, "returned"), seen(packet.clientId), real),
      );
    },
    /** Whose answers are for somebody, and not settled yet. */
    async countOpenOf(staffId: Id<"Staff">): Promise<number> {
      return db.$count(packet, unsettledOf(staffId));
    },
    async handOpen(staffId: Id<"Staff">, to: Id<"Staff">): Promise<void> {
      await db.update(packet).set({ staffId: to }).where(unsettledOf(staffId));
    },
    /** The test client's do not count. */
    async hasAny(practiceId: Id<"Practice">): Promise<boolean> {
      return (
        (
          await db
            .select({ id: packet.id })
            .from(packet)
            .where(and(eq(packet.practiceId, practiceId), real))
            .limit(1)
        ).length > 0
      );
    },
    /** To be read, alarming ones first, then newest first; all of them. */
    async toRead(practiceId: Id<"Practice">): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.state, "returned"), seen(packet.clientId)))
        .orderBy(sql`${packet.alerts} = 0`, desc(packet.returnedAt));
    },
    /** With the client again, to be mended; the newest first. */
    async sentBack(practiceId: Id<"Practice">, limit: number): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(and(eq(packet.practiceId, practiceId), eq(packet.state, "sent-back"), seen(packet.clientId)))
        .orderBy(desc(packet.returnedAt))
        .limit(limit);
    },
    /** How often a questionnaire was sent, and how often it came back. The test client's do not count. */
    async askedAndReturned(
      practiceId: Id<"Practice">,
      questionnaireId: Id<"Questionnaire">,
    ): Promise<{ readonly asked: number; readonly returned: number }> {
      // Asked first: the planner knows how many parts are of which version, not of which questionnaire.
      const versions = await db
        .select({ id: questionnaireVersion.id })
        .from(questionnaireVersion)
        .where(eq(questionnaireVersion.questionnaireId, questionnaireId));
      const ids = versions.map(({ id }) => id);
      const [row] = await db
        .select({
          asked: count(),
          returned: sql<number>`count(*) filter (where ${packet.returnedAt} is not null)`.mapWith(Number),
        })
        .from(packet)
        .where(
          and(
            eq(packet.practiceId, practiceId),
            isNotNull(packet.sentAt),
            real,
            seen(packet.clientId),
            // Not a join: each row is read once also where the planner knows of a few of many.
            exists(
              db
                .select({ id: packetPart.id })
                .from(packetPart)
                .where(and(eq(packetPart.packetId, packet.id), inArray(packetPart.versionId, ids))),
            ),
          ),
        );
      return row ?? { asked: 0, returned: 0 };
    },
    /** What came back of these clients, each part with what its scores came to then, the oldest first. */
    async scored(
      practiceId: Id<"Practice">,
      clientIds: readonly Id<"Client">[],
    ): Promise<
      (Part &
        Pick<Packet, "clientId" | "language"> & {
          readonly at: Instant;
          readonly questionnaireId: Id<"Questionnaire">;
        })[]
    > {
      if (clientIds.length === 0) return [];
      const rows = await db
        .select({
          part: packetPart,
          clientId: packet.clientId,
          at: packet.returnedAt,
          language: packet.language,
          questionnaireId: questionnaireVersion.questionnaireId,
        })
        .from(packetPart)
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            inArray(packet.clientId, [...clientIds]),
            inArray(packet.state, ["returned", "settled"]),
            isNotNull(packet.returnedAt),
            isNotNull(packetPart.gist),
            seen(packet.clientId),
          ),
        )
        .orderBy(asc(packet.returnedAt), asc(packetPart.position));
      await keys.knowFor(rows.map(({ part }) => part.gist));
      return rows.map(({ part, at, ...more }) => ({ ...part, ...more, at: at! }));
    },
    /** Returns of these clients that are not charted, the oldest first. */
    async uncharted(
      practiceId: Id<"Practice">,
      clientIds: readonly Id<"Client">[],
    ): Promise<Pick<Packet, "id" | "clientId" | "visitId" | "returnedAt">[]> {
      if (clientIds.length === 0) return [];
      return db
        .select({
          id: packet.id,
          clientId: packet.clientId,
          visitId: packet.visitId,
          returnedAt: packet.returnedAt,
        })
        .from(packet)
        .where(
          and(
            eq(packet.practiceId, practiceId),
            eq(packet.state, "returned"),
            inArray(packet.clientId, [...clientIds]),
            seen(packet.clientId),
          ),
        )
        .orderBy(asc(packet.returnedAt));
    },
    /** Newest first. @param before those that came back earlier */
    async settled(practiceId: Id<"Practice">, limit: number, before?: Instant): Promise<Packet[]> {
      return db
        .select()
        .from(packet)
        .where(
          and(
            eq(packet.practiceId, practiceId),
            eq(packet.state, "settled"),
            eq(packet.isTakeHome, false),
            before === undefined ? undefined : lt(packet.returnedAt, before),
            seen(packet.clientId),
          ),
        )
        .orderBy(desc(packet.returnedAt))
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
