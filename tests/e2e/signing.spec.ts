import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { demoPassword } from "../../demo/scenario";
import { signingItems } from "../../demo/signing";
import { writeQuestionnaire } from "../../src/core/fhir";
import { emptyQuestionnaire } from "../../src/core/questionnaire";
import { clientWords } from "../../src/i18n/client-words";
import { test } from "./practice";
import { expectNoViolations, fetchPost, linkIn, newDevice, next, passDoor, sendOnly, signIn } from "./steps";

const folder = mkdtempSync(join(tmpdir(), "kl-signing-"));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));
const title = "Working together";
const consent = join(folder, "consent.json");
writeFileSync(
  consent,
  JSON.stringify(
    writeQuestionnaire({
      ...emptyQuestionnaire("urn:working-together", title, "consent", "x"),
      items: signingItems,
      signed: false,
      status: "active",
      signing: { talk: true, months: 12 },
    }),
  ),
);
/** Once a spec: the consent is in the Library, in use. */
async function bringConsent(page: Page): Promise<void> {
  await page.goto("/library");
  if ((await page.getByRole("link", { name: title }).count()) > 0) return;
  await page.locator("input[type=file]").last().setInputFiles(consent);
  await page.waitForURL(/\/library\/[0-9a-f-]{36}/);
  await page.goto(`${new URL(page.url()).pathname.replace(/\/compose$/, "")}/compose`);
  // Its signers stand in their order, each with what it hangs on.
  const signers = page.getByRole("list").filter({ hasText: "a parent or guardian" });
  await expect(signers).toContainText(/1\. first.*the client/s);
  await expect(signers).toContainText(/below 18 years/);
  await expect(signers).toContainText(/after 2\..*Payer/s);
  await expect(page.getByLabel("Stands for months")).toHaveValue("12");
  await expectNoViolations(page, "signers in the Composer");
  await page.getByRole("button", { name: "Put in use" }).click();
  await page.waitForURL(/\/library\/[0-9a-f-]{36}$/);
}
async function sendConsent(page: Page, client: string): Promise<void> {
  await page.goto("/people");
  const href = (await page.getByRole("main").getByRole("link", { name: client, exact: true }).getAttribute("href"))!;
  await page.goto(`${href}/send`);
  await sendOnly(page, title);
  await expect(page.getByText(/has a place for somebody else, by name to sign/)).toBeVisible();
  await page.getByRole("button", { name: /^Send it / }).click();
  await expect(page.getByRole("heading", { name: `Packet for ${client}` })).toBeVisible();
}
const payer = "Greta Lund";

