import { expect, type Page } from "@playwright/test";
import { generate } from "otplib";
import { demoPassword } from "../../demo/scenario";
import { test } from "./practice";
import {
  choose,
  codeIn,
  expectNoViolations,
  fetchPost,
  linkFor,
  linkIn,
  newDevice,
  next,
  passDoor,
  phone,
  signIn,
} from "./steps";

const overflow = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

test("every staff page passes axe and fits its width, on a laptop, a tablet and a phone, in light and dark", async ({
  page,
}) => {
  const errors: string[] = [];
  page.on("console", (m) => {
    if (m.type() === "error") errors.push(m.text());
  });
  page.on("pageerror", (e) => errors.push(e.message));
  await signIn(page);
  const hrefs = async (path: string, name: string): Promise<string> => {
    await page.goto(path);
    return (await page.getByRole("link", { name, exact: true }).first().getAttribute("href"))!;
  };
  const person = await hrefs("/people", "Bram Okafor");
  const returned = await hrefs("/returns", "Hugo Lindgren");
  const send = await hrefs("/day", "Send questionnaires: Otto Fenn");
  const packet = await hrefs("/day", "Open packet: Edda Marsh");
  const questionnaire = await hrefs("/library", "How you have been: PHQ-9");
  await page.goto("/day");
  // What is seen is in the name (WCAG 2.2, 2.5.3).
  const visit = (await page.getByRole("link", { name: "16:15 visit of Otto Fenn" }).getAttribute("href"))!;
  const paths = [
    "/day",
    "/day?on=2026-12-24",
    "/returns",
    returned,
    `${returned}/reconcile`,
    `${await hrefs("/library", "Before your first visit")}/plan`,
    `${person}?on=2026-11-20`,
    "/people",
    person,
    `${person}/reach`,
    `${person}/erase`,
    `${person}/everything`,
    `${person}/merge`,
    `${person}/merge?with=${(await hrefs("/people", "Hugo Lindgren")).split("/").at(-1)!}`,
    `${await hrefs("/people", "Hugo Lindgren")}/measures`,
    "/people/caseload",
    "/people/scores",
    "/office/measures",
    "/people/bring",
    "/people/open",
    "/people/consents",
    "/returns/sign",
    "/returns/check",
    "/library",
    questionnaire,
    `${questionnaire}/compose`,
    `${questionnaire}/rehearse`,
    `${questionnaire}/map`,
    `${questionnaire}/languages`,
    "/library/standing",
    "/office",
    "/office/staff",
    "/office/visit-types",
    "/week",
    "/visits/new",
    visit,
    "/office/door",
    "/office/signatures",
    "/office/pages",
    "/office/wordings",
    "/office/fields",
    "/office/layouts",
    "/notes",
    "/office/retention",
    "/office/journal",
    "/post-room",
    "/send/many",
    send,
    packet,
  ];
  for (const path of paths) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(path);
    await expect(page.locator("h1")).toBeVisible();
    await expectNoViolations(page, path);
    // Dark changes colours only, whose contrast is tested with the tokens; these pages hold every kind of part once.
    if (["/day", `${returned}/reconcile`, person].includes(path)) {
      await page.emulateMedia({ colorScheme: "dark" });
      await expectNoViolations(page, `${path}, dark`);
      await page.emulateMedia({ colorScheme: "light" });
    }
    for (const width of [820, 390]) {
      await page.setViewportSize({ width, height: 844 });
      expect(await overflow(page), `${path} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
  expect(errors).toEqual([]);
});

test("the client's pages pass axe, and their width, in both directions", async ({ page, browser }) => {
  await signIn(page);
  const link = await linkFor(page, "Noor Vance", "Leila Vance");
  const device = await newDevice(browser);
  const client = await device.newPage();
  const errors: string[] = [];
  client.on("console", (m) => {
    if (m.type() === "error") errors.push(m.text());
  });
  await passDoor(client, page, link, "Leila Vance");
  await next(client);
  for (let step = 1; step <= 9; step++) {
    const packet = new URL(client.url()).pathname;
    await client.goto(`${packet}?s=${step}`);
    await expect(client.getByText(`Step ${step} of 9`)).toBeVisible();
    if (step === 3) {
      await choose(client, /medicines or supplements/, "Yes");
      await expect(client.getByRole("group", { name: "Medicines and supplements 1" })).toBeVisible();
    }
    await expectNoViolations(client, `step ${step}`);
    expect(await overflow(client)).toBeLessThanOrEqual(0);
    await client.evaluate(() => {
      document.documentElement.dir = "rtl";
    });
    if (step === 1 || step === 3) await expectNoViolations(client, `step ${step}, right to left`);
    expect(await overflow(client)).toBeLessThanOrEqual(0);
  }
  await client.goto("/p/this-link-was-never-made-by-anybody");
  await expect(client.getByRole("heading", { name: "This page is closed" })).toBeVisible();
  await expectNoViolations(client, "closed");
  expect(errors).toEqual([]);
  await device.close();
});

test("five wrong codes lock the page plainly, the day sheet says so, and a fresh link opens it", async ({
  page,
  browser,
}) => {
  await signIn(page, "pia");
  await page.goto("/day");
  const href = (await page.getByRole("link", { name: "Open packet: Tamsin Oyelaran" }).getAttribute("href"))!;
  const link = linkIn(await fetchPost(page, "Personal link", "Tamsin Oyelaran"));
  const device = await newDevice(browser);
  const client = await device.newPage();
  await client.goto(link);
  await client.getByRole("button", { name: "Send me the code" }).click();
  const right = codeIn(await fetchPost(page, "Door code", "Tamsin Oyelaran"));
  await client.getByLabel("Six digits from our message").fill("12");
  await client.getByRole("button", { name: "Open my page" }).click();
  await expect(client.getByText("Type the six digits from our message.")).toBeVisible();
  const wrong = right === "000000" ? "111111" : "000000";
  for (const left of [4, 3, 2, 1]) {
    await client.getByLabel("Six digits from our message").fill(wrong);
    await client.getByRole("button", { name: "Open my page" }).click();
    await expect(client.getByText(`You have ${left} ${left === 1 ? "try" : "tries"} left.`)).toBeVisible();
  }
  await client.getByLabel("Six digits from our message").fill(wrong);
  await client.getByRole("button", { name: "Open my page" }).click();
  await expect(client.getByText("A wrong code was typed too many times.")).toBeVisible();
  // To a device that was never in, it is closed like any other.
  await client.goto(link);
  await expect(client.getByRole("heading", { name: "This page is closed" })).toBeVisible();
  await page.goto("/day");
  await expect(page.locator("li", { hasText: "Tamsin Oyelaran" })).toContainText("Door locked");
  await page.goto(href);
  await page.getByRole("button", { name: "Send a fresh link" }).click();
  await expect(page.getByText("A fresh link was sent; the old one stopped working")).toBeVisible();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "Tamsin Oyelaran")), "Tamsin Oyelaran");
  await client.goto(link);
  await expect(client.getByRole("heading", { name: "This page is closed" })).toBeVisible();
  await device.close();
});

test("typing is kept while the line is down, and saved when it is back", async ({ page, browser }) => {
  await signIn(page);
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "Edda Marsh")), "Edda Marsh");
  await device.setOffline(true);
  await client.getByLabel("First name").fill("Edda");
  await client.getByLabel("Last name").fill("Marsh");
  await expect(client.getByText("No connection. Keep going")).toBeVisible();
  await device.setOffline(false);
  await expect(client.getByText(/^Saved \d/)).toBeVisible();
  await client.reload();
  await expect(client.getByLabel("First name")).toHaveValue("Edda");
  await expect(client.getByLabel("Last name")).toHaveValue("Marsh");
  await device.close();
});

test("a questionnaire file is taken in, shown and put in use; a bad one is listed and nothing is stored", async ({
  page,
}) => {
  await signIn(page, "pia");
  await page.goto("/library");
  const lines = await page.locator("li").count();
  const bring = async (name: string, body: string | Buffer): Promise<void> => {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose a questionnaire file" }).click();
    await (await chooser).setFiles({ name, mimeType: "application/json", buffer: Buffer.from(body) });
  };
  const item = { linkId: "mood", text: "How was your week?", type: "string" };
  const file = (items: object[]) =>
    JSON.stringify({
      resourceType: "Questionnaire",
      url: "urn:test:week",
      title: "Your week",
      status: "active",
      item: items,
    });
  await bring("notes.txt.json", "not json at all");
  await expect(page.getByText("notes.txt.json was not taken in. Nothing was stored.")).toBeVisible();
  await bring(
    "twice.json",
    file([item, item, { ...item, linkId: "b", enableWhen: [{ question: "zz", operator: "=", answerString: "x" }] }]),
  );
  await expect(page.getByText('The linkId "mood" stands twice.')).toBeVisible();
  await expect(page.getByText('It is shown when "zz" is answered, but there is no such question.')).toBeVisible();
  await bring("large.json", Buffer.alloc(20_000_000, " "));
  await expect(page.getByText("The file is larger than 15 MB.")).toBeVisible();
  await page.reload();
  await expect(page.locator("li")).toHaveCount(lines);
  await bring("week.json", file([item]));
  await expect(page.getByRole("heading", { name: "Your week" })).toBeVisible();
  await page.getByRole("button", { name: "Put in use" }).click();
  await expect(page.getByText("In use", { exact: true })).toBeVisible();
  await page.goto("/library");
  await expect(page.locator("li", { hasText: "Your week" })).toContainText("In use");
});

test("the office sees no answers, and a second factor asks for a code that works once", async ({ page, browser }) => {
  await signIn(page, "pia");
  await page.goto("/day");
  await expect(page.getByRole("link", { name: "Library", exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "Returns", exact: true })).toHaveCount(0);
  await page.goto("/returns");
  await expect(page.getByRole("heading", { name: "Not open to you" })).toBeVisible();
  // Found from here, a person is whom letters go to.
  // A page answers to keys from when its script is there.
  await expect(async () => {
    await page.keyboard.press("/");
    await expect(page.getByRole("combobox")).toBeFocused({ timeout: 500 });
  }).toPass();
  await page.getByRole("combobox").fill("letters");
  await expect(page.getByRole("option", { name: "Letters and texts" })).toBeVisible();
  await page.getByRole("combobox").fill("e");
  await expect(page.getByRole("option").first()).toBeVisible();
  await expect(page.getByRole("option", { name: "Returns" })).toHaveCount(0);
  await page.getByRole("combobox").fill("noor");
  await page.getByRole("option", { name: "Noor Vance" }).click();
  await expect(page.getByRole("heading", { name: "Details of Noor Vance" })).toBeVisible();
  await page.goto("/office");
  await page.getByRole("button", { name: "Set up an authenticator app" }).click();
  const secret = await page.getByTestId("totp-secret").innerText();
  const second = Math.floor(Date.parse("2026-11-25T08:10:00Z") / 1000);
  // The clock of the test stands still, so the code before it is used for setting up and the one of now for signing in.
  await page.getByLabel("Code", { exact: true }).fill(await generate({ secret, epoch: second - 30 }));
  await page.getByRole("button", { name: "Turn it on" }).click();
  const shown = page.getByRole("list", { name: "Recovery codes" }).getByRole("listitem");
  await expect(shown).toHaveCount(8);
  const recovery = await shown.allInnerTexts();
  await expectNoViolations(page, "recovery codes");
  await page.getByRole("button", { name: "I have them" }).click();
  await expect(page.getByText("8 recovery codes are left.")).toBeVisible();
  const other = await browser.newContext({ viewport: phone });
  const again = await other.newPage();
  const password = async (): Promise<void> => {
    await again.goto("/sign-in");
    await again.getByLabel("E-mail").fill("pia@fernhollow.example");
    await again.getByLabel("Password").fill(demoPassword);
    await again.getByRole("button", { name: "Sign in" }).click();
    await expect(again.getByRole("heading", { name: "One more step" })).toBeVisible();
  };
  await password();
  await again.goto("/day");
  await expect(again).toHaveURL(/sign-in/);
  await password();
  await expectNoViolations(again, "second factor");
  const code = await generate({ secret, epoch: second });
  await again.getByLabel("Code from your authenticator app").fill(code);
  await again.getByRole("button", { name: "Continue" }).click();
  await expect(again).toHaveURL(/\/day$/);
  await again.getByRole("button", { name: "Sign out" }).click();
  await password();
  await again.getByLabel("Code from your authenticator app").fill(code);
  await again.getByRole("button", { name: "Continue" }).click();
  await expect(again.getByText("This code is wrong, too old, or was used before.")).toBeVisible();
  // Without the app: a code that was written down, however it is typed, and once.
  const typed = recovery[3]!.toLowerCase().replaceAll("-", " ");
  await again.getByLabel("Code from your authenticator app").fill(typed);
  await again.getByRole("button", { name: "Continue" }).click();
  await expect(again).toHaveURL(/\/day$/);
  await again.getByRole("button", { name: "Sign out" }).click();
  await password();
  await again.getByLabel("Code from your authenticator app").fill(typed);
  await again.getByRole("button", { name: "Continue" }).click();
  await expect(again.getByText("This code is wrong, too old, or was used before.")).toBeVisible();
  await other.close();
});
