import { and, eq, inArray, isNotNull, isNull, lt, sql } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client, clientKey } from "../schema";

/** A query takes so many values. */
const mostAtOnce = 10_000;

/**
 * The clients' own keys. Who reads rows makes their keys known first, in one query or none; sealing and opening is then
 * at once.
 */
export const clientKeyRepository = (db: Db, sealer: Sealer) => {
  const { clientKeys } = sealer;
  async function know(wanted: Iterable<Id<"ClientKey"> | null | undefined>): Promise<void> {
    const unknown = [...new Set(wanted)].filter((id) => id !== null && id !== undefined && !clientKeys.has(id));
    for (let at = 0; at < unknown.length; at += mostAtOnce) {
      const rows = await db
        .select({ id: clientKey.id, sealed: clientKey.sealed })
        .from(clientKey)
        .where(
          and(
            inArray(clientKey.id, unknown.slice(at, at + mostAtOnce) as Id<"ClientKey">[]),
            isNotNull(clientKey.sealed),
          ),
        );
      for (const { id, sealed } of rows) if (sealed) clientKeys.learn(id, sealed);
    }
  }
  return {
    know,
    /** The keys that these were sealed with. */
    knowFor: (sealed: readonly (Uint8Array | null)[]): Promise<void> =>
      know(sealed.map((bytes) => (bytes ? sealer.clientKeyOf(bytes) : undefined))),
    /** A client's key, known from now on. @throws Error where there is no such client, or they were erased. */
    async of(clientId: Id<"Client">): Promise<Id<"ClientKey">> {
      const [row] = await db.select({ keyId: client.keyId }).from(client).where(eq(client.id, clientId));
      if (!row?.keyId) throw new Error("There is no such client, or they were erased.");
      await know([row.keyId]);
      return row.keyId;
    },
    async add(id: Id<"ClientKey">, sealed: Uint8Array, createdAt: Instant): Promise<void> {
      await db.insert(clientKey).values({ id, sealed, createdAt });
    },
    /** What was sealed with these opens never again. The rows they lay in are to be written anew, see `scrub`. */
    async destroy(ids: readonly Id<"ClientKey">[], at: Instant): Promise<void> {
      if (ids.length === 0) return;
      await db
        .update(clientKey)
        .set({ sealed: null, destroyedAt: at })
        .where(inArray(clientKey.id, [...ids]));
      clientKeys.forget(ids);
    },
    /**
     * Writes the table anew where keys were destroyed: until then they still lie in rows that were changed. Again, until
     * `settled`: what began before may have kept them. Outside a transaction.
     */
    async scrub(settled: Instant, now: Instant): Promise<boolean> {
      const isDue = and(isNotNull(clientKey.destroyedAt), isNull(clientKey.scrubbedAt));
      if ((await db.$count(clientKey, isDue)) === 0) return false;
      await db.execute(sql`select scrub_client_keys()`);
      await db
        .update(clientKey)
        .set({ scrubbedAt: now })
        .where(and(isDue, lt(clientKey.destroyedAt, settled)));
      return true;
    },
    /** How many keys are sealed with another installation key than the first of the ring. */
    async countOld(): Promise<number> {
      return db.$count(clientKey, isOld());
    },
    /** Seals some of them anew, with the first key of the ring; gives how many. In a transaction. */
    async resealSome(most: number): Promise<number> {
      const rows = await db
        .select({ id: clientKey.id, sealed: clientKey.sealed })
        .from(clientKey)
        .where(isOld())
        .limit(most)
        .for("update", { skipLocked: true });
      const fresh = rows.flatMap(({ id, sealed }) => {
        const anew = sealed ? clientKeys.resealed(id, sealed) : undefined;
        return anew ? [{ id, sealed: Buffer.from(anew).toString("base64") }] : [];
      });
      if (fresh.length > 0)
        await db.execute(
          sql`update client_key set sealed = decode(anew.sealed, 'base64') from jsonb_to_recordset(${JSON.stringify(fresh)}::jsonb) as anew (id uuid, sealed text) where client_key.id = anew.id and client_key.sealed is not null`,
        );
      return fresh.length;
    },
  };
  function isOld() {
    const head = clientKeys.current();
    return and(isNotNull(clientKey.sealed), sql`substring(${clientKey.sealed} from 1 for ${head.length}) <> ${head}`);
  }
};
