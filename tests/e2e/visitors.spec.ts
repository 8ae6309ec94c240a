import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { sentences } from "../../src/core/starter";
import { intentSentence } from "../../src/core/signing";
import { clientWords } from "../../src/i18n/client-words";
import { test } from "./practice";
import { choose, expectNoViolations, fetchPost, linkIn, newDevice, passDoor, sendPacket, signIn } from "./steps";

const script = '"><img src=x onerror="document.title=\'taken\'"><script src=/x>{{link}}';
const arabic = "أنام خمس ساعات (5) في الليل";

/** What stands on the page of somebody who reads Arabic, for a sentence of ours. */
const inSpanish = (sentence: string): string => sentences.find(([english]) => english === sentence)![3];
const t = clientWords("fill", "ar");
const onward = (client: Page) =>
  client.getByRole("button", { name: new RegExp(`^(${t("next")}|${t("toReview")})$`) }).click();

/** Answers everything that is required, in Arabic, with the given words for the main concern and the first name. */
async function fillShort(client: Page, firstName: string, concern: string): Promise<void> {
  await client.getByLabel(inSpanish("First name")).fill(firstName);
  await client.getByLabel(inSpanish("Last name")).fill("Haddad");
  await client
    .getByRole("spinbutton", { name: new RegExp(`^[^،,]*[،,] ${inSpanish("Birth date")}`) })
    .first()
    .click();
  await client.keyboard.type("05121994");
  await onward(client);
  await client.getByLabel(inSpanish("Phone"), { exact: true }).fill("020 7946 0623");
  await client.getByLabel(inSpanish("Who should we call if you are unwell here?")).fill("Sami");
  await client.getByLabel(inSpanish("Their phone"), { exact: true }).fill("020 7946 0624");
  await onward(client);
  for (const question of [
    "Do you have an illness or condition we should know of?",
    "Do you take medicines or supplements?",
    "Do you have allergies?",
    "Have you had an operation or a bad injury?",
  ])
    await choose(client, inSpanish(question), t("no"));
  await onward(client);
  await onward(client);
  await client.getByLabel(inSpanish("What would you like help with?")).fill(concern);
  await onward(client);
  await choose(client, inSpanish("I agree to care at Fernhollow Care Rooms as described above."), t("yes"));
  await choose(
    client,
    inSpanish("May we leave a message with the person you named if we cannot reach you?"),
    inSpanish("No"),
  );
  await onward(client);
  await expect(client.getByText(intentSentence("ar"))).toBeVisible();
  await client.getByText(t("agreeScreen")).click();
  await client.getByRole("button", { name: t("sign"), exact: true }).click();
  // A published measure has no translation of ours: it stands in its own words, from left to right.
  await expect(client.getByRole("heading", { name: /Over the last 2 weeks/ })).toBeVisible();
  expect(
    await client
      .getByRole("radiogroup", { name: /^1\. / })
      .evaluate((el) => [getComputedStyle(el).direction, el.closest("[lang]")!.getAttribute("lang")]),
  ).toEqual(["ltr", "en"]);
  for (let index = 1; index <= 9; index++) await choose(client, new RegExp(`^${index}\\. `), "Not at all");
  await onward(client);
  await client.getByRole("button", { name: t("send", { practice: "Fernhollow Care Rooms" }) }).click();
  await expect(client.getByRole("heading", { name: t("doneTitle") })).toBeVisible();
  expect(await client.locator("main").evaluate((el) => getComputedStyle(el).direction)).toBe("rtl");
}

