import { readFileSync } from "node:fs";
import { expect, type BrowserContext, type Page } from "@playwright/test";
import { test } from "./practice";
import { choose, linkIn, newDevice, next, passDoor, readPost, saved, signIn } from "./steps";

// The whole path once, as people walk it: from a visit on the Day sheet to the chart and the note.
test.describe.configure({ mode: "serial" });
let desk: BrowserContext;
let staff: Page;
let watching: Page;
let first: BrowserContext;
let link: string;

test.beforeAll(async ({ browser }) => {
  desk = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: "en-GB" });
  staff = await desk.newPage();
  await signIn(staff);
  first = await newDevice(browser);
});
test.afterAll(async () => {
  await desk.close();
  await first.close();
});

test("the day sheet lists the visits in time order with how ready each is", async () => {
  await staff.goto("/day");
  await expect(staff.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  const times = await staff.locator("ol > li time").allInnerTexts();
  expect(times).toEqual([...times].sort());
  expect(times.length).toBe(9);
  await expect(staff.locator("li", { hasText: "Hugo Lindgren" })).toContainText("Returned, read first");
  await expect(staff.locator("li", { hasText: "Priya Desrosiers" })).toContainText("Settled");
  await expect(staff.locator("li", { hasText: "Ines Halvorsen" })).toContainText("Nothing sent");
  await staff.getByRole("link", { name: "Day after" }).click();
  await expect(staff.getByRole("heading", { name: "Thursday 26 November" })).toBeVisible();
  await staff.getByRole("link", { name: "Day before" }).click();
  await expect(staff.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  await staff.keyboard.press("n");
  await staff.keyboard.press("n");
  await staff.getByRole("link", { name: "Back to today" }).click();
  await expect(staff.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
});

test("a packet is sent from a visit, and its letter lies in the post room", async () => {
  await staff.getByRole("link", { name: "Send questionnaires: Ines Halvorsen" }).click();
  await expect(
    staff.getByText(/Ines gets an e-mail at i···@m···\.example in English, can open it until .*9 Dec/),
  ).toBeVisible();
  await staff.getByRole("button", { name: "Send all 3 to Ines" }).click();
  await expect(staff.getByRole("heading", { name: "Packet for Ines Halvorsen" })).toBeVisible();
  const letter = await readPost(staff, "Personal link", "Ines Halvorsen");
  expect(letter).not.toMatch(/PHQ|depress|consent/i);
  link = linkIn(letter);
});

test("the door opens only with the code, and the answers are saved section by section", async () => {
  const page = await first.newPage();
  await page.goto(link);
  await expect(page.getByRole("heading", { name: "Is it you?" })).toBeVisible();
  await expect(page.getByText("Ines")).toHaveCount(0);
  await passDoor(page, staff, link, "Ines Halvorsen");
  await expect(page.getByRole("heading", { name: "About you" })).toBeVisible();
  await next(page);
  await expect(page.getByText("3 answers need a look")).toBeVisible();
  await page.getByLabel("First name").fill("Inés");
  await page.getByLabel("Last name").fill("Halvorsen");
  await page.getByRole("spinbutton", { name: /^day, Birth date/ }).click();
  await page.keyboard.type("17041991");
  await choose(page, /Pronouns/, "she / her");
  await saved(page);
  await next(page);
  await page.getByLabel("E-mail").fill("ines.halvorsen@mail.example");
  await page
    .getByLabel("Phone (if you like)")
    .or(page.getByLabel("Phone", { exact: true }))
    .first()
    .fill("020 79");
  await page.getByLabel("Who should we call").fill("Jonas Halvorsen");
  await page.getByLabel("Their phone").fill("020 7946 0120");
  await next(page);
  await expect(page.getByText("A phone number has 7 to 15 digits.")).toBeVisible();
  await page.getByLabel("Phone", { exact: true }).fill("020 7946 0315");
  await next(page);
  await expect(page.getByRole("heading", { name: "Your health" })).toBeVisible();
  await choose(page, /an illness or condition/, "Yes");
  await page.getByLabel("Which ones, and since when?").fill("Asthma since childhood");
  await choose(page, /medicines or supplements/, "Yes");
  const row = page.getByRole("group", { name: "Medicines and supplements 1" });
  await row.getByLabel("Name").fill("salbutamol");
  await row.getByLabel("How much").fill("200 mcg");
  await saved(page);
  await page.close();
});

test("closing the browser and opening the link on another device resumes after a new code", async ({ browser }) => {
  const second = await newDevice(browser);
  const page = await second.newPage();
  await passDoor(page, staff, link, "Ines Halvorsen");
  // Where they stopped, and what is before it is there too.
  const row = page.getByRole("group", { name: "Medicines and supplements 1" });
  await expect(row.getByLabel("How much")).toHaveValue("200 mcg");
  await page.getByRole("button", { name: "Back" }).click();
  await expect(page.getByRole("heading", { name: "How to reach you" })).toBeVisible();
  await page.getByRole("button", { name: "Back" }).click();
  await expect(page.getByLabel("First name")).toHaveValue("Inés");
  // On this device the link itself leads there from now on, without another code.
  await page.goto(link);
  await expect(page).toHaveURL(/\/f\//);
  await expect(row.getByLabel("How much")).toHaveValue("200 mcg");
  await page.getByRole("button", { name: "Add another: Medicines and supplements" }).click();
  await page.getByRole("group", { name: "Medicines and supplements 2" }).getByLabel("Name").fill("Magnesium");
  // A follow-up that is answered and then hidden again is neither required nor returned.
  await choose(page, /operation or a bad injury/, "Yes");
  await page.getByLabel("What was it, and when?").fill("A secret operation");
  await choose(page, /operation or a bad injury/, "No");
  await expect(page.getByLabel("What was it, and when?")).toHaveCount(0);
  await choose(page, /have allergies/, "No");
  await next(page);
  await page.getByLabel("What do you do most days?").fill("Surveyor");
  await page.getByLabel("How many hours do you sleep").fill("5,5");
  await choose(page, /smoke or use nicotine/, "No");
  await next(page);
  await page.getByLabel("What would you like help with?").fill("I lie awake and worry.\nMostly about the house.");
  await next(page);
  await expect(page.getByRole("heading", { name: "Consent to care" })).toBeVisible();
  await choose(page, /I agree to care/, "Yes");
  await choose(page, /leave a message/, "Only in an emergency");
  await next(page);
  await page.getByText("Draw with finger or mouse").click();
  const pad = (await page.getByTestId("signature-pad").boundingBox())!;
  await page.mouse.move(pad.x + 40, pad.y + 60);
  await page.mouse.down();
  for (let index = 1; index <= 12; index++)
    await page.mouse.move(pad.x + 40 + index * 20, pad.y + 60 + (index % 2 === 0 ? 25 : -20));
  await page.mouse.up();
  await page.getByText("I agree to sign on this screen").click();
  await page.getByRole("button", { name: "Sign", exact: true }).click();
  await expect(page.getByRole("heading", { name: /Over the last 2 weeks/ })).toBeVisible();
  const answers = [
    "Several days",
    "More than half the days",
    "Nearly every day",
    "More than half the days",
    "Not at all",
    "Several days",
    "Several days",
    "Not at all",
    "Several days",
  ];
  await expect(page.getByRole("radiogroup", { name: /How difficult/ })).toHaveCount(0);
  for (const [index, answer] of answers.entries()) await choose(page, new RegExp(`^${index + 1}\\. `), answer);
  await choose(page, /How difficult/, "Somewhat difficult");
  await next(page);
  await expect(page.getByRole("heading", { name: "Check and send" })).toBeVisible();
  await expect(page.getByText("A secret operation")).toHaveCount(0);

  // Returns is open on the practice's side the whole time, and is not reloaded.
  watching = await desk.newPage();
  await watching.goto("/returns");
  await expect(watching.getByRole("link", { name: "Hugo Lindgren", exact: true })).toBeVisible();
  await expect(watching.getByRole("link", { name: "Ines Halvorsen", exact: true })).toHaveCount(0);
  // The first reply is lost on the way: pressing again returns the packet once.
  let lost = 0;
  await page.route("**/return", async (route) => {
    if (lost++ > 0) return route.continue();
    await route.fetch();
    return route.abort();
  });
  await page.getByRole("button", { name: "Send to Fernhollow Care Rooms" }).click();
  await expect(page.getByText("We got no reply.")).toBeVisible();
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();
  await second.close();
});

test("returns shows it at once, alarming answers first, with score and band", async () => {
  const row = watching.locator("li", { hasText: "Ines Halvorsen" });
  await expect(row).toContainText("PHQ-9 total 11 of 27, moderate");
  await expect(row).toContainText("item 9 is above zero: “Several days”");
  await expect(watching.locator("h2").first()).toHaveText("Read first");
  await row.getByRole("link", { name: "Read Ines Halvorsen" }).click();
  await expect(watching.getByRole("main").getByRole("alert")).toContainText("Thoughts of self-harm");
  await expect(watching.getByText("A secret operation")).toHaveCount(0);
  await watching.close();
});

test("reconcile decides line by line, posts, and the chart shows source, date and history", async () => {
  await staff.goto("/returns");
  await staff.getByRole("link", { name: "Read Ines Halvorsen" }).click();
  await staff.getByRole("link", { name: "Reconcile" }).click();
  await expect(staff.getByRole("heading", { name: "Reconcile Ines Halvorsen" })).toBeVisible();
  const decision = (field: string, nth = 0) =>
    staff.getByRole("radiogroup", { name: `Decision for ${field}` }).nth(nth);
  // A nickname or accent never renames anybody by itself.
  await expect(decision("First name").getByRole("radio", { name: "Keep" })).toBeChecked();
  await expect(decision("Phone").getByRole("radio", { name: "Keep" })).toBeChecked();
  await decision("Phone").getByText("Take", { exact: true }).click();
  // The changed dose of a medicine on file must be decided; posting without it is refused and says which.
  await staff.getByRole("button", { name: /^Post / }).click();
  await expect(staff.getByText("Some lines still need your decision. Nothing was posted.")).toBeVisible();
  await decision("Medicines and supplements", 0).getByText("Take", { exact: true }).click();
  await decision("Main concern").getByText("Add", { exact: true }).click();
  // A "no" against what is on file is decided too: they may have forgotten.
  await decision("Allergies").getByText("Still true", { exact: true }).click();
  await staff.getByRole("button", { name: /^Post / }).click();
  await expect(staff.getByText("Posted.", { exact: true })).toBeVisible();
  const row = (text: string) => staff.locator("#page").getByText(text).first();
  await expect(row("020 7946 0315")).toBeVisible();
  await expect(
    staff
      .locator("#page")
      .getByText(/Sleeps badly since moving house\s+\d{4}-\d\d-\d\d: I lie awake and worry\./)
      .first(),
  ).toBeVisible();
  await expect(staff.getByRole("heading", { level: 1 })).toHaveText("Ines Halvorsen");
  await staff.locator("summary", { hasText: "was 020 7946 0314" }).click();
  await expect(staff.locator("details[open] li", { hasText: "Pia Lindqvist" }).first()).toBeVisible();
});

test("a note is drafted from the answers, saved by itself, and keeps whose words are whose", async () => {
  await staff.getByRole("link", { name: "Draft a note from the answers" }).click();
  await staff.getByRole("button", { name: "Draft note" }).click();
  await expect(staff.getByRole("heading", { name: "Note: Ines Halvorsen" })).toBeVisible();
  await expect(staff.getByText("today 11:00").or(staff.getByText("First visit")).first()).toBeVisible();
  const body = staff.getByRole("textbox", { name: "The note" });
  // Laid into its sections: what she wrote stands there, as hers; what says who she is lies beside the page.
  await expect(body.locator(".quoted", { hasText: "I lie awake and worry." })).toBeVisible();
  await expect(body.getByText("ines.halvorsen@mail.example")).toHaveCount(0);
  await body.locator("p").first().click();
  await staff.keyboard.type("Cannot sleep; wants to before the spring term.");
  await expect(staff.getByRole("status").filter({ hasText: /^saved \d/ })).toBeVisible();
  await staff.reload();
  await expect(body.getByText("Cannot sleep; wants to before the spring term.")).toBeVisible();
  await expect(body.locator(".quoted", { hasText: "I lie awake and worry." })).toBeVisible();
});

test("the paper and the FHIR resources can be taken out", async () => {
  await staff.goto("/library");
  await staff.getByRole("link", { name: "How you have been: PHQ-9" }).click();
  await expect(staff.getByText("15 to 19")).toBeVisible();
  const [definition] = await Promise.all([
    staff.waitForEvent("download"),
    staff.getByRole("link", { name: "Export version 1 as FHIR" }).click(),
  ]);
  expect(JSON.parse(readFileSync(await definition.path(), "utf8"))).toMatchObject({
    resourceType: "Questionnaire",
    code: [{ code: "44249-1" }],
  });
  await staff.goto("/returns");
  const settled = staff.getByRole("region", { name: "Settled" });
  await settled.getByRole("link", { name: "Ines Halvorsen", exact: true }).click();
  const consent = staff.getByRole("region", { name: "Consent to care" });
  const [paper] = await Promise.all([
    staff.waitForEvent("download"),
    consent.getByRole("link", { name: "PDF" }).click(),
  ]);
  expect(
    readFileSync(await paper.path())
      .subarray(0, 5)
      .toString(),
  ).toBe("%PDF-");
  const [response] = await Promise.all([
    staff.waitForEvent("download"),
    consent.getByRole("link", { name: "FHIR" }).click(),
  ]);
  const fhir = JSON.parse(readFileSync(await response.path(), "utf8")) as { resourceType: string; status: string };
  expect([fhir.resourceType, fhir.status]).toEqual(["QuestionnaireResponse", "completed"]);
});

test("a posting is reversed by a new entry, and the packet comes back to be read", async () => {
  await staff.goto("/people");
  await staff.getByRole("link", { name: "Ines Halvorsen" }).click();
  await staff.getByRole("group").filter({ hasText: "Reverse this posting" }).locator("summary").first().click();
  await staff.getByRole("button", { name: "Reverse this posting" }).click();
  await expect(staff.getByText("A posting was reversed")).toBeVisible();
  await expect(staff.getByText("020 7946 0314").first()).toBeVisible();
  await staff.goto("/day");
  await expect(staff.locator("li", { hasText: "Ines Halvorsen" })).toContainText("Returned, read first");
});
