import { and, asc, eq } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { leaflet, standingPacket, visitType } from "../schema";

export type StandingPacket = typeof standingPacket.$inferSelect;
export type Leaflet = typeof leaflet.$inferSelect;

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
  async visitTypes(practiceId: Id<"Practice">): Promise<{ id: Id<"VisitType">; name: string }[]> {
    return db
      .select({ id: visitType.id, name: visitType.name })
      .from(visitType)
      .where(eq(visitType.practiceId, practiceId))
      .orderBy(asc(visitType.name));
  },
});

export const leafletRepository = (db: Db) => ({
  /** Retired ones too: packets that went out with one still show it. */
  async all(practiceId: Id<"Practice">): Promise<Leaflet[]> {
    return db
      .select()
      .from(leaflet)
      .where(eq(leaflet.practiceId, practiceId))
      .orderBy(asc(leaflet.title), asc(leaflet.id));
  },
  /** Gives false when there is one of that id. */
  async add(row: typeof leaflet.$inferInsert): Promise<boolean> {
    return (await db.insert(leaflet).values(row).onConflictDoNothing().returning({ id: leaflet.id })).length === 1;
  },
  async retire(practiceId: Id<"Practice">, id: Id<"Leaflet">, at: Instant): Promise<boolean> {
    return (
      (
        await db
          .update(leaflet)
          .set({ retiredAt: at })
          .where(and(eq(leaflet.practiceId, practiceId), eq(leaflet.id, id)))
          .returning({ id: leaflet.id })
      ).length === 1
    );
  },
});
