import { readFileSync } from "node:fs";
import { unzipSync } from "fflate";
import { parse } from "csv-parse/sync";
import { expect, type Page } from "@playwright/test";
import { test } from "./practice";
import { expectNoViolations, signIn } from "./steps";

const hrefOf = async (page: Page, name: string): Promise<string> => {
  await page.goto("/people");
  return (await page.getByRole("main").getByRole("link", { name, exact: true }).getAttribute("href"))!;
};

test("everything about somebody is one file, made while one watches", async ({ page }) => {
  await signIn(page);
  await page.goto(`${await hrefOf(page, "Hugo Lindgren")}/reach`);
  await page.getByRole("link", { name: "Take out everything about them" }).click();
  await page.getByRole("button", { name: "Make the file" }).click();
  const link = page.getByRole("link", { name: "Save the file" });
  await expect(link).toBeVisible();
  await expectNoViolations(page, "everything");
  const saved = page.waitForEvent("download");
  await link.click();
  const files = unzipSync(readFileSync(await (await saved).path()));
  expect(Object.keys(files)).toEqual(expect.arrayContaining(["about.pdf", "record.json", "journal.csv"]));
  expect(Buffer.from(files["record.json"]!).toString()).toContain("Lindgren");
});

test("somebody on hold is not erased; erased, they are nowhere, and it says by whom and why", async ({ page }) => {
  await signIn(page);
  const href = await hrefOf(page, "Edda Marsh");
  await page.goto(`${href}/reach`);
  await page.getByRole("link", { name: "Erase or hold" }).click();
  await expectNoViolations(page, "erase");
  await page.getByLabel("Reason for the hold").fill("A complaint is open");
  await page.getByRole("button", { name: "Put on hold" }).click();
  await expect(page.getByText("A complaint is open")).toBeVisible();
  await expect(page.getByRole("button", { name: "Erase for good" })).toHaveCount(0);
  await page.getByRole("button", { name: "End the hold" }).click();
  // By keyboard alone from here on.
  const reason = page.getByLabel("Reason for erasing");
  await reason.focus();
  await page.keyboard.type("Asked for it in writing");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Edda");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByText("This is not the name of this client. Nothing was erased.")).toBeVisible();
  await expect(page.getByLabel("Whole name of the client")).toBeFocused();
  await page.getByLabel("Whole name of the client").fill("edda marsh");
  await page.getByLabel("Reason for erasing").fill("Asked for it in writing");
  await page.getByRole("button", { name: "Erase for good" }).click();
  await expect(page).toHaveURL(/\/office\/retention$/);
  await expect(page.getByText("Asked for it in writing")).toBeVisible();
  await page.goto("/people");
  await expect(page.getByRole("link", { name: "Ines Halvorsen", exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "Edda Marsh", exact: true })).toHaveCount(0);
  await page.goto(href);
  await expect(page).toHaveURL(/\/nothing-here/);
  // Past visits stay, as nobody's.
  await page.goto("/day");
  await expect(page.getByText("Edda")).toHaveCount(0);
});

test("rules say for how long what is kept, and what is due stands there until somebody lets it go", async ({
  page,
}) => {
  await signIn(page);
  await page.goto("/office/retention");
  await expect(page.getByText("Nothing is due.")).toBeVisible();
  await page.getByLabel("Records, years after the last contact").fill("0");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("At least one; leave it empty to keep everything.").first()).toBeVisible();
  await page.getByLabel("Records, years after the last contact").fill("8");
  await page.getByLabel("Packets never returned, months").fill("1");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByLabel("Records, years after the last contact")).toHaveValue("8");
  await page.reload();
  await expect(page.getByLabel("Records, years after the last contact")).toHaveValue("8");
});

test("the journal is looked up by client and kind, taken out, and checked by an anchor", async ({ page }) => {
  await signIn(page);
  await page.goto("/office/journal");
  await expect(page.getByText("Unbroken.")).toBeVisible();
  const rows = page.getByRole("main").getByRole("list").last();
  const client = page.getByRole("combobox", { name: "About which client" });
  await client.fill("hugo");
  await page.getByRole("option", { name: /Hugo Lindgren/ }).click();
  await expect(rows.getByRole("link").first()).toHaveText("Hugo Lindgren");
  await expect(rows.getByRole("link").filter({ hasNotText: "Hugo Lindgren" })).toHaveCount(0);
  await page.getByRole("button", { name: "Anything What" }).click();
  await page.getByRole("option", { name: "Answers and signatures" }).click();
  await expect(rows.getByText("Returned", { exact: false })).toHaveCount(0);
  await expect(rows.getByText("Answers were saved", { exact: false }).first()).toBeVisible();
  const saved = page.waitForEvent("download");
  await page.getByRole("link", { name: "Take these out as a file" }).click();
  const table = parse(readFileSync(await (await saved).path()), { bom: true, columns: true }) as { what: string }[];
  expect(table.length).toBeGreaterThan(0);
  expect(new Set(table.map(({ what }) => what))).toContain("Answers were saved");
  await page.getByRole("button", { name: "Show everything" }).click();
  await expect(rows.getByText("Signed in", { exact: false }).first()).toBeVisible();

  await page.getByText("Anchors", { exact: true }).click();
  const anchor = (await page.getByRole("code").textContent())!;
  expect(anchor).toMatch(/^journal \d+ [\da-f]{64} /);
  await page.getByLabel("An anchor that you kept").fill(anchor);
  await page.getByRole("button", { name: "Check", exact: true }).click();
  await expect(page.getByText(/The journal goes through it/)).toBeVisible();
  await page.getByLabel("An anchor that you kept").fill(anchor.replace(/journal \d+/, "journal 2"));
  await page.getByRole("button", { name: "Check", exact: true }).click();
  await expect(page.getByText(/does not go through it at row 2/)).toBeVisible();
});
