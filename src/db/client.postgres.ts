import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { migrationsFolder, type Database, type Db } from "./database";
import { prepare } from "./prepare";
import * as schema from "./schema";

/**
 * Longest a statement may take, and a transaction may wait for its next one, in milliseconds: nobody waits longer for a
 * page.
 */
const longestStatement = 60_000;

/**
 * A PostgreSQL server. Migrations run under an advisory lock, so that several processes may start at once. With an
 * owner's address they run as the owner, and the role of the other address gets what it needs: it owns no table, and
 * can neither change nor cut the ledgers. @throws UnknownDatabaseError
 */
export async function openPostgres(
  connectionString: string,
  warn: (message: string) => void,
  ownerString?: string,
): Promise<Database> {
  const pool = new pg.Pool({
    connectionString,
    max: 10,
    statement_timeout: longestStatement,
    idle_in_transaction_session_timeout: longestStatement,
  });
  pool.on("error", () => warn("An idle database connection was lost."));
  const first = new pg.Client({ connectionString: ownerString ?? connectionString });
  let ready = false;
  try {
    await first.connect();
    await prepareAlone(first);
    if (ownerString !== undefined) await first.query(grants(await roleOf(pool)));
    ready = true;
  } finally {
    // The lock ends with its connection.
    await first.end();
    if (!ready) await pool.end();
  }
  if (await ownsTables(pool))
    warn(
      "The database role of DATABASE_URL owns the tables, so whoever has it can rewrite the journal. Give the owner's address as DATABASE_OWNER_URL, and a role of its own as DATABASE_URL.",
    );
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

/** Brings a database up to this version, one process at a time; the lock ends with the connection. */
export async function prepareAlone(client: pg.Client, folder = migrationsFolder): Promise<void> {
  await client.query("select pg_advisory_lock(7214001)");
  await prepare(
    {
      query: (text, values) => client.query(text, values),
      script: async (text) => void (await client.query(text)),
      migrate: () => migrate(drizzle(client, { schema }), { migrationsFolder: folder }),
    },
    folder,
  );
}

const roleOf = async (pool: pg.Pool): Promise<string> =>
  (await pool.query<{ role: string }>("select current_user as role")).rows[0]!.role;
const ownsTables = async (pool: pg.Pool): Promise<boolean> =>
  (
    await pool.query<{ owns: boolean }>(
      "select pg_has_role(current_user, relowner, 'usage') as owns from pg_class where oid = 'journal'::regclass",
    )
  ).rows[0]!.owns;
/**
 * What the application's role may do: everything with rows, but with ledgers only add and read, and with the journal
 * only read.
 */
function grants(name: string): string {
  const role = pg.escapeIdentifier(name);
  return `
    grant usage on schema public to ${role};
    grant select, insert, update, delete on all tables in schema public to ${role};
    grant usage on all sequences in schema public to ${role};
    revoke update, delete on chart_entry, posting, signature, questionnaire_version, note_version, client_opening, client_erasure from ${role};
    revoke insert, update, delete on journal, journal_head from ${role};
    grant insert, update (checked) on journal_head to ${role};`;
}
