import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { demoPassword } from "../demo/scenario";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import { chromium as browserLaunch } from "../playwright.config";
import type { NoteContent } from "../src/core/notes";
import { repositories } from "../src/db/repositories";
import { openApplication, readEnvironment, run, useCases } from "../src/server";
import { ms, printTable, quantile, startServer } from "./support";

// A note of many quoted answers beside an empty one, on a machine a quarter as fast as this one.
const port = 3439;
const base = mkdtempSync(join(tmpdir(), "kl-bench-notes-"));
const many = 200;
const rounds = 7;
const slowDown = 4;
const keys = 60;

/** A client's two notes: one that quotes many answers, one that quotes none. */
async function prepare(): Promise<readonly [large: string, small: string]> {
  const app = await openApplication(readEnvironment({ KIND_LEDGER_DATA: base }));
  try {
    const seeded = await seedPeople(app);
    const maren = staffAs(app, seeded.staff["maren"]!, "maren");
    const begin = async (): Promise<string> =>
      must(
        await run(app, useCases.beginNote, maren, {
          requestId: app.ports.random.id(),
          clientId: seeded.clients["hugo"],
          layoutId: "blank",
        }),
      ).noteId;
    const [large, small] = [await begin(), await begin()];
    const { content, revision } = must(await run(app, useCases.noteView, maren, { noteId: large }));
    const at = app.ports.clock.now();
    const quoted = Array.from({ length: many }, (_, index) => `p q${index}`);
    const full: NoteContent = {
      ...content,
      quotes: Object.fromEntries(
        quoted.map((key, index) => [
          key,
          {
            kind: "answer" as const,
            question: `What was asked as number ${index}, in a line of its own?`,
            answer: `What was answered to it, in some words (${index}).`,
            by: "Hugo Lindgren",
            at,
            source: `Questionnaire ${Math.floor(index / 20)}`,
            section: "",
          },
        ]),
      ),
      body: {
        type: "doc",
        content: [
          ...content.body.content,
          ...quoted.map((quote) => ({ type: "quoted" as const, attrs: { quote, remark: "" } })),
          { type: "paragraph" },
        ],
      },
    };
    const repo = repositories(app.database.db, app.ports.sealer);
    await repo.notes.save(large as never, revision, full, seeded.staff["maren"]!, at);
    return [large, small];
  } finally {
    await app.close();
  }
}
/** From asking for the page to the first key that shows. */
async function opened(page: Page, noteId: string): Promise<number> {
  await page.goto("about:blank");
  const began = performance.now();
  await page.goto(`http://localhost:${port}/notes/${noteId}`, { waitUntil: "commit" });
  const editor = page.getByRole("textbox", { name: "The note" });
  await editor.locator("p").last().click();
  await page.keyboard.type("x");
  await editor.locator("p", { hasText: "x" }).last().waitFor();
  return performance.now() - began;
}
/** The longest a key waits for the next picture, of all but the slowest in fifty (as INP is counted; web.dev/inp). */
async function typing(page: Page): Promise<number> {
  await page.evaluate(() => {
    const held = window as unknown as { waits: number[] };
    held.waits = [];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) held.waits.push(entry.duration);
    }).observe({ type: "event", durationThreshold: 16, buffered: false } as PerformanceObserverInit);
  });
  for (let key = 0; key < keys; key++) await page.keyboard.type("abcdefghij"[key % 10]!, { delay: 40 });
  const waits = await page.evaluate(() => (window as unknown as { waits: number[] }).waits);
  const sorted = waits.sort((a, b) => a - b);
  return sorted.length === 0 ? 0 : quantile(sorted, 0.98);
}

const server = { child: undefined as Awaited<ReturnType<typeof startServer>> | undefined };
try {
  const [large, small] = await prepare();
  server.child = await startServer(port, { KIND_LEDGER_DATA: base, KIND_LEDGER_TRIAL: "yes" });
  const browser = await chromium.launch(browserLaunch);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`http://localhost:${port}/sign-in`);
  await page.getByLabel("E-mail").fill("maren@fernhollow.example");
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL(/\/day/);
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: slowDown });
  const took = { large: [] as number[], small: [] as number[] };
  for (let round = -1; round < rounds; round++)
    for (const [name, id] of [
      ["small", small],
      ["large", large],
    ] as const) {
      const time = await opened(page, id);
      if (round >= 0) took[name].push(time);
    }
  const [whole, empty] = [took.large, took.small].map((all) =>
    quantile(
      all.sort((a, b) => a - b),
      0.5,
    ),
  ) as [number, number];
  await opened(page, large);
  const wait = await typing(page);
  await browser.close();
  printTable([
    [`at ${slowDown}x slow-down`, "took", "beside", "goal"],
    [`a note of ${many} quoted answers, to the first key`, ms(whole), `${ms(empty)} with none`, "1000 ms"],
    ["a key to the next picture, in it (98 %)", ms(wait), "", "200 ms"],
  ]);
} finally {
  const over = new Promise<void>((resolve) => server.child?.once("exit", () => resolve()) ?? resolve());
  server.child?.kill("SIGTERM");
  await over;
  rmSync(base, { recursive: true, force: true });
}
process.exit(0);
