import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { test } from "./practice";
import { expectNoViolations, fetchPost, linkIn, newDevice, passDoor, signIn } from "./steps";

const overflow = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
const body = (page: Page) => page.getByRole("textbox", { name: "The note" });
const below = (page: Page) => page.getByRole("textbox", { name: "Take-home, for the client" });
const kept = (page: Page) => expect(page.getByRole("status").filter({ hasText: /^saved \d/ })).toBeVisible();
async function begin(page: Page, client: string): Promise<string> {
  await page.goto("/returns");
  await page.getByRole("link", { name: `Read ${client}` }).click();
  await page.getByRole("button", { name: "Draft note" }).click();
  await expect(page.getByRole("heading", { name: `Note: ${client}` })).toBeVisible();
  await expect(body(page)).toBeVisible();
  return new URL(page.url()).pathname;
}
/** On the blank line below a heading. */
async function writeUnder(page: Page, where: ReturnType<typeof body>, heading: string, words: string): Promise<void> {
  await where.getByRole("heading", { name: heading }).click();
  await page.keyboard.press("End");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.type(words);
}

test("from a returned form to a shared, finished note with two sentences in 10 actions, read behind the door, and withdrawn", async ({
  page,
  browser,
}) => {
  await signIn(page, "maren");
  await page.goto("/returns");
  await page.getByRole("link", { name: "Read Hugo Lindgren" }).click();
  // From here on each press counts; what is typed does not.
  let actions = 0;
  const press = async (what: ReturnType<Page["locator"]>): Promise<void> => {
    actions++;
    await what.click();
  };
  await press(page.getByRole("button", { name: "Draft note" }));
  await expect(page.getByRole("heading", { name: "Note: Hugo Lindgren" })).toBeVisible();
  await expect(page.getByRole("region", { name: "What was brought into this note" })).toContainText("answers laid in");
  await press(body(page).locator('p[data-prompt="Observations, tests, how it went."]'));
  await page.keyboard.type("Tired, quick to smile; nobody else is to read this.");
  await press(below(page).locator('p[data-prompt="In words they would use themselves."]'));
  await page.keyboard.type("One walk with your daughter before Sunday.");
  await press(page.getByRole("button", { name: "Finish" }));
  await expect(page.getByRole("checkbox", { name: /Share the take-home/, checked: true })).toBeVisible();
  await expectNoViolations(page, "a note about to be signed off");
  await press(page.getByRole("button", { name: "Sign off" }));
  await expect(page.getByText(/signed off by Maren Holloway/)).toBeVisible();
  expect(actions).toBeLessThanOrEqual(10);
  await expectNoViolations(page, "a signed note");
  const path = new URL(page.url()).pathname;

  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Take-home", "Hugo Lindgren")), "Hugo Lindgren");
  await expect(client.getByRole("heading", { name: "From your visit" })).toBeVisible();
  await expect(client.getByText("One walk with your daughter before Sunday.")).toBeVisible();
  expect(await client.content()).not.toContain("quick to smile");
  // It is styled, and what styles it is let through.
  expect(
    await client.getByRole("heading", { name: "Whom to ring" }).evaluate((el) => getComputedStyle(el).marginTop),
  ).not.toBe("0px");
  await expectNoViolations(client, "a take-home on a phone");
  expect(await overflow(client)).toBeLessThanOrEqual(0);

  await page.goto(path);
  await page.getByLabel("What came later").fill("Rang: the walk was good.");
  await page.getByRole("button", { name: "Add to the note" }).click();
  await expect(page.getByText("Rang: the walk was good.")).toBeVisible();
  for (const [name, begins] of [
    ["PDF", "%PDF-"],
    ["Markdown", "## First assessment: Hugo Lindgren"],
    ["FHIR", "{"],
  ] as const) {
    const [file] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("link", { name, exact: true }).click(),
    ]);
    expect(readFileSync(await file.path(), "utf8").slice(0, begins.length), name).toBe(begins);
  }
  await page.getByRole("button", { name: "Withdraw it" }).click();
  await expect(page.getByRole("button", { name: /^Share it/ })).toBeVisible();
  await client.reload();
  await expect(client.getByText("One walk with your daughter")).toHaveCount(0);
  await device.close();

  await page.goto("/notes");
  await page.getByLabel("Words that stand in the note").fill("quick SMILE");
  await page.getByRole("button", { name: "Find", exact: true }).click();
  await page.getByRole("main").getByRole("link", { name: "Hugo Lindgren" }).click();
  await expect(page.getByText("Tired, quick to smile")).toBeVisible();
  expect(page.url()).not.toMatch(/smile/i);
});

