import { execFileSync, spawn, spawnSync, type ChildProcess } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoPassword } from "../../demo/scenario";
import { must } from "../../demo/walk";
import {
  openApplication,
  readEnvironment,
  run,
  runMailings,
  staffActor,
  useCases,
  walkJournal,
  type Application,
} from "../../src/server";
import { openPglite } from "../../src/db/client.pglite";
import { FolderHeldError, holdFolder } from "../../src/db/lock";
import { repositories } from "../../src/db/repositories";
import type { Id } from "../../src/core/shared";
import { builtServer, startBuilt } from "../support/built";

// Against the real production server, killed with SIGKILL while answers come in. Needs a build (npm test makes one).
const port = 3427;
/** Servers that run side by side each have their own, from here on. */
let lastPort = port;
const now = "2026-11-25T08:10:00Z";
const base = mkdtempSync(join(tmpdir(), "kl-kill-"));
const start = join(base, "start");
const environment = (folder: string) =>
  readEnvironment({ KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now, PORT: String(port) });
const from = { address: "", device: "" };
const stranger = { kind: "stranger" as const, ...from };
const signedIn = async (app: Application, who: string) => {
  const { token } = must(
    await run(app, useCases.signIn, stranger, { email: `${who}@fernhollow.example`, password: demoPassword }),
  );
  return { token, actor: await staffActor(app, token, from) };
};

let packetId: Id<"Packet">;
let phq9: Id<"Questionnaire">;
let pass: string;
let partId: string;
beforeAll(async () => {
  // Fernhollow as the end-to-end tests find it; `npm test` has it at hand.
  execFileSync("npm", ["run", "--silent", "seed", "--", "--fresh"], {
    env: { ...process.env, KIND_LEDGER_DATA: start, KIND_LEDGER_NOW: now },
  });
  const app = await openApplication(environment(start));
  const { actor } = await signedIn(app, "maren");
  const { lines } = must(await run(app, useCases.library, actor, {}));
  const questionnaireIds = ["Before your first visit", "Consent to care", "How you have been: PHQ-9"].map(
    (title) => lines.find((l) => l.title === title)!.id,
  );
  phq9 = questionnaireIds[2]!;
  const { visitId } = must(await run(app, useCases.daySheet, actor, {})).lines.find(
    (l) => l.clientName === "Ines Halvorsen",
  )!;
  packetId = must(
    await run(app, useCases.sendPacket, actor, { requestId: app.ports.random.id(), visitId, questionnaireIds }),
  ).packetId;
  const repo = repositories(app.database.db, app.ports.sealer);
  const practice = (await app.practice())!;
  const letter = async () => (await repo.outbox.latest(practice.id, 1))[0]!.body;
  const token = /\/p\/([\w-]+)/.exec(await letter())![1]!;
  must(await run(app, useCases.sendCode, stranger, { token }));
  pass = must(
    await run(app, useCases.checkCode, stranger, { token, code: /\b\d{6}\b/.exec(await letter())![0] }),
  ).passToken;
  partId = (await repo.packets.parts(packetId))[0]!.id;
  await app.database.close();
});

const startServer = (folder: string, port: number): Promise<ChildProcess> => startBuilt({ folder, port, now });
const save = (value: string, at = port): Promise<Response> =>
  fetch(`http://localhost:${at}/f/${packetId}/answers`, {
    method: "PUT",
    headers: { cookie: `kl_door=${pass}`, "sec-fetch-site": "same-origin" },
    body: JSON.stringify({
      partId,
      changes: [{ kind: "values", key: "occupation", values: [{ type: "string", value }] }],
    }),
  });
interface Kept {
  readonly change: { readonly key: string; readonly values: readonly { readonly value: unknown }[] };
}
/** What a client's page is told is kept, by the server that came up after the last one was killed. */
const keptAt = async (at: number): Promise<number> => {
  const { parts } = (await (
    await fetch(`http://localhost:${at}/f/${packetId}/changes?since=-1`, { headers: { cookie: `kl_door=${pass}` } })
  ).json()) as { parts: readonly { readonly id: string; readonly kept: readonly Kept[] }[] };
  return numberIn(
    parts.find((p) => p.id === partId)!.kept.find((k) => k.change.key === "occupation")?.change.values[0]?.value,
  );
};
const numberIn = (value: unknown): number => Number(String(value ?? "answer 0").split(" ")[1]);

