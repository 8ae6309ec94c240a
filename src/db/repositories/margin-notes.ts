import { asc, eq, inArray } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { marginNote, staff } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";

export interface MarginNote {
  readonly id: Id<"MarginNote">;
  readonly partId: Id<"Part">;
  readonly key: string;
  readonly staffId: Id<"Staff">;
  readonly by: string;
  readonly text: string;
  readonly at: Instant;
}
/** Remarks of staff's beside answers. */
export const marginNoteRepository = (db: Db, sealer: Sealer) => {
  const keys = clientKeyRepository(db, sealer);
  const place = (id: string): string => `margin-note:${id}`;
  return {
    /** In the order they were written. */
    async ofParts(partIds: readonly Id<"Part">[]): Promise<MarginNote[]> {
      if (partIds.length === 0) return [];
      const rows = await db
        .select({ note: marginNote, by: staff.name })
        .from(marginNote)
        .innerJoin(staff, eq(staff.id, marginNote.staffId))
        .where(inArray(marginNote.partId, [...partIds]))
        .orderBy(asc(marginNote.createdAt), asc(marginNote.id));
      await keys.knowFor(rows.map(({ note }) => note.sealed));
      return rows.map(({ note: { id, partId, key, staffId, sealed, createdAt }, by }) => ({
        id,
        partId,
        key,
        staffId,
        by,
        at: createdAt,
        text: sealer.open<string>(place(id), sealed),
      }));
    },
    /** Gives false where it is there already. */
    async add({ id, partId, key, staffId, text, at }: Omit<MarginNote, "by">): Promise<boolean> {
      const keyId = (await knownPart(db, partId))?.keyId;
      await keys.know([keyId]);
      const added = await db
        .insert(marginNote)
        .values({ id, partId, key, staffId, createdAt: at, sealed: sealer.seal(place(id), text, keyId) })
        .onConflictDoNothing()
        .returning({ id: marginNote.id });
      return added.length === 1;
    },
    async drop(id: Id<"MarginNote">): Promise<void> {
      await db.delete(marginNote).where(eq(marginNote.id, id));
    },
  };
};