test("what a client writes is shown as they wrote it, and does nothing: markup, placeholders, right to left", async ({
  page,
  browser,
}) => {
  const titles: string[] = [];
  page.on(
    "framenavigated",
    () =>
      void page.title().then(
        (t) => titles.push(t),
        () => undefined,
      ),
  );
  await signIn(page);
  await sendPacket(page, "ليلى حداد");
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "ليلى حداد")), "ليلى حداد", "ar");
  await expectNoViolations(client, "Arabic");
  await fillShort(client, script, `${arabic}\n${script}`);
  await device.close();

  await page.goto("/returns");
  await page.getByRole("link", { name: "Read ليلى حداد" }).click();
  await expect(page.getByText(script).first()).toBeVisible();
  await expect(page.getByText(arabic).first()).toBeVisible();
  expect(
    await page
      .locator("dd", { hasText: arabic })
      .evaluate((el) => [el.getAttribute("dir"), getComputedStyle(el).direction]),
  ).toEqual(["auto", "rtl"]);
  await page.getByRole("link", { name: "Reconcile" }).click();
  const decision = page.getByRole("radiogroup", { name: "Decision for First name" });
  await expect(decision.getByRole("radio", { name: "Keep" })).toBeChecked();
  // Every line that asks is decided by writing it oneself, with the client's words to start from.
  await page.getByRole("radiogroup", { name: "Decision for Main concern" }).getByText("Write", { exact: true }).click();
  await page.getByLabel("Write it as it should stand").fill(`${arabic} ${script}`);
  for (const group of await page.getByRole("radiogroup", { name: /^Decision for/ }).all())
    if ((await group.getByRole("radio", { checked: true }).count()) === 0)
      await group.getByRole("radio").first().check({ force: true });
  await page.getByRole("button", { name: /^Post / }).click();
  await expect(page.getByText("Posted.")).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("ليلى حداد");
  await expect(page.getByText(`${arabic} ${script}`).first()).toBeVisible();
  await page.getByRole("link", { name: "Draft a note from the answers" }).click();
  await page.getByRole("button", { name: "Draft note" }).click();
  await expect(page.getByText(script).first()).toBeVisible();
  expect(await page.title()).not.toContain("taken");
  expect(titles.join()).not.toContain("taken");

  await page.goto("/returns");
  await page.getByRole("link", { name: "ليلى حداد", exact: true }).click();
  const intake = page.getByRole("region", { name: "Before your first visit" });
  const [file] = await Promise.all([page.waitForEvent("download"), intake.getByRole("link", { name: "FHIR" }).click()]);
  expect(readFileSync(await file.path(), "utf8")).toContain(JSON.stringify(arabic).slice(1, -1));
});

test("addresses that lead nowhere say so, and give nothing away", async ({ page }) => {
  await signIn(page);
  for (const path of [
    "/people/00000000-0000-4000-8000-000000000000",
    "/people/1",
    "/notes/x",
    "/returns/..%2f..%2fetc",
    "/packets/00000000-0000-4000-8000-000000000000",
    "/library/x",
    "/nowhere",
    "/kit",
    "/people/'; drop table client; --",
  ]) {
    await page.goto(path);
    await expect(page.getByRole("heading", { name: "Nothing here" }), path).toBeVisible();
  }
  for (const path of [
    "/api/parts/x/paper",
    "/api/parts/00000000-0000-4000-8000-000000000000/response",
    "/api/versions/x",
  ])
    expect((await page.request.get(path)).status(), path).toBe(404);
  await page.goto("/day?on=2026-99-99");
  await expect(page.getByRole("heading", { name: "Nothing here" })).toBeVisible();
});

test("two people decide about one return: the second is told, and keeps what they decided", async ({
  page,
  browser,
}) => {
  await signIn(page);
  const other = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const colleague = await other.newPage();
  await signIn(colleague, "tobias");
  // A line that drops: whoever is not told while they decide is told when they post.
  const third = await other.newPage();
  await third.route("**/api/events", (route) => route.abort());
  await page.goto("/returns");
  const href = (await page.getByRole("link", { name: "Hugo Lindgren", exact: true }).getAttribute("href"))!;
  for (const tab of [page, colleague, third]) {
    await tab.goto(`${href}/reconcile`);
    await expect(tab.getByRole("heading", { name: "Reconcile Hugo Lindgren" })).toBeVisible();
    for (const group of await tab.getByRole("radiogroup", { name: /^Decision for/ }).all())
      if ((await group.getByRole("radio", { checked: true }).count()) === 0)
        await group.getByRole("radio").first().check({ force: true });
  }
  await page.getByRole("button", { name: /^(Post|Settle) / }).click();
  await expect(page.getByText("Posted.")).toBeVisible();
  for (const told of [colleague, third]) {
    if (told === third) {
      await third.getByRole("button", { name: /^(Post|Settle) / }).click();
      await expect(
        third.getByText("This packet was posted already, perhaps by a colleague. Nothing was posted again."),
      ).toBeVisible();
    }
    await expect(told.getByText(/Maren Holloway posted this return,/)).toBeVisible();
    await expect(told.getByRole("heading", { name: "Reconcile Hugo Lindgren" })).toBeVisible();
    await expect(told.getByRole("button", { name: /^(Post|Settle) / })).toHaveCount(0);
  }
  await other.close();
});
