import { and, asc, desc, eq, exists, gte, inArray, isNotNull, isNull, lte, notInArray, or, sql } from "drizzle-orm";
import {
  letterTrouble,
  linkPurposes,
  type LetterTrouble,
  type PostPurpose,
  type PostSet,
  type PostState,
} from "../../core/messages";
import { unopened } from "../../core/packet";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { packet, postMessage } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, ofReal, type Sight } from "./sight";

export interface PostMessage {
  readonly id: Id<"Message">;
  readonly packetId: Id<"Packet"> | null;
  readonly senderId: Id<"Staff"> | null;
  readonly channel: "email" | "text";
  readonly purpose: PostPurpose;
  readonly state: PostState;
  readonly attempts: number;
  readonly nextAt: Instant | null;
  readonly trouble: string | null;
  readonly openedAt: Instant | null;
  readonly createdAt: Instant;
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly body: string;
  /** Files of the practice's that go with it. */
  readonly files?: readonly { readonly id: Id<"File">; readonly title: string }[];
}
/** Tries after which a letter that is still waiting is more than a server that starts again. */
const oftenTried = 3;
type Letter = Pick<PostMessage, "to" | "toName" | "subject" | "body" | "files">;
type NewMessage = Pick<PostMessage, "id" | "packetId" | "senderId" | "channel" | "purpose" | "createdAt"> & Letter;

