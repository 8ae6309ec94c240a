import type { Packet } from "./packets";
import { and, asc, eq, inArray, isNotNull, isNull } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { doorPass, packet, personalLink } from "../schema";

export type PersonalLink = typeof personalLink.$inferSelect;

/** A packet and the first one of its series, whose links are its own too. */
const seriesOf = (row: Packet): Id<"Packet">[] => [row.id, ...(row.seriesOf ? [row.seriesOf] : [])];
/** Personal links. Those of the first packet of a series are the others' too. */
export const linkRepository = (db: Db) => {
  const linksOf = (clientId: Id<"Client">, relationId: Id<"Relation"> | null) =>
    and(
      inArray(personalLink.packetId, db.select({ id: packet.id }).from(packet).where(eq(packet.clientId, clientId))),
      relationId === null ? isNull(personalLink.relationId) : eq(personalLink.relationId, relationId),
    );
  return {
    async add(row: typeof personalLink.$inferInsert): Promise<void> {
      await db.insert(personalLink).values(row);
    },

    async has(packetId: Id<"Packet">, id: Id<"Link">): Promise<boolean> {
      return (
        (
          await db
            .select({ id: personalLink.id })
            .from(personalLink)
            .where(and(eq(personalLink.id, id), eq(personalLink.packetId, packetId)))
        ).length > 0
      );
    },

    /**
     * The address that was given out for a link, and every device it let in, open nothing any more; the new one does.
     */
    async renew(id: Id<"Link">, digest: string): Promise<void> {
      await db.delete(doorPass).where(eq(doorPass.linkId, id));
      await db.update(personalLink).set({ digest, codeDigest: null }).where(eq(personalLink.id, id));
    },

    /** Every link there was, in the order they were made. */
    async ofPacket(row: Packet): Promise<PersonalLink[]> {
      return db
        .select()
        .from(personalLink)
        .where(inArray(personalLink.packetId, seriesOf(row)))
        .orderBy(asc(personalLink.createdAt), asc(personalLink.id));
    },

    /** Links that still work; those of the first packet where one link asks for many. */
    async live(row: Packet): Promise<PersonalLink[]> {
      return db
        .select()
        .from(personalLink)
        .where(and(inArray(personalLink.packetId, seriesOf(row)), isNull(personalLink.revokedAt)));
    },

    async revokeAll(row: Packet, at: Instant): Promise<void> {
      await db
        .update(personalLink)
        .set({ revokedAt: at, codeDigest: null })
        .where(and(inArray(personalLink.packetId, seriesOf(row)), isNull(personalLink.revokedAt)));
      await db.delete(doorPass).where(inArray(doorPass.packetId, seriesOf(row)));
    },

    /**
     * Codes that are out for this person's links, to all of the client's packets, stop working: they went to where they
     * are reached no longer.
     */
    async dropCodes(clientId: Id<"Client">, relationId: Id<"Relation"> | null): Promise<void> {
      await db
        .update(personalLink)
        .set({ codeDigest: null, codeExpiresAt: null })
        .where(and(linksOf(clientId, relationId), isNotNull(personalLink.codeDigest)));
    },

    /** This person's links to all of the client's packets end, and every door they opened. Gives the packets. */
    async endThoseOf(clientId: Id<"Client">, relationId: Id<"Relation">, at: Instant): Promise<Id<"Packet">[]> {
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
    async byDigest(digest: string, forUpdate = false): Promise<{ link: PersonalLink; packet: Packet } | undefined> {
      const query = db
        .select()
        .from(personalLink)
        .innerJoin(packet, eq(packet.id, personalLink.packetId))
        .where(eq(personalLink.digest, digest));
      if (forUpdate) query.for("update");
      const [row] = await query;
      return row && { link: row.personal_link, packet: row.packet };
    },

    async byId(id: Id<"Link">): Promise<PersonalLink | undefined> {
      return (await db.select().from(personalLink).where(eq(personalLink.id, id)))[0];
    },

    /** A signer gets another link: what they had opens nothing any more. */
    async endForSigner(signerId: Id<"Signer">, at: Instant): Promise<void> {
      const ended = await db
        .update(personalLink)
        .set({ revokedAt: at, codeDigest: null })
        .where(and(eq(personalLink.signerId, signerId), isNull(personalLink.revokedAt)))
        .returning({ id: personalLink.id });
      if (ended.length === 0) return;
      const ids = ended.map(({ id }) => id);
      await db.delete(doorPass).where(inArray(doorPass.linkId, ids));
    },

    async update(id: Id<"Link">, set: Partial<PersonalLink>): Promise<void> {
      await db.update(personalLink).set(set).where(eq(personalLink.id, id));
    },
  };
};