test("is rehearsed as each signer in turn, signed one after another, sealed, checked, and withdrawn by the client", async ({
  page,
  browser,
}) => {
  test.slow();
  await signIn(page);
  await bringConsent(page);
  await page.getByRole("link", { name: "Rehearse" }).click();
  await page.getByLabel("Client’s age").fill("12");
  const stage = page.locator("[data-device]");
  await stage.getByLabel("Who pays for the visits?").fill(payer);
  await stage.getByLabel("What is their e-mail address?").fill("greta@mill.example");
  await next(page);
  const agree = async (at: Page): Promise<void> => {
    await at.getByText("I agree to sign on this screen").click();
    await at.getByRole("button", { name: "Sign", exact: true }).click();
  };
  await agree(page);
  await page.getByRole("button", { name: /^Send to/ }).click();
  for (const who of ["a parent or guardian", "Payer", "the practitioner"]) {
    await expect(page.getByText(`Now as ${who}`)).toBeVisible();
    await agree(page);
  }
  await expect(page.getByText("3 more signed after the client")).toBeVisible();

  await sendConsent(page, "Hugo Lindgren");
  const link = linkIn(await fetchPost(page, "Personal link", "Hugo Lindgren"));
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, link, "Hugo Lindgren");
  await client.getByLabel("Who pays for the visits?").fill(payer);
  await client.getByLabel("What is their e-mail address?").fill("greta.lund@mill.example");
  await next(client);
  // Nothing is signed without agreeing to sign on a screen; by keyboard alone.
  await client.getByRole("button", { name: "Sign", exact: true }).focus();
  await client.keyboard.press("Enter");
  await expect(client.getByText("Tick that you agree to sign on this screen")).toBeVisible();
  await expectNoViolations(client, "signing");
  await client.getByRole("checkbox", { name: /I agree to sign on this screen/ }).focus();
  await client.keyboard.press("Space");
  await client.getByRole("button", { name: "Sign", exact: true }).focus();
  await client.keyboard.press("Enter");
  await client.getByRole("button", { name: /^Send to/ }).click();
  await expect(client.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();

  // The payer, on another device, at 320 px: nothing but this questionnaire.
  const theirs = await browser.newContext({ viewport: { width: 320, height: 640 }, locale: "en-GB" });
  const greta = await theirs.newPage();
  await passDoor(greta, page, linkIn(await fetchPost(page, "To sign", payer)), payer);
  await expect(greta.getByRole("heading", { name: /asks you to sign/ })).toBeVisible();
  await expect(greta.getByText("These are papers of Hugo Lindgren.")).toBeVisible();
  await expectNoViolations(greta, "a signer's page");
  expect(await greta.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(320);
  await agree(greta);
  await expect(greta.getByText(/Thank you. You signed/)).toBeVisible();

  // The queue, from the keyboard.
  await page.goto("/returns");
  await page.getByRole("link", { name: /^For you to sign: 1/ }).click();
  await expect(page.getByRole("heading", { name: `${title}, Hugo Lindgren` })).toBeVisible();
  await page.getByLabel("Your password").fill(demoPassword);
  await page.getByRole("button", { name: "Keep this signature" }).click();
  await expect(page.getByRole("button", { name: "Release it" })).toBeVisible();
  await page.getByLabel("Your password").first().fill("not that");
  await page.getByRole("button", { name: "Release it" }).click();
  await expect(page.getByText("That is not right. Nothing was changed.")).toBeVisible();
  await page.getByLabel("Your password").first().fill(demoPassword);
  await page.getByRole("button", { name: "Release it" }).click();
  await expect(page.getByText("Released until")).toBeVisible();
  await expectNoViolations(page, "for you to sign");
  const signatures = (await page.getByRole("link", { name: "Signatures" }).getAttribute("href"))!;
  await page.locator("h1").click();
  await page.keyboard.press("s");
  await expect(page.getByText("Nothing waits for your signature.")).toBeVisible();

  // The talk, and then the seal.
  await page.goto(signatures);
  await expectNoViolations(page, "signatures of a packet");
  await page.getByLabel("Who was there").fill("Hugo and Maren");
  await page.getByRole("button", { name: "Record the talk" }).click();
  const sealed = page.getByRole("link", { name: "Sealed PDF" });
  await expect(sealed).toBeVisible({ timeout: 30_000 });
  const paper = join(folder, "paper.pdf");
  writeFileSync(paper, await (await page.request.get((await sealed.getAttribute("href"))!)).body());
  expect(execFileSync("pdfsig", [paper], { encoding: "utf8" })).toContain("Signature is Valid");
  await page.goto("/returns/check");
  await page.locator("input[type=file]").setInputFiles(paper);
  await expect(page.getByText("This is our paper, and nothing in it was changed.")).toBeVisible();
  await expectNoViolations(page, "check a paper");

  // Taken back by the client, on their own page; staff see it before the visit and in the register.
  await client.reload();
  await client.getByRole("button", { name: `Take back: ${title}` }).click();
  await expectNoViolations(client, "taking back");
  await client.getByRole("button", { name: "Take back", exact: true }).click();
  await expect(client.getByText(/taken back/)).toBeVisible();
  await page.goto("/day");
  await expect(page.getByRole("link", { name: "Consents of Hugo Lindgren" })).toHaveText(`Withdrawn: ${title}`);
  await page.getByRole("link", { name: "Consents of Hugo Lindgren" }).click();
  await expect(page.getByText(/Withdrawn .* by the client/)).toBeVisible();
  await expectNoViolations(page, "consents of a client");
  await page.goto("/people/consents");
  await page.getByRole("button", { name: "Ask it of every client" }).last().click();
  await page.getByRole("link", { name: /^Missing [1-9]/ }).click();
  await expectNoViolations(page, "the register");
  await page.getByRole("link", { name: new RegExp(`^Ask \\d+ for ${title}$`) }).click();
  await expect(page.getByRole("checkbox", { name: new RegExp(title) })).toBeChecked();
  await device.close();
  await theirs.close();
});

test("speaks a signer's language from right to left, and takes a no", async ({ page, browser }) => {
  const t = clientWords("fill", "ar");
  await signIn(page);
  await bringConsent(page);
  await sendConsent(page, "ليلى حداد");
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "ليلى حداد")), "ليلى حداد", "ar");
  await client.getByLabel("Who pays for the visits?").fill("Omar");
  await client.getByLabel("What is their e-mail address?").fill("omar@mail.example");
  await client
    .getByRole("button", { name: t("next") })
    .or(client.getByRole("button", { name: t("toReview") }))
    .click();
  await client.getByText(t("agreeScreen")).click();
  await client.getByRole("button", { name: t("sign"), exact: true }).click();
  await client.getByRole("button", { name: t("send", { practice: "Fernhollow Care Rooms" }) }).click();
  await expect(client.getByRole("heading", { name: t("doneTitle") })).toBeVisible();
  const theirs = await browser.newContext({ viewport: { width: 320, height: 640 }, locale: "ar" });
  const omar = await theirs.newPage();
  await passDoor(omar, page, linkIn(await fetchPost(page, "To sign", "Omar")), "Omar", "ar");
  await expect(omar.locator("html")).toHaveAttribute("dir", "rtl");
  await expectNoViolations(omar, "a signer's page in Arabic");
  expect(await omar.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(320);
  await omar.getByRole("button", { name: t("declineSign") }).click();
  await omar.getByLabel(t("declineWhy")).fill("لا أدفع");
  await omar.getByRole("button", { name: t("declineDo") }).click();
  await expect(omar.getByText(t("declined", { practice: "Fernhollow Care Rooms" }))).toBeVisible();
  await page.goto("/returns");
  await page.getByRole("link", { name: "ليلى حداد", exact: true }).first().click();
  await page.getByRole("link", { name: "Signatures" }).first().click();
  await expect(page.getByText("Declined", { exact: true })).toBeVisible();
  await expect(page.getByText("لا أدفع")).toBeVisible();
  await device.close();
  await theirs.close();
});
