import { desc, eq } from "drizzle-orm";
import type { ReconcileDraft } from "../../core/chart";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { packet, reconcileDraft, staff } from "../schema";
import { clientKeyRepository } from "./client-keys";

export interface KeptDecisions {
  readonly staffId: Id<"Staff">;
  readonly by: string;
  readonly draft: ReconcileDraft;
  readonly updatedAt: Instant;
}
/** What was decided about a return and is not posted yet. */
export const reconcileDraftRepository = (db: Db, sealer: Sealer) => {
  const keys = clientKeyRepository(db, sealer);
  const place = (packetId: string, staffId: string): string => `reconcile:${packetId}:${staffId}`;
  return {
    /** Everybody's, the newest first. */
    async of(packetId: Id<"Packet">): Promise<KeptDecisions[]> {
      const rows = await db
        .select({ draft: reconcileDraft, name: staff.name })
        .from(reconcileDraft)
        .innerJoin(staff, eq(staff.id, reconcileDraft.staffId))
        .where(eq(reconcileDraft.packetId, packetId))
        .orderBy(desc(reconcileDraft.updatedAt));
      await keys.knowFor(rows.map(({ draft }) => draft.sealed));
      return rows.map(({ draft, name }) => ({
        staffId: draft.staffId,
        by: name,
        draft: sealer.open<ReconcileDraft>(place(packetId, draft.staffId), draft.sealed),
        updatedAt: draft.updatedAt,
      }));
    },
    async put(packetId: Id<"Packet">, staffId: Id<"Staff">, draft: ReconcileDraft, updatedAt: Instant): Promise<void> {
      const [row] = await db.select({ keyId: packet.keyId }).from(packet).where(eq(packet.id, packetId));
      await keys.know([row?.keyId]);
      const sealed = sealer.seal(place(packetId, staffId), draft, row?.keyId ?? undefined);
      await db
        .insert(reconcileDraft)
        .values({ packetId, staffId, sealed, updatedAt })
        .onConflictDoUpdate({
          target: [reconcileDraft.packetId, reconcileDraft.staffId],
          set: { sealed, updatedAt },
        });
    },
    /** Everybody's, once it is posted. */
    async drop(packetId: Id<"Packet">): Promise<void> {
      await db.delete(reconcileDraft).where(eq(reconcileDraft.packetId, packetId));
    },
  };
};