// Side by side, as most of it is waiting for a server to start.
describe.concurrent("kill -9", () => {
  it.each([1, 2])(
    "while saving loses no acknowledged answer: five of ten times, on server %i",
    async (which) => {
      const folder = join(base, `run-${which}`);
      const port = ++lastPort;
      cpSync(start, folder, { recursive: true });
      let index = 0;
      let acknowledged = 0;
      const expectKept = (kept: number): void => {
        expect(kept).toBeGreaterThanOrEqual(acknowledged);
        expect(kept).toBeLessThanOrEqual(index);
      };
      for (let round = 1; round <= 5; round++) {
        const server = await startServer(folder, port);
        expectKept(await keptAt(port));
        const dead = new Promise((resolve) => server.once("exit", resolve));
        // Saves run one after the other until the killed server stops answering; the kill falls somewhere within one.
        const saves = (async () => {
          for (;;) {
            const mine = ++index;
            const response = await save(`answer ${mine}`, port).catch(() => undefined);
            if (response?.ok !== true) return;
            acknowledged = mine;
            if (acknowledged % 10 === (round + 5 * which) % 10 && acknowledged > 10 * round)
              setImmediate(() => server.kill("SIGKILL"));
          }
        })();
        await Promise.all([saves, dead]);
      }
      const app = await openApplication(environment(folder));
      const repo = repositories(app.database.db, app.ports.sealer);
      expectKept(numberIn((await repo.answers.ofPart(partId as Id<"Part">)).values["occupation"]?.[0]?.value));
      expect((await walkJournal(app)).broken).toBeUndefined();
      await app.database.close();
      expect(index).toBeGreaterThan(50);
    },
    360_000,
  );

  it("while many are written to goes on where it stopped, and nobody is written to twice", async () => {
    const folder = join(base, "many");
    const people = 90;
    const port = ++lastPort;
    cpSync(start, folder, { recursive: true });
    const before = await openApplication(environment(folder));
    const mailingId = before.ports.random.id();
    const { actor: pia, token } = await signedIn(before, "pia");
    const clientIds: string[] = [];
    for (let index = 0; index < people; index++)
      clientIds.push(
        must(
          await run(before, useCases.addClient, pia, {
            requestId: before.ports.random.id(),
            firstName: `Person ${index}`,
            email: `person.${index}@mail.example`,
            anyway: true,
          }),
        ).id,
      );
    must(await run(before, useCases.startMailing, pia, { requestId: mailingId, clientIds, questionnaireIds: [phq9] }));
    await before.database.close();
    /** What each was sent; who is marked as written to has exactly one letter, who is not has none. */
    const check = async (app: Application): Promise<number> => {
      const practice = (await app.practice())!;
      const repo = repositories(app.database.db, app.ports.sealer);
      const letters = (await repo.outbox.latest(practice.id, 1000)).filter((m) => m.to.startsWith("person."));
      const marked = (await repo.mailings.people(mailingId as Id<"Mailing">)).filter((p) => p.state === "sent");
      expect(new Set(letters.map((m) => m.to)).size).toBe(letters.length);
      expect(marked.length).toBe(letters.length);
      expect(new Set(marked.map((p) => p.packetId)).size).toBe(marked.length);
      return letters.length;
    };
    // The server goes on with it by itself when it starts; it is killed each time it has come a little further.
    let written = 0;
    let cut = 0;
    for (let round = 0; round < 3 && written < people; round++) {
      const server = await startServer(folder, port);
      const dead = new Promise((resolve) => server.once("exit", resolve));
      // Asked now and then only: drawing the page takes the server longer than writing a letter.
      for (let far = 0; far < Math.min(people, written + 8); await new Promise((resolve) => setTimeout(resolve, 50)))
        far = Number(
          /aria-valuenow="(\d+)"/.exec(
            await (
              await fetch(`http://localhost:${port}/send/many/${mailingId}`, {
                headers: { cookie: `kl_staff=${token}` },
              })
            ).text(),
          )?.[1] ?? 0,
        );
      server.kill("SIGKILL");
      await dead;
      const app = await openApplication(environment(folder));
      const now = await check(app);
      expect(now).toBeGreaterThan(written);
      written = now;
      if (written < people) cut++;
      await app.database.close();
    }
    expect(cut).toBeGreaterThan(0);
    const app = await openApplication(environment(folder));
    await runMailings(app);
    expect(await check(app)).toBe(people);
    await app.database.close();
  }, 360_000);
});

