import { fsyncSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import { PGlite, types } from "@electric-sql/pglite";
import { btree_gist } from "@electric-sql/pglite/contrib/btree_gist";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { migrationsFolder, type Database, type Db } from "./database";
import { copyAside, sweepAside } from "./aside";
import { holdFolder, type Answers } from "./lock";
import { prepare } from "./prepare";
import * as schema from "./schema";

/**
 * PostgreSQL inside this process, its files in `folder`. Commits reach the disk.
 * @throws FolderHeldError, UnknownDatabaseError
 */
export async function openPglite(folder: string, warn: (message: string) => void): Promise<Database> {
  const answers: Answers = new Map();
  const release = await holdFolder(folder, answers);
  sweepAside(folder);
  const dataDir = join(folder, "pg");
  mkdirSync(dataDir, { recursive: true, mode: 0o700 });
  const client = await PGlite.create({ dataDir, startParams: durableParams(), extensions });
  if (!makeDurable(client))
    warn(
      "Commits are not forced to the disk: a power cut could lose the last ones. (The embedded database has changed inside.)",
    );
  const database = await wrap(client).catch(async (error: unknown) => {
    await client.close();
    await release();
    throw error;
  });
  // Its own process takes it out: what is in memory here is not on the disk as a whole but in a moment without writes.
  answers.set("copy", async () => {
    sweepAside(folder);
    await client.exec("checkpoint");
    return client.runExclusive(() => copyAside(folder));
  });
  return {
    ...database,
    answers,
    close: async () => {
      await client.close();
      await release();
    },
  };
}
/** The database in a folder that nobody else has open, as it lies there: nothing is brought up to date. */
export const openRaw = (dataDir: string): Promise<PGlite> =>
  PGlite.create({ dataDir, startParams: durableParams(), extensions });
/** A fresh one in that folder, brought up to this version; what is written is forced to the disk when it is closed. */
export async function makeRaw(dataDir: string, migrations = migrationsFolder): Promise<PGlite> {
  mkdirSync(dataDir, { recursive: true, mode: 0o700 });
  const client = await openRaw(dataDir);
  makeDurable(client);
  await prepare(
    {
      query: (text, values) => client.query(text, values),
      script: async (text) => void (await client.exec(text)),
      migrate: () => migrate(drizzle(client, { schema }), { migrationsFolder: migrations }),
    },
    migrations,
  );
  return client;
}

/** An empty database in memory, for tests. `image` is a dump of an earlier one, to skip the migrations. */
export async function openPgliteInMemory(image?: Blob): Promise<Database & { dump(): Promise<Blob> }> {
  const client = await PGlite.create({ extensions, ...(image ? { loadDataDir: image } : {}) });
  return { ...(await wrap(client)), close: () => client.close(), dump: () => client.dumpDataDir("none") };
}

async function wrap(client: PGlite): Promise<Omit<Database, "close">> {
  // PGlite copies its list of parsers with each query; three quarters of them are for arrays of the catalogue's own
  // rows.
  const parsers = Object.fromEntries(
    Object.entries(client.parsers).filter(([oid]) => Number(oid) < firstCatalogueRowType),
  );
  // What is sealed comes as hex, which PGlite reads two letters at a time.
  client.parsers = { ...parsers, [types.BYTEA]: (hex: string) => Buffer.from(hex.slice(2), "hex") };
  const db = drizzle(client, { schema });
  await prepare({
    query: (text, values) => client.query(text, values),
    script: async (text) => void (await client.exec(text)),
    migrate: () => migrate(db, { migrationsFolder }),
  });
  return {
    answersIn: async (ms) => {
      const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), ms).unref());
      return Promise.race([
        client.query("select 1").then(
          () => true,
          () => false,
        ),
        late,
      ]);
    },
    // Nobody else has it open.
    isOther: () => Promise.resolve(false),
    db: db as unknown as Db,
    kind: "pglite",
    listen: (channel, heard) => client.listen(channel, heard),
  };
}

/** A person is booked once at a time: held by an exclusion over ids and times. */
const extensions = { btree_gist };
const firstCatalogueRowType = 10_000;

/** PGlite starts PostgreSQL with `-F` (no fsync); take that out and name a sync method its file system has. */
const durableParams = (): string[] => [
  ...PGlite.defaultStartParams.filter((p) => p !== "-F"),
  "-c",
  "wal_sync_method=fsync",
];

interface FsModule {
  FS?: {
    lookupPath?(path: string): {
      node?: { mount?: { type?: { stream_ops?: { fsync?: (stream: { nfd: number }) => number } } } };
    };
  };
}
/**
 * Its file system answers fsync without doing it; give it a real one. Reaches into internals, so every step is guarded.
 */
function makeDurable(client: PGlite): boolean {
  try {
    const ops = (client.Module as unknown as FsModule).FS?.lookupPath?.("/pglite/data/PG_VERSION").node?.mount?.type
      ?.stream_ops;
    if (!ops) return false;
    ops.fsync = (stream) => {
      fsyncSync(stream.nfd);
      return 0;
    };
    return true;
  } catch {
    return false;
  }
}
