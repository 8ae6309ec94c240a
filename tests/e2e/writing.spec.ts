import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { clientWords } from "../../src/i18n/client-words";
import { test } from "./practice";
import { choose, expectNoViolations, next, signIn } from "./steps";

const rows = (page: Page) => page.getByRole("group", { name: "Outline" }).locator('textarea[id^="line-"]');
const saved = (page: Page) => expect(page.getByText(/^Saved \d/)).toBeVisible();
const pick = async (page: Page, label: string | RegExp, option: string | RegExp, nth = 0): Promise<void> => {
  await page.getByRole("button", { name: label }).nth(nth).click();
  await page.getByRole("option", { name: option }).click();
};
async function begin(page: Page, title: string, kind: string): Promise<void> {
  await page.goto("/library");
  await page.getByLabel("Title", { exact: true }).fill(title);
  if (kind !== "Intake") await pick(page, /Kind/, kind, 1);
  await page.getByRole("button", { name: "Open in the Composer" }).click();
  await expect(page.getByLabel("Title", { exact: true })).toHaveValue(title);
}

test("a questionnaire is written with the keyboard, proved, put in use, changed and compared", async ({ page }) => {
  await signIn(page, "salma");
  await begin(page, "How you sleep", "Measure");
  await rows(page).first().click();
  await page.keyboard.type("y/n Do you wake at night?");
  await expect(rows(page).first()).toHaveValue("Do you wake at night?");
  // The very next key, however soon after Enter, is written in the new line.
  expect(
    await rows(page)
      .first()
      .evaluate((row) => {
        row.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true }));
        return document.activeElement !== row && document.activeElement?.id.startsWith("line-");
      }),
  ).toBe(true);
  await page.keyboard.type("() How often?");
  await expect(rows(page).nth(1)).toHaveValue("How often?");
  await expect(page.getByText("“How often?” needs options.").first()).toBeVisible();
  await page.getByLabel("Options", { exact: true }).fill("Rarely = 1\nOften = 2\n! I do not know = 0");
  await page.getByRole("button", { name: "Show it only when…" }).click();
  await expect(page.getByText("Shown when “Do you wake at night?” is yes.")).toBeVisible();

  // The live page follows: the question comes when it is answered with yes.
  const client = page.getByRole("complementary", { name: "What the client sees" });
  await expect(client.getByText("How often?")).toBeHidden();
  await client
    .getByRole("radiogroup", { name: /wake at night/ })
    .getByText("Yes", { exact: true })
    .click();
  await expect(client.getByRole("radiogroup", { name: /How often/ })).toBeVisible();

  await page.getByRole("button", { name: "Score", exact: true }).click();
  await page.keyboard.type("Waking");
  const settings = page.getByRole("group", { name: "Settings of Waking" });
  await settings.getByText("How often?").click();
  await settings.getByLabel("What it means").fill("0 to 1 quiet\n3 to 4 restless");
  await expect(page.getByText("“Waking” can be 2, which no band holds.").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "Put in use" })).toBeDisabled();
  await settings.getByLabel("What it means").fill("0 to 1 quiet\n2 to 4 restless");
  await settings.getByLabel("Source of the bands").fill("Invented for this test");
  await expect(page.getByText("Waking can be 0 to 2.")).toBeVisible();
  await expect(page.getByText("No problems found.")).toBeVisible();

  await rows(page).nth(1).click();
  await expect(page.getByRole("group", { name: "Settings of How often?" })).toBeVisible();
  await page.evaluate(() => window.scrollTo(0, 0));

  // Moving, undoing and redoing, all by keys.
  await rows(page).nth(1).click();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(rows(page).first()).toHaveValue("How often?");
  await expect(page.getByText(/is shown by “Do you wake at night\?”, which comes after it/).first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(rows(page).first()).toHaveValue("Do you wake at night?");
  await page.keyboard.press("Control+Shift+z");
  await expect(rows(page).first()).toHaveValue("How often?");
  await page.keyboard.press("Control+z");
  await saved(page);
  await expectNoViolations(page, "Composer");
  await page.reload();
  await expect(rows(page)).toHaveCount(3);
  await expect(rows(page).nth(1)).toHaveValue("How often?");
  await page.getByRole("button", { name: "Put in use" }).click();
  await expect(page.getByText("The first version.")).toBeVisible();

  const [blank] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Blank, as a PDF" }).click(),
  ]);
  const onPaper = execFileSync("pdftotext", ["-layout", await blank.path(), "-"], { encoding: "utf8" });
  expect(onPaper).toContain("Only when “Do you wake at night?” is yes:");
  expect(onPaper).toMatch(/Rarely\s+Often\s+I do not know/);
  execFileSync("qpdf", ["--check", await blank.path()]);

  // A second version says in words what it changes.
  await page.getByRole("link", { name: "Change in the Composer" }).click();
  // Leaving right after typing keeps what was typed.
  await rows(page).first().fill("Do you wake up at night?");
  await page.getByRole("link", { name: "Done" }).click();
  await expect(page.getByText("Reworded: “Do you wake at night?” is now “Do you wake up at night?”")).toBeVisible();
  await page.getByRole("button", { name: "Put in use" }).click();
  await expect(page.getByText("Version 2", { exact: false }).first()).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Export version 2 as FHIR" }).click(),
  ]);
  const handed = readFileSync(await file.path(), "utf8");
  expect(handed).toContain("calculatedExpression");

  // Handed over and changed elsewhere, it comes back as a version, a copy, or not at all.
  await page.goto("/library");
  const bring = async (body: string): Promise<void> => {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose a questionnaire file" }).click();
    await (await chooser).setFiles({ name: "sleep.json", mimeType: "application/json", buffer: Buffer.from(body) });
  };
  await bring(handed.replace("Do you wake up at night?", "Do you lie awake at night?"));
  await expect(page.getByText("“How you sleep” is here already, with other content.")).toBeVisible();
  await page.getByRole("button", { name: "Copy", exact: true }).click();
  await expect(page.getByRole("button", { name: "Delete the draft" })).toBeVisible();
  await page.getByRole("button", { name: "Delete the draft" }).click();
  await expect(page.getByRole("heading", { name: "Library" })).toBeVisible();
  await page.getByLabel("Words in the title").fill("sleep");
  await page.getByRole("link", { name: "How you sleep" }).click();
  await page.getByRole("button", { name: "Retire" }).click();
  await expect(page.getByText("Retired", { exact: true })).toBeVisible();
});

