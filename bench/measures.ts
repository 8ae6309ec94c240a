import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { chromium, type Page } from "@playwright/test";
import { demoPassword } from "../demo/scenario";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import { chromium as browserLaunch } from "../playwright.config";
import { instant, instantMs, type Id } from "../src/core/shared";
import { packet, packetPart } from "../src/db/schema";
import { tendTables } from "../src/db/tend";
import { repositories } from "../src/db/repositories";
import { makeCourses, openApplication, readEnvironment, run, useCases } from "../src/server";
import { ms, printTable, quantile, startServer } from "./support";

// The caseload of 10,000 clients with 20 returns each, beside one of 100; and a trend of 500 points on a machine a
// quarter as fast as this one, beside one of 5.
const now = "2026-11-25T08:10:00Z";
const port = 3441;
const base = mkdtempSync(join(tmpdir(), "kl-bench-measures-"));
const clients = 10_000;
const returns = 20;
const day = 86_400_000;
const rounds = 7;
const chunks = <T>(rows: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(rows.length / size) }, (_, index) => rows.slice(index * size, (index + 1) * size));

async function fill(folder: string, many: number, points: (client: number) => number) {
  const app = await openApplication(
    readEnvironment({ KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now, KIND_LEDGER_TRIAL: "yes" }),
  );
  const seeded = await seedPeople(app);
  const { db } = app.database;
  const { random, sealer } = app.ports;
  const repo = repositories(db, sealer);
  const practiceId = (await app.practice())!.id;
  const versionId = (await repo.versions.current([seeded.questionnaires[2]!])).get(seeded.questionnaires[2]!)!;
  const ids: Id<"Client">[] = [];
  for (let index = 0; index < many; index++) {
    const id = random.id<"Client">();
    ids.push(id);
    const identity = {
      firstName: `Person ${index}`,
      lastName: `Number ${index % 977}`,
      email: `p${index}@mail.example`,
    };
    await repo.clients.add({ id, practiceId, language: "en", prefers: "email", createdAt: instant(now), identity });
  }
  const keyOf = new Map<string, Id<"ClientKey">>();
  for (const id of ids) keyOf.set(id, await repo.clientKeys.of(id));
  const packets = ids.flatMap((clientId, index) =>
    Array.from({ length: points(index) }, (_, number) => {
      const at = instant(instantMs(instant(now)) - (points(index) - number) * 7 * day - (index % 5) * 3_600_000);
      return {
        total: Math.max(
          0,
          Math.min(27, 14 + ((index * 7 + number * 5) % 13) - Math.floor((number * 10) / points(index))),
        ),
        row: {
          id: random.id<"Packet">(),
          practiceId,
          requestId: random.id<"Packet">(),
          clientId,
          keyId: keyOf.get(clientId)!,
          staffId: seeded.staff["maren"]!,
          state: "settled" as const,
          createdAt: at,
          sentAt: at,
          returnedAt: at,
          settledAt: at,
          expiresAt: instant("2027-06-01T00:00:00Z"),
        },
      };
    }),
  );
  const score = (value: number) => ({
    scores: [
      {
        linkId: "44261-6",
        title: "PHQ-9 total",
        value,
        answered: 9,
        items: 9,
        missing: [],
        prorated: false,
        band: undefined,
        range: [0, 27],
      },
    ],
    alerts: [],
  });
  for (const some of chunks(packets, 1000)) {
    await db.insert(packet).values(some.map(({ row }) => row));
    await db.insert(packetPart).values(
      some.map(({ row, total }) => {
        const id = random.id<"Part">();
        const gist = sealer.seal(`part:${id}:gist`, score(total), row.keyId);
        return { id, packetId: row.id, versionId, position: 0, gist };
      }),
    );
  }
  await db.execute(sql`insert into course (client_id, revision) select distinct client_id, 1 from packet`);
  // As an application does when it starts.
  await tendTables(db);
  return { app, maren: staffAs(app, seeded.staff["maren"]!, "maren"), first: ids[0]! };
}
const middle = (times: number[]): number =>
  quantile(
    times.sort((one, other) => one - other),
    0.5,
  );

