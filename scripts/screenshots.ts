// `npm run screenshots`, after `npm run build`: one picture of each main view, from the demo's year, with a clock
// that stands still.
import { spawn, spawnSync } from "node:child_process";
import { rmSync, writeFileSync } from "node:fs";
import sharp from "sharp";
import { chromium, type Page } from "@playwright/test";
import { consentYes, hugoIntake } from "../demo/answers";
import { staffAs } from "../demo/seed";
import { demoPassword } from "../demo/scenario";
import { seedSigning, signingLink } from "../demo/signing";
import { must, walkThrough } from "../demo/walk";
import { chromium as browserLaunch } from "../playwright.config";
import { openApplication, readEnvironment, run, useCases, type Application } from "../src/server";
import { repositories } from "../src/db/repositories";
import type { Id } from "../src/core/shared";
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
let signingPacket: Id<"Packet">;
let signerLink: string;
/** Ines has a packet filled in as far as her signature; some signed a consent that others sign after them. */
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
  const all = (await repo.clients.changedSince(practice.id, undefined)).clients;
  const named = (first: string) => all.find(({ firstName }) => firstName === first)!.id;
  const who = { "Hugo Lindgren": named("Hugo"), "Priya Desrosiers": named("Priya"), "Bram Okafor": named("Bram") };
  const packets = await seedSigning(app, who, maren.id);
  signingPacket = packets["Hugo Lindgren"]!;
  signerLink = await signingLink(app, signingPacket);
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
  await page.getByRole("button", { name: "Draft note" }).click();
  await page.getByRole("heading", { name: /^Note:/ }).waitFor();
  await page.getByRole("heading", { name: "Why now" }).waitFor();
  await shoot(page, "note");
  await go("/library", "library");
  await follow("Before your first visit");
  const intake = new URL(page.url()).pathname;
  await page.goto(`${intake}/compose`);
  await page.getByText(/A client meets/).waitFor();
  await shoot(page, "composer");
  await go(`${intake}/map`, "map");
  await go("/people/caseload", "caseload");
  await follow("Kaya Lund");
  await page.locator("canvas[data-drawn]").waitFor();
  await shoot(page, "measures");
  await page.goto("/day");
  await follow("Send questionnaires: Kaya Lund");
  await shoot(page, "send");
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
}

/** Who signs after the client, the queue of who signs last, and the paper that comes of it. */
async function signingPages(signer: Page, staff: Page): Promise<void> {
  await passDoor(signer, staff, signerLink, "Greta Lund");
  await signer.getByText("I agree to sign on this screen").click();
  await signer.getByRole("button", { name: "Sign", exact: true }).click();
  await signer.getByText("Thank you. You signed").waitFor();
  await staff.goto("/returns/sign");
  await staff.getByLabel("Your password").fill(demoPassword);
  await staff.getByRole("button", { name: "Keep this signature" }).click();
  await staff.getByRole("button", { name: "Release it" }).waitFor();
  await staff.getByLabel("Your password").first().fill(demoPassword);
  await staff.getByRole("button", { name: "Release it" }).click();
  await staff.getByText("Released until").waitFor();
  await shoot(staff, "sign-queue");
  await staff.getByRole("button", { name: "Sign as Maren Holloway" }).click();
  await staff.getByText("Nothing waits").waitFor();
  await staff.goto(`/returns/${signingPacket}/signing`);
  await staff.getByLabel("Who was there").fill("Hugo Lindgren, Maren Holloway");
  await staff.getByRole("button", { name: "Record the talk" }).click();
  const paper = staff.getByRole("link", { name: "Sealed PDF" });
  await paper.waitFor();
  await shoot(staff, "signatures");
  const pdf = `${data}/paper.pdf`;
  writeFileSync(pdf, await (await staff.request.get((await paper.getAttribute("href"))!)).body());
  // The first page, and the first of the evidence, side by side.
  const pages = ["1", "3"].map((page) => {
    spawnSync("pdftoppm", ["-r", "72", "-png", "-singlefile", "-f", page, "-l", page, pdf, `${data}/page${page}`]);
    return `${data}/page${page}.png`;
  });
  const { width = 0, height = 0 } = await sharp(pages[0]).metadata();
  await sharp({ create: { width: width * 2 + 24, height, channels: 3, background: "#dcd3c4" } })
    .composite(pages.map((input, index) => ({ input, left: index * (width + 24), top: 0 })))
    .png()
    .toFile(`${folder}/signed-paper.png`);
  await staff.goto("/people/consents");
  await staff.locator("h1").waitFor();
  await shoot(staff, "consent-register");
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
  await signingPages(await (await browser.newContext({ ...at, viewport: phone })).newPage(), staff);
} finally {
  await browser.close();
  server.kill("SIGTERM");
}
