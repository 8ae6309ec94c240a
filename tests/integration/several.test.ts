import { execFileSync } from "node:child_process";
import pg from "pg";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { openPostgres } from "../../src/db/client.postgres";
import { BusyError, withoutValues } from "../../src/db/errors";
import { lookAtVersion } from "../../src/jobs/watch";
import { metricsText, useCases } from "../../src/server";
import { kinds, serverUrl, World } from "../support/world";

const python = "/usr/bin/python3";
describe.each(kinds)("what is measured, on %s", (kind) => {
  it("is read by the Prometheus project's own parser, and names nobody", async () => {
    const world = await World.open(kind);
    must(await world.do(useCases.daySheet, world.as("maren"), {}));
    await world.do(useCases.chartView, world.as("pia"), { clientId: world.request() });
    const text = await metricsText(world.app);
    // prometheus_client.parser, of Debian's python3-prometheus-client.
    const read = JSON.parse(
      execFileSync(
        python,
        [
          "-c",
          "import json, sys\nfrom prometheus_client.parser import text_string_to_metric_families as read\nprint(json.dumps({s.name + str(sorted(s.labels.items())): s.value for f in read(sys.stdin.read()) for s in f.samples}))",
        ],
        { input: text },
      ).toString(),
    ) as Record<string, number>;
    expect(read).toMatchObject({
      "kind_ledger_database_up[]": 1,
      "kind_ledger_database_fits[]": 1,
      "kind_ledger_use_case_seconds_count[('outcome', 'ok'), ('use_case', 'day-sheet')]": expect.any(Number) as number,
      "kind_ledger_use_case_seconds_count[('outcome', 'not-allowed'), ('use_case', 'chart-view')]": expect.any(
        Number,
      ) as number,
    });
    expect(read["kind_ledger_journal_rows[]"]).toBeGreaterThan(10);
    expect(text).not.toMatch(/Halvorsen|Maren|fernhollow/i);
    await world.close();
  });
});

describe.runIf(serverUrl !== undefined)("several machines on one PostgreSQL", () => {
  let world: World;
  let url: string;
  let admin: pg.Client;
  beforeAll(async () => {
    world = await World.open("postgres");
    const { rows } = (await world.app.database.db.execute(sql`select current_database() as name`)) as unknown as {
      rows: { name: string }[];
    };
    url = serverUrl!.replace(/\/[^/]*$/, `/${rows[0]!.name}`);
    admin = new pg.Client({ connectionString: url });
    await admin.connect();
  });
  afterAll(async () => {
    await admin.end();
    await world.close();
  });
  const cutAllOthers = () =>
    admin.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
    );

  it("what listens comes back by itself, and is told that it may have missed something", async () => {
    const heard: string[] = [];
    const stop = await world.app.database.listen("returns", (payload) => heard.push(payload));
    await admin.query("notify returns, 'one'");
    await expect.poll(() => heard).toContain("one");
    await cutAllOthers();
    await expect.poll(() => heard, { timeout: 20_000 }).toContain("");
    await admin.query("notify returns, 'two'");
    await expect.poll(() => heard, { timeout: 20_000 }).toContain("two");
    // One that begins while it is down is heard as well.
    const later: string[] = [];
    await cutAllOthers();
    const stopLater = await world.app.database.listen("other", (payload) => later.push(payload));
    await expect
      .poll(
        async () => {
          await admin.query("notify other, 'three'");
          return later;
        },
        { timeout: 20_000 },
      )
      .toContain("three");
    await stop();
    await stopLater();
    expect(must(await world.do(useCases.daySheet, world.as("maren"), {})).lines.length).toBeGreaterThan(0);
  });

  it("a connection that breaks inside a transaction is said to whoever has it, and nothing is done", async () => {
    const cut = withoutValues(() =>
      world.app.database.db.transaction(async (tx) => {
        const { rows } = (await tx.execute(sql`select pg_backend_pid() as pid`)) as unknown as {
          rows: { pid: number }[];
        };
        await tx.execute(sql`update practice set name = 'Half done'`);
        await admin.query("select pg_terminate_backend($1)", [rows[0]!.pid]);
        await tx.execute(sql`select 1`);
      }),
    );
    await expect(cut).rejects.toThrow(BusyError);
    expect((await world.app.practice())!.name).toBe("Fernhollow Care Rooms");
  });

  it("a lock that somebody holds is waited for some seconds; what was sent is answered, and a page fails as busy", async () => {
    const { lines } = must(await world.do(useCases.people, world.as("pia"), {}));
    await admin.query("begin");
    await admin.query("select 1 from client where id = $1 for update", [lines[0]!.id]);
    const began = Date.now();
    const archived = await world.do(useCases.archiveClient, world.as("pia"), { clientId: lines[0]!.id });
    expect(archived).toEqual({ ok: false, error: { reason: "busy" } });
    expect(Date.now() - began).toBeLessThan(15_000);
    await admin.query("lock table note in access exclusive mode");
    await expect(world.do(useCases.chartView, world.as("maren"), { clientId: lines[1]!.id })).rejects.toThrow(
      BusyError,
    );
    await admin.query("rollback");
    must(await world.do(useCases.chartView, world.as("maren"), { clientId: lines[1]!.id }));
  });

  it("a start that finds somebody at work on what it changes waits for them, and a newer database is noticed", async () => {
    await admin.query("update drizzle.applied_function set digest = 'older' where name = 'mark_changed.sql'");
    await admin.query("begin");
    await admin.query("update client set zone = zone");
    const starting = openPostgres(url, () => undefined);
    // Longer than a lock is waited for.
    await new Promise((resolve) => setTimeout(resolve, 7_000));
    await admin.query("commit");
    await (await starting).close();
    await lookAtVersion(world.app);
    expect(world.app.state.fits).toBe(true);
    await admin.query("insert into drizzle.__drizzle_migrations (hash, created_at) values ('of a later version', 1)");
    await lookAtVersion(world.app);
    expect(world.app.state.fits).toBe(false);
    await expect(openPostgres(url, () => undefined)).rejects.toThrow("Nothing in it was changed");
    await admin.query("delete from drizzle.__drizzle_migrations where hash = 'of a later version'");
    await lookAtVersion(world.app);
    expect(world.app.state.fits).toBe(true);
  });
});