async function caseloads(): Promise<string[][]> {
  const small = await fill(join(base, "small"), 100, () => returns);
  const large = await fill(join(base, "large"), clients, () => returns);
  const took = async ({ app, maren }: typeof small): Promise<number> => {
    const began = performance.now();
    must(await run(app, useCases.caseload, maren, {}));
    return performance.now() - began;
  };
  // As the job does it, a round each few seconds.
  const rounds100 = performance.now();
  for (let round = 0; round < 20; round++) await makeCourses(large.app);
  const cold = (performance.now() - rounds100) / 20;
  const whole = await took(large);
  for (let left = clients; left > 0; left -= 100) await makeCourses(large.app);
  const [warm, beside]: [number[], number[]] = [[], []];
  await took(small);
  for (let round = 0; round < rounds; round++) {
    beside.push(await took(small));
    warm.push(await took(large));
  }
  await small.app.close();
  await large.app.close();
  return [
    [
      `the caseload of ${clients} clients, ${returns} returns each`,
      ms(middle(warm)),
      `${ms(middle(beside))} of 100`,
      "2000 ms",
    ],
    ["the same while most of them are still to be made", ms(whole), "", ""],
    ["a round that makes a hundred of them", ms(cold), "", ""],
  ];
}

async function firstPaint(): Promise<string[][]> {
  const child = await startServer(port, {
    KIND_LEDGER_DATA: join(base, "large"),
    KIND_LEDGER_NOW: now,
    KIND_LEDGER_TRIAL: "yes",
  });
  const browser = await chromium.launch(browserLaunch);
  const page = await signedIn(await browser.newPage({ viewport: { width: 1280, height: 800 } }));
  const paints: number[] = [];
  for (let round = 0; round < rounds; round++) {
    await page.goto(`http://localhost:${port}/people/caseload`);
    await page.getByRole("table").first().waitFor();
    paints.push(await page.evaluate(() => performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? 0));
  }
  await browser.close();
  await stop(child);
  return [["its page to the first paint", ms(middle(paints)), "", "1000 ms"]];
}
async function signedIn(page: Page): Promise<Page> {
  await page.goto(`http://localhost:${port}/sign-in`);
  await page.getByLabel("E-mail").fill("maren@fernhollow.example");
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL(/\/day/);
  return page;
}
const stop = async (child: Awaited<ReturnType<typeof startServer>>): Promise<void> => {
  const over = new Promise<void>((resolve) => child.once("exit", () => resolve()));
  child.kill("SIGTERM");
  await over;
};

/** A choice of another baseline, to the next picture of the whole plot. */
async function trend(points: number): Promise<number> {
  const folder = join(base, `trend-${points}`);
  const { app, first } = await fill(folder, 1, () => points);
  await app.close();
  const child = await startServer(port, { KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now, KIND_LEDGER_TRIAL: "yes" });
  const browser = await chromium.launch(browserLaunch);
  const page = await signedIn(await browser.newPage({ viewport: { width: 1280, height: 800 } }));
  await page.goto(`http://localhost:${port}/people/${first}/measures`);
  await page.locator("canvas[data-drawn]").waitFor();
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: 4 });
  await page.evaluate(() => {
    const held = window as unknown as { waits: number[] };
    held.waits = [];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) held.waits.push(entry.duration);
    }).observe({ type: "event", durationThreshold: 16, buffered: false } as PerformanceObserverInit);
  });
  // The first opening of a list prepares what later ones have.
  for (let round = -1; round < rounds; round++) {
    if (round === 0) await page.evaluate(() => ((window as unknown as { waits: number[] }).waits.length = 0));
    await page.getByRole("button", { name: /Baseline/ }).click();
    await page
      .getByRole("option")
      .nth(1 + ((round + 3) % 3))
      .click();
    await page.locator("canvas[data-drawn]").waitFor();
  }
  const waits = await page.evaluate(() => (window as unknown as { waits: number[] }).waits);
  await browser.close();
  await stop(child);
  return quantile(
    waits.sort((one, other) => one - other),
    0.98,
  );
}

try {
  printTable([["", "took", "beside", "goal"], ...(await caseloads()), ...(await firstPaint())]);
  const [few, many] = [await trend(5), await trend(500)];
  printTable([
    ["at 4x slow-down", "took", "beside", "goal"],
    ["a trend of 500 points, a press to the next picture", ms(many), `${ms(few)} of 5`, "200 ms"],
  ]);
} finally {
  rmSync(base, { recursive: true, force: true });
}
process.exit(0);
