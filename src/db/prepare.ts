import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { migrationsFolder } from "./database";

export const functionsFolder = "src/db/functions";

/** From this migration on, each client has a key of their own. */
const clientKeysBegan = "0009_client_keys.sql";

/** Made by a version whose tables this one does not know. Nothing in it was changed. */
export class UnknownDatabaseError extends Error {
  constructor() {
    super(
      "This database was made by another version of Kind Ledger, before the first release, and cannot be brought up to " +
        "this one. Nothing in it was changed. Start with an empty data folder or database (the demo: npm run demo -- --fresh), " +
        "or go back to the version that made it.",
    );
    this.name = "UnknownDatabaseError";
  }
}

/** The little of a connection that preparing needs; rows come as the driver gives them. */
export interface Preparing {
  /** One statement with values. */
  query(text: string, values?: unknown[]): Promise<{ rows: unknown[] }>;
  /** Several statements without values. */
  script(text: string): Promise<void>;
  /** Runs the migrations that are missing. */
  migrate(): Promise<void>;
}

/**
 * Brings tables and functions up to this version. Whoever calls it holds the database alone.
 * @param folder where the migrations are: all of this version's, or the first ones, for what an older one made
 * @throws UnknownDatabaseError
 */
export async function prepare(database: Preparing, folder = migrationsFolder): Promise<void> {
  const known = new Set(migrationFiles().map((file) => sha256(readFileSync(file, "utf8"))));
  const [table] = (await database.query("select to_regclass('drizzle.__drizzle_migrations')::text as name")).rows;
  if ((table as { name: string | null }).name !== null) {
    const { rows } = await database.query("select hash from drizzle.__drizzle_migrations");
    const there = new Set((rows as { hash: string }[]).map(({ hash }) => hash));
    if ([...there].some((hash) => !known.has(hash))) throw new UnknownDatabaseError();
    // What was sealed before clients had keys of their own cannot be sealed anew: the ledgers take no change.
    const hasKeys = there.has(sha256(readFileSync(join(migrationsFolder, clientKeysBegan), "utf8")));
    if (!hasKeys && (await database.query("select 1 from practice limit 1")).rows.length > 0)
      throw new UnknownDatabaseError();
  }
  await database.migrate();
  if (folder !== migrationsFolder) return;
  await database.script(
    "create table if not exists drizzle.applied_function (name text primary key, digest text not null)",
  );
  const { rows } = await database.query("select name, digest from drizzle.applied_function");
  const applied = new Map((rows as { name: string; digest: string }[]).map((row) => [row.name, row.digest]));
  for (const name of readdirSync(functionsFolder)
    .filter((file) => file.endsWith(".sql"))
    .sort()) {
    const text = readFileSync(join(functionsFolder, name), "utf8");
    const digest = sha256(text);
    if (applied.get(name) === digest) continue;
    await database.script(`begin;\n${text}\ncommit;`);
    await database.query(
      "insert into drizzle.applied_function (name, digest) values ($1, $2) on conflict (name) do update set digest = excluded.digest",
      [name, digest],
    );
  }
}

const sha256 = (text: string): string => createHash("sha256").update(text).digest("hex");
/** SHA-256 of each migration of this version, hex, oldest first, as a database keeps those it has. */
export const knownMigrations = (): string[] =>
  migrationFiles()
    .toSorted()
    .map((file) => sha256(readFileSync(file, "utf8")));
const migrationFiles = (): string[] =>
  readdirSync(migrationsFolder)
    .filter((file) => file.endsWith(".sql"))
    .map((file) => join(migrationsFolder, file));
