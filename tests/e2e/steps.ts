import axeCore, { type AxeResults, type RunOptions } from "axe-core";
import { expect, type Browser, type BrowserContext, type Page } from "@playwright/test";
import { demoPassword } from "../../demo/scenario";
import { clientWords } from "../../src/i18n/client-words";

export type Staff = "maren" | "tobias" | "salma" | "pia";

const tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
/** No violation of WCAG 2.2 AA that axe can see. */
export async function expectNoViolations(page: Page, name: string): Promise<void> {
  // A colour on its way from light to dark is neither.
  await page.waitForFunction(() =>
    document.getAnimations().every((a) => !(a instanceof CSSTransition) || a.playState !== "running"),
  );
  // A page that a link led to gets its title a moment after its content.
  await expect(page).toHaveTitle(/./);
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(axeCore.source);
  const options: RunOptions = { resultTypes: ["violations"], runOnly: tags };
  const look = async (): Promise<string[]> =>
    page.evaluate(async (asked) => {
      const { axe } = window as unknown as { axe: { run(what: Document, options: RunOptions): Promise<AxeResults> } };
      return (await axe.run(document, asked)).violations.map(
        (v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`,
      );
    }, options);
  let violations = await look();
  if (violations.some((one) => one.startsWith("document-title"))) {
    // While a page is drawn anew its title is gone for a moment, too; one that stays away is found again.
    await expect(page).toHaveTitle(/./);
    violations = await look();
  }
  expect(violations, name).toEqual([]);
  // Headings skip no level (WCAG 1.3.1, technique G141); axe counts that among good practice and does not ask it here.
  const levels = await page.evaluate(() =>
    [...document.querySelectorAll("h1, h2, h3, h4, h5, h6")]
      .filter((heading) => heading.checkVisibility())
      .map((heading) => Number(heading.tagName[1])),
  );
  expect(
    levels.filter((level, index) => level > (levels[index - 1] ?? 0) + 1),
    `${name}: headings ${levels.join(" ")}`,
  ).toEqual([]);
}

/** The sign-in of each person, once it was made by hand: further tests begin with it. */
const signedIn = new Map<Staff, Awaited<ReturnType<BrowserContext["cookies"]>>>();
/**
 * Signed in as that person; on which page, the test says. The way in itself is walked by hand where it is the subject,
 * and here for the first time, and whenever an earlier sign-in was ended.
 */
export async function signIn(page: Page, who: Staff = "maren"): Promise<void> {
  const cookies = signedIn.get(who);
  if (cookies) {
    await page.context().addCookies(cookies);
    if ((await page.request.get("/people", { maxRedirects: 0 })).ok()) return;
  }
  await page.goto("/sign-in");
  await page.getByLabel("E-mail").fill(`${who}@fernhollow.example`);
  await page.getByLabel("Password").fill(demoPassword);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page).toHaveURL(/\/day$/);
  signedIn.set(who, await page.context().cookies());
}

type Purpose = "Personal link" | "Door code" | "Sent back" | "To sign" | "Signed copy" | "Take-home";
/** Opens the newest message of a purpose for a person in the Post room and gives its text. */
export async function readPost(page: Page, purpose: Purpose, name: string): Promise<string> {
  await page.goto("/post-room");
  await page
    .getByRole("link", { name: `${purpose} for ${name}` })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: `What ${name} sees` })).toBeVisible();
  return page.getByRole("main").innerText();
}
/**
 * The same from the pages' HTML, where the Post room is only on the way: drawing two pages for six digits takes a
 * second.
 */
export async function fetchPost(page: Page, purpose: Purpose, name: string): Promise<string> {
  // Whoever the test is signed in as may not see what opens a client's page.
  const { origin } = new URL((await page.request.get("/sign-in")).url());
  const apart = await page.context().browser()!.newContext({ baseURL: origin });
  try {
    const reader = await apart.newPage();
    await signIn(reader);
    const room = await (await reader.request.get("/post-room")).text();
    const link = [...room.matchAll(/<a\b[^>]*href="(\/post-room\/[^"]+)"[^>]*>(.*?)<\/a>/gs)].find(
      (m) => textOf(m[2]!) === `${purpose} for ${name}`,
    );
    if (!link) throw new Error(`The Post room has no ${purpose} for ${name}.`);
    const letter = await (await reader.request.get(link[1]!)).text();
    return textOf(/<main\b.*<\/main>/s.exec(letter)![0]);
  } finally {
    await apart.close();
  }
}
const textOf = (html: string): string =>
  html
    .replace(/<[^>]*>/g, " ")
    .replace(/\s+/g, " ")
    .replace(/&amp;/g, "&")
    .trim();
export const linkIn = (text: string): string => /https?:\/\/[^\s/]+(\/p\/[\w-]+)/.exec(text)![1]!;
export const codeIn = (text: string): string => /\b(\d{6})\b/.exec(text)![1]!;

export async function sendPacket(page: Page, name: string): Promise<void> {
  await page.goto("/day");
  await page.getByRole("link", { name: `Send questionnaires: ${name}` }).click();
  await page.getByRole("button", { name: /^Send (it|all) / }).click();
  await expect(page.getByRole("heading", { name: `Packet for ${name}` })).toBeVisible();
}

/** The personal link of a client's packet today, sent now unless another test sent it. */
export async function linkFor(page: Page, client: string, recipient = client): Promise<string> {
  await page.goto("/day");
  await expect(page.locator("li", { hasText: client })).toBeVisible();
  if ((await page.getByRole("link", { name: `Send questionnaires: ${client}` }).count()) > 0)
    await sendPacket(page, client);
  return linkIn(await fetchPost(page, "Personal link", recipient));
}

export const phone = { width: 390, height: 844 };
/** A client's own device: nothing shared with the staff's browser. */
export async function newDevice(browser: Browser): Promise<BrowserContext> {
  return browser.newContext({ viewport: phone, locale: "en-GB" });
}

/** Through the door check, with the code read from the post room. */
export async function passDoor(client: Page, staff: Page, link: string, name: string, language = "en"): Promise<void> {
  const t = clientWords("door", language);
  await client.goto(link);
  await expect(client).toHaveTitle(t("page"));
  await client.getByRole("button", { name: t("send") }).click();
  await expect(client.getByLabel(t("codeLabel"))).toBeFocused();
  const code = codeIn(await fetchPost(staff, "Door code", name));
  await client.getByLabel(t("codeLabel")).fill(code);
  await client.getByRole("button", { name: t("check") }).click();
  await expect(client).toHaveURL(/\/f\//);
}
export const choose = (page: Page, question: string | RegExp, answer: string) =>
  page.getByRole("radiogroup", { name: question }).getByText(answer, { exact: true }).click();
export const saved = (page: Page) => expect(page.getByText(/^Saved \d/)).toBeVisible();
export const next = (page: Page) => page.getByRole("button", { name: /^(Next|Check my answers)$/ }).click();

/** Of what is proposed to be sent, this one alone is left. */
export async function sendOnly(page: Page, title: string): Promise<void> {
  const group = page.getByRole("group", { name: /What to send/ });
  for (const label of await group.locator("label").all())
    if ((await label.getByRole("checkbox").isChecked()) !== (await label.innerText()).includes(title))
      await label.click();
  await expect(group.getByRole("checkbox", { checked: true })).toHaveCount(1);
}
