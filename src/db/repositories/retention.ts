import { and, eq, inArray, isNull, lt, not, notExists, notInArray, or, sql } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { answer, client, clientHold, packet, packetPart, postMessage, storedFile } from "../schema";

/** What has been kept for long, and lets go of some of it. Whose client is on hold, theirs stays. */
export const retentionRepository = (db: Db) => {
  const held = db.select({ id: clientHold.clientId }).from(clientHold).where(isNull(clientHold.endedAt));
  const ofHeld = db.select({ id: packet.id }).from(packet).where(inArray(packet.clientId, held));
  const oldLetters = (practiceId: Id<"Practice">, before: Instant) =>
    and(
      eq(postMessage.practiceId, practiceId),
      lt(postMessage.createdAt, before),
      notInArray(postMessage.state, ["queued", "sending"]),
      or(isNull(postMessage.packetId), not(inArray(postMessage.packetId, ofHeld))),
    );
  /** Packets that never came back and can no more, with something typed in them. */
  const unreturned = (practiceId: Id<"Practice">, before: Instant) =>
    db
      .selectDistinct({ id: packet.id })
      .from(packet)
      .innerJoin(packetPart, eq(packetPart.packetId, packet.id))
      .innerJoin(answer, eq(answer.partId, packetPart.id))
      .where(
        and(
          eq(packet.practiceId, practiceId),
          inArray(packet.state, ["withdrawn", "sent", "opened", "under-way"]),
          lt(packet.expiresAt, before),
          isNull(packet.returnedAt),
          notExists(
            db
              .select({ id: clientHold.id })
              .from(clientHold)
              .where(and(eq(clientHold.clientId, packet.clientId), isNull(clientHold.endedAt))),
          ),
        ),
      );
  return {
    /**
     * When each client was last in touch: their newest visit, return or note, else when they were added. Whoever was
     * erased, made one with another, is made up or on hold is not among them.
     */
    async lastContacts(practiceId: Id<"Practice">): Promise<{ id: Id<"Client">; at: Instant }[]> {
      const newest = sql<Instant>`greatest(${client.createdAt},
        (select max(ends_at) from visit where visit.client_id = ${client.id} and cancelled_at is null),
        (select max(returned_at) from packet where packet.client_id = ${client.id}),
        (select max(updated_at) from note where note.client_id = ${client.id}))`;
      return db
        .select({ id: client.id, at: newest.mapWith(client.createdAt) })
        .from(client)
        .where(
          and(
            eq(client.practiceId, practiceId),
            isNull(client.erasedAt),
            isNull(client.mergedInto),
            eq(client.isTest, false),
            not(inArray(client.id, held)),
          ),
        );
    },
    countLetters: (practiceId: Id<"Practice">, before: Instant): Promise<number> =>
      db.$count(postMessage, oldLetters(practiceId, before)),
    async removeLetters(practiceId: Id<"Practice">, before: Instant): Promise<number> {
      const gone = await db.delete(postMessage).where(oldLetters(practiceId, before)).returning({ id: postMessage.id });
      return gone.length;
    },
    async countUnreturned(practiceId: Id<"Practice">, before: Instant): Promise<number> {
      return (await unreturned(practiceId, before)).length;
    },
    /** What was typed goes, with files; that the packet was sent stays. */
    async emptyUnreturned(practiceId: Id<"Practice">, before: Instant): Promise<number> {
      const ids = (await unreturned(practiceId, before)).map(({ id }) => id);
      if (ids.length === 0) return 0;
      const parts = db.select({ id: packetPart.id }).from(packetPart).where(inArray(packetPart.packetId, ids));
      await db.delete(answer).where(inArray(answer.partId, parts));
      await db.delete(storedFile).where(inArray(storedFile.partId, parts));
      return ids.length;
    },
  };
};