test("the client's words are remarked on, said otherwise, taken out and put in by keys; nothing of theirs can be typed over", async ({
  page,
}) => {
  const errors: string[] = [];
  page.on("console", (message) => {
    if (message.type() === "error") errors.push(message.text());
  });
  page.on("pageerror", (error) => errors.push(error.message));
  await signIn(page, "tobias");
  await begin(page, "Hugo Lindgren");
  const quoted = body(page).locator(".quoted");
  const count = await quoted.count();
  expect(count).toBeGreaterThan(5);
  const left = page.getByRole("region", { name: "Left over" });
  await quoted.nth(1).locator(".answer").click();
  const words = (await quoted.nth(1).locator(".answer").innerText()).trim();
  const question = (await quoted.nth(1).locator(".question").innerText()).trim();
  // Typing on it changes nothing of it: what it stands for cannot be typed into.
  await expect(page.getByLabel(`Remark beside “${question}”`)).toBeVisible();
  await page.getByLabel(`Remark beside “${question}”`).fill("said with a laugh");
  await expect(quoted.nth(1).locator(".remark")).toHaveText("said with a laugh");
  await expect(quoted.nth(1).locator(".answer")).toHaveText(words);
  await page.getByRole("button", { name: "Say it in my words" }).click();
  await expect(body(page).locator(".restated .theirs")).toHaveText(words);
  await page.keyboard.type("As I heard it.");
  await expect(body(page).locator(".restated .answer")).toHaveText("As I heard it.");
  await page.getByRole("button", { name: "Undo" }).first().click();
  await quoted.first().locator(".answer").click();
  await page.getByRole("button", { name: "Take out", exact: true }).click();
  await expect(body(page).locator(".quoted")).toHaveCount(count - 1);
  const first = left.locator("button[data-row]").first();
  await first.focus();
  await page.keyboard.press("Enter");
  await expect(body(page).locator(".quoted")).toHaveCount(count);
  // All of it at once, and back by one key.
  await page
    .getByRole("button", { name: /^Take it all back/ })
    .first()
    .click();
  await expect(body(page).locator(".quoted")).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(body(page).locator(".quoted")).toHaveCount(count);
  // Cut here and pasted there, an answer is moved, and is still theirs.
  const moved = (await quoted.nth(2).locator(".answer").innerText()).trim();
  await quoted.nth(2).locator(".answer").click();
  await page.keyboard.press("Control+x");
  await expect(quoted).toHaveCount(count - 1);
  await body(page).locator('p[data-prompt="Observations, tests, how it went."]').click();
  await page.keyboard.press("Control+v");
  await expect(quoted).toHaveCount(count);
  await expect(quoted.last().locator(".answer")).toHaveText(moved);
  // Headings, lists, a table, a link and a placeholder, from the keyboard.
  await writeUnder(page, body(page), "What I make of it", "Hears from {{client.preferredName}}");
  await expect(body(page)).toContainText("Hears from Hugo");
  await page.keyboard.press("Enter");
  await page.keyboard.type("- one");
  await page.keyboard.press("Enter");
  await page.keyboard.type("two");
  await expect(body(page).locator("li")).toHaveCount(2);
  await page.getByRole("button", { name: "Table" }).first().click();
  await expect(body(page).locator("table th")).toHaveCount(2);
  await kept(page);
  await page.reload();
  await expect(body(page).locator("table th")).toHaveCount(2);
  await expect(body(page).locator("li")).toHaveCount(2);
  await expectNoViolations(page, "a note that is written");
  for (const width of [820, 390, 320]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await overflow(page), `at ${width}`).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  expect(errors).toEqual([]);
  // Pasted HTML leaves its text, and nothing that runs.
  await body(page).getByRole("heading", { name: "Agreed next steps" }).click();
  await page.keyboard.press("End");
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      "text/html",
      '<p>pasted<img src=x onerror="window.taken=1"><a href="javascript:window.taken=1">there</a><script>window.taken=1</script></p>',
    );
    document
      .querySelector(".ProseMirror")!
      .dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
  });
  await expect(body(page)).toContainText("pastedthere");
  expect(await body(page).locator("img, script, a[href^=javascript]").count()).toBe(0);
  expect(await page.evaluate(() => (window as { taken?: number }).taken)).toBeUndefined();
  await kept(page);
  await page.getByRole("link", { name: "History" }).click();
  await expect(page.getByText("as it stands now")).toBeVisible();
  await expectNoViolations(page, "the history of a note");
  // That a handler was in it is noted by the browser as it reads it, in a document that runs nothing.
  expect(errors.filter((error) => !error.startsWith("Executing inline event handler violates"))).toEqual([]);
});

