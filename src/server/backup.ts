import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import pg from "pg";
import {
  BackupFileError,
  packed,
  readBackup,
  unpacked,
  writeBackup,
  type Entry,
  type Lock,
  type Unlock,
} from "../adapters/backup-file";
import { differences, type BackupHead, type TableRecord } from "../core/backup";
import type { Instant } from "../core/shared";
import { asidePath, copyAside, isRunning, sweepAside } from "../db/aside";
import { makeRaw, openRaw } from "../db/client.pglite";
import { copyingPglite, settlePglite } from "../db/copy.pglite";
import { copyingPostgres } from "../db/copy.postgres";
import { migrationsFolder } from "../db/database";
import {
  countOn,
  plainSettings,
  quoted,
  recordOf,
  recordsOf,
  RowSum,
  setRulesAside,
  tablesOf,
  type Copying,
  type Table,
} from "../db/dump";
import { askHolder, FolderHeldError, holdFolder, unknownQuestion } from "../db/lock";
import { prepareAlone } from "../db/client.postgres";
import { knownMigrations } from "../db/prepare";
import type { Environment } from "./environment";
import { fitsKeys } from "./keys";

/** Why a backup, restore or drill was not done. The installation is as it was. */
export class BackupError extends Error {
  override readonly name = "BackupError";
}
export interface Told {
  /** What is done just now, and of how much. */
  (what: string, done: number, all: number): void;
}
export interface BackupResult {
  readonly head: BackupHead;
  readonly tables: readonly TableRecord[];
}

const headName = "kind-ledger.json";
const tailName = "manifest.json";
const partName = /^data\/\d{3}-([a-z_]+)\/\d{6}\.copy\.gz$/;
const asJson = (value: unknown): Uint8Array => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);
const fromJson = <T>(bytes: Uint8Array): T => JSON.parse(Buffer.from(bytes).toString("utf8")) as T;

