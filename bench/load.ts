import type { ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { Agent, request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { chromium as browserLaunch } from "../playwright.config";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import { openApplication, readEnvironment, run, runMailings, useCases } from "../src/server";
import { repositories } from "../src/db/repositories";
import type { Id } from "../src/core/shared";
import { enter, ms, printTable, quantile, startServer, tokenOf } from "./support";

// Many at once, on both databases, and one on a slow phone. Needs a build; PostgreSQL by KL_BENCH_POSTGRES.
const port = 3438;
const clients = 200;
const savesEach = 12;
const many = 500;
const base = mkdtempSync(join(tmpdir(), "kl-load-"));

interface Client {
  readonly packetId: Id<"Packet">;
  readonly partId: Id<"Part">;
  readonly pass: string;
  readonly agent: Agent;
}
const save = ({ packetId, partId, pass, agent }: Client, value: string): Promise<{ status: number; took: number }> =>
  new Promise((resolve, reject) => {
    const body = JSON.stringify({
      partId,
      changes: [{ kind: "values", key: "occupation", values: [{ type: "string", value }] }],
    });
    const began = performance.now();
    const sent = request(
      {
        agent,
        host: "127.0.0.1",
        port,
        method: "PUT",
        path: `/f/${packetId}/answers`,
        headers: {
          cookie: `kl_door=${pass}`,
          "sec-fetch-site": "same-origin",
          "content-length": Buffer.byteLength(body),
        },
      },
      (response) => {
        response.resume().once("end", () => resolve({ status: response.statusCode!, took: performance.now() - began }));
      },
    );
    sent.once("error", reject).end(body);
  });
const openPage = ({ packetId, pass, agent }: Client): Promise<void> =>
  new Promise((resolve, reject) => {
    request(
      { agent, host: "127.0.0.1", port, path: `/f/${packetId}`, headers: { cookie: `kl_door=${pass}` } },
      (response) => {
        response
          .resume()
          .once("end", () =>
            response.statusCode === 200 ? resolve() : reject(new Error(`A page answered ${response.statusCode}.`)),
          );
      },
    )
      .once("error", reject)
      .end();
  });
/** Somebody types a while, pauses, and types on: one to three seconds between two saves. */
const pause = (): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, 1000 + Math.random() * 2000);
  });
const stop = async (server: ChildProcess): Promise<void> => {
  const gone = new Promise((resolve) => server.once("exit", resolve));
  server.kill("SIGTERM");
  await gone;
};

