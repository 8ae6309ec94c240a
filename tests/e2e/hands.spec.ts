import { expect, type Page } from "@playwright/test";
import { demoPassword } from "../../demo/scenario";
import { test } from "./practice";
import { expectNoViolations, fetchPost, linkFor, linkIn, newDevice, passDoor, saved, signIn } from "./steps";

const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const el = document.activeElement as HTMLElement | null;
    // The page itself holds every word there is, and is no control.
    if (el === document.body) return "";
    const labelled = el
      ?.getAttribute("aria-labelledby")
      ?.split(" ")
      .map((id) => document.getElementById(id)?.textContent ?? "")
      .join(" ");
    return (
      el?.getAttribute("aria-label") ??
      labelled ??
      (el as HTMLInputElement | null)?.labels?.[0]?.textContent ??
      el?.textContent ??
      ""
    ).trim();
  });
/** Tabs on until what has the focus reads like this. */
async function tabTo(page: Page, name: string | RegExp): Promise<void> {
  for (let index = 0; index < 60; index++) {
    await page.keyboard.press("Tab");
    const now = await focused(page);
    if (typeof name === "string" ? now.includes(name) : name.test(now)) return;
  }
  throw new Error(`Nothing called ${String(name)} can be reached by Tab.`);
}

test("staff get from signing in to a sent packet with the keyboard alone", async ({ page }) => {
  await page.goto("/sign-in");
  await tabTo(page, "E-mail");
  await page.keyboard.type("tobias@fernhollow.example");
  await page.keyboard.press("Tab");
  await page.keyboard.type(demoPassword);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/day$/);
  await page.keyboard.press("?");
  await expect(page.getByRole("region", { name: "Keys on this page" })).toContainText("day before");
  await page.keyboard.press("Escape");
  await page.keyboard.press("n");
  await expect(page.getByRole("heading", { name: "Thursday 26 November" })).toBeVisible();
  await page.keyboard.press("t");
  await expect(page.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  await tabTo(page, "Priya Desrosiers");
  await page.keyboard.press("ArrowDown");
  expect(await focused(page)).toContain("Hugo Lindgren");
  await page.keyboard.press("End");
  expect(await focused(page)).toContain("Otto Fenn");
  await page.keyboard.press("ArrowUp");
  expect(await focused(page)).toContain("Noor Vance");
  await tabTo(page, "Send questionnaires: Noor Vance");
  // From any control of a line to the next line, not to the first.
  await page.keyboard.press("ArrowDown");
  expect(await focused(page)).toContain("Otto Fenn");
  await page.keyboard.press("ArrowUp");
  await tabTo(page, "Send questionnaires: Noor Vance");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Leila Vance, guardian of Noor, gets an e-mail")).toBeVisible();
  await tabTo(page, /^Send all/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Packet for Noor Vance" })).toBeVisible();
});

test("staff read, decide, post and draft a note with the keyboard alone", async ({ page }) => {
  await signIn(page);
  await page.goto("/returns");
  await tabTo(page, /^Read Hugo Lindgren$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Hugo Lindgren" }).first()).toBeVisible();
  // What was pressed is gone, and the focus is not: it is on the new page's heading (2.4.3).
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).toBe("H1");
  await tabTo(page, /^Reconcile$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Reconcile Hugo Lindgren" })).toBeVisible();
  const open = page.getByRole("radiogroup").filter({ hasNot: page.getByRole("radio", { checked: true }) });
  // Each line that nothing is suggested for is reached by Tab, and decided there.
  for (let left = await open.count(); left > 0; left--) {
    for (let count = 0; count < 80; count++) {
      await page.keyboard.press("Tab");
      const undecided = await page.evaluate(() => {
        const group = document.activeElement?.closest("[role=radiogroup]");
        return group !== null && group !== undefined && group.querySelector("input:checked") === null;
      });
      if (undecided) break;
    }
    await page.keyboard.press("Space");
    await expect(open).toHaveCount(left - 1);
  }
  await tabTo(page, /^Post (?!room)/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Posted.", { exact: true })).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).toBe("H1");
  await page.goto("/returns");
  await tabTo(page, /^Read Hugo Lindgren$/);
  await page.keyboard.press("Enter");
  await tabTo(page, /^Draft note$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Note: Hugo Lindgren" })).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).toBe("H1");
});

test("single keys do nothing for who turned them off, and closed lists change at no arrow across", async ({ page }) => {
  await signIn(page, "tobias");
  await page.goto("/office");
  await page.getByText("Single keys do things").click();
  await expect(page.getByRole("checkbox", { name: /Single keys/, checked: false })).toBeVisible();
  await page.goto("/day");
  await expect(page.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  await page.keyboard.press("n");
  await page.keyboard.press("?");
  await page.keyboard.press("/");
  await expect(page.getByRole("region", { name: "Keys on this page" })).toHaveCount(0);
  await expect(page).toHaveURL(/\/day$/);
  await page.goto("/office");
  await page.getByText("Single keys do things").click();
  await expect(page.getByRole("checkbox", { name: /Single keys/, checked: true })).toBeVisible();
  await signIn(page, "maren");
  await page.goto("/office/wordings");
  const language = page.getByRole("button", { name: /Language/ });
  await language.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowLeft");
  await expect(language).toContainText("English");
});

test("signing out breaks no policy of the page that comes after", async ({ page }) => {
  await signIn(page, "salma");
  await page.goto("/day");
  await page.evaluate(() => {
    document.addEventListener("securitypolicyviolation", (event) => {
      document.documentElement.dataset["broken"] = `${event.violatedDirective} ${event.sourceFile}`;
    });
  });
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
  await page.getByLabel("E-mail").fill("salma@fernhollow.example");
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page).toHaveURL(/\/day$/);
  expect(await page.evaluate(() => document.documentElement.dataset["broken"])).toBeUndefined();
});

test("what a session listens by is not without number, and ends when it does", async ({ page, baseURL }) => {
  await signIn(page, "salma");
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join("; ");
  const streams = await Promise.all(
    Array.from({ length: 30 }, () => fetch(`${baseURL}/api/events`, { headers: { cookie } })),
  );
  const open = streams.filter((one) => one.status === 200);
  expect(open.length).toBeGreaterThan(5);
  expect(open.length).toBeLessThanOrEqual(12);
  expect(streams.filter((one) => one.status === 429)).toHaveLength(30 - open.length);
  await page.goto("/day");
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
  // Each comes to its end by itself.
  await Promise.all(open.map((one) => one.text()));
  expect((await fetch(`${baseURL}/api/events`, { headers: { cookie } })).status).toBe(401);
});

test("a person, a questionnaire or a page is found from anywhere by typing, and shortcuts never fire meanwhile", async ({
  page,
}) => {
  await signIn(page);
  await page.goto("/library");
  const field = page.getByRole("combobox", { name: "Find a person" });
  const option = page.getByRole("option");
  await page.keyboard.press("?");
  await expect(page.getByRole("region", { name: "Keys on this page" })).toContainText("find a person");
  await page.keyboard.press("Escape");
  await tabTo(page, "Consent to care");
  await page.keyboard.press("/");
  await expect(field).toBeFocused();
  await expectNoViolations(page, "finding");
  await page.keyboard.type("n?t/");
  await expect(field).toHaveValue("n?t/");
  await expect(page.getByText("Nothing here is like that.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(field).toHaveCount(0);
  expect(await focused(page)).toContain("Consent to care");
  // A birth date as people type it; Enter takes the first.
  await page.keyboard.press("/");
  await field.fill("11.2.2011");
  await expect(option).toHaveText(["Noor Vance · 11 February 2011"]);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Noor Vance" })).toBeVisible();
  await expect(field).toHaveCount(0);
  await page.getByRole("button", { name: "Find" }).click();
  await field.fill("se");
  await expect(option.last()).toHaveText("Send to many");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Send to many" })).toBeVisible();
  // In a box that is ticked nobody writes.
  await page.getByRole("checkbox").first().focus();
  await page.keyboard.press("/");
  await field.fill("phq-9");
  await page.getByRole("option", { name: "PHQ-9" }).click();
  await expect(page.getByRole("heading", { name: "How you have been: PHQ-9" })).toBeVisible();
  expect(page.url()).not.toContain("phq");

  // In a field of the page's own, all keys are letters.
  await page.goto("/people");
  await page.getByRole("textbox", { name: "Name, e-mail" }).click();
  await page.keyboard.type("n?t/");
  await expect(page.getByText("Nobody here is like “n?t/”.")).toBeVisible();
  await expect(page.getByRole("region", { name: "Keys on this page" }).or(field)).toHaveCount(0);
});

test("what is typed right after / is looked for, and is no shortcut, however long the rest takes to come", async ({
  page,
}) => {
  await signIn(page);
  // From the start, so that nothing comes out of the browser's cache.
  let line: "there" | "lost" | "slow" = "there";
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route("**/_next/static/chunks/**", async (route) => {
    if (line === "slow") await held;
    if (line === "lost") await route.abort();
    else await route.continue();
  });
  await page.goto("/day");
  await expect(page.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  await expect(async () => {
    await page.keyboard.press("?");
    await expect(page.getByRole("region", { name: "Keys on this page" })).toBeVisible({ timeout: 500 });
  }).toPass();
  line = "lost";
  const field = page.getByLabel("Find a person");
  await page.keyboard.press("/");
  await page.keyboard.type("n");
  await expect(page.getByText("Nothing can be looked up just now.")).toBeVisible();
  line = "slow";
  await page.keyboard.type("oo");
  await expect(field).toHaveValue("noo");
  release();
  await expect(page.getByRole("option")).toHaveText(["Noor Vance · 11 February 2011"]);
  await page.keyboard.type("r");
  await expect(field).toHaveValue("noor");
  await expect(page.getByRole("heading", { name: "Wednesday 25 November", includeHidden: true })).toBeVisible();
});

test("a guardian fills in for a minor with the keyboard alone, and each answer is saved within two seconds", async ({
  page,
  browser,
}) => {
  await signIn(page);
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, await linkFor(page, "Noor Vance", "Leila Vance"), "Leila Vance");
  await expect(client.getByText("You answer for Noor Vance.")).toBeVisible();
  await expect(client.getByText("Saved", { exact: false })).toHaveCount(1);
  const saves: string[] = [];
  client.on("request", (r) => {
    if (r.url().endsWith("/answers")) saves.push(r.postData() ?? "");
  });
  // The page's own two seconds, on a clock that stands: how slow the machine is does not matter.
  await client.clock.install();
  await client.clock.pauseAt(Date.now() + 60_000);
  await tabTo(client, "First name");
  await client.keyboard.type("Noor");
  await expect(client.getByLabel("First name")).toHaveValue("Noor");
  expect(saves.some((s) => s.includes('"Noor"'))).toBe(false);
  await client.clock.runFor(2000);
  await expect.poll(() => saves.some((s) => s.includes('"Noor"'))).toBe(true);
  await client.clock.resume();
  await tabTo(client, "Last name");
  await client.keyboard.type("Vance");
  await tabTo(client, /day/);
  await client.keyboard.type("11022011");
  await tabTo(client, /Pronouns|she \/ her/);
  await client.keyboard.press("ArrowDown");
  await tabTo(client, "Next");
  await client.keyboard.press("Enter");
  await expect(client.getByRole("heading", { name: "How to reach you" })).toBeFocused();
  // The browser's own back goes back a step, with everything still there.
  await client.goBack();
  await expect(client.getByLabel("First name")).toHaveValue("Noor");
  await expect(client.getByRole("spinbutton", { name: /^year, Birth date/ })).toHaveText("2011");
  // What grows above pushes nothing out of sight that has the focus, though the engine anchors nothing; who scrolled
  // away stays.
  const grow = (rem: number) =>
    client.evaluate(async (by) => {
      for (const part of document.querySelectorAll<HTMLElement>("*")) part.style.overflowAnchor = "none";
      document.querySelector<HTMLElement>("main h1")!.style.marginBlockEnd = `${by}rem`;
      for (let frame = 0; frame < 3; frame++) await new Promise((resolve) => requestAnimationFrame(resolve));
    }, rem);
  await tabTo(client, "Last name");
  await grow(60);
  await expect(client.getByLabel("Last name")).toBeInViewport();
  await client.mouse.wheel(0, -5000);
  await expect(client.getByLabel("Last name")).not.toBeInViewport();
  await grow(90);
  await expect(client.getByLabel("Last name")).not.toBeInViewport();
  await device.close();
});

test("who leaves the page right after typing finds it again", async ({ page, browser }) => {
  await signIn(page);
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, await linkFor(page, "Noor Vance", "Leila Vance"), "Leila Vance");
  // Whoever comes back is where they stopped; this is about the first page.
  const address = `${client.url().split("?")[0]!}?s=1`;
  await client.goto(address);
  client.on("dialog", (d) => void d.accept());
  await client.getByLabel("What should we call you?").fill("Noo");
  await client.close({ runBeforeUnload: true });
  const again = await device.newPage();
  await expect(async () => {
    await again.goto(address);
    await expect(again.getByLabel("What should we call you?")).toHaveValue("Noo", { timeout: 1000 });
  }).toPass();
  await device.close();
});

test("a part that the line brings late holds up nothing else, and works once it has come", async ({
  page,
  browser,
}) => {
  await signIn(page);
  const device = await newDevice(browser);
  const first = await device.newPage();
  await passDoor(first, page, await linkFor(page, "Noor Vance", "Leila Vance"), "Leila Vance");
  const address = `${first.url().split("?")[0]!}?s=1`;
  await first.close();
  const client = await device.newPage();
  let lost = true;
  const refused: string[] = [];
  const html = await (await device.request.get(address)).text();
  await client.route("**/_next/static/chunks/**", async (route) => {
    const name = new URL(route.request().url()).pathname;
    if (!lost || html.includes(name)) return route.continue();
    refused.push(name);
    return route.abort();
  });
  await client.goto(address);
  await client.getByLabel("What should we call you?").fill("Nour");
  await saved(client);
  expect(refused.length).toBeGreaterThan(0);
  const day = client.getByRole("spinbutton", { name: /^day, Birth date/ });
  lost = false;
  await expect(async () => {
    await day.click({ timeout: 1000 });
    await client.keyboard.type("11022011");
    await expect(day).toHaveText("11", { timeout: 1000 });
  }).toPass();
  await saved(client);
  await client.reload();
  await expect(client.getByLabel("What should we call you?")).toHaveValue("Nour");
  await expect(day).toHaveText("11");
  await device.close();
});

test("the day sheet hears of an opened packet without being touched", async ({ page, browser }) => {
  await signIn(page);
  const watching = await page.context().newPage();
  await watching.goto("/day");
  const row = watching.locator("li", { hasText: "Edda Marsh" });
  await expect(row).toContainText(/Sent, not opened|Opened|Under way/);
  const device = await newDevice(browser);
  await passDoor(
    await device.newPage(),
    page,
    linkIn(await fetchPost(page, "Personal link", "Edda Marsh")),
    "Edda Marsh",
  );
  await expect(row).toContainText(/Opened, not begun|Under way/);
  await device.close();
});

test("what is typed before a slow line has brought the script is still there when it has", async ({ browser }) => {
  const slow = await browser.newContext();
  const page = await slow.newPage();
  let bring = (): void => undefined;
  const brought = new Promise<void>((resolve) => {
    bring = resolve;
  });
  await page.route("**/_next/static/chunks/**", async (route) => {
    await brought;
    await route.continue();
  });
  await page.goto("/sign-in", { waitUntil: "commit" });
  await page.getByLabel("E-mail").fill("salma@fernhollow.example");
  await page.getByLabel("Password").fill("a little");
  const scripts = page.waitForEvent("load");
  bring();
  await scripts;
  // Refused in the page, by its script; both fields stand as they were typed.
  await page.getByLabel("Password").fill("not hers at all");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert").filter({ hasText: /./ })).toBeVisible();
  await expect(page.getByLabel("E-mail")).toHaveValue("salma@fernhollow.example");
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page).toHaveURL(/\/day$/);
  await slow.close();
});

test("signing in works without script too", async ({ browser }) => {
  const plain = await browser.newContext({ javaScriptEnabled: false });
  const page = await plain.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("E-mail").fill("maren@fernhollow.example");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByText("E-mail and password do not go together.")).toBeVisible();
  await page.getByLabel("E-mail").fill("maren@fernhollow.example");
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Wednesday 25 November" })).toBeVisible();
  await expect(page.locator("li", { hasText: "Hugo Lindgren" })).toContainText(/Returned|Settled/);
  await plain.close();
});
