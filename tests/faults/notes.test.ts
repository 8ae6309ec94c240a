import { execFileSync } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Browser } from "@playwright/test";
import { afterAll, beforeAll, expect, it } from "vitest";
import { demoPassword } from "../../demo/scenario";
import { must } from "../../demo/walk";
import { chromium as browserLaunch } from "../../playwright.config";
import { linesOf, plainText } from "../../src/core/notes";
import { openApplication, readEnvironment, run, staffActor, useCases } from "../../src/server";
import { startBuilt } from "../support/built";

// A note is typed in a real browser while its server is killed. Needs a build (npm test makes one).
const port = 3447;
const now = "2026-11-25T08:10:00Z";
const base = mkdtempSync(join(tmpdir(), "kl-kill-note-"));
const start = join(base, "start");
const from = { address: "", device: "" };
/** What may be lost at most, in ms: as for what a client types. */
const mayLose = 2000;
let browser: Browser | undefined;
let noteId: string;

beforeAll(async () => {
  execFileSync("npm", ["run", "--silent", "seed", "--", "--fresh"], {
    env: { ...process.env, KIND_LEDGER_DATA: start, KIND_LEDGER_NOW: now },
  });
  await inside(start, async (app, maren) => {
    const { lines } = must(await run(app, useCases.daySheet, maren, {}));
    const { clientId } = lines.find((l) => l.clientName === "Hugo Lindgren")!;
    const asked = { requestId: app.ports.random.id(), clientId, layoutId: "blank" };
    ({ noteId } = must(await run(app, useCases.beginNote, maren, asked)));
  });
  browser = await chromium.launch(browserLaunch);
});
afterAll(async () => {
  await browser?.close();
  rmSync(base, { recursive: true, force: true });
});
type Application = Awaited<ReturnType<typeof openApplication>>;
type Actor = Awaited<ReturnType<typeof staffActor>>;
async function inside<T>(folder: string, look: (app: Application, maren: Actor) => Promise<T>): Promise<T> {
  const app = await openApplication(readEnvironment({ KIND_LEDGER_DATA: folder, KIND_LEDGER_NOW: now }));
  try {
    const { token } = must(
      await run(
        app,
        useCases.signIn,
        { kind: "stranger", ...from },
        {
          email: "maren@fernhollow.example",
          password: demoPassword,
        },
      ),
    );
    return await look(app, await staffActor(app, token, from));
  } finally {
    await app.close();
  }
}

it.each([900, 2700, 5200])(
  "a note that is typed without a pause while the server is killed after %i ms has all but its last two seconds",
  async (after) => {
    const folder = join(base, `after-${after}`);
    cpSync(start, folder, { recursive: true });
    const server = await startBuilt({ folder, port, now });
    const context = await browser!.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`http://localhost:${port}/sign-in`);
    await page.getByLabel("E-mail").fill("maren@fernhollow.example");
    await page.getByLabel("Password").fill(demoPassword);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(/\/day/);
    await page.goto(`http://localhost:${port}/notes/${noteId}`);
    await page.getByRole("textbox", { name: "The note" }).click();
    /** When each word was typed to its end. */
    const typed: number[] = [];
    let killed: number | undefined;
    const gone = new Promise<void>((resolve) => server.once("exit", () => resolve()));
    setTimeout(() => {
      killed = performance.now();
      server.kill("SIGKILL");
    }, after);
    while (killed === undefined) {
      await page.keyboard.type(`word${typed.length}. `, { delay: 25 });
      typed.push(performance.now());
    }
    await gone;
    await context.close();
    const words = await inside(folder, async (app, maren) => {
      const { content } = must(await run(app, useCases.noteView, maren, { noteId }));
      return plainText(linesOf(content.body)).match(/word\d+\./g) ?? [];
    });
    // A beginning of what was typed, in its order, up to two seconds before the end.
    const due = typed.filter((at) => at <= killed! - mayLose).length;
    expect(words).toEqual(words.map((_, index) => `word${index}.`));
    expect(words.length).toBeGreaterThanOrEqual(due);
    expect(words.length).toBeLessThanOrEqual(typed.length + 1);
    if (after > 2 * mayLose) expect(due).toBeGreaterThan(3);
  },
  120_000,
);
