import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { test } from "./practice";
import { expectNoViolations, fetchPost, linkIn, newDevice, next, passDoor, saved, signIn } from "./steps";

const overflow = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
/** PHQ-9 totals from before, a week apart. */
const before = [21, 19, 18, 15, 13] as const;
const file = [
  "Name,Date,Score",
  ...before.map((score, index) => `Hugo Lindgren,2026-0${index + 4}-06,${score}`),
  "Hugo Lindgren,2026-09-06,40",
  "Nobody Atall,2026-09-06,4",
].join("\r\n");
const drawn = async (page: Page): Promise<readonly (readonly [number, number])[]> => {
  const canvas = page.locator("canvas[data-drawn]").first();
  await expect(canvas).toBeVisible();
  return (JSON.parse((await canvas.getAttribute("data-drawn"))!) as [number, number][][])[0]!;
};
/** The numbers of the table behind the plot, the oldest first. */
const listed = async (page: Page): Promise<number[]> =>
  (
    await page
      .getByRole("region", { name: /the numbers/ })
      .locator("tbody tr td:nth-of-type(1)")
      .allInnerTexts()
  )
    .map(Number)
    .reverse();
async function chooseFile(page: Page, text: string, score = /PHQ-9 total/): Promise<void> {
  await page.goto("/people/caseload");
  await page.getByRole("link", { name: "Bring earlier scores from a file" }).click();
  await page.getByRole("button", { name: /Which score/ }).click();
  await page.getByRole("option", { name: score }).click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Choose a file" }).click();
  await (await chooser).setFiles({ name: "scores.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
}
async function openMeasures(page: Page, client: string): Promise<void> {
  await page.goto("/day");
  await page.locator("li", { hasText: client }).getByRole("link", { name: client, exact: true }).first().click();
  await page.getByRole("link", { name: /^Measures/ }).click();
  await expect(page.getByRole("heading", { name: `Measures: ${client}` })).toBeVisible();
}

test("earlier scores come from a file, and the trend draws each where it is, with the same numbers beside it", async ({
  page,
}) => {
  await signIn(page, "maren");
  await chooseFile(page, file);
  await expect(page.getByText("5 lines are right, 2 cannot be brought. Nothing is brought yet.")).toBeVisible();
  await expect(page.getByText("The score is outside what is possible: 0 to 27.")).toBeVisible();
  await expectNoViolations(page, "a file of scores that was looked through");
  await page.getByRole("button", { name: "Bring 5 scores" }).click();
  await expect(page.getByText("5 scores were brought; 2 lines were not.")).toBeVisible();

  await openMeasures(page, "Hugo Lindgren");
  const places = await drawn(page);
  const numbers = await listed(page);
  expect(numbers.slice(0, 5)).toEqual([...before]);
  expect(places).toHaveLength(numbers.length);
  // Drawn where they are: as far from each other, upwards, as the numbers are apart, on one scale.
  const scale = (places[4]![1] - places[0]![1]) / (numbers[0]! - numbers[4]!);
  expect(scale).toBeGreaterThan(1);
  places.forEach(([, height], index) =>
    expect(Math.abs(height - (places[0]![1] + (numbers[0]! - numbers[index]!) * scale))).toBeLessThan(0.6),
  );
  // And along the time: the first months are about as long as each other.
  const steps = places.slice(1, 5).map(([across], index) => across - places[index]![0]);
  expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.15);
  const sentence = page.getByText(/^PHQ-9 total: 21 on 6 Apr 2026, /);
  await expect(sentence).toBeVisible();
  await expect(page.getByText("5 scores were brought from a file.")).toBeVisible();

  // Another baseline, by keys alone.
  await page.getByRole("button", { name: /Baseline/ }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^PHQ-9 total: 19 on 6 May 2026, /)).toBeVisible();
  const picture = page.waitForEvent("download");
  await page.getByRole("button", { name: "Picture (PNG)" }).click();
  expect(
    readFileSync(await (await picture).path())
      .subarray(1, 4)
      .toString(),
  ).toBe("PNG");
  const drawing = page.waitForEvent("download");
  await page.getByRole("button", { name: "Drawing (SVG)" }).click();
  const svg = readFileSync(await (await drawing).path(), "utf8");
  expect(svg.match(/<circle/g)).toHaveLength(numbers.length);
  await expectNoViolations(page, "somebody's measures");
});

