// `npm run screenshots`, after `npm run build`: one picture of each main view, from the demo's year, with a clock
// that stands still.
import { spawn, spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { chromium, type Page } from "@playwright/test";
import { consentYes, hugoIntake } from "../demo/answers";
import { staffAs } from "../demo/seed";
import { must, walkThrough } from "../demo/walk";
import { chromium as browserLaunch } from "../playwright.config";
import { openApplication, readEnvironment, run, useCases, type Application } from "../src/server";
import { repositories } from "../src/db/repositories";
import { fetchPost, linkIn, passDoor, phone, signIn } from "../tests/e2e/steps";
import { practiceNow } from "../tests/e2e/practice-now";

const folder = "docs/screenshots";
const port = "3440";
const data = ".cache/pictures";
const env = {
  ...process.env,
  KIND_LEDGER_DATA: data,
  KIND_LEDGER_NOW: practiceNow,
  KIND_LEDGER_TRIAL: "yes",
  PORT: port,
  NODE_ENV: "production" as const,
  NEXT_TELEMETRY_DISABLED: "1",
};

const inesOwn = {
  "first-name": "Ines",
  "last-name": "Halvorsen",
  "birth-date": "1991-04-17",
  pronouns: "she / her",
  email: "ines.halvorsen@mail.example",
  phone: "020 7946 0315",
  address: "",
  "emergency-name": "Jonas Halvorsen",
  "emergency-relation": "Partner",
  "emergency-phone": "020 7946 0120",
  occupation: "Surveyor",
  "main-concern": "I lie awake and worry, mostly about the house.",
  goals: "To sleep through before the spring term.",
};
/** Ines has a packet filled in as far as her signature. */
async function prepare(app: Application): Promise<void> {
  const repo = repositories(app.database.db, app.ports.sealer);
  const practice = (await app.practice())!;
  const maren = (await repo.staff.all(practice.id)).find(({ name }) => name.startsWith("Maren"))!;
  const ines = (await repo.clients.changedSince(practice.id, undefined)).clients.find(
    ({ firstName }) => firstName === "Ines",
  )!;
  const inUse = (await repo.questionnaires.all(practice.id, maren.id)).filter(({ state }) => state === "active");
  const { packetId } = must(
    await run(app, useCases.sendPacket, staffAs(app, maren.id, "maren"), {
      requestId: app.ports.random.id(),
      clientId: ines.id,
      questionnaireIds: ["Before your first visit", "Consent to care"].map(
        (title) => inUse.find((one) => one.title === title)!.id,
      ),
    }),
  );
  const intake = { ...hugoIntake, values: { ...hugoIntake.values, ...inesOwn } };
  await walkThrough(app, packetId, { AdultIntake: intake, ConsentToCare: consentYes }, undefined, false);
}

async function shoot(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  await page.waitForFunction(() => document.querySelector("[aria-busy=true]") === null);
  // What the pointer rests on would stand out, and fades when it leaves.
  await page.mouse.move(0, 0);
  await page.waitForFunction(() =>
    document.getAnimations().every((one) => !(one instanceof CSSTransition) || one.playState !== "running"),
  );
  await page.screenshot({ path: `${folder}/${name}.png` });
}

async function staffPages(page: Page): Promise<void> {
  const go = async (path: string, name: string): Promise<void> => {
    await page.goto(path);
    await page.locator("h1").waitFor();
    await shoot(page, name);
  };
  const follow = async (...names: readonly (string | RegExp)[]): Promise<void> => {
    for (const name of names) {
      const before = page.url();
      await page.getByRole("link", { name }).first().click();
      await page.waitForURL((url) => url.toString() !== before);
    }
    await page.locator("h1").waitFor();
  };
  await go("/day", "day-sheet");
  await go("/week", "week");
  await go("/returns", "returns");
  await follow("Read Hugo Lindgren");
  await page.getByText("Before your first visit").first().waitFor();
  await shoot(page, "return");
  await follow("Reconcile");
  await page.getByRole("heading", { name: "Reconcile Hugo Lindgren" }).waitFor();
  await shoot(page, "reconcile");
  for (const group of await page.getByRole("radiogroup", { name: /^Decision for/ }).all())
    if ((await group.getByRole("radio", { checked: true }).count()) === 0)
      await group.getByText("Take", { exact: true }).click();
  await page.getByRole("button", { name: /^Post / }).click();
  await page.getByText("Posted.").waitFor();
  await page.goto("/people");
  await follow("Hugo Lindgren");
  await page.getByRole("heading", { name: "Hugo Lindgren" }).waitFor();
  await shoot(page, "chart");
  await page.goto("/people");
  await follow("Hugo Lindgren", /^Packet/, "Read answers");
  await page.getByText("Draft note").first().click();
  await page.getByRole("button", { name: "Draft note" }).click();
  await page.getByRole("heading", { name: /^Note for/ }).waitFor();
  await shoot(page, "note");
  await go("/library", "library");
  await follow("How you have been: PHQ-9");
  await page.getByText("15 to 19").waitFor();
  await shoot(page, "questionnaire");
  await page.goto("/library");
  await follow("Before your first visit");
  const intake = new URL(page.url()).pathname;
  await page.goto(`${intake}/compose`);
  await page.getByText(/A client meets/).waitFor();
  await shoot(page, "composer");
  await go(`${intake}/map`, "map");
  await go(`${intake}/languages`, "languages");
  await page.goto("/day");
  await follow("Send questionnaires: Kaya Lund");
  await shoot(page, "send");
  await page.goto("/send/many");
  await page.locator("h1").waitFor();
  await shoot(page, "send-to-many");
  await page.goto("/post-room");
  await follow("Personal link for Ines Halvorsen");
  await shoot(page, "post-room-letter");
}

async function clientPages(client: Page, staff: Page): Promise<void> {
  const link = linkIn(await fetchPost(staff, "Personal link", "Ines Halvorsen"));
  await client.goto(link);
  await client.getByRole("heading", { name: "Is it you?" }).waitFor();
  await shoot(client, "client-door");
  await passDoor(client, staff, link, "Ines Halvorsen");
  const title = client.locator("h1");
  const onwards = client.getByRole("button", { name: /^(Next|Check my answers)$/ });
  await title.waitFor();
  for (let step = 1; !(await title.innerText()).startsWith("Sign"); step++) {
    if (step === 2) await shoot(client, "client-section");
    const before = await title.innerText();
    await onwards.click();
    await client.waitForFunction((was) => document.querySelector("h1")?.innerText !== was, before);
  }
  await client
    .getByTestId("signature-pad")
    .or(client.getByLabel(/full name/i))
    .first()
    .waitFor();
  await shoot(client, "client-sign");
  await client.getByLabel("Your full name").fill("Ines Halvorsen");
  await client.getByText("I agree to sign on this screen").click();
  await client.getByRole("button", { name: "Sign", exact: true }).click();
  await client.getByRole("button", { name: /^Send to/ }).waitFor();
  await shoot(client, "client-review");
}

rmSync(data, { recursive: true, force: true });
spawnSync("npm", ["run", "--silent", "seed", "--", "--fresh", "--year"], { stdio: "inherit", env });
const app = await openApplication(readEnvironment(env));
await prepare(app);
await app.close();
const server = spawn(process.execPath, ["server.mjs"], { stdio: ["ignore", "pipe", "inherit"], env });
await new Promise<void>((resolve) =>
  server.stdout.on("data", (text) => String(text).includes("kind-ledger: ready") && resolve()),
);
const browser = await chromium.launch(browserLaunch);
const at = { baseURL: `http://localhost:${port}`, locale: "en-GB" };
try {
  const staff = await (await browser.newContext({ ...at, viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(staff);
  await clientPages(await (await browser.newContext({ ...at, viewport: phone })).newPage(), staff);
  await staffPages(staff);
} finally {
  await browser.close();
  server.kill("SIGTERM");
}
