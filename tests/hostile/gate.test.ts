import type { ChildProcess } from "node:child_process";
import { execFileSync } from "node:child_process";
import { cpSync, mkdtempSync, readFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoPassword } from "../../demo/scenario";
import { must } from "../../demo/walk";
import { writeQuestionnaire } from "../../src/core/fhir";
import { emptyQuestionnaire } from "../../src/core/questionnaire";
import type { Id } from "../../src/core/shared";
import { repositories } from "../../src/db/repositories";
import {
  openApplication,
  readEnvironment,
  run,
  staffActor,
  useCases,
  walkJournal,
  type Application,
} from "../../src/server";
import { startBuilt } from "../support/built";
import { question } from "../support/questionnaires";
import { costlyPatterns } from "./patterns";
import { clientPaths, hostileBodies, hostileIds, hostileWire, staffPaths } from "./requests";
import { hostileUploads } from "./uploads";

// The production build over HTTP, as a stranger, a client, the office and another practitioner. Limits are counted in
// work done (processor time of the server, rows, bytes), never in seconds. Needs a build (npm test makes one).
const port = 3467;
const url = `http://localhost:${port}`;
const now = "2026-11-25T08:10:00Z";
const folder = join(mkdtempSync(join(tmpdir(), "kl-gate-")), "data");
const environment = readEnvironment({ KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now, PORT: String(port) });
const from = { address: "192.0.2.7", device: "" };
const [costly, longText] = costlyPatterns[0]!;

let server: ChildProcess;
let packetId: Id<"Packet">;
let partId: string;
let said = "";
const cookies = { client: "", office: "", practitioner: "" };
type Caller = keyof typeof cookies;

async function signedIn(app: Application, who: string) {
  const stranger = { kind: "stranger" as const, ...from };
  const email = `${who}@fernhollow.example`;
  const { token } = must(await run(app, useCases.signIn, stranger, { email, password: demoPassword }));
  return { token, actor: await staffActor(app, token, from) };
}
beforeAll(async () => {
  execFileSync("npm", ["run", "--silent", "seed", "--", "--fresh"], {
    env: { ...process.env, KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now },
  });
  const app = await openApplication(environment);
  const stranger = { kind: "stranger" as const, ...from };
  const [maren, pia, tobias] = [
    await signedIn(app, "maren"),
    await signedIn(app, "pia"),
    await signedIn(app, "tobias"),
  ];
  const asked = writeQuestionnaire({
    ...emptyQuestionnaire("urn:test:hostile", "Hostile", "intake", "x"),
    items: [
      question("pattern", { text: "A pattern", pattern: costly, entryFormat: "a" }),
      question("file", { text: "A file", type: "attachment", repeats: true }),
    ],
  });
  const { id } = must(await run(app, useCases.importQuestionnaire, maren.actor, { text: JSON.stringify(asked) }));
  must(await run(app, useCases.putInUse, maren.actor, { id }));
  const { visitId } = must(await run(app, useCases.daySheet, maren.actor, {})).lines.find(
    (l) => l.clientName === "Ines Halvorsen",
  )!;
  ({ packetId } = must(
    await run(app, useCases.sendPacket, maren.actor, {
      requestId: app.ports.random.id(),
      visitId,
      questionnaireIds: [id],
    }),
  ));
  const repo = repositories(app.database.db, app.ports.sealer);
  const latest = async () => (await repo.outbox.latest((await app.practice())!.id, 1))[0]!.body;
  const token = /\/p\/([\w-]+)/.exec(await latest())![1]!;
  must(await run(app, useCases.sendCode, stranger, { token }));
  const code = /\b\d{6}\b/.exec(await latest())![0];
  cookies.client = `kl_door=${must(await run(app, useCases.checkCode, stranger, { token, code })).passToken}`;
  cookies.office = `kl_staff=${pia.token}`;
  cookies.practitioner = `kl_staff=${tobias.token}`;
  partId = (await repo.packets.parts(packetId))[0]!.id;
  await app.close();
  cpSync(folder, `${folder}-before`, { recursive: true });
  server = await startBuilt({ folder, port, now });
  for (const stream of [server.stdout!, server.stderr!])
    stream.on("data", (d: Buffer) => {
      said += d.toString();
    });
  // Loads what the first request of each kind loads.
  for (const path of ["/sign-in", "/day"]) await fetch(`${url}${path}`, { headers: { cookie: cookies.office } });
});
afterAll(() => server.kill("SIGTERM"));

