import { and, desc, eq, inArray, isNull, or } from "drizzle-orm";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import {
  alert,
  broughtScore,
  clientMerge,
  clientStaff,
  consent,
  mailingPerson,
  measureSchedule,
  note,
  packet,
  relation,
  visit,
} from "../schema";

export type ClientMerge = typeof clientMerge.$inferSelect;
/** What is a client's besides their chart, which stays where it was written. */
const tables = {
  packet,
  visit,
  note,
  relation,
  mailing: mailingPerson,
  consent,
  alert,
  score: broughtScore,
  schedule: measureSchedule,
} as const;
type Table = keyof typeof tables;
const names = Object.keys(tables) as readonly Table[];

export const clientMergeRepository = (db: Db) => ({
  /** How much of each there is. */
  async counts(clientId: Id<"Client">): Promise<Readonly<Record<Table, number>>> {
    const counted = Object.fromEntries(names.map((name) => [name, 0])) as Record<Table, number>;
    for (const name of names) counted[name] = await db.$count(tables[name], eq(tables[name].clientId, clientId));
    return counted;
  },
  /** Everything of one client's goes to the other, and whose client they were; gives which rows went. */
  async moveAll(from: Id<"Client">, to: Id<"Client">): Promise<Record<string, string[]>> {
    const moved: Record<string, string[]> = {};
    for (const name of names) {
      const rows = await db
        .update(tables[name])
        .set({ clientId: to })
        .where(eq(tables[name].clientId, from))
        .returning({ id: tables[name].id });
      moved[name] = rows.map(({ id }) => id);
    }
    const own = await db.select().from(clientStaff).where(eq(clientStaff.clientId, from));
    const joined =
      own.length === 0
        ? []
        : await db
            .insert(clientStaff)
            .values(own.map(({ staffId }) => ({ clientId: to, staffId })))
            .onConflictDoNothing()
            .returning({ id: clientStaff.staffId });
    moved["staff"] = joined.map(({ id }) => id);
    return moved;
  },
  /** Those rows go back, as far as they are still there. */
  async moveBack({ moved, keptId, goneId }: Pick<ClientMerge, "moved" | "keptId" | "goneId">): Promise<void> {
    for (const name of names) {
      const ids = moved[name] ?? [];
      if (ids.length > 0)
        await db
          .update(tables[name])
          .set({ clientId: goneId })
          .where(and(inArray(tables[name].id, ids as never[]), eq(tables[name].clientId, keptId)));
    }
    const staff = (moved["staff"] ?? []) as Id<"Staff">[];
    if (staff.length > 0)
      await db.delete(clientStaff).where(and(eq(clientStaff.clientId, keptId), inArray(clientStaff.staffId, staff)));
  },
  /** Gives false where this request already did. */
  async add(row: ClientMerge): Promise<boolean> {
    return (
      (await db.insert(clientMerge).values(row).onConflictDoNothing().returning({ id: clientMerge.id })).length === 1
    );
  },
  async byId(id: Id<"Merge">): Promise<ClientMerge | undefined> {
    return (await db.select().from(clientMerge).where(eq(clientMerge.id, id)))[0];
  },
  /** Those that stand, newest first: into this client, or of this one into another. */
  async of(clientId: Id<"Client">): Promise<ClientMerge[]> {
    return db
      .select()
      .from(clientMerge)
      .where(and(isNull(clientMerge.undoneAt), or(eq(clientMerge.keptId, clientId), eq(clientMerge.goneId, clientId))))
      .orderBy(desc(clientMerge.at));
  },
  async undo(id: Id<"Merge">, at: Instant): Promise<void> {
    await db.update(clientMerge).set({ undoneAt: at }).where(eq(clientMerge.id, id));
  },
});
