import { and, asc, eq } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { leaflet } from "../schema";

export type Leaflet = typeof leaflet.$inferSelect;

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