/**
 * Processor time of the server so far, in ms (proc(5): utime and stime, in ticks of 10 ms). What reads files apart is
 * not in it.
 */
function work(): number {
  const fields = readFileSync(`/proc/${server.pid}/stat`, "latin1").split(") ")[1]!.split(" ");
  return (Number(fields[11]) + Number(fields[12])) * 10;
}
const ask = (path: string, as?: Caller, more: RequestInit = {}): Promise<Response> =>
  fetch(`${url}${path}`, {
    redirect: "manual",
    ...more,
    headers: { origin: url, ...(as ? { cookie: cookies[as] } : {}), ...(more.headers as Record<string, string>) },
  });
/** Nobody is told more than that it did not work. */
async function expectQuiet(response: Response, what: string): Promise<void> {
  const text = await response.text();
  expect(response.status, what).toBeLessThan(500);
  expect(/ at .{1,80}\.js:\d+|node_modules|Failed query|select .{1,80} from/.exec(text)?.[0], what).toBeUndefined();
  if (!/^(?:office|practitioner)/.test(what)) expect(text.includes("Halvorsen"), what).toBe(false);
}

describe("what a client uploads", () => {
  let costlySoFar = 0;
  // Made before anything is asked: making one takes seconds, and in those the server closes the connection that fetch
  // would then use once more.
  const uploads = hostileUploads.map(({ make, ...upload }) => ({ ...upload, body: make() }));
  it.each(uploads)(
    "$what: is refused by its reason, and the server did next to nothing",
    async ({ name, body, why }) => {
      const before = work();
      const response = await ask(`/f/${packetId}/files?part=${partId}&id=${crypto.randomUUID()}`, "client", {
        method: "PUT",
        headers: { "x-file-name": name, "x-answer-key": "file" },
        body: Buffer.from(body),
      });
      // After five that cost much, none of them is looked into for a while.
      const expected = costlySoFar < 5 ? why : "too-many";
      if (expected === "too-costly") costlySoFar++;
      expect([response.status, await response.json()]).toEqual([422, { reason: "refused", why: expected }]);
      expect(work() - before).toBeLessThan(1500);
      expect((await ask("/sign-in")).status).toBe(200);
    },
  );
  it.each(uploads)("$what: no signature is cut out of it, and the server did next to nothing", async ({ body }) => {
    const before = work();
    const asked = { method: "PUT", body: Buffer.from(body) };
    const response = await ask(`/f/${packetId}/picture`, "client", asked);
    expect([response.status, await response.json()]).toEqual([422, { reason: "no-picture" }]);
    expect(work() - before).toBeLessThan(1500);
  });
});

describe("what is asked for", () => {
  it.each<[string, Caller | undefined]>([
    ["a stranger", undefined],
    ["a client", "client"],
    ["the office", "office"],
    ["another practitioner", "practitioner"],
  ])("by %s, with ids that are none, gives nothing away and breaks nothing", async (_, as) => {
    for (const id of hostileIds) {
      const paths = [
        ...clientPaths.flatMap((rest) => [`/f/${id}${rest}`, `/f/${packetId}${rest}`]),
        `/p/${id}`,
        ...staffPaths,
      ].map((path) => path.replaceAll("ID", id));
      // Their own packet is shown to the client.
      for (const path of paths.filter((p) => as !== "client" || !p.startsWith(`/f/${packetId}`)))
        await expectQuiet(await ask(path, as), `${as}: ${path}`);
    }
  });
  it("that somebody else's cookie opens nothing, and the client's nothing of the practice", async () => {
    for (const path of [`/f/${packetId}`, `/f/${packetId}/changes?since=-1`, `/f/${packetId}/paper`])
      for (const as of [undefined, "office", "practitioner"] as const) {
        const text = await (await ask(path, as)).text();
        expect(text, path).not.toMatch(/A pattern|Halvorsen/);
      }
    for (const path of ["/day", "/people", "/returns", "/office/journal"])
      expect((await ask(path, "client")).status, path).toBe(307);
    expect(await (await ask(`/returns/${packetId}`, "office")).text()).not.toContain("A pattern");
  });
});

