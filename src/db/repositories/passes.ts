import { and, eq, gt } from "drizzle-orm";
import { type LinkRole } from "../../core/packet";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { doorPass, personalLink, staff } from "../schema";

/** What a pass opens, for whom, and until when. `handedBy`: the name of who handed over a device of the practice. */
export interface DoorPass {
  readonly packetId: Id<"Packet">;
  readonly linkId: Id<"Link">;
  readonly role: LinkRole;
  readonly relationId: Id<"Relation"> | null;
  readonly proved: boolean;
  readonly handedBy: string | null;
  readonly expiresAt: Instant;
  readonly unseen: boolean;
  /** How who has it proved who they are (see core/signing's Proof). */
  readonly way: string;
  readonly createdAt: Instant;
  /** Whose signature it was given for. */
  readonly signerId: Id<"Signer"> | null;
}
/** Devices that passed a door check. */
export const passRepository = (db: Db) => {
  return {
    async add(row: typeof doorPass.$inferInsert): Promise<void> {
      await db.insert(doorPass).values(row);
    },

    async extend(digest: string, expiresAt: Instant): Promise<void> {
      await db.update(doorPass).set({ expiresAt }).where(eq(doorPass.digest, digest));
    },

    /** A pass ends, and with it the link that was made for it alone. */
    async end(digest: string, linkId: Id<"Link">, at: Instant): Promise<void> {
      await db.delete(doorPass).where(eq(doorPass.digest, digest));
      await db.update(personalLink).set({ revokedAt: at, codeDigest: null }).where(eq(personalLink.id, linkId));
    },

    /** The link whose door a pass was given at, whether or not it still holds. */
    async linkOf(digest: string): Promise<Id<"Link"> | undefined> {
      const [row] = await db.select({ linkId: doorPass.linkId }).from(doorPass).where(eq(doorPass.digest, digest));
      return row?.linkId;
    },

    /** A pass that still holds. Read by keys, since much stands behind it: revoking a link deletes its passes. */
    async byDigest(digest: string, now: Instant): Promise<DoorPass | undefined> {
      const [row] = await db
        .select({
          packetId: doorPass.packetId,
          linkId: doorPass.linkId,
          role: personalLink.role,
          relationId: personalLink.relationId,
          proved: doorPass.proved,
          handedBy: staff.name,
          unseen: doorPass.unseen,
          expiresAt: doorPass.expiresAt,
          way: doorPass.way,
          createdAt: doorPass.createdAt,
          signerId: personalLink.signerId,
        })
        .from(doorPass)
        .innerJoin(personalLink, eq(personalLink.id, doorPass.linkId))
        .leftJoin(staff, eq(staff.id, doorPass.handedBy))
        .where(and(eq(doorPass.digest, digest), gt(doorPass.expiresAt, now)));
      return row;
    },
  };
};