describe("one data folder", () => {
  it("is opened by one process only: the second is told who holds it, and stops", async () => {
    const folder = join(base, "held");
    const release = await holdFolder(folder);
    await expect(holdFolder(folder)).rejects.toThrow(FolderHeldError);
    await expect(openApplication(environment(folder))).rejects.toThrow(
      new RegExp(`already open by process ${process.pid}`),
    );
    const child = spawn(process.execPath, builtServer, {
      env: { ...process.env, KIND_LEDGER_DATA: folder, PORT: String(port), NODE_ENV: "production" },
      stdio: ["ignore", "ignore", "pipe"],
    });
    let said = "";
    child.stderr.on("data", (d: Buffer) => {
      said += d.toString();
    });
    expect(await new Promise((resolve) => child.once("exit", resolve))).toBe(1);
    expect(said).toContain(`process ${process.pid}`);
    await release();
    await (
      await holdFolder(folder)
    )();
  });
  it("is held against a process in another network namespace too, and free again once its holder was killed", async () => {
    const folder = join(base, "apart");
    const hold = `import { holdFolder } from "./src/db/lock.ts"; await holdFolder(${JSON.stringify(folder)}); console.log("held"); setInterval(() => undefined, 1000);`;
    const child = spawn("unshare", ["-n", process.execPath, "--import", "tsx", "--input-type=module", "-e", hold], {
      stdio: ["ignore", "pipe", "inherit"],
    });
    await new Promise((resolve) => child.stdout.once("data", resolve));
    await expect(holdFolder(folder)).rejects.toThrow(FolderHeldError);
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill("SIGKILL");
    await gone;
    await (
      await holdFolder(folder)
    )();
  });
});

describe("the keys", () => {
  const openFails = async (folder: string): Promise<string> =>
    openApplication(environment(folder)).then(
      async (app) => {
        await app.database.close();
        return "opened";
      },
      (error: Error) => error.message,
    );
  it("are made for an empty folder only: a missing file and other keys are refused with what to do, and nothing changes", async () => {
    const folder = join(base, "keys");
    cpSync(start, folder, { recursive: true });
    const key = join(folder, "key");
    const right = readFileSync(key, "utf8");
    expect(await openFails(folder)).toBe("opened");
    rmSync(key);
    expect(await openFails(folder)).toMatch(/There is no key file at .* Nothing was changed\. Put back the keys/);
    expect(existsSync(key)).toBe(false);
    writeFileSync(key, `k1:${Buffer.alloc(32, 7).toString("base64")}\n`, { mode: 0o600 });
    expect(await openFails(folder)).toMatch(/are not the ones this database was sealed with/);
    // Without the secrets that everything is sealed with, none are made anew beside it.
    writeFileSync(key, right, { mode: 0o600 });
    const app = await openApplication(environment(folder));
    await app.database.db.execute(sql`create table aside as select * from installation`);
    await app.database.db.execute(sql`delete from installation`);
    await app.database.close();
    expect(await openFails(folder)).toMatch(/secrets are gone from this database.* Nothing was changed/);
    const { db, close } = await openPglite(folder, () => undefined);
    await db.execute(sql`insert into installation select * from aside`);
    await close();
    expect(await openFails(folder)).toBe("opened");
  });
  it("lie apart from the data where it is for real, unless they lie beside it already", () => {
    const real = { NODE_ENV: "production", KIND_LEDGER_DATA: join(base, "nowhere yet") };
    expect(readEnvironment(real).keyFile).toMatch(/kind-ledger\/.*nowhere_yet\.key$/);
    expect(readEnvironment({ ...real, KIND_LEDGER_DEMO: "x" }).keyFile).toBe(join(base, "nowhere yet", "key"));
    expect(readEnvironment({ ...real, KIND_LEDGER_DATA: start }).keyFile).toBe(join(start, "key"));
  });
});