describe("what is sent", () => {
  it("a text that a pattern takes longest for is matched in one go", async () => {
    const before = work();
    const changes = [{ kind: "values", key: "pattern", values: [{ type: "string", value: `${longText}!` }] }];
    for (let times = 0; times < 5; times++)
      expect(
        (await ask(`/f/${packetId}/answers`, "client", { method: "PUT", body: JSON.stringify({ partId, changes }) }))
          .status,
      ).toBe(200);
    await ask(`/f/${packetId}/return`, "client", { method: "POST", body: "{}" });
    expect(work() - before).toBeLessThan(1500);
  });
  it.each<[string, string, Caller | undefined]>(
    [
      "/answers",
      "/return",
      "/sign",
      "/stay",
      "/language",
      "/on-paper",
      "/sign-turn",
      "/decline",
      "/paper-turn",
      "/take-back",
    ].flatMap((path): [string, string, Caller | undefined][] => [
      [path, path === "/answers" ? "PUT" : "POST", "client"],
      [path, path === "/answers" ? "PUT" : "POST", undefined],
    ]),
  )("to %s (%s as %s): bodies that are none are refused", async (path, method, as) => {
    for (const body of hostileBodies) {
      const before = work();
      const response = await ask(`/f/${packetId}${path}`, as, { method, body });
      await expectQuiet(response, `${path} ${body.slice(0, 40)}`);
      // Staying asks for nothing, and a return may come without a comment.
      const mayBeAnything = path === "/stay" || (path === "/return" && /^.?\{/s.test(body));
      if (!mayBeAnything) expect(response.ok, body.slice(0, 40)).toBe(false);
      expect(work() - before).toBeLessThan(1500);
    }
  });
  it.each(hostileWire)("on the wire, %s", async (_, bytes, status) => {
    const reply = await new Promise<string>((resolve) => {
      const socket = connect(port, "127.0.0.1");
      let text = "";
      socket.on("data", (d) => {
        text += d.toString("latin1");
        if (text.includes("\r\n")) socket.destroy();
      });
      socket.on("close", () => resolve(text));
      socket.on("error", () => resolve(text));
      socket.write(bytes, "latin1");
    });
    expect(reply.split("\r\n")[0]).toMatch(status);
    expect(reply).not.toContain("evil.example");
  });
});

describe("after all of it", () => {
  it("the server is there, its log holds nothing of anybody's, and the journal is no longer than what was let through", async () => {
    expect((await ask("/day", "practitioner")).status).toBe(200);
    // The office asks for what it may not see, again and again.
    for (let times = 0; times < 60; times++) await ask(`/returns/${packetId}`, "office");
    const gone = new Promise((resolve) => server.once("exit", resolve));
    server.kill("SIGTERM");
    await gone;
    expect(said).not.toMatch(/Halvorsen|Failed query|params:|at .*\/src\//);
    const rowsOf = async (data: string) => {
      const app = await openApplication({ ...environment, dataFolder: data, keyFile: join(data, "key") });
      const { journal } = repositories(app.database.db, app.ports.sealer);
      const { id } = (await app.practice())!;
      const found = {
        rows: (await journal.head(id)).seq,
        refused: (await journal.refusals(id, 500)).reduce((n, r) => n + r.count, 0),
        broken: (await walkJournal(app)).broken,
      };
      await app.close();
      return found;
    };
    const [before, after] = [await rowsOf(`${folder}-before`), await rowsOf(folder)];
    expect(after.broken).toBeUndefined();
    expect(after.refused - before.refused).toBeGreaterThanOrEqual(60);
    expect(after.rows - before.rows).toBeLessThan(60);
  });
});
