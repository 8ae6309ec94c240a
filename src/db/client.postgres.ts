import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { migrationsFolder, type Database, type Db } from "./database";
import { prepare } from "./prepare";
import * as schema from "./schema";

/** A PostgreSQL server. Migrations run under an advisory lock, so that several processes may start at once. @throws UnknownDatabaseError */
export async function openPostgres(connectionString: string, warn: (message: string) => void): Promise<Database> {
  const pool = new pg.Pool({ connectionString, max: 10 });
  pool.on("error", () => warn("An idle database connection was lost."));
  const first = await pool.connect();
  let ready = false;
  try {
    await first.query("select pg_advisory_lock(7214001)");
    await prepare({
      query: (text, values) => first.query(text, values),
      script: async (text) => void (await first.query(text)),
      migrate: () => migrate(drizzle(first, { schema }), { migrationsFolder }),
    });
    ready = true;
  } finally {
    await first.query("select pg_advisory_unlock(7214001)");
    first.release();
    if (!ready) await pool.end();
  }
  const db = drizzle(pool, { schema });
  // One listening connection for the whole process, however many pages are open.
  const heardBy = new Map<string, Set<(payload: string) => void>>();
  let listening: Promise<pg.Client> | undefined;
  const listener = (): Promise<pg.Client> =>
    (listening ??= (async () => {
      const client = new pg.Client({ connectionString });
      client.on("notification", (n) => heardBy.get(n.channel)?.forEach((heard) => heard(n.payload ?? "")));
      client.on("error", () => {
        listening = undefined;
        warn("The listening database connection was lost.");
      });
      await client.connect();
      for (const channel of heardBy.keys()) await client.query(`listen ${pg.escapeIdentifier(channel)}`);
      return client;
    })());
  return {
    db: db as unknown as Db,
    kind: "postgres",
    listen: async (channel, heard) => {
      const known = heardBy.get(channel) ?? new Set();
      heardBy.set(channel, known.add(heard));
      await (await listener()).query(`listen ${pg.escapeIdentifier(channel)}`);
      return () => {
        known.delete(heard);
        return Promise.resolve();
      };
    },
    close: async () => {
      await (await listening)?.end();
      await pool.end();
    },
  };
}