async function load(kind: "PGlite" | "PostgreSQL", env: Readonly<Record<string, string>>): Promise<string[][]> {
  const environment = readEnvironment({ ...env, PORT: String(port) });
  let app = await openApplication(environment);
  const seeded = await seedPeople(app);
  const maren = staffAs(app, seeded.staff["maren"]!, "maren");
  const people: Client[] = [];
  for (let index = 0; index < clients; index++) {
    const clientId = must(
      await run(app, useCases.addClient, maren, {
        requestId: app.ports.random.id(),
        firstName: `P${index}`,
        email: `p.${index}@mail.example`,
        anyway: true,
      }),
    ).id;
    const { packetId } = must(
      await run(app, useCases.sendPacket, maren, {
        requestId: app.ports.random.id(),
        clientId,
        questionnaireIds: seeded.questionnaires,
      }),
    );
    const [part] = await repositories(app.database.db, app.ports.sealer).packets.parts(packetId);
    people.push({
      packetId,
      partId: part!.id,
      pass: await enter(app, packetId, `10.0.0.${index}`),
      agent: new Agent({ keepAlive: true, maxSockets: 1 }),
    });
  }
  await app.database.close();

  let server = await startServer(port, env);
  // Who fills in has opened the page: it asks for it, and the server knows the pass from then on.
  for (const person of people) await openPage(person);
  const alone: number[] = [];
  for (let index = 0; index < 120; index++) {
    const { took } = await save(people[index % 20]!, `warm ${index}`);
    if (index >= 20) alone.push(took);
  }
  const together: number[] = [];
  const acknowledged = new Map<string, number>();
  await Promise.all(
    people.map(async (person) => {
      for (let index = 1; index <= savesEach; index++) {
        await pause();
        const { status, took } = await save(person, `answer ${index}`);
        if (status !== 200) throw new Error(`A save answered ${status}.`);
        together.push(took);
        acknowledged.set(person.packetId, index);
      }
    }),
  );
  // All of them again, on a server that has just started and knows nobody.
  for (const { agent } of people) agent.destroy();
  await stop(server);
  server = await startServer(port, env);
  const again: number[] = [];
  await Promise.all(
    people.map(async (known) => {
      const person = { ...known, agent: new Agent({ keepAlive: true, maxSockets: 1 }) };
      await new Promise((resolve) => {
        setTimeout(resolve, Math.random() * 2000);
      });
      const { status, took } = await save(person, `answer ${savesEach + 1}`);
      if (status !== 200) throw new Error(`A save answered ${status}.`);
      again.push(took);
      acknowledged.set(person.packetId, savesEach + 1);
      person.agent.destroy();
    }),
  );
  await stop(server);

  app = await openApplication(environment);
  const repo = repositories(app.database.db, app.ports.sealer);
  let lost = 0;
  let doubled = 0;
  for (const person of people) {
    const kept = await repo.answers.kept(person.partId);
    if (kept.length !== 1) doubled++;
    if (JSON.stringify(kept[0]?.change).includes(`"answer ${acknowledged.get(person.packetId)!}"`) === false) lost++;
  }
  const lines = (await repo.journal.latest((await app.practice())!.id, 100_000)).filter(
    (r) => r.action === "answer.save",
  ).length;
  if (lines !== clients * (savesEach + 1) + 120) doubled++;

  // Five hundred people written to.
  const clientIds: string[] = [];
  for (let index = 0; index < many; index++)
    clientIds.push(
      must(
        await run(app, useCases.addClient, maren, {
          requestId: app.ports.random.id(),
          firstName: `M${index}`,
          email: `m.${index}@mail.example`,
          anyway: true,
        }),
      ).id,
    );
  const mailingId = app.ports.random.id<"Mailing">();
  must(
    await run(app, useCases.startMailing, maren, {
      requestId: mailingId,
      clientIds,
      questionnaireIds: [seeded.questionnaires[2]],
    }),
  );
  const began = performance.now();
  await runMailings(app);
  const took = performance.now() - began;
  const sent = (await repo.mailings.people(mailingId)).filter((p) => p.state === "sent").length;
  await app.database.close();

  alone.sort((a, b) => a - b);
  together.sort((a, b) => a - b);
  again.sort((a, b) => a - b);
  const p50 = quantile(alone, 0.5);
  const p95 = quantile(together, 0.95);
  return [
    [
      `${kind}: save, ${clients} clients at once, p95`,
      ms(p95),
      `${ms(p50)} one alone, p50`,
      (p95 / p50).toFixed(1),
      "under 10",
    ],
    [`${kind}: the first save of each within 2 s of a restart, p95`, ms(quantile(again, 0.95)), "", "", ""],
    [`${kind}: lost, doubled`, `${lost}, ${doubled}`, `of ${clients * (savesEach + 1)} saves`, "", "0, 0"],
    [`${kind}: write to ${many} people`, `${(took / 1000).toFixed(1)} s`, `${sent} written to once`, "", ""],
  ];
}

/** Lighthouse's slow 4G: 1.6 Mbit/s down, 750 kbit/s up, 150 ms there and back; and a processor four times slower. */
async function slow(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  await session.send("Network.enable");
  await session.send("Network.emulateNetworkConditions", {
    offline: false,
    latency: 150,
    downloadThroughput: 1_600_000 / 8,
    uploadThroughput: 750_000 / 8,
  });
  await session.send("Emulation.setCPUThrottlingRate", { rate: 4 });
}
const paint = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        let last = 0;
        new PerformanceObserver((list) => {
          for (const e of list.getEntries()) last = e.startTime;
        }).observe({ type: "largest-contentful-paint", buffered: true });
        setTimeout(() => resolve(last), 1500);
      }),
  );