/** Runs with the database as it is at one moment, while everybody goes on working on it. */
async function atOneMoment<T>(env: Environment, work: (copying: Copying) => Promise<T>): Promise<T> {
  if (env.databaseUrl !== undefined) {
    const client = new pg.Client({ connectionString: env.ownerUrl ?? env.databaseUrl });
    await client.connect();
    try {
      await client.query(`${plainSettings}; begin isolation level repeatable read read only`);
      return await work(copyingPostgres(client));
    } finally {
      await client.end();
    }
  }
  const folder = await copyOf(env.dataFolder);
  try {
    const client = await openRaw(join(folder, "pg"));
    await settlePglite(client);
    try {
      return await work(copyingPglite(client));
    } finally {
      await client.close();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
/** A copy of the embedded database's files: made by whoever has it open, else here. */
async function copyOf(folder: string): Promise<string> {
  if (!existsSync(join(folder, "pg"))) throw new BackupError(`There is no database in ${folder}.`);
  // Whoever has it for another backup is soon through.
  for (let tries = 0; ; tries++) {
    try {
      return (await copyOfHolder(folder)) ?? (await copyByUs(folder));
    } catch (error) {
      const isPassing = error instanceof FolderHeldError || (error as Error).message === unknownQuestion;
      if (!isPassing || tries === mostTries) throw error;
      await pause(tryAgainAfter);
    }
  }
}
const mostTries = 40;
const tryAgainAfter = 250;
async function copyOfHolder(folder: string): Promise<string | undefined> {
  const theirs = await askHolder(folder, "copy");
  if (theirs === undefined) return undefined;
  const own = asidePath(folder, "aside");
  renameSync(theirs, own);
  return own;
}
async function copyByUs(folder: string): Promise<string> {
  const release = await holdFolder(folder);
  try {
    return await copyAside(folder);
  } finally {
    await release();
  }
}
async function headOf(copying: Copying, at: Instant): Promise<BackupHead> {
  const applied = await copying.rows<{ hash: string }>("select hash from drizzle.__drizzle_migrations order by id");
  const [row] = await copying.rows<{ secrets: Uint8Array }>("select secrets from installation");
  if (!row) throw new BackupError("There is nothing to back up: this installation was never started.");
  return {
    format: "kind-ledger-backup",
    version: 1,
    at,
    migrations: applied.map(({ hash }) => hash),
    secrets: Buffer.from(row.secrets).toString("base64"),
  };
}
/** Every table as entries, first what it is, last what it held; `into` is filled on the way. */
async function* entriesOf(
  copying: Copying,
  head: BackupHead,
  keys: string | undefined,
  { into, tell }: { readonly into: TableRecord[]; readonly tell: Told },
): AsyncGenerator<Entry> {
  yield { name: headName, bytes: asJson(head) };
  if (keys !== undefined) yield { name: "keys", bytes: Buffer.from(keys) };
  const tables = await tablesOf(copying);
  for (const [index, table] of tables.entries()) {
    tell("Writing", index, tables.length);
    const sum = new RowSum();
    let part = 0;
    for await (const lines of copying.out(table)) {
      sum.add(lines);
      const name = `data/${String(index).padStart(3, "0")}-${table.name}/${String(part++).padStart(6, "0")}.copy.gz`;
      yield { name, bytes: await packed(lines) };
    }
    into.push(recordOf(table, sum));
  }
  yield { name: tailName, bytes: asJson({ tables: into }) };
}

/**
 * Writes everything the installation holds, as it is at one moment, into an encrypted file, reads that back, and only
 * then gives it its name.
 * @throws BackupError, FolderHeldError, Error of the system where the disk is full
 */
export async function backUp(
  env: Environment,
  path: string,
  lock: Lock,
  { at, withKeys, tell = () => undefined }: { readonly at: Instant; readonly withKeys?: string; readonly tell?: Told },
): Promise<BackupResult> {
  mkdirSync(dirname(path), { recursive: true, mode: 0o700 });
  if (existsSync(path)) throw new BackupError(`${path} is there already.`);
  sweepParts(dirname(path));
  const part = `${path}.${process.pid}.part`;
  try {
    const result = await atOneMoment(env, async (copying) => {
      const head = await headOf(copying, at);
      const tables: TableRecord[] = [];
      const back = await writeBackup(part, lock, entriesOf(copying, head, withKeys, { into: tables, tell }));
      return { head, tables, back };
    });
    const { counted } = await look(part, result.back, tell);
    const other = differences(result.tables, counted);
    if (other.length > 0) throw new BackupError(`What was written reads back otherwise: ${other.join(", ")}.`);
    renameSync(part, path);
    return { head: result.head, tables: result.tables };
  } finally {
    rmSync(part, { force: true });
  }
}
/** Reads a backup whole, and sums up what lies in it. @throws BackupFileError where it does not hold what it says */
export async function look(
  path: string,
  unlock: Unlock,
  tell: Told = () => undefined,
  take: (table: string, lines: Uint8Array) => Promise<void> = () => Promise.resolve(),
): Promise<BackupResult & { readonly counted: readonly TableRecord[]; readonly keys: string | undefined }> {
  let head: BackupHead | undefined;
  let tail: { readonly tables: readonly TableRecord[] } | undefined;
  let keys: string | undefined;
  const sums = new Map<string, RowSum>();
  for await (const { name, bytes } of readBackup(path, unlock)) {
    if (name === headName) head = headFrom(path, bytes);
    else if (name === tailName) tail = fromJson(bytes);
    else if (name === "keys") keys = Buffer.from(bytes).toString("utf8");
    else {
      const table = partName.exec(name)?.[1];
      if (table === undefined) throw new BackupFileError(`${path} holds something unknown.`);
      const lines = await unpacked(bytes);
      const sum = sums.get(table) ?? new RowSum();
      if (!sums.has(table)) tell(`Reading ${table}`, sums.size, sums.size + 1);
      sums.set(table, sum);
      sum.add(lines);
      await take(table, lines);
    }
  }
  if (!head || !tail) throw new BackupFileError(`${path} ends before its end.`);
  const counted = tail.tables.map(({ name, columns }) => recordOf({ name, columns }, sums.get(name) ?? new RowSum()));
  const other = differences(tail.tables, counted);
  if (other.length > 0) throw new BackupFileError(`${path} does not hold what it says: ${other.join(", ")}.`);
  return { head, tables: tail.tables, counted, keys };
}
function headFrom(path: string, bytes: Uint8Array): BackupHead {
  const head = fromJson<BackupHead>(bytes);
  if (head.format !== "kind-ledger-backup" || head.version !== 1)
    throw new BackupFileError(`${path} is of a form this version does not know.`);
  return head;
}
/** The first entry alone, and the keys, if it holds them. */
async function peek(path: string, unlock: Unlock): Promise<{ head: BackupHead; keys: string | undefined }> {
  let head: BackupHead | undefined;
  for await (const { name, bytes } of readBackup(path, unlock)) {
    if (name === headName) head = headFrom(path, bytes);
    else return { head: head!, keys: name === "keys" ? Buffer.from(bytes).toString("utf8") : undefined };
  }
  throw new BackupFileError(`${path} ends before its end.`);
}

/** The first migrations of this version, as far as a backup has them. @throws BackupError where it has others */
function migrationsFor(head: BackupHead, aside: string): string {
  const known = knownMigrations();
  if (head.migrations.some((hash, index) => known[index] !== hash))
    throw new BackupError("The backup was made by a version whose tables this one does not know.");
  if (head.migrations.length === known.length) return migrationsFolder;
  const folder = join(aside, "migrations");
  cpSync(migrationsFolder, folder, { recursive: true });
  const journal = join(folder, "meta", "_journal.json");
  const all = fromJson<{ entries: { tag: string }[] }>(readFileSync(journal));
  for (const { tag } of all.entries.slice(head.migrations.length)) rmSync(join(folder, `${tag}.sql`));
  writeFileSync(journal, JSON.stringify({ ...all, entries: all.entries.slice(0, head.migrations.length) }));
  return folder;
}
/** Puts everything into tables that are there and empty, and says where they differ then. */
async function putIn(copying: Copying, path: string, unlock: Unlock, tell: Told): Promise<BackupResult> {
  const tables = new Map((await tablesOf(copying)).map((table) => [table.name, table]));
  await copying.rows("delete from installation");
  const rules = await setRulesAside(copying);
  const result = await look(path, unlock, tell, async (name, lines) => {
    const table = tables.get(name);
    if (!table) throw new BackupError(`The backup has a table ${name}, which this version does not know.`);
    await copying.in(table, lines);
  });
  const asThen = result.tables.map(({ name, columns }): Table => ({ name, columns }));
  if (asThen.some(({ name, columns }) => columns.join() !== tables.get(name)?.columns.join()))
    throw new BackupError("The backup’s tables have other columns than this version’s.");
  tell("Making indexes", 0, rules.length);
  for (const rule of rules) await copying.rows(rule);
  await countOn(copying);
  tell("Comparing", 0, 1);
  const other = differences(result.tables, await recordsOf(copying));
  if (other.length > 0) throw new BackupError(`What was put in reads back otherwise: ${other.join(", ")}.`);
  return result;
}

/**
 * Puts a backup into an empty installation, embedded or PostgreSQL, whichever it came from. Either all of it is there
 * then, or the installation is as it was.
 * @throws BackupError, BackupFileError, KeysError, FolderHeldError
 */
export async function restore(
  env: Environment,
  path: string,
  unlock: Unlock,
  tell: Told = () => undefined,
): Promise<BackupResult> {
  if (!existsSync(path)) throw new BackupError(`There is no file ${path}.`);
  const { head, keys } = await peek(path, unlock);
  const restoring = { head, tell, keepKeys: fitsKeys(env, Buffer.from(head.secrets, "base64"), keys) };
  const result =
    env.databaseUrl === undefined
      ? await restoreEmbedded(env, path, unlock, restoring)
      : await restoreServer(env.ownerUrl ?? env.databaseUrl, path, unlock, restoring);
  setHeadsAside(env, result);
  return result;
}
interface Restoring {
  readonly head: BackupHead;
  readonly tell: Told;
  /** Puts the backup's keys there, where there are none. */
  readonly keepKeys: () => void;
}
async function restoreEmbedded(env: Environment, path: string, unlock: Unlock, { head, tell, keepKeys }: Restoring) {
  const release = await holdFolder(env.dataFolder);
  sweepAside(env.dataFolder);
  const aside = asidePath(env.dataFolder, "restoring");
  const target = join(env.dataFolder, "pg");
  try {
    if (existsSync(target) && (await isUsed(target))) throw new BackupError(`${env.dataFolder} is not empty.`);
    const { result } = await filled(aside, path, unlock, { head, tell });
    keepKeys();
    if (existsSync(target)) renameSync(target, join(aside, "empty"));
    renameSync(join(aside, "pg"), target);
    return result;
  } finally {
    rmSync(aside, { recursive: true, force: true });
    await release();
  }
}
/** Whether somebody has set up a practice in it. */
async function isUsed(dataDir: string): Promise<boolean> {
  const client = await openRaw(dataDir);
  try {
    const [there] = (
      await client.query<{ there: boolean }>("select to_regclass('public.practice') is not null as there")
    ).rows;
    return there!.there && (await client.query("select 1 from practice limit 1")).rows.length > 0;
  } finally {
    await client.close();
  }
}
/** A database of its own with everything from a backup, in one transaction, closed again. */
async function filled(
  aside: string,
  path: string,
  unlock: Unlock,
  { head, tell }: Omit<Restoring, "keepKeys">,
): Promise<{ readonly result: BackupResult }> {
  mkdirSync(aside, { recursive: true, mode: 0o700 });
  const client = await makeRaw(join(aside, "pg"), migrationsFor(head, aside));
  try {
    await settlePglite(client);
    await client.exec("begin");
    const result = await putIn(copyingPglite(client), path, unlock, tell);
    await client.exec("commit");
    return { result };
  } finally {
    await client.close();
  }
}
async function restoreServer(url: string, path: string, unlock: Unlock, { head, tell, keepKeys }: Restoring) {
  const aside = `${path}.${process.pid}.restoring`;
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const [there] = (
      await client.query<{ there: boolean }>("select to_regclass('public.practice') is not null as there")
    ).rows;
    if (there!.there && (await client.query("select 1 from practice limit 1")).rows.length > 0)
      throw new BackupError("The database is not empty.");
    await prepareAlone(client, migrationsFor(head, aside));
    await client.query(`${plainSettings}; begin`);
    // Somebody may be setting it up just now.
    await client.query(`lock table ${quoted("practice")} in exclusive mode`);
    const result = await putIn(copyingPostgres(client), path, unlock, tell);
    keepKeys();
    await client.query("commit");
    return result;
  } finally {
    await client.end();
    rmSync(aside, { recursive: true, force: true });
  }
}
/** Heads that were kept after the backup was made are of a chain that goes on otherwise from here. */
function setHeadsAside({ headsFile }: Environment, { head }: BackupResult): void {
  if (existsSync(headsFile))
    renameSync(headsFile, `${headsFile}.before-restore-${head.at.slice(0, 10)}-${process.pid}`);
}

/** Takes away what backups that were killed left half written. */
function sweepParts(folder: string): void {
  for (const name of readdirSync(folder)) {
    const by = /\.(\d+)\.part$/.exec(name)?.[1];
    if (by !== undefined && !isRunning(Number(by))) rmSync(join(folder, name), { force: true });
  }
}
/**
 * Proves a backup: restores it aside, in an embedded database of its own beside the data, and compares. Nothing else is
 * touched; what a drill that was killed leaves goes with the next one.
 */
export async function drill(
  { dataFolder }: Environment,
  path: string,
  unlock: Unlock,
  tell: Told = () => undefined,
): Promise<BackupResult> {
  const { head } = await peek(path, unlock);
  sweepAside(dataFolder);
  const aside = asidePath(dataFolder, "restoring");
  try {
    return (await filled(aside, path, unlock, { head, tell })).result;
  } finally {
    rmSync(aside, { recursive: true, force: true });
  }
}
/** Newest last. */
export const backupsIn = (folder: string): string[] =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => name.endsWith(".tar.age"))
        .toSorted()
    : [];
