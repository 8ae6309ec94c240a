import { and, asc, desc, eq, gte, inArray, lt, sql } from "drizzle-orm";
import type { ClientIdentity } from "../../core/chart";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client, relation, staff, visit, visitType } from "../schema";

export interface Client extends ClientIdentity {
  readonly id: Id<"Client">;
  readonly language: string;
  readonly zone: string | null;
  readonly prefers: "email" | "text";
}
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
export interface Visit {
  readonly id: Id<"Visit">;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly client: Client;
  readonly staffId: Id<"Staff">;
  readonly staffName: string;
  readonly visitType: string;
  readonly visitTypeId: Id<"VisitType">;
}

export const clientRepository = (db: Db, sealer: Sealer) => {
  const read = (row: typeof client.$inferSelect): Client => ({
    id: row.id,
    language: row.language,
    zone: row.zone,
    prefers: row.prefers,
    ...sealer.open<ClientIdentity>(`client:${row.id}:identity`, row.identity),
  });
  const visitRows = () =>
    db
      .select({ visit, client, staffName: staff.name, typeName: visitType.name })
      .from(visit)
      .innerJoin(client, eq(client.id, visit.clientId))
      .innerJoin(staff, eq(staff.id, visit.staffId))
      .innerJoin(visitType, eq(visitType.id, visit.visitTypeId));
  type VisitRow = Awaited<ReturnType<typeof visitRows>>[number];
  const readVisit = (reader: VisitRow): Visit => ({
    id: reader.visit.id,
    startsAt: reader.visit.startsAt,
    endsAt: reader.visit.endsAt,
    client: read(reader.client),
    staffId: reader.visit.staffId,
    staffName: reader.staffName,
    visitType: reader.typeName,
    visitTypeId: reader.visit.visitTypeId,
  });
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
    async setIdentity(id: Id<"Client">, identity: ClientIdentity): Promise<void> {
      await db
        .update(client)
        .set({ identity: sealer.seal(`client:${id}:identity`, identity) })
        .where(eq(client.id, id));
    },
    async update(
      id: Id<"Client">,
      set: { readonly language: string; readonly prefers: "email" | "text" },
    ): Promise<void> {
      await db.update(client).set(set).where(eq(client.id, id));
    },
    async addRelation(row: {
      id: Id<"Relation">;
      clientId: Id<"Client">;
      kind: Relation["kind"];
      prefers: "email" | "text";
      createdAt?: Instant;
      person: RelationPerson;
    }): Promise<boolean> {
      return (
        (
          await db
            .insert(relation)
            .values({ ...row, person: sealer.seal(`relation:${row.id}:person`, row.person) })
            .onConflictDoNothing()
            .returning({ id: relation.id })
        ).length === 1
      );
    },
    async updateRelation(
      id: Id<"Relation">,
      {
        person,
        ...set
      }: { readonly kind: Relation["kind"]; readonly prefers: "email" | "text"; readonly person: RelationPerson },
    ): Promise<void> {
      await db
        .update(relation)
        .set({ ...set, person: sealer.seal(`relation:${id}:person`, person) })
        .where(eq(relation.id, id));
    },
    async endRelation(id: Id<"Relation">, at: Instant): Promise<void> {
      await db.update(relation).set({ endedAt: at }).where(eq(relation.id, id));
    },
    /** In the order they were added; those who are no longer around the client are among them. */
    async relations(clientId: Id<"Client">): Promise<Relation[]> {
      const rows = await db
        .select()
        .from(relation)
        .where(eq(relation.clientId, clientId))
        .orderBy(sql`${relation.createdAt} nulls first`, asc(relation.id));
      return rows.map((r) => ({
        id: r.id,
        kind: r.kind,
        prefers: r.prefers,
        ended: r.endedAt !== null,
        ...sealer.open<RelationPerson>(`relation:${r.id}:person`, r.person),
      }));
    },
    async addVisits(rows: (typeof visit.$inferInsert)[]): Promise<void> {
      await db.insert(visit).values(rows);
    },
    async visitsBetween(practiceId: Id<"Practice">, from: Instant, to: Instant): Promise<Visit[]> {
      const rows = await visitRows()
        .where(and(eq(visit.practiceId, practiceId), gte(visit.startsAt, from), lt(visit.startsAt, to)))
        .orderBy(asc(visit.startsAt), asc(visit.id));
      return rows.map(readVisit);
    },
    async visit(practiceId: Id<"Practice">, id: Id<"Visit">): Promise<Visit | undefined> {
      const [row] = await visitRows().where(and(eq(visit.practiceId, practiceId), eq(visit.id, id)));
      return row && readVisit(row);
    },
    async visitsOf(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Visit[]> {
      const rows = await visitRows()
        .where(and(eq(visit.practiceId, practiceId), eq(visit.clientId, clientId)))
        .orderBy(desc(visit.startsAt));
      return rows.map(readVisit);
    },
    async visitsById(practiceId: Id<"Practice">, ids: readonly Id<"Visit">[]): Promise<Map<string, Visit>> {
      if (ids.length === 0) return new Map();
      const rows = await visitRows().where(and(eq(visit.practiceId, practiceId), inArray(visit.id, [...ids])));
      return new Map(rows.map((r) => [r.visit.id as string, readVisit(r)]));
    },
  };
};