test("two who write one note are told of each other, and whichever goes on, the other's words stay in its history", async ({
  page,
  browser,
}) => {
  await signIn(page, "maren");
  const path = await begin(page, "Priya Desrosiers");
  const other = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const colleague = await other.newPage();
  await signIn(colleague, "tobias");
  await colleague.goto(path);
  await expect(colleague.getByText(/Maren Holloway has this note open too/)).toBeVisible();
  await expect(page.getByText(/Tobias Renn has this note open too/)).toBeVisible();
  // Off the line, what is typed stays and goes out when it is back; meanwhile the colleague saved.
  await page.context().setOffline(true);
  await writeUnder(page, body(page), "What I make of it", "Maren thinks so.");
  await writeUnder(colleague, body(colleague), "What I make of it", "Tobias thinks so.");
  await kept(colleague);
  await page.context().setOffline(false);
  await expect(page.getByText(/Tobias Renn saved this note while you wrote/)).toBeVisible();
  await expect(body(page)).toContainText("Maren thinks so.");
  await page.getByRole("button", { name: "Go on with mine" }).click();
  await kept(page);
  await page.getByRole("link", { name: "History" }).click();
  const mine = page.locator("ins", { hasText: "Maren thinks so." });
  await expect(mine.first()).toBeVisible();
  await expect(page.getByText("Tobias thinks so.").first()).toBeVisible();
  // Signed off while a colleague writes: what they typed stays on their page, and they are told.
  await page.goto(path);
  await expect(body(colleague)).toContainText("Maren thinks so.");
  await colleague.context().setOffline(true);
  await writeUnder(colleague, body(colleague), "What I saw and heard", "Typed too late.");
  await page.getByRole("button", { name: "Finish" }).click();
  await page.getByRole("button", { name: "Sign off" }).click();
  await expect(page.getByText(/signed off by Maren Holloway/)).toBeVisible();
  await colleague.context().setOffline(false);
  await expect(colleague.getByText("This note was signed off while you wrote.")).toBeVisible();
  await expect(body(colleague)).toContainText("Typed too late.");
  await other.close();
});

test("a layout of one's own is made from another, shared, and used; a visit's note is begun from its page", async ({
  page,
}) => {
  await signIn(page, "maren");
  await page.goto("/office/layouts");
  await page.getByRole("button", { name: "Copy D-A-P" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Three lines");
  await page.getByText("Everybody may use and change it").click();
  await page.getByLabel("Heading", { exact: true }).first().fill("What there is");
  await expectNoViolations(page, "a note layout that is changed");
  await page.getByRole("button", { name: "Keep the layout" }).click();
  await expect(page.getByText("Three lines")).toBeVisible();
  await expect(page.getByText("shared with everybody")).toBeVisible();
  await page.goto("/day");
  const visit = (await page.getByRole("link", { name: /visit of Ines Halvorsen/ }).getAttribute("href"))!;
  await page.goto(visit);
  await page.getByRole("button", { name: "Begin the note" }).click();
  await expect(page.getByRole("heading", { name: "Note: Ines Halvorsen" })).toBeVisible();
  await body(page).locator("p").last().click();
  await page.keyboard.type("Written before it was laid out otherwise.");
  await page.getByRole("button", { name: /Layout of this note/ }).click();
  await page.getByRole("option", { name: "Three lines" }).click();
  await expect(body(page).getByRole("heading", { name: "What there is" })).toBeVisible();
  await expect(body(page)).toContainText("Written before it was laid out otherwise.");
  await page.goto("/day");
  await expect(page.getByText("Notes to finish")).toBeVisible();
  await page.goto(visit);
  await page.getByRole("button", { name: "Begin the note" }).click();
  await expect(body(page).getByRole("heading", { name: "What there is" })).toBeVisible();
});
