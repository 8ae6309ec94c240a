import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { endsOf, packPoints, unpackPoints, type Ends, type PackedPoints, type ScorePoint } from "../../core/measures";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { broughtScore, client, course } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { inSight, type Sight } from "./sight";

/** What was last made of a client's scores, or nothing where returns came or went since. */
export interface KeptCourse<Made> {
  readonly clientId: Id<"Client">;
  readonly revision: number;
  readonly made: Made | undefined;
}
export interface BroughtScore {
  readonly clientId: Id<"Client">;
  readonly versionId: Id<"Version">;
  readonly at: Instant;
  readonly linkId: string;
  readonly value: number;
}
const mostAtOnce = 5000;

/** What clients' scores came to over time, and scores from before that were brought from a file. */
export const courseRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const keys = clientKeyRepository(db, sealer);
  const seen = inSight(db, sight);
  const place = (clientId: string): string => `course:${clientId}`;
  const endsPlace = (clientId: string): string => `course-ends:${clientId}`;
  const broughtPlace = (id: string): string => `brought-score:${id}`;
  /** In sight, and not erased. */
  const here = (practiceId: Id<"Practice">) =>
    and(eq(client.practiceId, practiceId), isNotNull(client.keyId), seen(client.id));
  async function kept<Sealed, Made>(
    column: typeof course.sealed | typeof course.ends,
    placeOf: (clientId: string) => string,
    open: (sealed: Sealed) => Made,
    practiceId: Id<"Practice">,
    clientIds: readonly Id<"Client">[],
  ): Promise<KeptCourse<Made>[]> {
    if (clientIds.length === 0) return [];
    const rows = await db
      .select({
        clientId: client.id,
        keyId: client.keyId,
        revision: sql<number>`coalesce(${course.revision}, 0)`.mapWith(Number),
        sealed: sql<Uint8Array | null>`case when ${course.madeOf} = ${course.revision} then ${column} end`,
      })
      .from(client)
      .leftJoin(course, eq(course.clientId, client.id))
      .where(and(here(practiceId), inArray(client.id, [...clientIds])));
    await keys.know(rows.map(({ keyId }) => keyId));
    return rows.map(({ clientId, revision, sealed }) => ({
      clientId,
      revision,
      made: sealed ? open(sealer.open<Sealed>(placeOf(clientId), new Uint8Array(sealed))) : undefined,
    }));
  }
  return {
    /** Everybody who is neither erased nor made one with another, the test client left out. */
    async everybody(practiceId: Id<"Practice">): Promise<Id<"Client">[]> {
      const rows = await db
        .select({ id: client.id })
        .from(client)
        .where(and(here(practiceId), isNull(client.mergedInto), eq(client.isTest, false)));
      return rows.map(({ id }) => id);
    },
    /** All points, the oldest first. */
    points: (
      practiceId: Id<"Practice">,
      clientIds: readonly Id<"Client">[],
    ): Promise<KeptCourse<readonly ScorePoint[]>[]> =>
      kept<PackedPoints, readonly ScorePoint[]>(course.sealed, place, unpackPoints, practiceId, clientIds),
    /** The first and the last of each score: a fraction of the points to read and to open. */
    ends: (practiceId: Id<"Practice">, clientIds: readonly Id<"Client">[]): Promise<KeptCourse<readonly Ends[]>[]> =>
      kept<readonly Ends[], readonly Ends[]>(course.ends, endsPlace, (ends) => ends, practiceId, clientIds),
    /** Keeps what was made of revisions, unless something newer was made meanwhile. */
    async keep(
      all: readonly (Omit<KeptCourse<unknown>, "made"> & { readonly points: readonly ScorePoint[] })[],
    ): Promise<void> {
      if (all.length === 0) return;
      const ids = all.map(({ clientId }) => clientId);
      const rows = await db.select({ id: client.id, keyId: client.keyId }).from(client).where(inArray(client.id, ids));
      const keyOf = new Map(rows.map(({ id, keyId }) => [id, keyId]));
      await keys.know(keyOf.values());
      const values = all.flatMap(({ clientId, revision, points }) => {
        const keyId = keyOf.get(clientId);
        if (!keyId) return [];
        const sealed = sealer.seal(place(clientId), packPoints(points), keyId);
        const ends = sealer.seal(endsPlace(clientId), endsOf(points), keyId);
        return [{ clientId, revision, madeOf: revision, sealed, ends }];
      });
      if (values.length === 0) return;
      await db
        .insert(course)
        // In one order, as the trigger takes them.
        .values(values.sort((one, other) => (one.clientId < other.clientId ? -1 : 1)))
        .onConflictDoUpdate({
          target: course.clientId,
          set: { madeOf: sql`excluded.made_of`, sealed: sql`excluded.sealed`, ends: sql`excluded.ends` },
          setWhere: sql`coalesce(${course.madeOf}, 0) <= excluded.made_of`,
        });
    },
    /** Clients whose scores were not made since something of them changed; the test client too. */
    async stale(practiceId: Id<"Practice">, limit: number): Promise<Id<"Client">[]> {
      const rows = await db
        .select({ id: client.id })
        .from(client)
        .innerJoin(course, eq(course.clientId, client.id))
        .where(
          and(
            eq(client.practiceId, practiceId),
            isNotNull(client.keyId),
            isNull(client.mergedInto),
            sql`${course.madeOf} is distinct from ${course.revision}`,
          ),
        )
        .limit(limit);
      return rows.map(({ id }) => id);
    },
    /** Lines of a file; one that was brought before is left as it is. Gives how many are new. */
    async bring(
      practiceId: Id<"Practice">,
      scores: readonly (BroughtScore & { readonly id: Id<"BroughtScore">; readonly line: number })[],
      from: { readonly requestId: string; readonly at: Instant; readonly by: Id<"Staff"> },
    ): Promise<number> {
      let added = 0;
      for (let start = 0; start < scores.length; start += mostAtOnce) {
        const rows = [];
        for (const { id, line, clientId, versionId, ...said } of scores.slice(start, start + mostAtOnce)) {
          const sealed = sealer.seal(broughtPlace(id), said, await keys.of(clientId));
          const { requestId, at, by } = from;
          rows.push({ id, practiceId, clientId, versionId, requestId, line, broughtAt: at, broughtBy: by, sealed });
        }
        const made = await db
          .insert(broughtScore)
          .values(rows)
          .onConflictDoNothing()
          .returning({ id: broughtScore.id });
        added += made.length;
      }
      return added;
    },
    async brought(clientIds: readonly Id<"Client">[]): Promise<BroughtScore[]> {
      if (clientIds.length === 0) return [];
      const rows = await db
        .select()
        .from(broughtScore)
        .where(and(inArray(broughtScore.clientId, [...clientIds]), seen(broughtScore.clientId)));
      await keys.knowFor(rows.map(({ sealed }) => sealed));
      return rows.map(({ id, clientId, versionId, sealed }) => ({
        clientId,
        versionId,
        ...sealer.open<Pick<BroughtScore, "at" | "linkId" | "value">>(broughtPlace(id), sealed),
      }));
    },
  };
};