describe("npm run kind -- journal check", () => {
  it("says that the journal holds, or what is broken, and ends accordingly", async () => {
    const folder = join(base, "journal");
    cpSync(start, folder, { recursive: true });
    const check = () =>
      spawnSync("npm", ["run", "--silent", "kind", "--", "journal", "check"], {
        env: { ...process.env, KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now },
        encoding: "utf8",
      });
    expect(check()).toMatchObject({ status: 0, stdout: expect.stringMatching(/^Unbroken: \d+ rows\./) });
    const app = await openApplication(environment(folder));
    await app.close();
    expect(check().stdout).toMatch(/Kept outside the database last: row \d+/);
    const { db, close } = await openPglite(folder, () => undefined);
    await db.execute(sql`alter table journal disable trigger all`);
    await db.execute(sql`alter table journal_head disable trigger all`);
    await db.execute(sql`delete from journal where seq > 5`);
    await db.execute(sql`update journal_head set seq = 5, hash = (select hash from journal where seq = 5)`);
    await close();
    expect(check()).toMatchObject({ status: 1, stderr: expect.stringContaining("its end was cut off") });
  });
});

describe("what the database refuses", () => {
  it("is logged by its code alone: no statement, no value, from Next's side and from the quick way in", async () => {
    const folder = join(base, "refusing");
    cpSync(start, folder, { recursive: true });
    const app = await openApplication(environment(folder));
    const { token } = await signedIn(app, "pia");
    await app.database.db.execute(sql`alter table journal add constraint no_line check (false) not valid`);
    await app.database.close();
    const port = ++lastPort;
    const server = await startServer(folder, port);
    let said = "";
    for (const stream of [server.stdout!, server.stderr!])
      stream.on("data", (d: Buffer) => {
        said += d.toString();
      });
    // The office opens the journal, which is written down; a client saves an answer.
    await fetch(`http://localhost:${port}/office/journal`, { headers: { cookie: `kl_staff=${token}` } });
    const saved = await save("Gärtnerin", port);
    expect(saved.ok).toBe(false);
    const gone = new Promise((resolve) => server.once("exit", resolve));
    server.kill("SIGTERM");
    await gone;
    expect(said.match(/The database refused \(23514, no_line\)/g)?.length).toBeGreaterThanOrEqual(2);
    expect(said).not.toMatch(/Failed query|insert into|save_answers|\$\d|params|Gärtnerin/);
  }, 60_000);
});

