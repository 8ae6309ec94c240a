import { and, asc, desc, eq, isNotNull, isNull } from "drizzle-orm";
import type { Id, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { packet, packetPart, sealCertificate, sealedPaper } from "../schema";

export type SealedPaper = typeof sealedPaper.$inferSelect;
export type SealCertificate = Omit<typeof sealCertificate.$inferSelect, "key">;

/** Papers that are sealed, and what they are sealed with. */
export const sealedPaperRepository = (db: Db, sealer: Sealer) => {
  const keyPlace = (id: string): string => `seal-key:${id}`;
  return {
    /** Gives false where this revision is there already. */
    async add(row: SealedPaper): Promise<boolean> {
      const added = await db.insert(sealedPaper).values(row).onConflictDoNothing().returning({ id: sealedPaper.id });
      return added.length === 1;
    },
    /** Oldest first. */
    async ofPart(partId: Id<"Part">): Promise<SealedPaper[]> {
      return db
        .select()
        .from(sealedPaper)
        .where(eq(sealedPaper.partId, partId))
        .orderBy(asc(sealedPaper.number), asc(sealedPaper.revision));
    },
    async bySha256(practiceId: Id<"Practice">, sha256: string): Promise<SealedPaper | undefined> {
      const [row] = await db
        .select()
        .from(sealedPaper)
        .innerJoin(packetPart, eq(packetPart.id, sealedPaper.partId))
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(packet.practiceId, practiceId), eq(sealedPaper.sha256, sha256)));
      return row?.sealed_paper;
    },

    async addCertificate(row: SealCertificate, key: string): Promise<void> {
      await db
        .update(sealCertificate)
        .set({ endedAt: row.createdAt })
        .where(
          and(
            eq(sealCertificate.practiceId, row.practiceId),
            eq(sealCertificate.use, row.use),
            isNull(sealCertificate.endedAt),
          ),
        );
      await db.insert(sealCertificate).values({ ...row, key: sealer.seal(keyPlace(row.id), key) });
    },
    /** What seals now, with its PKCS #8 key in base64. */
    async current(
      practiceId: Id<"Practice">,
      use: SealCertificate["use"],
    ): Promise<(SealCertificate & { readonly key: string }) | undefined> {
      const [row] = await db
        .select()
        .from(sealCertificate)
        .where(
          and(
            eq(sealCertificate.practiceId, practiceId),
            eq(sealCertificate.use, use),
            isNull(sealCertificate.endedAt),
            isNotNull(sealCertificate.key),
          ),
        );
      return row && { ...row, key: sealer.open<string>(keyPlace(row.id), row.key!) };
    },
    /** All there ever were, the newest first: an old paper is checked with what sealed it. */
    async certificates(practiceId: Id<"Practice">): Promise<SealCertificate[]> {
      const rows = await db
        .select()
        .from(sealCertificate)
        .where(eq(sealCertificate.practiceId, practiceId))
        .orderBy(desc(sealCertificate.createdAt));
      return rows.map(({ key: _key, ...row }) => row);
    },
  };
};
