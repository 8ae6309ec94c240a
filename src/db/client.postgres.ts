import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { migrationsFolder, type Database, type Db } from "./database";
import { knownMigrations, prepare } from "./prepare";
import * as schema from "./schema";

/**
 * Longest anything takes, in milliseconds, so that nobody waits for ever for a page: a connection, a lock that somebody
 * else holds, a statement, a transaction's next one.
 */
const longest = { connect: 5_000, lock: 5_000, statement: 30_000, idle: 30_000 } as const;
/** Connections of one process besides the listening one. */
const mostConnections = 10;

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
    max: mostConnections,
    connectionTimeoutMillis: longest.connect,
    keepAlive: true,
    // Before anybody has it; not as parameters of the start, which a pooler in between refuses.
    verify: (client, done) => {
      client
        .query(
          `set lock_timeout = ${longest.lock}; set statement_timeout = ${longest.statement}; set idle_in_transaction_session_timeout = ${longest.idle}`,
        )
        .then(() => done(), done);
    },
  });
  // One that breaks inside a transaction is said to whoever has it; unheard it would end the process.
  pool.on("connect", (client) => void client.on("error", () => undefined));
  pool.on("error", () => warn("An idle database connection was lost."));
  const first = new pg.Client({ connectionString: ownerString ?? connectionString });
  let ready = false;
  try {
    await first.connect();
    await prepareAlone(first);
    await first.query("select pg_notify('migrated', '')");
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
  const listener = listening(connectionString, warn);
  return {
    db: db as unknown as Db,
    kind: "postgres",
    listen: listener.listen,
    answersIn: async (ms) => {
      const asked = pool.query("select 1");
      const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), ms).unref());
      return Promise.race([asked.then(() => true).catch(() => false), late]);
    },
    isOther: async () => {
      const known = new Set(knownMigrations());
      const { rows } = await pool.query<{ hash: string }>("select hash from drizzle.__drizzle_migrations");
      return rows.length !== known.size || rows.some(({ hash }) => !known.has(hash));
    },
    pool: () => ({ total: pool.totalCount, idle: pool.idleCount, waiting: pool.waitingCount }),
    close: async () => {
      await listener.end();
      await pool.end();
    },
  };
}

/** In ms: how soon a lost listening connection is made anew, and how often one that is silent is asked. */
const listenAgain = { soonest: 250, latest: 10_000, beat: 20_000 } as const;
/**
 * One listening connection for the whole process, however many pages are open. Where it is lost it comes back by itself;
 * whoever listens is told then, as something may have been said meanwhile.
 */
function listening(connectionString: string, warn: (message: string) => void) {
  const heardBy = new Map<string, Set<(payload: string) => void>>();
  let client: pg.Client | undefined;
  let wait: number = listenAgain.soonest;
  let timer: NodeJS.Timeout | undefined;
  let beat: NodeJS.Timeout | undefined;
  let ended = false;
  let isNew = true;
  const lost = (one: pg.Client): void => {
    if (client !== one) return;
    client = undefined;
    clearInterval(beat);
    void one.end().catch(() => undefined);
    if (ended) return;
    if (wait === listenAgain.soonest) warn("The listening database connection was lost; it is made anew.");
    timer = setTimeout(() => void connect(), wait).unref();
    wait = Math.min(wait * 2, listenAgain.latest);
  };
  async function connect(): Promise<void> {
    const one = new pg.Client({ connectionString, connectionTimeoutMillis: longest.connect, keepAlive: true });
    client = one;
    one.on("notification", (n) => heardBy.get(n.channel)?.forEach((heard) => heard(n.payload ?? "")));
    one.on("error", () => lost(one));
    one.on("end", () => lost(one));
    try {
      await one.connect();
      for (const channel of heardBy.keys()) await one.query(`listen ${pg.escapeIdentifier(channel)}`);
    } catch {
      return lost(one);
    }
    wait = listenAgain.soonest;
    // A line that is down without saying so is found by asking.
    beat = setInterval(() => void one.query("select 1").catch(() => lost(one)), listenAgain.beat).unref();
    if (!isNew) for (const those of heardBy.values()) for (const heard of those) heard("");
    isNew = false;
  }
  let first: Promise<void> | undefined;
  return {
    listen: async (channel: string, heard: (payload: string) => void): Promise<() => Promise<void>> => {
      const isKnown = heardBy.has(channel);
      const known = heardBy.get(channel) ?? new Set();
      heardBy.set(channel, known.add(heard));
      const isFirst = first === undefined;
      await (first ??= connect());
      // Where the connection is down, it listens to all of them as soon as it is back.
      if (!isFirst && !isKnown) await client?.query(`listen ${pg.escapeIdentifier(channel)}`).catch(() => undefined);
      return () => {
        known.delete(heard);
        return Promise.resolve();
      };
    },
    end: async (): Promise<void> => {
      ended = true;
      clearTimeout(timer);
      clearInterval(beat);
      await client?.end().catch(() => undefined);
    },
  };
}

/** Brings a database up to this version, one process at a time; the lock ends with the connection. */
export async function prepareAlone(client: pg.Client, folder = migrationsFolder): Promise<void> {
  await client.query("select pg_advisory_lock(7214001)");
  await client.query(`set lock_timeout = ${longest.lock}`);
  for (let tries = 1; ; tries++) {
    try {
      return await prepare(
        {
          query: (text, values) => client.query(text, values),
          script: async (text) => void (await client.query(text)),
          migrate: () => migrate(drizzle(client, { schema }), { migrationsFolder: folder }),
        },
        folder,
      );
    } catch (error) {
      // Somebody works on what is to be changed. Each migration is all done or not at all.
      const { code } = ((error as { cause?: unknown }).cause ?? error) as { code?: unknown };
      if (tries === mostTries || (code !== lockNotAvailable && code !== deadlock)) throw error;
      await client.query("rollback");
      await new Promise((resolve) => setTimeout(resolve, betweenTries));
    }
  }
}
const [lockNotAvailable, deadlock] = ["55P03", "40P01"];
const mostTries = 12;
const betweenTries = 1_000;

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
    grant usage on schema drizzle to ${role};
    grant select on drizzle.__drizzle_migrations to ${role};
    revoke update, delete on chart_entry, posting, signature, questionnaire_version, note_version, note_addendum, take_home, client_opening, client_erasure from ${role};
    revoke insert, update, delete on journal, journal_head from ${role};
    grant insert, update (checked) on journal_head to ${role};`;
}
