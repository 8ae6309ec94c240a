import { and, asc, eq } from "drizzle-orm";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { standingPacket } from "../schema";

export type StandingPacket = typeof standingPacket.$inferSelect;

export const standingRepository = (db: Db) => ({
  async all(practiceId: Id<"Practice">): Promise<StandingPacket[]> {
    return db
      .select()
      .from(standingPacket)
      .where(eq(standingPacket.practiceId, practiceId))
      .orderBy(asc(standingPacket.title), asc(standingPacket.id));
  },
  /** Made, or changed where there is one of that id in this practice. */
  async put(row: StandingPacket): Promise<void> {
    const { title, questionnaires, visitTypes, leaflets, updatedAt } = row;
    await db
      .insert(standingPacket)
      .values(row)
      .onConflictDoUpdate({
        target: standingPacket.id,
        set: { title, questionnaires, visitTypes, leaflets, updatedAt },
        setWhere: eq(standingPacket.practiceId, row.practiceId),
      });
  },
  /** Packets that were sent from it stay. False: there is none of that id. */
  async remove(practiceId: Id<"Practice">, id: Id<"StandingPacket">): Promise<boolean> {
    return (
      (
        await db
          .delete(standingPacket)
          .where(and(eq(standingPacket.practiceId, practiceId), eq(standingPacket.id, id)))
          .returning({ id: standingPacket.id })
      ).length > 0
    );
  },
});
