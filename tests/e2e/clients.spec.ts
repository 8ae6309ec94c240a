import { readFileSync } from "node:fs";
import { parse } from "csv-parse/sync";
import { expect, type Browser, type Page } from "@playwright/test";
import { demoPassword } from "../../demo/scenario";
import { test } from "./practice";
import { expectNoViolations, signIn, type Staff } from "./steps";

const own = async (browser: Browser, page: Page): Promise<Page> =>
  (await browser.newContext({ baseURL: new URL(page.url()).origin, locale: "en-GB" })).newPage();
const person = (page: Page, name: string) => page.getByRole("main").getByRole("link", { name, exact: true });
const openDetails = async (page: Page, name: string): Promise<void> => {
  await page.goto("/people");
  await person(page, name).click();
  await page.getByRole("link", { name: "Details" }).click();
  await expect(page.getByRole("heading", { name: `Details of ${name}` })).toBeVisible();
};

test("a client's name goes through the ledger, they are archived and brought back, and found all the while", async ({
  page,
}) => {
  await signIn(page);
  await openDetails(page, "Edda Marsh");
  await expectNoViolations(page, "details");
  await page.getByLabel("Last name").first().fill("Marsh-Okoro");
  await page.getByRole("button", { name: "Save name" }).click();
  await expect(page.getByRole("heading", { name: "Details of Edda Marsh-Okoro" })).toBeVisible();
  await page.goto("/people");
  const sought = page.getByLabel("Name, e-mail, phone or birth date");
  // Without accents, one letter wrong, by the new name only.
  await sought.fill("marsh okoro");
  await expect(person(page, "Edda Marsh-Okoro")).toBeVisible();
  await expect(page.getByText("1 client", { exact: true })).toBeVisible();
  await sought.fill("édda marhs");
  await expect(person(page, "Edda Marsh-Okoro")).toBeVisible();
  await person(page, "Edda Marsh-Okoro").click();
  await expect(page.getByText("Told us").first()).toBeAttached();

  // Who has visits to come is not archived away from under them.
  await page.getByRole("link", { name: "Details" }).click();
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByText("There are visits to come. Cancel them first; nothing was changed.")).toBeVisible();
  await page.goto("/send");
  await page.getByLabel("First name").fill("Ottilie");
  await page.getByLabel("Last name").fill("Past");
  await page.getByLabel("E-mail", { exact: true }).fill("ottilie@mail.example");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page).toHaveURL(/\/people\/[0-9a-f-]+\/send/);
  await openDetails(page, "Ottilie Past");
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByRole("button", { name: "Bring back" })).toBeVisible();
  await page.goto("/people");
  await expect(person(page, "Ines Halvorsen")).toBeVisible();
  await expect(person(page, "Ottilie Past")).toHaveCount(0);
  await page.getByText("Archived clients", { exact: true }).click();
  await expect(person(page, "Ottilie Past")).toBeVisible();
  // Who rings again is found, archived or not.
  await page.keyboard.press("Escape");
  await page.getByRole("heading", { name: "People" }).click();
  await page.keyboard.press("/");
  await page.getByRole("combobox", { name: /^Find/ }).fill("ottilie pa");
  await expect(page.getByRole("option", { name: /Ottilie Past.*archived/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Details" }).click();
  await page.getByRole("button", { name: "Bring back" }).click();
  await expect(page.getByRole("button", { name: "Archive" })).toBeVisible();
});

test("clients come from a file after a look at every line, twice over nobody twice; what is refused goes out with its reason", async ({
  page,
}) => {
  await signIn(page);
  await page.goto("/people");
  await page.getByRole("link", { name: "Bring clients from a file" }).click();
  const file = [
    "Given name;Surname;DOB;Mail;Mobile;Remarks",
    'Ada;"Storm; née Hale";04/05/1991;ada.storm@mail.example;020 7946 0555;x',
    "Ines;Halvorsen;;;;",
    "=HYPERLINK();Bad;;;;",
    "Ada;Hale;04/05/1991;ADA.STORM@mail.example;;",
    "Rui;Costa;31/02/1980;rui@mail.example;;",
    "Lena;;1990-02-03;;+49 30 901820;",
  ].join("\r\n");
  /** As UTF-8, and as spreadsheets save it that know no better. */
  const bring = async (encoding: "utf8" | "latin1"): Promise<void> => {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose a file" }).click();
    await (await chooser).setFiles({ name: "clients.csv", mimeType: "text/csv", buffer: Buffer.from(file, encoding) });
    await expect(page.getByRole("button", { name: "What DOB holds" })).toContainText("Birth date");
    await expectNoViolations(page, "columns of a file");
    await page.getByRole("button", { name: "Check 6 lines" }).click();
    await expect(page).toHaveURL(/\/bring\/[0-9a-f-]+$/);
  };
  await bring("utf8");
  await expect(page.getByText("2 clients can be added. 4 lines are refused.")).toBeVisible();
  await expectNoViolations(page, "a file that was checked");
  for (const reason of ["Is here already", "Begins like a formula.", "same person as line 2", "birth date is no day"])
    await expect(page.getByText(reason)).toBeVisible();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Take the refused lines out as a file" }).click();
  const refused = parse(readFileSync(await (await download).path(), "utf8"), { bom: true, columns: true }) as {
    Line: string;
    Why: string;
    "First name": string;
  }[];
  expect(refused.map((row) => row.Line)).toEqual(["3", "4", "5", "6"]);
  // What a spreadsheet would run stays words.
  expect(refused[1]!["First name"]).toBe("'=HYPERLINK()");
  await page.getByRole("button", { name: "Add 2 clients" }).click();
  await expect(page.getByText("2 of 2 clients added.")).toBeVisible();
  await page.getByRole("button", { name: "Done with this file" }).click();
  await expect(person(page, "Ada Storm; née Hale")).toBeVisible();
  await page.getByRole("link", { name: "Bring clients from a file" }).click();
  await bring("latin1");
  await expect(page.getByText("0 clients can be added. 6 lines are refused.")).toBeVisible();
  await page.getByRole("button", { name: "Drop this file" }).click();

  const out = page.waitForEvent("download");
  await page.getByRole("link", { name: "Take clients out as a file" }).click();
  const text = readFileSync(await (await out).path(), "utf8");
  const people = parse(text, { bom: true, columns: true, relax_column_count: false }) as Record<string, string>[];
  expect(people.find((row) => row["First name"] === "Ada")).toMatchObject({
    "Last name": "Storm; née Hale",
    "Birth date": "1991-05-04",
    "E-mail": "ada.storm@mail.example",
  });
  // A number from abroad begins like a formula, and is guarded.
  expect(people.find((row) => row["First name"] === "Lena")!["Phone"]).toBe("'+49 30 901820");
});

test("two records of one person become one after every difference was decided, and two again", async ({ page }) => {
  await signIn(page);
  await page.goto("/send");
  await page.getByLabel("First name").fill("Inès");
  await page.getByLabel("Last name").fill("Halvorsen");
  await page.getByLabel("E-mail", { exact: true }).fill("ines.work@mail.example");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page.getByText("Somebody like that may be here already. Nothing was added yet.")).toBeVisible();
  await page.getByRole("button", { name: "This is somebody else" }).click();
  await page.getByRole("button", { name: "Add and continue" }).click();
  await expect(page).toHaveURL(/\/people\/[0-9a-f-]+\/send/);
  await openDetails(page, "Ines Halvorsen");
  await page.getByRole("link", { name: "Compare and merge" }).click();
  const merge = page.getByRole("button", { name: "Merge into Ines Halvorsen" });
  await expect(merge).toBeDisabled();
  await expectNoViolations(page, "two records");
  await page.getByRole("radiogroup", { name: "E-mail" }).getByText("Take").click();
  await page.getByRole("radiogroup", { name: "First name" }).getByText("Keep").click();
  await merge.click();
  await expect(page.getByRole("heading", { name: "Ines Halvorsen" })).toBeVisible();
  await expect(page.getByText("ines.work@mail.example")).toBeVisible();
  await page.goto("/people");
  await expect(person(page, "Inès Halvorsen")).toHaveCount(0);
  await openDetails(page, "Ines Halvorsen");
  await page.getByRole("link", { name: "Undo the merge" }).click();
  await page.getByRole("button", { name: "Make them two again" }).click();
  await expect(page.getByRole("heading", { name: "Inès Halvorsen" })).toBeVisible();
  await page.goto("/people");
  await expect(person(page, "Inès Halvorsen")).toBeVisible();
  await person(page, "Ines Halvorsen").click();
  await expect(page.getByText("ines.halvorsen@mail.example")).toBeVisible();
});