export const outboxRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight)(packet.clientId);
  /** Letters about packets of clients in sight; of others, where not all are, what one wrote oneself. */
  const shown =
    sight === "all"
      ? undefined
      : or(
          and(isNull(postMessage.packetId), eq(postMessage.senderId, sight.of)),
          exists(
            db
              .select({ id: packet.id })
              .from(packet)
              .where(and(eq(packet.id, postMessage.packetId), seen)),
          ),
        );
  const real = ofReal(db, packet.clientId);
  const place = (id: string): string => `post:${id}`;
  const keys = clientKeyRepository(db, sealer);
  const read = ({
    sealed,
    seq: _seq,
    practiceId: _practice,
    claimedUntil: _claimed,
    ...row
  }: typeof postMessage.$inferSelect): PostMessage => ({ ...row, ...sealer.open<Letter>(place(row.id), sealed) });
  async function readAll(rows: readonly (typeof postMessage.$inferSelect)[]): Promise<PostMessage[]> {
    await keys.knowFor(rows.map(({ sealed }) => sealed));
    return rows.map(read);
  }
  /** What is about a packet is sealed with its client's key, and all else with the practice's. */
  async function keyFor(packetId: Id<"Packet"> | null): Promise<Id<"ClientKey"> | undefined> {
    if (packetId === null) return undefined;
    const [row] = await db.select({ keyId: packet.keyId }).from(packet).where(eq(packet.id, packetId));
    await keys.know([row?.keyId]);
    return row?.keyId ?? undefined;
  }
  return {
    /** Queued, to be tried at once. */
    async add(practiceId: Id<"Practice">, { to, toName, subject, body, files, ...row }: NewMessage): Promise<void> {
      const letter = { to, toName, subject, body, ...(files && files.length > 0 ? { files } : {}) } satisfies Letter;
      await db.insert(postMessage).values({
        ...row,
        state: "queued",
        nextAt: row.createdAt,
        practiceId,
        sealed: sealer.seal(place(row.id), letter, await keyFor(row.packetId)),
      });
    },
    /**
     * Takes the next message that is due, so that nobody else does; it stands as `sending` until its try is recorded.
     */
    async claim(practiceId: Id<"Practice">, now: Instant, until: Instant): Promise<PostMessage | undefined> {
      const due = db
        .select({ id: postMessage.id })
        .from(postMessage)
        .where(
          and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, "queued"), lte(postMessage.nextAt, now)),
        )
        .orderBy(asc(postMessage.seq))
        .limit(1)
        .for("update", { skipLocked: true });
      const [row] = await db
        .update(postMessage)
        .set({ state: "sending", claimedUntil: until, attempts: sql`${postMessage.attempts} + 1` })
        .where(sql`${postMessage.id} = (${due})`)
        .returning();
      return (await readAll(row ? [row] : []))[0];
    },
    async set(id: Id<"Message">, set: PostSet): Promise<void> {
      await db
        .update(postMessage)
        .set({ ...set, claimedUntil: null })
        .where(eq(postMessage.id, id));
    },
    /** Queues it again, unless it is being sent right now or has arrived. False: that is so. */
    async requeue(id: Id<"Message">, now: Instant): Promise<boolean> {
      const free = and(eq(postMessage.id, id), notInArray(postMessage.state, ["sending", "delivered"]));
      return (
        (
          await db
            .update(postMessage)
            .set({ state: "queued", nextAt: now })
            .where(free)
            .returning({ id: postMessage.id })
        ).length > 0
      );
    },
    /**
     * Settles tries that whoever made them will settle no more: those whose time is over, or all where nobody else is
     * there.
     */
    async settleLost(practiceId: Id<"Practice">, now: Instant, isAlone: boolean, set: PostSet): Promise<number> {
      const isLost = isAlone ? undefined : or(isNull(postMessage.claimedUntil), lte(postMessage.claimedUntil, now));
      return (
        await db
          .update(postMessage)
          .set({ ...set, claimedUntil: null })
          .where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, "sending"), isLost))
          .returning({ id: postMessage.id })
      ).length;
    },
    /** How many are to go out, and of those, how many were tried in vain several times. */
    async backlog(practiceId: Id<"Practice">): Promise<{ readonly waiting: number; readonly troubled: number }> {
      const waits = and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, "queued"));
      return {
        waiting: await db.$count(postMessage, waits),
        troubled: await db.$count(
          postMessage,
          and(waits, gte(postMessage.attempts, oftenTried), isNotNull(postMessage.trouble)),
        ),
      };
    },
    async markOpened(id: Id<"Message">, at: Instant): Promise<void> {
      await db
        .update(postMessage)
        .set({ openedAt: sql`coalesce(${postMessage.openedAt}, ${at})` })
        .where(eq(postMessage.id, id));
    },
    async latest(practiceId: Id<"Practice">, limit: number): Promise<PostMessage[]> {
      return readAll(
        await db
          .select()
          .from(postMessage)
          .where(and(eq(postMessage.practiceId, practiceId), shown))
          .orderBy(desc(postMessage.seq))
          .limit(limit),
      );
    },
    /** A packet's own letters, oldest first. */
    async ofPacket(packetId: Id<"Packet">): Promise<PostMessage[]> {
      return readAll(
        await db
          .select()
          .from(postMessage)
          .where(and(eq(postMessage.packetId, packetId), shown))
          .orderBy(asc(postMessage.seq)),
      );
    },
    /**
     * What became of the newest letters of packets that nobody opened, where one did not simply arrive: of these
     * packets, or of all.
     */
    async troubles(
      practiceId: Id<"Practice">,
      packetIds?: readonly Id<"Packet">[],
    ): Promise<ReadonlyMap<Id<"Packet">, LetterTrouble>> {
      const found = new Map<Id<"Packet">, LetterTrouble>();
      if (packetIds?.length === 0) return found;
      const troubled = db
        .select({ packetId: postMessage.packetId })
        .from(postMessage)
        .innerJoin(packet, eq(packet.id, postMessage.packetId))
        .where(
          and(
            eq(postMessage.practiceId, practiceId),
            isNotNull(postMessage.trouble),
            inArray(packet.state, [...unopened]),
            seen,
            packetIds === undefined ? real : undefined,
            packetIds && inArray(postMessage.packetId, [...packetIds]),
          ),
        );
      const letters = await readAll(
        await db
          .select()
          .from(postMessage)
          .where(and(inArray(postMessage.purpose, [...linkPurposes]), inArray(postMessage.packetId, troubled)))
          .orderBy(asc(postMessage.seq)),
      );
      const byPacket = new Map<Id<"Packet">, PostMessage[]>();
      for (const letter of letters) {
        if (letter.packetId === null) continue;
        byPacket.set(letter.packetId, [...(byPacket.get(letter.packetId) ?? []), letter]);
      }
      for (const [packetId, own] of byPacket) {
        const trouble = letterTrouble(own);
        if (trouble) found.set(packetId, trouble);
      }
      return found;
    },
    /** Whether a letter for this was written since then. */
    async wroteSince(practiceId: Id<"Practice">, purpose: PostPurpose, since: Instant): Promise<boolean> {
      const [row] = await db
        .select({ id: postMessage.id })
        .from(postMessage)
        .where(
          and(
            eq(postMessage.practiceId, practiceId),
            eq(postMessage.purpose, purpose),
            gte(postMessage.createdAt, since),
          ),
        )
        .limit(1);
      return row !== undefined;
    },
    /** Whether somebody was told of a bounced letter since then. */
    async toldOfBounce(senderId: Id<"Staff">, since: Instant): Promise<boolean> {
      const [row] = await db
        .select({ id: postMessage.id })
        .from(postMessage)
        .where(
          and(
            eq(postMessage.purpose, "bounced"),
            eq(postMessage.senderId, senderId),
            gte(postMessage.createdAt, since),
          ),
        )
        .limit(1);
      return row !== undefined;
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Message">): Promise<PostMessage | undefined> {
      const [row] = await db
        .select()
        .from(postMessage)
        .where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.id, id), shown));
      return (await readAll(row ? [row] : []))[0];
    },
  };
};
