import { and, eq, gte, inArray, isNotNull, sql } from "drizzle-orm";
import type { ClientIdentity } from "../../core/chart";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client, relation } from "../schema";
import { clientKeyRepository } from "./client-keys";
import type { Relation, RelationPerson } from "./relations";
import { inSight, type Sight } from "./sight";

export interface Client extends ClientIdentity {
  readonly id: Id<"Client">;
  readonly language: string;
  readonly zone: string | null;
  readonly prefers: "email" | "text";
  readonly archivedAt: Instant | null;
  readonly mergedInto: Id<"Client"> | null;
  /** From then on nothing of them opens: they have no name. */
  readonly erasedAt: Instant | null;
  /** The made-up one to try things on. */
  readonly isTest: boolean;
}
/** Whether visits are made for them and packets sent: not the archived, nor a record that was made one with another. */
export const isHere = ({ archivedAt, mergedInto }: Pick<Client, "archivedAt" | "mergedInto">): boolean =>
  archivedAt === null && mergedInto === null;
/** A client with those around them, as a list in memory keeps them. */
export interface KnownClient extends Client {
  readonly around: readonly Relation[];
}
/** Who changed since a list was last brought up to date, and the mark to ask from next time. */
export interface ChangedClients {
  readonly clients: readonly KnownClient[];
  readonly mark: string;
}

/** Reads rows of clients whose keys are known: names and contacts are opened. */
export const clientReader =
  (sealer: Sealer) =>
  (row: typeof client.$inferSelect): Client => ({
    id: row.id,
    language: row.language,
    zone: row.zone,
    prefers: row.prefers,
    archivedAt: row.archivedAt,
    mergedInto: row.mergedInto,
    isTest: row.isTest,
    erasedAt: row.erasedAt,
    ...(row.keyId === null
      ? { firstName: "", lastName: "" }
      : sealer.open<ClientIdentity>(`client:${row.id}:identity`, row.identity)),
  });

/** A query takes so many values. */
const mostAtOnce = 10_000;

export const clientRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const read = clientReader(sealer);
  const seen = inSight(db, sight);
  const keys = clientKeyRepository(db, sealer);
  /** Whoever was erased is not there. */
  const one = (practiceId: Id<"Practice">, id: Id<"Client">) =>
    and(eq(client.practiceId, practiceId), eq(client.id, id), isNotNull(client.keyId), seen(client.id));
  async function readAll(rows: readonly (typeof client.$inferSelect)[]): Promise<Client[]> {
    await keys.know(rows.map(({ keyId }) => keyId));
    return rows.map(read);
  }
  return {
    /** Gives false when there is somebody of that id already. */
    async add(row: {
      id: Id<"Client">;
      practiceId: Id<"Practice">;
      language: string;
      zone?: string;
      prefers: "email" | "text";
      createdAt: Instant;
      isTest?: boolean;
      identity: ClientIdentity;
    }): Promise<boolean> {
      const key = sealer.clientKeys.make();
      const added = await db
        .insert(client)
        .values({ ...row, keyId: key.id, identity: sealer.seal(`client:${row.id}:identity`, row.identity, key.id) })
        .onConflictDoNothing()
        .returning({ id: client.id });
      if (added.length === 1) await keys.add(key.id, key.sealed, row.createdAt);
      return added.length === 1;
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Client">): Promise<Client | undefined> {
      return (await readAll(await db.select().from(client).where(one(practiceId, id))))[0];
    },
    /** In no order; whoever is not there, or not in sight, is left out. Whoever was erased is there, without a name. */
    async byIds(practiceId: Id<"Practice">, ids: readonly Id<"Client">[]): Promise<Map<string, Client>> {
      if (ids.length === 0) return new Map();
      const rows = await db
        .select()
        .from(client)
        .where(and(eq(client.practiceId, practiceId), inArray(client.id, [...ids]), seen(client.id)));
      return new Map((await readAll(rows)).map((one) => [one.id as string, one]));
    },
    /** Holds the client's row until the transaction ends: postings for one client come one after the other. */
    async hold(practiceId: Id<"Practice">, id: Id<"Client">): Promise<boolean> {
      return (await db.select({ id: client.id }).from(client).where(one(practiceId, id)).for("update")).length === 1;
    },
    /** The practice's test client, whoever sees them. */
    async testClient(practiceId: Id<"Practice">): Promise<Id<"Client"> | undefined> {
      const [row] = await db
        .select({ id: client.id })
        .from(client)
        .where(and(eq(client.practiceId, practiceId), client.isTest))
        .limit(1);
      return row?.id;
    },
    /** Whether these are all there, and in sight. */
    async hasAll(practiceId: Id<"Practice">, ids: readonly Id<"Client">[]): Promise<boolean> {
      const wanted = [...new Set(ids)];
      let there = 0;
      for (let at = 0; at < wanted.length; at += mostAtOnce)
        there += await db.$count(
          client,
          and(
            eq(client.practiceId, practiceId),
            inArray(client.id, wanted.slice(at, at + mostAtOnce)),
            seen(client.id),
          ),
        );
      return there === wanted.length;
    },
    /**
     * Everybody who changed, or around whom somebody did, in a transaction that was not over when `mark` was given out;
     * without a mark, everybody. For the list in memory, which is the whole practice's: narrowed by whoever reads it.
     */
    async changedSince(practiceId: Id<"Practice">, mark: string | undefined): Promise<ChangedClients> {
      const [next] = await db
        .select({ mark: sql<string>`pg_snapshot_xmin(pg_current_snapshot())::text` })
        .from(sql`(select 1) as now`);
      const since = mark === undefined ? undefined : gte(client.changedIn, mark);
      const rows = await db
        .select()
        .from(client)
        .where(and(eq(client.practiceId, practiceId), since));
      await keys.know(rows.map(({ keyId }) => keyId));
      const around = new Map<string, readonly Relation[]>();
      if (rows.length > 0) {
        const people = await db
          .select({ relation })
          .from(relation)
          .innerJoin(client, eq(client.id, relation.clientId))
          .where(
            and(eq(client.practiceId, practiceId), since, sql`${relation.endedAt} is null`, isNotNull(relation.keyId)),
          )
          .orderBy(sql`${relation.createdAt} nulls first`, relation.id);
        await keys.know(people.map(({ relation: { keyId } }) => keyId));
        for (const { relation: row } of people) {
          const person = sealer.open<RelationPerson>(`relation:${row.id}:person`, row.person);
          const own = around.get(row.clientId) ?? [];
          around.set(row.clientId, [
            ...own,
            { id: row.id, kind: row.kind, prefers: row.prefers, ended: false, ...person },
          ]);
        }
      }
      return { mark: next!.mark, clients: rows.map((row) => ({ ...read(row), around: around.get(row.id) ?? [] })) };
    },
    async setIdentity(id: Id<"Client">, identity: ClientIdentity): Promise<void> {
      const keyId = await keys.of(id);
      await db
        .update(client)
        .set({ identity: sealer.seal(`client:${id}:identity`, identity, keyId) })
        .where(eq(client.id, id));
    },
    async update(
      id: Id<"Client">,
      set: Partial<Pick<typeof client.$inferInsert, "language" | "prefers" | "zone" | "archivedAt" | "mergedInto">>,
    ): Promise<void> {
      await db.update(client).set(set).where(eq(client.id, id));
    },
  };
};