test("what the client is shown has nothing of the practice on it, in their language", async ({ page }) => {
  await signIn(page, "maren");
  await openMeasures(page, "Hugo Lindgren");
  await page.getByRole("link", { name: "Show to the client" }).click();
  await expect(page.getByRole("heading", { name: "Your answers over time" })).toBeVisible();
  await drawn(page);
  const text = await page.locator("body").innerText();
  for (const hidden of ["Hugo", "Lindgren", "Fernhollow", "Maren", "Day sheet"]) expect(text).not.toContain(hidden);
  expect(await page.title()).toBe("Your answers over time");
  expect(new URL(page.url()).pathname).toMatch(/^\/shared\/[0-9a-f-]+$/);
  await expectNoViolations(page, "scores on a shared screen");
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await overflow(page)).toBe(0);
  await page.getByRole("link", { name: "Back to work" }).click();
  await expect(page.getByRole("heading", { name: "Measures: Hugo Lindgren" })).toBeVisible();

  // To somebody who reads Arabic it is in Arabic, from right to left; time runs as it is drawn everywhere.
  await page.setViewportSize({ width: 1280, height: 800 });
  await chooseFile(
    page,
    "E-mail,Date,Score\nlayla.haddad@mail.example,2026-05-06,18\nlayla.haddad@mail.example,2026-08-06,6\n",
  );
  await page.getByRole("button", { name: "Bring 2 scores" }).click();
  await expect(page.getByText("2 scores were brought; 0 lines were not.")).toBeVisible();
  await openMeasures(page, "ليلى حداد");
  await page.getByRole("link", { name: "Show to the client" }).click();
  await expect(page.getByRole("heading", { name: "إجاباتك مع مرور الوقت" })).toBeVisible();
  await expect(page.getByRole("main")).toHaveAttribute("dir", "rtl");
  const [earlier, later] = await drawn(page);
  expect(later![0]).toBeGreaterThan(earlier![0]);
  expect(later![1]).toBeGreaterThan(earlier![1]);
  await expectNoViolations(page, "scores on a shared screen, in Arabic");
});

