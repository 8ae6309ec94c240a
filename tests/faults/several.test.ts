import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { startPostgres } from "../../scripts/postgres.mjs";
import { demoPassword } from "../../demo/scenario";
import { seedPeople } from "../../demo/seed";
import { must } from "../../demo/walk";
import { openApplication, readEnvironment, run, useCases } from "../../src/server";
import { builtServer } from "../support/built";

// Two processes of the build on one PostgreSQL, asked as a browser and as a machine ask.
const ports = [3471, 3472] as const;
const folder = mkdtempSync(join(tmpdir(), "kl-several-"));
const token = "a-token-for-whoever-measures";
let postgres: Awaited<ReturnType<typeof startPostgres>>;
let admin: pg.Client;
let cookie: string;
const servers: ChildProcess[] = [];
let logged = "";

const settings = () => ({
  KIND_LEDGER_DATA: folder,
  KIND_LEDGER_TRIAL: "yes",
  KIND_LEDGER_NOW: "2026-11-25T08:10:00Z",
  KIND_LEDGER_METRICS_TOKEN: token,
  KIND_LEDGER_LOG: "json",
  DATABASE_URL: postgres.url,
});
async function startServer(port: number): Promise<void> {
  const child = spawn(process.execPath, builtServer, {
    env: { ...process.env, ...settings(), PORT: String(port), NODE_ENV: "production" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  servers.push(child);
  await new Promise<void>((resolve, reject) => {
    child.stdout.on("data", (text: Buffer) => {
      logged += text.toString();
      if (text.toString().includes("ready on")) resolve();
    });
    child.once("exit", (code) => reject(new Error(`The server ended with ${String(code)}.`)));
  });
}
const ask = (port: number, path: string, headers: Readonly<Record<string, string>> = {}) =>
  fetch(`http://localhost:${port}${path}`, { headers: { cookie, ...headers }, redirect: "manual" });
const statusOf = async (port: number, path: string): Promise<number> => (await ask(port, path)).status;

beforeAll(async () => {
  postgres = await startPostgres();
  const app = await openApplication(readEnvironment(settings()));
  await seedPeople(app);
  const stranger = { kind: "stranger" as const, address: "", device: "" };
  const signedIn = must(
    await run(app, useCases.signIn, stranger, { email: "maren@fernhollow.example", password: demoPassword }),
  );
  cookie = `kl_staff=${signedIn.token}`;
  await app.database.close();
  await Promise.all(ports.map(startServer));
  admin = new pg.Client({ connectionString: postgres.url });
  await admin.connect();
});
afterAll(async () => {
  for (const server of servers) server.kill("SIGKILL");
  await admin.end();
  postgres.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe("two processes on one database", () => {
  it("say that they are there and ready, and what is measured to whoever bears the token alone", async () => {
    for (const port of ports) {
      // Whoever looks after machines calls them by number.
      const health = await fetch(`http://127.0.0.1:${port}/healthz`, { headers: { host: "10.0.0.7" } });
      expect([health.status, await health.text()]).toEqual([200, "ok\n"]);
      expect(await statusOf(port, "/readyz")).toBe(200);
      expect(await statusOf(port, "/day")).toBe(200);
      expect(await statusOf(port, "/metrics")).toBe(401);
      expect((await ask(port, "/metrics", { authorization: "Bearer other" })).status).toBe(401);
      const measured = await ask(port, "/metrics", { authorization: `Bearer ${token}` });
      expect(await measured.text()).toContain('kind_ledger_use_case_seconds_count{use_case="day-sheet",outcome="ok"}');
    }
  });

  it("while somebody holds what a page needs, it is a 503 that says when to ask again, and then the page", async () => {
    await admin.query("begin");
    await admin.query("lock table visit in access exclusive mode");
    const busy = await ask(ports[0], "/day");
    const text = await busy.text();
    await admin.query("rollback");
    expect([busy.status, busy.headers.get("retry-after")]).toEqual([503, "3"]);
    expect(text).toMatch(/One moment|digest|busy/);
    expect(await statusOf(ports[0], "/day")).toBe(200);
  });

  it("after every connection was cut at once, both serve as before", async () => {
    await admin.query("select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid()");
    for (const port of ports) {
      await expect.poll(() => statusOf(port, "/readyz"), { timeout: 20_000 }).toBe(200);
      expect(await statusOf(port, "/people")).toBe(200);
    }
  });

  it("serve nothing from tables they do not know, and say so", async () => {
    await admin.query("insert into drizzle.__drizzle_migrations (hash, created_at) values ('of a later version', 1)");
    await admin.query("select pg_notify('migrated', '')");
    for (const port of ports) {
      await expect.poll(() => statusOf(port, "/readyz"), { timeout: 30_000 }).toBe(503);
      expect(await statusOf(port, "/day")).toBe(503);
      expect(await statusOf(port, "/healthz")).toBe(200);
    }
    await admin.query("delete from drizzle.__drizzle_migrations where hash = 'of a later version'");
    await admin.query("select pg_notify('migrated', '')");
    for (const port of ports) await expect.poll(() => statusOf(port, "/day"), { timeout: 30_000 }).toBe(200);
  });

  it("log a line for each request that a machine reads, and nothing that names anybody", async () => {
    const { rows } = await admin.query<{ id: string }>("select id from client limit 1");
    await ask(ports[0], `/people/${rows[0]!.id}?asked=Halvorsen`);
    await expect.poll(() => logged).toContain('"/people/:id"');
    const lines = logged
      .split("\n")
      .filter((line) => line.startsWith("{"))
      .map((line) => JSON.parse(line) as { event: string; path?: string; status?: number });
    expect(lines.filter(({ event }) => event === "request").length).toBeGreaterThan(5);
    expect(lines.some(({ status }) => status === 503)).toBe(true);
    expect(logged).not.toContain(rows[0]!.id);
    expect(logged).not.toMatch(/Halvorsen|maren|fernhollow|127\.0\.0\.1:\d+\/p/i);
    expect(logged).not.toContain(cookie.slice(9));
  });
});
