import { and, asc, eq, isNotNull, sql } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { relation } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, type Sight } from "./sight";

export interface RelationPerson {
  readonly firstName: string;
  readonly lastName: string;
  readonly email?: string;
  readonly phone?: string;
}
export interface Relation extends RelationPerson {
  readonly id: Id<"Relation">;
  readonly kind: "guardian" | "parent" | "partner" | "supervisor";
  readonly prefers: "email" | "text";
  readonly ended: boolean;
}
/** Those around a client. */
export const relationRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  return {
    async add(row: {
      id: Id<"Relation">;
      clientId: Id<"Client">;
      kind: Relation["kind"];
      prefers: "email" | "text";
      createdAt?: Instant;
      person: RelationPerson;
    }): Promise<boolean> {
      const keyId = await keys.of(row.clientId);
      return (
        (
          await db
            .insert(relation)
            .values({ ...row, keyId, person: sealer.seal(`relation:${row.id}:person`, row.person, keyId) })
            .onConflictDoNothing()
            .returning({ id: relation.id })
        ).length === 1
      );
    },

    async update(
      id: Id<"Relation">,
      {
        person,
        ...set
      }: { readonly kind: Relation["kind"]; readonly prefers: "email" | "text"; readonly person: RelationPerson },
    ): Promise<void> {
      const [row] = await db.select({ keyId: relation.keyId }).from(relation).where(eq(relation.id, id));
      if (!row?.keyId) return;
      await keys.know([row.keyId]);
      await db
        .update(relation)
        .set({ ...set, person: sealer.seal(`relation:${id}:person`, person, row.keyId) })
        .where(eq(relation.id, id));
    },

    async end(id: Id<"Relation">, at: Instant): Promise<void> {
      await db.update(relation).set({ endedAt: at }).where(eq(relation.id, id));
    },

    /** In the order they were added; those who are no longer around the client are among them. */
    async ofClient(clientId: Id<"Client">): Promise<Relation[]> {
      const rows = await db
        .select()
        .from(relation)
        .where(and(eq(relation.clientId, clientId), isNotNull(relation.keyId), seen(relation.clientId)))
        .orderBy(sql`${relation.createdAt} nulls first`, asc(relation.id));
      await keys.know(rows.map(({ keyId }) => keyId));
      return rows.map((r) => ({
        id: r.id,
        kind: r.kind,
        prefers: r.prefers,
        ended: r.endedAt !== null,
        ...sealer.open<RelationPerson>(`relation:${r.id}:person`, r.person),
      }));
    },
  };
};
