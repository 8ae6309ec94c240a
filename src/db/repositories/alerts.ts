import { and, asc, desc, eq, inArray, isNull, lt } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { alert } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, ofReal, type Sight } from "./sight";

/** A return that alarms. */
export interface RaisedAlert {
  readonly id: Id<"Alert">;
  readonly clientId: Id<"Client">;
  readonly packetId: Id<"Packet">;
  readonly raisedAt: Instant;
  readonly escalatedAt: Instant | null;
  readonly done: { readonly at: Instant; readonly by: Id<"Staff">; readonly words: string } | undefined;
}

/** Alerts, open until somebody wrote what was done. */
export const alertRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const keys = clientKeyRepository(db, sealer);
  const seen = inSight(db, sight);
  const place = (id: string): string => `alert:${id}`;
  const read = ({ done, doneAt, doneBy, practiceId: _, ...row }: typeof alert.$inferSelect): RaisedAlert => ({
    ...row,
    done:
      doneAt && doneBy
        ? { at: doneAt, by: doneBy, words: done ? sealer.open<string>(place(row.id), done) : "" }
        : undefined,
  });
  return {
    async raise(
      row: Pick<typeof alert.$inferInsert, "id" | "practiceId" | "clientId" | "packetId" | "raisedAt">,
    ): Promise<void> {
      await db.insert(alert).values(row);
    },
    async byId(id: Id<"Alert">, forUpdate = false): Promise<RaisedAlert | undefined> {
      const query = db
        .select()
        .from(alert)
        .where(and(eq(alert.id, id), seen(alert.clientId)));
      if (forUpdate) query.for("update");
      const rows = await query;
      await keys.knowFor(rows.map(({ done }) => done));
      return rows.map(read)[0];
    },
    /** Of these clients, the newest first. */
    async ofClients(clientIds: readonly Id<"Client">[]): Promise<RaisedAlert[]> {
      if (clientIds.length === 0) return [];
      const rows = await db
        .select()
        .from(alert)
        .where(and(inArray(alert.clientId, [...clientIds]), seen(alert.clientId)))
        .orderBy(desc(alert.raisedAt));
      await keys.knowFor(rows.map(({ done }) => done));
      return rows.map(read);
    },
    /** The oldest first. */
    async open(practiceId: Id<"Practice">): Promise<RaisedAlert[]> {
      const rows = await db
        .select()
        .from(alert)
        .where(and(eq(alert.practiceId, practiceId), isNull(alert.doneAt), seen(alert.clientId)))
        .orderBy(asc(alert.raisedAt));
      return rows.map(read);
    },
    async close(
      { id, clientId }: Pick<RaisedAlert, "id" | "clientId">,
      done: { readonly at: Instant; readonly by: Id<"Staff">; readonly words: string },
    ): Promise<void> {
      const sealed = sealer.seal(place(id), done.words, await keys.of(clientId));
      await db.update(alert).set({ doneAt: done.at, doneBy: done.by, done: sealed }).where(eq(alert.id, id));
    },
    /** Whether one is open over this return. */
    async isOpen(packetId: Id<"Packet">): Promise<boolean> {
      return (await db.$count(alert, and(eq(alert.packetId, packetId), isNull(alert.doneAt)))) > 0;
    },
    /** Raised before, still open, and nobody told that yet; they are told once. The test client's wake nobody. */
    async takeOverdue(practiceId: Id<"Practice">, raisedBefore: Instant, at: Instant): Promise<RaisedAlert[]> {
      const rows = await db
        .update(alert)
        .set({ escalatedAt: at })
        .where(
          and(
            eq(alert.practiceId, practiceId),
            isNull(alert.doneAt),
            isNull(alert.escalatedAt),
            lt(alert.raisedAt, raisedBefore),
            ofReal(db, alert.clientId),
          ),
        )
        .returning();
      return rows.map(read);
    },
  };
};