test("an alert stays on the Day sheet, the visit and the chart until somebody writes what was done", async ({
  page,
}) => {
  await signIn(page, "maren");
  await page.goto("/day");
  const line = page.locator("li", { hasText: "Hugo Lindgren" });
  await line.getByRole("link", { name: "Alert open: Hugo Lindgren" }).click();
  const open = page.getByRole("region", { name: "Open alerts" });
  await expect(open).toContainText("Alert open");
  // Nothing typed is nothing done.
  await open.getByRole("button", { name: "Close the alert" }).click();
  await expect(open.getByText("Say in a few words what was done.").first()).toBeVisible();
  await open.getByLabel("What was done").fill("Rang him at noon; safe, his brother is with him.");
  await open.getByRole("button", { name: "Close the alert" }).click();
  await expect(open).toHaveCount(0);
  await page.goto("/day");
  await expect(page.locator("li", { hasText: "Hugo Lindgren" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Alert open: Hugo Lindgren" })).toHaveCount(0);
  await page.goto("/returns");
  await page.getByRole("link", { name: "Read Hugo Lindgren" }).click();
  await expect(page.getByText("Rang him at noon; safe, his brother is with him.")).toBeVisible();
  await expectNoViolations(page, "a return whose alert was closed");
});

test("somebody is asked again and again from their measures, and no more when it is ended", async ({ page }) => {
  await signIn(page, "maren");
  await openMeasures(page, "Ines Halvorsen");
  await page.getByText("Ask again and again").click();
  await page.getByRole("group", { name: "What is asked" }).getByText(/PHQ-9/).click();
  await page.getByRole("button", { name: /About which time/ }).click();
  await page.getByRole("option", { name: "since the last session" }).click();
  await page.getByRole("button", { name: "Begin to ask" }).click();
  const going = page.getByRole("region", { name: "Asked by itself" });
  await expect(going).toContainText("before every visit, the day before");
  await expect(going).toContainText("about the time since the last session");
  await going.getByText("Change it").click();
  await going
    .getByRole("button", { name: /\bWhen\b/ })
    .first()
    .click();
  await page.getByRole("option", { name: "every 2 weeks" }).click();
  await going.getByRole("button", { name: "Change", exact: true }).click();
  await expect(going).toContainText("every 2 weeks, about the time since the last session");
  await going.getByRole("button", { name: "End", exact: true }).click();
  await expect(going.getByRole("button", { name: "End", exact: true })).toHaveCount(0);
});

test("a letter goes out by itself, the client answers about the time since their session, and the visit's page says what stands out", async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  await signIn(page, "maren");
  await openMeasures(page, "Ines Halvorsen");
  await page.getByText("Ask again and again").click();
  await page.getByRole("group", { name: "What is asked" }).getByText(/PHQ-9/).click();
  await page.getByRole("button", { name: /\bWhen\b/ }).click();
  await page.getByRole("option", { name: "now, and a last time when it ends" }).click();
  await page.getByRole("button", { name: /About which time/ }).click();
  await page.getByRole("option", { name: "since the last session" }).click();
  await page.getByRole("button", { name: "Begin to ask" }).click();
  await expect(page.getByRole("region", { name: "Asked by itself" })).toContainText("not asked yet");
  // What goes on by itself looks once a minute.
  let letter = "";
  await expect
    .poll(async () => (letter = await fetchPost(page, "Personal link", "Ines Halvorsen").catch(() => "")), {
      timeout: 120_000,
      intervals: [5000],
    })
    .toContain("/p/");
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(letter), "Ines Halvorsen");
  await expect(client.getByText(/^Please answer for the time since your last session, on \d/)).toBeVisible();
  await expectNoViolations(client, "a measure about the time since the last session");
  // The practitioner waits with the visit's page open.
  await page.goto("/day");
  await page
    .getByRole("link", { name: /visit of Ines Halvorsen/ })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "Visit of Ines Halvorsen" })).toBeVisible();
  const part = page.getByRole("region", { name: /PHQ-9/ });
  await expect(part).toHaveCount(0);
  for (const group of await client.getByRole("radiogroup").all()) await group.getByRole("radio").nth(1).press(" ");
  await saved(client);
  await next(client);
  await client.getByRole("button", { name: /^Send to/ }).click();
  await expect(client.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();
  await device.close();
  // Seen at once.
  await expect(part).toContainText("PHQ-9 total 9, mild");
  await expect(part).toContainText("Thoughts of self-harm");
  await expectNoViolations(page, "the start of a session");
});