describe("the running server", () => {
  let server: ChildProcess;
  beforeAll(async () => {
    cpSync(start, join(base, "live"), { recursive: true });
    server = await startServer(join(base, "live"), port);
  });
  afterAll(() => {
    server.kill("SIGTERM");
  });
  const url = `http://localhost:${port}`;

  it("refuses mutations that come from another site, and says nothing of health in its answers", async () => {
    const body = JSON.stringify({ partId, changes: [] });
    for (const headers of [
      { "sec-fetch-site": "cross-site" },
      { "sec-fetch-site": "same-site" },
      { origin: "https://evil.example" },
      {},
    ] as Record<string, string>[])
      expect(
        (
          await fetch(`${url}/f/${packetId}/answers`, {
            method: "PUT",
            headers: { ...headers, cookie: `kl_door=${pass}` },
            body,
          })
        ).status,
      ).toBe(403);
    expect(
      (
        await fetch(`${url}/f/${packetId}/answers`, {
          method: "PUT",
          headers: { origin: url, cookie: "kl_door=wrong" },
          body,
        })
      ).status,
    ).toBe(401);
    for (const bad of ["", "x", "{", "[]", '{"partId":"x"}'])
      expect(
        (
          await fetch(`${url}/f/${packetId}/answers`, {
            method: "PUT",
            headers: { origin: url, cookie: `kl_door=${pass}` },
            body: bad,
          })
        ).status,
      ).toBe(400);
    // A comment that cannot be read, or is too long, is not dropped with a smile.
    for (const bad of [
      "",
      "x",
      "{",
      JSON.stringify({ comment: "x".repeat(2_001) }),
      JSON.stringify({ comment: "x".repeat(30_000) }),
    ])
      expect(
        (
          await fetch(`${url}/f/${packetId}/return`, {
            method: "POST",
            headers: { origin: url, cookie: `kl_door=${pass}` },
            body: bad,
          })
        ).status,
      ).toBe(400);
  });
  it("takes nothing through the quick way in that the use case would not: too much, made-up keys, other methods, another packet", async () => {
    const send = (method: string, body: string, to = packetId as string) =>
      fetch(`${url}/f/${to}/answers`, { method, headers: { origin: url, cookie: `kl_door=${pass}` }, body });
    const change = (key: string, value: unknown = [{ type: "string", value: "x" }]): string =>
      JSON.stringify({ partId, changes: [{ kind: "values", key, values: value }] });
    expect((await send("PUT", change("occupation", [{ type: "string", value: "x".repeat(1_100_000) }]))).status).toBe(
      400,
    );
    for (const key of [
      "__proto__",
      "constructor",
      "nobody",
      "medicines:r1/nobody",
      "../occupation",
      `occupation${"x".repeat(600)}`,
    ])
      expect((await send("PUT", change(key))).status, key).toBe(400);
    expect(
      (
        await send(
          "PUT",
          `{"partId":"${partId}","changes":[{"kind":"values","key":"occupation","values":${"[".repeat(5000)}${"]".repeat(5000)}}]}`,
        )
      ).status,
    ).toBe(400);
    expect((await send("PUT", change("occupation", [{ type: "string", value: "a\u0000b" }]))).status).toBe(400);
    for (const method of ["POST", "PATCH", "DELETE"])
      expect((await send(method, change("occupation"))).ok, method).toBe(false);
    expect((await send("PUT", change("occupation"), "00000000-0000-4000-8000-000000000000")).status).toBe(401);
    const kept = await send("PUT", change("occupation", [{ type: "string", value: 'Gärtnerin 🌱 “\\"' }]));
    expect([kept.status, kept.headers.get("cache-control"), await kept.json()]).toEqual([
      200,
      "no-store",
      {
        savedAt: expect.stringMatching(/^2026-11-25T08:10:00/) as string,
        kept: { "values occupation": expect.any(Number) as number },
        clashes: [],
      },
    ]);
  });
  it("keeps staff pages and files from strangers, and sends a strict policy with a fresh nonce", async () => {
    for (const path of ["/day", "/returns", "/people", "/library", "/office", "/post-room", `/packets/${packetId}`]) {
      const response = await fetch(`${url}${path}`, { redirect: "manual" });
      expect([response.status, response.headers.get("location")], path).toEqual([307, "/sign-in"]);
    }
    for (const path of [`/api/parts/${partId}/paper`, `/api/parts/${partId}/response`])
      expect((await fetch(`${url}${path}`, { redirect: "manual" })).status).toBe(307);
    expect((await fetch(`${url}/api/events`)).status).toBe(401);
    const policies = await Promise.all(
      [0, 1].map(async () => (await fetch(`${url}/sign-in`)).headers.get("content-security-policy")!),
    );
    expect(policies[0]).not.toBe(policies[1]);
    expect(policies[0]).toMatch(/script-src 'self' 'nonce-[\w+/=]{24}' 'strict-dynamic';/);
    expect(policies[0]).not.toMatch(/script-src[^;]*unsafe/);
    const html = await (await fetch(`${url}/sign-in`)).text();
    expect(html.match(/<script(?![^>]*nonce=)/g)).toBeNull();
  });
  it("believes no address that a stranger writes into a header", async () => {
    await fetch(`${url}/f/${packetId}/answers`, {
      method: "PUT",
      headers: {
        origin: url,
        cookie: `kl_door=${pass}`,
        "x-forwarded-for": "203.0.113.1",
        "x-kind-ledger-address": "203.0.113.2",
      },
      body: JSON.stringify({ partId, changes: [{ kind: "values", key: "occupation", values: [] }] }),
    });
    server.kill("SIGTERM");
    await new Promise((resolve) => server.once("exit", resolve));
    const app = await openApplication(environment(join(base, "live")));
    const [row] = await repositories(app.database.db, app.ports.sealer).journal.latest((await app.practice())!.id, 1);
    expect([row!.action, row!.address]).toEqual(["answer.save", expect.stringMatching(/^(127\.0\.0\.1|::1)$/)]);
    await app.database.close();
  });
});
