import { and, eq } from "drizzle-orm";
import type { ClientIdentity } from "../../core/chart";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client } from "../schema";

export interface Client extends ClientIdentity {
  readonly id: Id<"Client">;
  readonly language: string;
  readonly zone: string | null;
  readonly prefers: "email" | "text";
}

/** Reads rows of clients: names and contacts are opened. */
export const clientReader =
  (sealer: Sealer) =>
  (row: typeof client.$inferSelect): Client => ({
    id: row.id,
    language: row.language,
    zone: row.zone,
    prefers: row.prefers,
    ...sealer.open<ClientIdentity>(`client:${row.id}:identity`, row.identity),
  });

export const clientRepository = (db: Db, sealer: Sealer) => {
  const read = clientReader(sealer);
  return {
    /** Gives false when there is somebody of that id already. */
    async add(row: {
      id: Id<"Client">;
      practiceId: Id<"Practice">;
      language: string;
      zone?: string;
      prefers: "email" | "text";
      createdAt: Instant;
      identity: ClientIdentity;
    }): Promise<boolean> {
      return (
        (
          await db
            .insert(client)
            .values({ ...row, identity: sealer.seal(`client:${row.id}:identity`, row.identity) })
            .onConflictDoNothing()
            .returning({ id: client.id })
        ).length === 1
      );
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Client">): Promise<Client | undefined> {
      const [row] = await db
        .select()
        .from(client)
        .where(and(eq(client.practiceId, practiceId), eq(client.id, id)));
      return row && read(row);
    },
    /** Holds the client's row until the transaction ends: postings for one client come one after the other. */
    async hold(practiceId: Id<"Practice">, id: Id<"Client">): Promise<boolean> {
      return (
        (
          await db
            .select({ id: client.id })
            .from(client)
            .where(and(eq(client.practiceId, practiceId), eq(client.id, id)))
            .for("update")
        ).length === 1
      );
    },
    async all(practiceId: Id<"Practice">): Promise<Client[]> {
      const rows = (await db.select().from(client).where(eq(client.practiceId, practiceId))).map(read);
      return rows.sort((a, b) => a.lastName.localeCompare(b.lastName) || a.firstName.localeCompare(b.firstName));
    },
    /** Whether what is sealed opens with these keys; true where nothing is there to try. */
    async opens(): Promise<boolean> {
      const [row] = await db.select().from(client).limit(1);
      try {
        if (row) read(row);
        return true;
      } catch {
        return false;
      }
    },
    async setIdentity(id: Id<"Client">, identity: ClientIdentity): Promise<void> {
      await db
        .update(client)
        .set({ identity: sealer.seal(`client:${id}:identity`, identity) })
        .where(eq(client.id, id));
    },
    async update(
      id: Id<"Client">,
      set: { readonly language: string; readonly prefers: "email" | "text"; readonly zone: string | null },
    ): Promise<void> {
      await db.update(client).set(set).where(eq(client.id, id));
    },
  };
};