test("what a change of an own score means is written in the Composer, each number with its source, and stays", async ({
  page,
}) => {
  await signIn(page, "salma");
  await page.goto("/library");
  await page.getByLabel("Title", { exact: true }).fill("How heavy your days are");
  await page.getByRole("button", { name: /Kind/ }).nth(1).click();
  await page.getByRole("option", { name: "Measure" }).click();
  await page.getByRole("button", { name: "Open in the Composer" }).click();
  await page.getByRole("group", { name: "Outline" }).locator('textarea[id^="line-"]').first().click();
  await page.keyboard.type("1-10 How heavy was your week?");
  await page.getByRole("button", { name: "Score", exact: true }).click();
  await page.keyboard.type("Heaviness");
  const settings = page.getByRole("group", { name: "Settings of Heaviness" });
  await settings.getByText("How heavy was your week?").click();
  await settings.getByText("What a change of it means: not said").click();
  await settings.getByRole("button", { name: /Better is/ }).click();
  await page.getByRole("option", { name: "a lower number" }).click();
  const field = (label: string) => settings.getByLabel(label, { exact: true });
  // What cannot be is said where it was typed, and everything else is kept.
  await field("Reliability, 0 to 1").fill("1.2");
  await expect(settings.getByText("Write a number from 0 to below 1.")).toBeVisible();
  await field("Reliability, 0 to 1").fill("0,8");
  await expect(settings.getByText("Write a number from 0 to below 1.")).toHaveCount(0);
  await field("Source of the reliability").fill("Invented for this test");
  // The kind outlasts a number that does not count while it is typed.
  await settings.getByRole("button", { name: /Kind of reliability/ }).click();
  await page.getByRole("option", { name: "of two measurements" }).click();
  await field("Reliability, 0 to 1").fill("8");
  await expect(settings.getByText("Write a number from 0 to below 1.")).toBeVisible();
  await field("Reliability, 0 to 1").fill("0.8");
  await expect(settings.getByRole("button", { name: /Kind of reliability/ })).toContainText("of two measurements");
  await expect(page.getByText(/when a change is more than chance is not known/).first()).toBeVisible();
  const seeking = settings.getByRole("group", { name: "People who seek help" });
  await seeking.getByLabel("Mean", { exact: true }).fill("6");
  await expect(settings.getByText("Mean and standard deviation count together.")).toBeVisible();
  await seeking.getByLabel("Standard deviation").fill("2");
  await expect(page.getByText(/nobody can look up the numbers of people who seek help/).first()).toBeVisible();
  await seeking.getByLabel("Source").fill("Invented for this test");
  await field("Cut-point: first clinical number").fill("12");
  await field("Source of the cut-point").fill("Invented for this test");
  await expect(page.getByText(/the cut-point is 12, but the score can be 0 to 10/).first()).toBeVisible();
  await field("Cut-point: first clinical number").fill("5");
  await settings.getByRole("button", { name: "From your own answers" }).click();
  await expect(settings.getByText(/too few answers yet/).first()).toBeVisible();
  await expect(page.getByText("No problems found.")).toBeVisible();
  await expectNoViolations(page, "what a change means, in the Composer");
  await expect(page.getByText(/^Saved \d/)).toBeVisible();
  await page.reload();
  await page.getByRole("group", { name: "Outline" }).locator('textarea[id^="line-"]').nth(1).click();
  await settings.getByText("What a change of it means", { exact: true }).click();
  await expect(field("Reliability, 0 to 1")).toHaveValue("0.8");
  await expect(seeking.getByLabel("Standard deviation")).toHaveValue("2");
  await expect(field("Source of the cut-point")).toHaveValue("Invented for this test");
  await page.setViewportSize({ width: 320, height: 800 });
  expect(await overflow(page)).toBeLessThanOrEqual(0);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("button", { name: "Put in use" }).click();
  await expect(page.getByText("The first version.")).toBeVisible();

  // Two scores of somebody who reads from right to left: the arrow keys go where the language runs to.
  const lines = (first: number, last: number): string =>
    `E-mail,Date,Score\nlayla.haddad@mail.example,2026-05-07,${first}\nlayla.haddad@mail.example,2026-08-07,${last}\n`;
  for (const [score, text] of [
    [/Heaviness/, lines(8, 3)],
    [/PHQ-9 total/, lines(17, 7)],
  ] as const) {
    await chooseFile(page, text, score);
    await page.getByRole("button", { name: "Bring 2 scores" }).click();
    await expect(page.getByText("2 scores were brought; 0 lines were not.")).toBeVisible();
  }
  await openMeasures(page, "ليلى حداد");
  await page.getByRole("button", { name: "Heaviness" }).click();
  // Jacobson and Truax: 1.96 x sqrt(2) x 2 x sqrt(1 - 0.8) = 2.48, and 3 lies below the cut-point.
  await expect(page.getByText(/^Heaviness: 8 on .*recovered/)).toBeVisible();
  await expect(page.getByText("How a change is judged: more than 2.5 is reliable, clinical from 5")).toBeVisible();
  await page.getByRole("link", { name: "Show to the client" }).click();
  await expect(page.getByRole("heading", { name: "إجاباتك مع مرور الوقت" })).toBeVisible();
  const shown = page.getByRole("heading", { level: 2 });
  await expect(shown).toHaveText("Heaviness");
  await page.keyboard.press("ArrowLeft");
  await expect(shown).toHaveText("PHQ-9 total");
  await page.keyboard.press("ArrowRight");
  await expect(shown).toHaveText("Heaviness");
  await page.getByRole("button", { name: "النتيجة التالية" }).click();
  await expect(shown).toHaveText("PHQ-9 total");
  await drawn(page);
  await expectNoViolations(page, "two scores on a shared screen");
});

test("caseload, visit and office pages of measures fit 320 px, and axe finds nothing", async ({ page }) => {
  await signIn(page, "maren");
  await page.goto("/day");
  const visit = (await page.locator("a[href^='/visits/']").first().getAttribute("href"))!;
  for (const path of ["/people/caseload", "/people/scores", "/office/measures", visit]) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    await expectNoViolations(page, path);
    await page.setViewportSize({ width: 320, height: 700 });
    expect(await overflow(page), path).toBe(0);
  }
});