test("a practitioner of a practice where each sees their own finds nobody else, and opens somebody with a reason", async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto("/office/staff");
  await page.getByText("Change what practitioners may").click();
  await page.getByRole("group", { name: "Practitioners may" }).getByText("See all clients, not only their own").click();
  await page.getByRole("button", { name: "Save for practitioners" }).click();
  await expect(page.getByText("Back to the starting set")).toBeAttached();

  const salma = await own(browser, page);
  await signIn(salma, "salma");
  await salma.goto("/people");
  await expect(salma.getByText(/^\d+ clients$/)).toBeVisible();
  const born = async (on: Page): Promise<void> => {
    await on.getByRole("group", { name: "Birth date" }).getByRole("spinbutton").first().click();
    await on.keyboard.type("12031988");
  };
  const hidden = "Solveig Ahl";
  await page.goto("/send");
  await page.getByLabel("First name").fill("Solveig");
  await page.getByLabel("Last name").fill("Ahl");
  await page.getByLabel("E-mail", { exact: true }).fill("solveig@mail.example");
  await born(page);
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page).toHaveURL(/\/people\/[0-9a-f-]+\/send/);
  await page.goto("/people");
  await salma.goto("/people");
  await expect(person(page, hidden)).toBeVisible();
  await expect(person(salma, hidden)).toHaveCount(0);
  await salma.getByLabel("Name, e-mail, phone or birth date").fill("solveig");
  await expect(salma.getByText("Nobody here is like “solveig”.")).toBeVisible();
  const href = (await person(page, hidden).getAttribute("href"))!;
  await salma.goto(href);
  await expect(salma).toHaveURL(/\/nothing-here$/);
  await salma.goto("/people");
  await salma.getByRole("link", { name: "Open a colleague’s client" }).click();
  await expectNoViolations(salma, "open a colleague's client");
  await salma.getByLabel("First name").fill("solveig");
  await salma.getByLabel("Last name").fill("Ahl");
  await salma.getByLabel("Reason").fill("Rang in distress, Maren is away");
  await born(salma);
  await salma.getByRole("button", { name: "Open for a day" }).click();
  await expect(salma.getByRole("heading", { name: hidden })).toBeVisible();
  await page.goto(`${href}/reach`);
  await expect(page.getByText("Rang in distress, Maren is away")).toBeVisible();
  await page.goto("/post-room");
  await expect(page.getByRole("link", { name: "A client opened by a colleague for Maren Holloway" })).toBeVisible();
});