test("two people write at one questionnaire: the second is told, and nothing is overwritten", async ({
  page,
  browser,
}) => {
  await signIn(page, "salma");
  await begin(page, "Written by two", "Intake");
  const other = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const colleague = await other.newPage();
  await signIn(colleague, "tobias");
  await colleague.goto(new URL(page.url()).pathname);
  // Told before either types; the second looks, and may take over.
  await expect(colleague.getByText("Salma Idris is writing this.")).toBeVisible();
  await expect(page.getByText("Tobias Renn is looking at this draft")).toBeVisible();
  await rows(page).first().fill("What brings you here?");
  await saved(page);
  await colleague.getByRole("button", { name: "Take over" }).click();
  await expect(page.getByText("Tobias Renn is writing this.")).toBeVisible();
  await expect(rows(colleague).first()).toHaveValue("What brings you here?");
  await rows(colleague).first().fill("Why have you come?");
  await saved(colleague);
  await expectNoViolations(page, "looking at another's draft");
  // Who leaves holds nothing up: the other's page goes on from what stands there now, by itself.
  await colleague.getByRole("link", { name: "Library" }).click();
  await expect(colleague.getByRole("heading", { name: "Library" })).toBeVisible();
  await expect(rows(page).first()).toHaveValue("Why have you come?");
  await expect(page.getByText("is writing this")).toHaveCount(0);
  await other.close();

  // What is asked elsewhere is offered as it is typed, with its options and where its answer goes.
  await rows(page).first().fill("Who are they to you");
  await page
    .getByRole("region", { name: "Asked elsewhere" })
    .getByRole("button", { name: "Who are they to you?" })
    .click();
  await expect(page.getByLabel("Options", { exact: true })).toHaveValue(/Partner/);
  await expect(page.getByText("to Emergency relation")).toBeVisible();
  await rows(page).first().fill("Who are they to you now?");
  const written = page.url();
  await page.getByRole("link", { name: "Library" }).click();
  await expect(page.getByRole("heading", { name: "Library" })).toBeVisible();
  await expect(async () => {
    await page.goto(written);
    await expect(rows(page).first()).toHaveValue("Who are they to you now?", { timeout: 5000 });
  }).toPass();
});