/**
 * Types, chooses and goes on and back, once the page is there; the longest from a press to the next paint (Event
 * Timing, as INP is made).
 */
async function interact(page: Page): Promise<number> {
  await page.waitForLoadState("load");
  await page.waitForTimeout(1500);
  await page.evaluate(() => {
    const seen: number[] = [];
    (window as unknown as { seen: number[] }).seen = seen;
    new PerformanceObserver((list) => {
      for (const e of list.getEntries())
        if ((e as PerformanceEntry & { interactionId?: number }).interactionId) seen.push(e.duration);
    }).observe({ type: "event", durationThreshold: 16 } as PerformanceObserverInit);
  });
  await page.getByLabel(/What do you do most days/).click();
  await page.keyboard.type("Gardener, and a father of two", { delay: 120 });
  await page.getByText("Once or twice a week").click();
  await page.getByRole("button", { name: "Next" }).click();
  await page.getByRole("heading", { name: "What brings you" }).waitFor();
  await page.getByRole("button", { name: "Back" }).click();
  await page.getByRole("heading", { name: "Your days" }).waitFor();
  await page.waitForTimeout(500);
  return Math.max(0, ...(await page.evaluate(() => (window as unknown as { seen: number[] }).seen)));
}
async function onAPhone(): Promise<string[][]> {
  const folder = join(base, "phone");
  const env = { KIND_LEDGER_DATA: folder };
  const app = await openApplication(readEnvironment({ ...env, PORT: String(port) }));
  const seeded = await seedPeople(app);
  const maren = staffAs(app, seeded.staff["maren"]!, "maren");
  const { packetId } = must(
    await run(app, useCases.sendPacket, maren, {
      requestId: app.ports.random.id(),
      visitId: seeded.visits["ines"],
      questionnaireIds: seeded.questionnaires,
    }),
  );
  const pass = await enter(app, packetId);
  const token = await tokenOf(app, packetId);
  await app.database.close();
  const server = await startServer(port, env);
  const browser = await chromium.launch(browserLaunch);
  const at = `http://localhost:${port}`;
  const measure = async (path: string): Promise<{ page: Page; lcp: number }> => {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    await context.addCookies([{ name: "kl_door", value: pass, url: `${at}/f/${packetId}` }]);
    const page = await context.newPage();
    await slow(page);
    await page.goto(`${at}${path}`);
    await page.locator("h1").waitFor();
    return { page, lcp: await paint(page) };
  };
  // The first visitor of all waits for the server to load its own code; everybody after does not. The middle of three:
  // on a busy machine one number says little.
  const middle = (all: number[]): number => all.sort((x, y) => x - y)[1]!;
  for (const path of [`/p/${token}`, `/f/${packetId}?s=4`]) await (await measure(path)).page.context().close();
  const doors: number[] = [];
  const sections: number[] = [];
  const inps: number[] = [];
  for (let round = 0; round < 3; round++) {
    const door = await measure(`/p/${token}`);
    const section = await measure(`/f/${packetId}?s=4`);
    doors.push(door.lcp);
    sections.push(section.lcp);
    inps.push(await interact(section.page));
    for (const { page } of [door, section]) await page.context().close();
  }
  await browser.close();
  await stop(server);
  return [
    ["door, slow phone, LCP", ms(middle(doors)), "", "", "under 2500 ms"],
    ["a section, slow phone, LCP", ms(middle(sections)), "", "", "under 2500 ms"],
    ["a section, slow phone, INP", ms(middle(inps)), "", "", "under 200 ms"],
  ];
}

const rows = [
  ["what", "measured", "baseline", "ratio", "goal"],
  ...(await onAPhone()),
  ...(await load("PGlite", { KIND_LEDGER_DATA: join(base, "pglite") })),
];
const postgres = process.env["KL_BENCH_POSTGRES"];
if (postgres)
  rows.push(...(await load("PostgreSQL", { KIND_LEDGER_DATA: join(base, "postgres"), DATABASE_URL: postgres })));
rmSync(base, { recursive: true, force: true });
printTable(rows);
process.exit(0);
