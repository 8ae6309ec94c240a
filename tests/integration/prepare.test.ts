import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { sql } from "drizzle-orm";
import { describe, expect, it } from "vitest";
import { openPglite } from "../../src/db/client.pglite";
import { openPostgres } from "../../src/db/client.postgres";
import type { Database } from "../../src/db/database";
import { UnknownDatabaseError } from "../../src/db/prepare";
import { tendTables } from "../../src/db/tend";
import { kinds, serverUrl, type Kind } from "../support/world";

const quiet = (): void => undefined;
/** A place that can be opened again and again; `gone` removes it. */
interface Place {
  open(): Promise<Database>;
  gone(): Promise<void>;
}
const places: Readonly<Record<Kind, () => Promise<Place>>> = {
  async pglite() {
    const folder = mkdtempSync(join(tmpdir(), "kl-prepare-"));
    return { open: () => openPglite(folder, quiet), gone: async () => rmSync(folder, { recursive: true }) };
  },
  async postgres() {
    const name = `kl_prepare_${process.pid}_${Date.now().toString(36)}`;
    const ask = async (query: string): Promise<void> => {
      const admin = new pg.Client({ connectionString: serverUrl });
      await admin.connect();
      await admin.query(query);
      await admin.end();
    };
    await ask(`create database ${name}`);
    const url = new URL(serverUrl!);
    url.pathname = `/${name}`;
    return {
      open: () => openPostgres(url.toString(), quiet),
      gone: () => ask(`drop database ${name} with (force)`),
    };
  },
};
const sourceOf = async (database: Database, name: string): Promise<string> => {
  const { rows } = (await database.db.execute(sql`select prosrc from pg_proc where proname = ${name}`)) as unknown as {
    rows: { prosrc: string }[];
  };
  return rows[0]?.prosrc ?? "";
};

describe.each(kinds)("preparing a database, %s", (kind) => {
  it("applies a function again when it differs from its file, and only then", async () => {
    const place = await places[kind]();
    const first = await place.open();
    const shipped = await sourceOf(first, "refuse_change");
    expect(shipped).toContain("RAISE");
    await first.db.execute(
      sql`create or replace function refuse_change() returns trigger language plpgsql as $$ begin return null; end $$`,
    );
    await first.close();
    // What was changed by hand while its digest still matches is nobody's business here.
    const second = await place.open();
    expect(await sourceOf(second, "refuse_change")).not.toContain("RAISE");
    await second.db.execute(sql`update drizzle.applied_function set digest = 'older' where name = 'refuse_change.sql'`);
    await second.close();
    const third = await place.open();
    expect(await sourceOf(third, "refuse_change")).toBe(shipped);
    await third.close();
    await place.gone();
  });

  it("refuses a database of an unknown version in one sentence, and changes nothing in it", async () => {
    const place = await places[kind]();
    const first = await place.open();
    await first.db.execute(sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('of-before', 1)`);
    await first.db.execute(sql`delete from drizzle.applied_function`);
    await first.close();
    await expect(place.open()).rejects.toThrow(UnknownDatabaseError);
    await expect(place.open()).rejects.toThrow("Nothing in it was changed.");
    await place.gone();
  });
});

it("tables of the embedded database are counted for the planner when much changed, killed or not, and left alone otherwise", async () => {
  const place = await places.pglite();
  const count = async ({ db }: Database): Promise<number> =>
    (
      (await db.execute(sql`select reltuples::int as many from pg_class where relname = 'rate_limit'`)) as unknown as {
        rows: { many: number }[];
      }
    ).rows[0]!.many;
  const add = ({ db }: Database, from: number): Promise<unknown> =>
    db.execute(
      sql`insert into rate_limit (key, window_start, count) select 'k' || n, now(), 1 from generate_series(${from}::int, ${from + 9999}::int) n`,
    );
  const first = await place.open();
  await tendTables(first.db);
  expect(await tendTables(first.db)).toEqual([]);
  await add(first, 1);
  expect(await tendTables(first.db)).toContain("rate_limit");
  expect(await count(first)).toBe(10_000);
  expect(await tendTables(first.db)).toEqual([]);
  await add(first, 10_001);
  // What was counted of changes is lost with the process.
  await first.db.execute(sql`select pg_stat_reset()`);
  expect(await tendTables(first.db)).toContain("rate_limit");
  expect(await count(first)).toBe(20_000);
  await first.close();
  await place.gone();
});