test("a questionnaire is rehearsed on the client's own pages, and nothing of it is kept", async ({ page }) => {
  await signIn(page, "salma");
  await page.goto("/library");
  await page.getByRole("link", { name: "Consent to care" }).click();
  const sent: string[] = [];
  page.on("request", (r) => {
    if (r.method() !== "GET") sent.push(`${r.method()} ${r.url()}`);
  });
  await page.getByRole("link", { name: "Rehearse" }).click();
  await expect(page.getByText("Step 1 of 3")).toBeVisible();
  await choose(page, /I agree to care/, "Yes");
  await choose(page, /leave a message/, "No");
  await next(page);
  await page.getByLabel("Your full name").fill("Pia Pretending");
  await page.getByText("I agree to sign on this screen").click();
  await page.getByRole("button", { name: "Sign", exact: true }).click();
  await page.getByText("A tablet").click();
  await page.getByRole("button", { name: /^Send to/ }).click();
  await expect(page.getByText("That was all. The answers were thrown away.")).toBeVisible();
  await page.getByRole("button", { name: "Start again" }).click();
  await expect(page.getByText("Step 1 of 3")).toBeVisible();
  expect(sent).toEqual([]);
});

test("a questionnaire is translated beside its words, goes out as XLIFF and comes back, and is rehearsed from right to left", async ({
  page,
}) => {
  await signIn(page, "salma");
  await begin(page, "For reading in two languages", "Intake");
  await rows(page).first().fill("How do you sleep?");
  await saved(page);
  await page.getByRole("link", { name: "Languages" }).click();
  const search = page.getByRole("combobox", { name: "Language" });
  await search.fill("Arab");
  await page.getByRole("option", { name: "Arabic" }).click();
  await expect(page.getByText("2 to do")).toBeVisible();
  await page.getByLabel("Arabic: How do you sleep?").fill("كيف تنام؟");
  await expect(page.getByText("1 to do")).toBeVisible();
  await saved(page);
  await expectNoViolations(page, "languages");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Download texts for Arabic" }).click(),
  ]);
  const xliff = readFileSync(await file.path(), "utf8");
  expect(xliff).toContain("<target>كيف تنام؟</target>");

  // The words change while the translator works; what they send back of the old ones is marked.
  await page.getByRole("link", { name: "Composer" }).click();
  await rows(page).first().fill("How do you sleep now?");
  await saved(page);
  await expect(
    page.getByText(/Arabic: one text is not translated.*one translation is of words that have changed since/),
  ).toBeVisible();
  await page.getByRole("link", { name: "Languages" }).click();
  await expect(page.getByText("Made when the words were “How do you sleep?”.")).toBeVisible();
  const translated = xliff
    .replace(/(<source>For reading in two languages<\/source>)/, "$1\n<target>للقراءة بلغتين</target>")
    .replace("كيف تنام؟</target>", "كيف نومك؟</target>");
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Upload translations" }).click();
  await (
    await chooser
  ).setFiles({ name: "back.xlf", mimeType: "application/xliff+xml", buffer: Buffer.from(translated) });
  await expect(
    page.getByText("Arabic: 2 translations taken in. 1 of words that have changed since: they are marked."),
  ).toBeVisible();
  await page.getByRole("button", { name: "It is still right" }).click();
  await expect(page.getByText("all translated")).toBeVisible();
  await page.getByRole("link", { name: "Rehearse in Arabic" }).click();
  const asked = page.getByLabel("كيف نومك؟");
  await expect(asked).toBeVisible();
  expect(await asked.evaluate((el) => getComputedStyle(el).direction)).toBe("rtl");
  await page.getByLabel("Read in").click();
  await page.getByRole("option", { name: "English" }).click();
  await expect(page.getByLabel("How do you sleep now?")).toBeVisible();
});