test("a passkey stands for the second factor: the browser's own authenticator makes it, signs with it, and once only", async ({
  page,
  browser,
}) => {
  await page.goto("/sign-in");
  const staff = await own(browser, page);
  const session = await staff.context().newCDPSession(staff);
  await session.send("WebAuthn.enable");
  const { authenticatorId } = await session.send("WebAuthn.addVirtualAuthenticator", {
    options: {
      protocol: "ctap2",
      transport: "internal",
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  const enter = async (who: Staff): Promise<void> => {
    await staff.goto("/sign-in");
    await staff.getByLabel("E-mail").fill(`${who}@fernhollow.example`);
    await staff.getByLabel("Password").fill(demoPassword);
    await staff.getByRole("button", { name: "Sign in" }).click();
  };
  await enter("tobias");
  await expect(staff).toHaveURL(/\/day$/);
  await staff.goto("/office");
  await staff.getByText("Add a passkey", { exact: true }).click();
  await staff.getByLabel("This device").fill("Laptop");
  await staff.getByRole("button", { name: "Make a passkey" }).click();
  const codes = staff.getByRole("list", { name: "Recovery codes" });
  await expect(codes.getByRole("listitem")).toHaveCount(8);
  const code = await codes.getByRole("listitem").first().innerText();
  await staff.getByRole("button", { name: "I have them" }).click();
  await expect(staff.getByText("Signing in takes your password and a passkey on your device.")).toBeVisible();
  await expectNoViolations(staff, "passkeys");
  // The same device makes no second one.
  await staff.getByText("Add a passkey", { exact: true }).click();
  await staff.getByLabel("This device").fill("Again");
  await staff.getByRole("button", { name: "Make a passkey" }).click();
  await expect(staff.getByText("This device made no passkey, or has one already.")).toBeVisible();

  await staff.getByRole("button", { name: "Sign out" }).click();
  await enter("tobias");
  await expect(staff).toHaveURL(/\/sign-in\/code$/);
  await expectNoViolations(staff, "one more step");
  // Half-way nothing opens.
  expect((await staff.request.get("/people", { maxRedirects: 0 })).status()).toBe(307);
  await session.send("WebAuthn.setUserVerified", { authenticatorId, isUserVerified: true });
  await staff.getByRole("button", { name: "Use your passkey" }).click();
  await expect(staff).toHaveURL(/\/day$/);

  // Without the device: a recovery code, once.
  await staff.getByRole("button", { name: "Sign out" }).click();
  await session.send("WebAuthn.removeVirtualAuthenticator", { authenticatorId });
  await enter("tobias");
  await staff.getByText("Without your device").click();
  await staff.getByLabel("Recovery code").fill(code);
  await staff.getByRole("button", { name: "Continue" }).click();
  await expect(staff).toHaveURL(/\/day$/);
  await staff.goto("/office");
  await expect(staff.getByText("7 recovery codes are left.")).toBeVisible();
  await staff.getByText("Passkey on Laptop").click();
  await staff.getByLabel("Your password").first().fill(demoPassword);
  await staff.getByRole("button", { name: "Take Laptop off" }).click();
  await expect(staff.getByText("Off. With a second factor, a stolen password alone opens nothing.")).toBeVisible();
});
