import { clientReader, type Client } from "./clients";
import { and, asc, desc, eq, gte, inArray, lt } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client, staff, visit, visitType } from "../schema";

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
export const visitRepository = (db: Db, sealer: Sealer) => {
  const read = clientReader(sealer);
  const visitRows = () =>
    db
      .select({ visit, client, staffName: staff.name, typeName: visitType.name })
      .from(visit)
      .innerJoin(client, eq(client.id, visit.clientId))
      .innerJoin(staff, eq(staff.id, visit.staffId))
      .innerJoin(visitType, eq(visitType.id, visit.visitTypeId));
  type VisitRow = Awaited<ReturnType<typeof visitRows>>[number];
  const readVisit = (row: VisitRow): Visit => ({
    id: row.visit.id,
    startsAt: row.visit.startsAt,
    endsAt: row.visit.endsAt,
    client: read(row.client),
    staffId: row.visit.staffId,
    staffName: row.staffName,
    visitType: row.typeName,
    visitTypeId: row.visit.visitTypeId,
  });
  return {
    async add(rows: (typeof visit.$inferInsert)[]): Promise<void> {
      await db.insert(visit).values(rows);
    },

    async between(practiceId: Id<"Practice">, from: Instant, to: Instant): Promise<Visit[]> {
      const rows = await visitRows()
        .where(and(eq(visit.practiceId, practiceId), gte(visit.startsAt, from), lt(visit.startsAt, to)))
        .orderBy(asc(visit.startsAt), asc(visit.id));
      return rows.map(readVisit);
    },

    async byId(practiceId: Id<"Practice">, id: Id<"Visit">): Promise<Visit | undefined> {
      const [row] = await visitRows().where(and(eq(visit.practiceId, practiceId), eq(visit.id, id)));
      return row && readVisit(row);
    },

    async ofClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Visit[]> {
      const rows = await visitRows()
        .where(and(eq(visit.practiceId, practiceId), eq(visit.clientId, clientId)))
        .orderBy(desc(visit.startsAt));
      return rows.map(readVisit);
    },

    async byIds(practiceId: Id<"Practice">, ids: readonly Id<"Visit">[]): Promise<Map<string, Visit>> {
      if (ids.length === 0) return new Map();
      const rows = await visitRows().where(and(eq(visit.practiceId, practiceId), inArray(visit.id, [...ids])));
      return new Map(rows.map((r) => [r.visit.id as string, readVisit(r)]));
    },
  };
};