test("a grid is typed, a format picked, and the map shows the path that answers take", async ({ page }) => {
  await signIn(page, "salma");
  await begin(page, "How the week went", "Intake");
  await rows(page).first().fill("| ");
  await rows(page).first().fill("How often were you bothered?");
  await rows(page).first().press("Enter");
  await page.keyboard.type("Sleeping badly");
  await page.keyboard.press("Enter");
  await page.keyboard.type("Little appetite");
  await rows(page).first().click();
  await page.getByLabel("Options of every row").fill("Never = 0\nMost days = 1");
  const client = page.getByRole("complementary", { name: "What the client sees" });
  for (const row of ["Sleeping badly", "Little appetite"])
    await expect(client.getByRole("radiogroup", { name: row }).getByRole("radio")).toHaveCount(2);
  await rows(page).last().click();
  await page.keyboard.press("Enter");
  // Still inside the grid, the next line is a row too; out of it, it becomes what it is told to be.
  await page.keyboard.type("Your tag");
  await pick(page, "Kind", "Short text", 1);
  await pick(page, "Looks like", "capitals, a dash, digits");
  await expect(client.getByLabel("Your tag")).toHaveAttribute("placeholder", "AB-123");
  await saved(page);
  // What the chart holds is asked for with one choice, a list with its columns.
  await pick(page, /Add a chart field/, "Medicines and supplements");
  await expect(page.getByText("to Medicines and supplements")).toBeVisible();
  await expect(client.getByRole("button", { name: "Add: Medicines and supplements" })).toBeVisible();
  await page.getByRole("button", { name: /Add a chart field/ }).click();
  await expect(page.getByRole("option", { name: "Medicines and supplements" })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await saved(page);
  await expectNoViolations(page, "composer with a grid");

  await page.goto("/library");
  await page.getByRole("link", { name: "Before your first visit", exact: true }).click();
  await page.getByRole("link", { name: "Map" }).click();
  const lines = page.getByRole("list", { name: "Lines of the questionnaire" });
  const medicines = lines
    .getByRole("listitem")
    .filter({ has: page.getByRole("link", { name: "Medicines and supplements", exact: true }) });
  await expect(medicines).toContainText("not met on this path");
  await choose(page, /medicines or supplements/, "Yes");
  await expect(medicines).not.toContainText("not met on this path");
  await expectNoViolations(page, "map");
  // What is hidden in the answers to try does not make the page longer than what can be seen of it.
  expect(
    await page.evaluate(() => {
      const ends = [...document.querySelectorAll("main, aside, nav")].map(
        (el) => el.getBoundingClientRect().bottom + window.scrollY,
      );
      return document.documentElement.scrollHeight - Math.max(window.innerHeight, ...ends);
    }),
  ).toBeLessThanOrEqual(1);
  await medicines.scrollIntoViewIfNeeded();
  await lines.getByRole("button", { name: "Fold: Do you take medicines or supplements?" }).click();
  await expect(medicines).toHaveCount(0);
  await lines.getByRole("link", { name: "Do you have allergies?" }).click();
  await expect(page.getByRole("group", { name: "Settings of Do you have allergies?" })).toBeVisible();
});

test("a questionnaire is shared with some only: others do not see it, or may send but not change it", async ({
  page,
  browser,
}) => {
  await signIn(page, "salma");
  await begin(page, "For two of us", "Intake");
  await rows(page).first().fill("What did you notice?");
  await saved(page);
  await page.getByRole("link", { name: "Done" }).click();
  await page.getByText("Only some may send or change it").click();
  await pick(page, "Tobias Renn may", "send it, not change it");
  await expectNoViolations(page, "sharing");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("button", { name: "Tobias Renn may" })).toContainText("send it, not change it");
  await expect(page.getByRole("button", { name: "Salma Idris may" })).toHaveCount(0);
  const address = new URL(page.url()).pathname;
  const other = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const colleague = await other.newPage();
  await signIn(colleague, "tobias");
  await colleague.goto("/library");
  await colleague.getByRole("link", { name: "For two of us" }).click();
  await expect(colleague.getByText("a copy is yours to change")).toBeVisible();
  await expect(colleague.getByRole("link", { name: "Continue in the Composer" })).toHaveCount(0);
  await colleague.goto(`${address}/compose`);
  await expect(colleague.getByRole("heading", { level: 1 })).toHaveText(/not open to you/i);
  await other.close();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page).toHaveURL(/sign-in/);
  await signIn(page, "maren");
  await page.goto(address);
  await expect(page.getByRole("heading", { name: "For two of us" })).toBeVisible();
});

test("a starter questionnaire reads well in each of the client's languages, on a phone and a tablet", async ({
  page,
}) => {
  await signIn(page, "salma");
  await page.goto("/library");
  await page.getByRole("link", { name: "Before your first visit", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Before your first visit");
  const address = new URL(page.url()).pathname;
  for (const language of ["es", "fr", "ar"]) {
    const t = clientWords("fill", language);
    await page.goto(`${address}/rehearse?in=${language}&s=3`);
    await expect(page.getByText(t("step", { at: "3", of: "6" }))).toBeVisible();
    // Nothing of ours is left in English on the client's side of the page.
    const device = page.locator("[data-device]");
    for (const english of ["Next", "Back", "Yes", "Your health", "Do you have allergies?"])
      await expect(device.getByText(english, { exact: true })).toHaveCount(0);
    await device.getByText(t("yes"), { exact: true }).first().click();
    expect(await device.evaluate((el) => el.scrollWidth - el.clientWidth), language).toBeLessThanOrEqual(1);
    await expectNoViolations(page, `rehearsing in ${language}`);
  }
});
