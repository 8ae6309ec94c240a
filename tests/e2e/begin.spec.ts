import { expect, type Page } from "@playwright/test";
import { generate } from "otplib";
import sharp from "sharp";
import { codeIn, expectNoViolations, linkIn, phone, readPost, sendOnly } from "./steps";
import { practiceNow } from "./practice-now";
import { said, test } from "./practice";

// The whole way, as the README tells it: an empty folder, the code on the console, the practice, a colleague, a visit,
// and the first packet that comes back.
const password = "walnut mooring tuesday";
const pick = async (page: Page, label: string, option: string): Promise<void> => {
  await page.getByRole("button", { name: label }).click();
  await page.getByRole("option", { name: option, exact: true }).click();
};

// The second goes on in the practice that the first set up.
test.describe.configure({ mode: "serial" });

test("from an empty folder to the first packet that came back", async ({ page, browser }) => {
  await page.goto("/");
  await expect(page).toHaveURL(/\/set-up$/);
  await expect(page.getByRole("heading", { name: "Set up your practice" })).toBeVisible();
  await expectNoViolations(page, "set-up");
  const code = /type this code: (\S+)/.exec(said.text)![1]!;

  // What is missing is said beside its field; a wrong code lets nobody in.
  await page.getByRole("button", { name: "Set up the practice" }).click();
  await expect(page.getByText("Type the code that stands on the console.")).toBeVisible();
  await expect(page.getByText("Choose a country.")).toBeVisible();
  await page.getByLabel("Code from the console").fill("AAAA-BBBB-CCCC");
  await page.getByLabel("Name of the practice").fill("Larkfield Rooms");
  await page.getByLabel("Logo").setInputFiles({
    name: "logo.png",
    mimeType: "image/png",
    buffer: await sharp({ create: { width: 90, height: 30, channels: 3, background: "#2f6247" } })
      .png()
      .toBuffer(),
  });
  await page.getByLabel("E-mail of the practice").fill("hello@larkfield.example");
  await page.getByLabel("Address").fill("1 Quay Street\nGalway");
  await page.getByLabel("Country").click();
  // Typed out and left; and one whose name begins like another's.
  await page.keyboard.type("nigeria");
  await page.keyboard.press("Tab");
  await expect(page.getByLabel("Country")).toHaveValue("Nigeria");
  await page.getByLabel("Country").fill("");
  await page.keyboard.type("Irel");
  await expect(page.getByRole("option")).toHaveText(["Ireland"]);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Country")).toHaveValue("Ireland");
  await page.getByLabel("Time zone").fill("Europe/Dublin");
  await page.getByLabel("Your name").fill("Orla Byrne");
  await page.getByLabel("Your e-mail").fill("orla@larkfield.example");
  await page.getByLabel("Password").fill(password);
  await page.getByRole("button", { name: "Set up the practice" }).click();
  await expect(page.getByText("This is not the code on the console.")).toBeVisible();
  await page.getByLabel("Code from the console").fill(code.toLowerCase());
  await page.getByRole("button", { name: "Set up the practice" }).click();
  await expect(page).toHaveURL(/\/day$/);
  const steps = page.getByRole("region", { name: "First steps" });
  await expect(steps.getByText("To do")).toHaveCount(7);
  await expectNoViolations(page, "first steps");

  await steps.getByRole("button", { name: "Send me a letter" }).click();
  await expect(page.getByText("is on its way to orla@larkfield.example")).toBeVisible();
  await steps.getByRole("link", { name: "Kinds of visit" }).click();
  await page.getByRole("textbox", { name: "Name", exact: true }).fill("First visit");
  await page.getByRole("textbox", { name: "Room" }).fill("Room 1");
  await page.getByRole("button", { name: "Add kind of visit" }).click();
  await expect(page.getByText("Change First visit")).toBeVisible();
  await expectNoViolations(page, "kinds of visit");
  await page.goto("/library");
  await pick(page, "For", "Dietetics");
  await page.getByText("Put them in use at once").click();
  await page.getByRole("button", { name: /^Bring in \d+/ }).click();
  await expect(page.getByRole("link", { name: "How well you have been: WHO-5" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Before your first visit with the dietitian" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Before a skin treatment" })).toHaveCount(0);

  // Tried out on somebody made up, whose letters come to oneself, and who ends no first steps.
  await page.goto("/day");
  await steps.getByRole("button", { name: "Add the test client" }).click();
  await expect(page.getByRole("heading", { name: /Robin Test \(test client\)/ })).toBeVisible();
  await sendOnly(page, "How well you have been: WHO-5");
  await page.getByRole("button", { name: "Send it to Robin" }).click();
  await expect(page.getByRole("heading", { name: "Packet for Robin Test (test client)" })).toBeVisible();
  await page.goto("/day");
  await expect(steps.getByRole("button", { name: "Send to the test client" })).toBeVisible();
  await page.goto("/people");
  await expect(page.getByText("0 clients")).toBeVisible();
  await expect(page.getByRole("link", { name: "Robin Test (test client)" })).toBeVisible();

  // A colleague, who chooses a password by the letter's link.
  await page.goto("/office/staff");
  await page.getByRole("textbox", { name: "Name", exact: true }).fill("Finn Daly");
  await page.getByRole("textbox", { name: "E-mail" }).fill("finn@larkfield.example");
  await page.getByRole("button", { name: "Invite", exact: true }).click();
  await expect(page.getByRole("button", { name: "Invite Finn Daly again" })).toBeVisible();
  await expectNoViolations(page, "staff");
  await page.goto("/post-room");
  await page
    .getByRole("link", { name: /Invitation to a colleague/ })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "What Finn Daly sees" })).toBeVisible();
  const joining = /http\S+\/join\/\S+/.exec(await page.locator("main").innerText())![0];
  const finn = await (await browser.newContext()).newPage();
  await finn.goto(joining);
  await expect(finn.getByRole("heading", { name: "Welcome to Larkfield Rooms" })).toBeVisible();
  await expectNoViolations(finn, "choose a password");
  await finn.getByLabel("New password").fill("passwordpassword");
  await finn.getByRole("button", { name: "Save and sign in" }).click();
  await expect(finn.getByText("would be guessed early")).toBeVisible();
  await finn.getByLabel("New password").fill("pebble orchard lantern");
  await finn.getByRole("button", { name: "Save and sign in" }).click();
  await expect(finn).toHaveURL(/\/day$/);
  await expect(finn.getByRole("region", { name: "First steps" })).toHaveCount(0);
  await finn.goto(joining);
  await expect(finn.getByRole("heading", { name: "This link is over" })).toBeVisible();

  // A visit for somebody new, whose time nobody else gets.
  await page.goto("/day");
  await page.getByRole("link", { name: "Make a visit" }).click();
  await page.getByRole("textbox", { name: "First name" }).fill("Ada");
  await page.getByRole("textbox", { name: "Last name" }).fill("Quill");
  await page.getByRole("textbox", { name: "E-mail" }).fill("ada.quill@mail.example");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page).toHaveURL(/client=/);
  await page.getByLabel("Time").fill("14:30");
  await expectNoViolations(page, "make a visit");
  await page.getByRole("button", { name: "Make visit" }).click();
  await expect(page).toHaveURL(/\/day$/);
  await finn.goto("/visits/new");
  await finn.getByLabel("Client").click();
  await finn.keyboard.type("ada qulil");
  await expect(finn.getByRole("option", { name: "Ada Quill" })).toBeVisible();
  await finn.keyboard.press("ArrowDown");
  await finn.keyboard.press("Enter");
  await pick(finn, "With", "Orla Byrne");
  await finn.getByLabel("Time").fill("14:45");
  await finn.getByRole("button", { name: "Make visit" }).click();
  await expect(finn.getByText("They have another visit at this time, today 14:30")).toHaveCount(0);
  await expect(finn.getByText(/They have another visit at this time/)).toBeVisible();

  // Questionnaires out, and back.
  await page.getByRole("link", { name: "Send questionnaires: Ada Quill" }).click();
  await sendOnly(page, "WHO-5");
  await page.getByRole("button", { name: /^Send it to Ada/ }).click();
  await expect(page.getByRole("heading", { name: "Packet for Ada Quill" })).toBeVisible();
  const client = await (await browser.newContext({ viewport: phone, locale: "en-IE" })).newPage();
  const link = linkIn(await readPost(page, "Personal link", "Ada Quill"));
  await client.goto(link);
  // Whose page it is: logo, name and address.
  expect(await client.locator("main img").evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(90);
  await expect(client.getByText("1 Quay Street")).toBeVisible();
  await client.getByRole("button", { name: "Send me the code" }).click();
  await expect(client.getByLabel("Six digits from our message")).toBeFocused();
  await client.getByLabel("Six digits from our message").fill(codeIn(await readPost(page, "Door code", "Ada Quill")));
  await client.getByRole("button", { name: "Open my page" }).click();
  await expect(client).toHaveURL(/\/f\//);
  const onwards = client.getByRole("button", { name: /^(Next|Check my answers)$/ });
  const send = client.getByRole("button", { name: /^Send to/ });
  for (let step = 0; step < 12 && !(await send.isVisible()); step++) {
    for (const group of await client.getByRole("radiogroup").all())
      await group.getByRole("radio").first().press("Space");
    const title = await client.locator("h1").innerText();
    await onwards.click();
    await expect(client.locator("h1")).not.toHaveText(title);
  }
  await send.click();
  await expect(client.getByRole("heading", { name: /Thank you/ })).toBeVisible();
  await page.goto("/day");
  await expect(page.getByText("Returned")).toBeVisible();
  await expect(page.getByRole("region", { name: "First steps" })).toHaveCount(0);
});

test("a forgotten password is chosen anew by letter; the page says the same to everybody", async ({
  page,
  browser,
}) => {
  await page.goto("/sign-in");
  await page.getByRole("link", { name: "Forgotten password" }).click();
  await expectNoViolations(page, "forgotten password");
  for (const email of ["nobody@larkfield.example", "finn@larkfield.example"]) {
    await page.getByLabel("E-mail").fill(email);
    await page.getByRole("button", { name: "Send the letter" }).click();
    await expect(page.getByText("If there is an account with this address")).toBeVisible();
    await page.reload();
  }
  const orla = await (await browser.newContext()).newPage();
  await orla.goto("/sign-in");
  await orla.getByLabel("E-mail").fill("orla@larkfield.example");
  await orla.getByLabel("Password").fill(password);
  await orla.getByRole("button", { name: "Sign in" }).click();
  await expect(orla).toHaveURL(/\/day$/);
  await expect(async () => {
    await orla.goto("/post-room");
    await expect(orla.getByRole("link", { name: /New password/ })).toHaveCount(1, { timeout: 500 });
  }).toPass();
  await orla.getByRole("link", { name: /New password/ }).click();
  await expect(orla.getByRole("heading", { name: "What Finn Daly sees" })).toBeVisible();
  const link = /http\S+\/join\/\S+/.exec(await orla.locator("main").innerText())![0];
  await page.goto(link);
  await page.getByLabel("New password").fill("slate harbour evening");
  await page.getByRole("button", { name: "Save and sign in" }).click();
  await expect(page).toHaveURL(/\/day$/);

  // What a role may is narrowed while somebody works, on the next page they open.
  await page.goto("/visits/new");
  await expect(page.getByRole("heading", { name: "Make a visit" })).toBeVisible();
  await orla.goto("/office/staff");
  await orla.getByText("Change what practitioners may").click();
  await orla.getByRole("checkbox", { name: "Make, move and cancel visits" }).press("Space");
  await orla.getByRole("button", { name: "Save for practitioners" }).click();
  await expect(orla.getByText(/see the post room, see the library, write questionnaires, read answers/)).toBeVisible();
  await page.goto("/visits/new");
  await expect(page).toHaveURL(/not-yours/);

  // Where everybody is asked for a second factor, who has none gets as far as their own account, signed in or not yet.
  await orla.goto("/office");
  await orla.getByRole("button", { name: "Set up an authenticator app" }).click();
  const secret = await orla.getByTestId("totp-secret").innerText();
  const epoch = Math.floor(Date.parse(practiceNow) / 1000);
  await orla.getByLabel("Code", { exact: true }).fill(await generate({ secret, epoch }));
  await orla.getByRole("button", { name: "Turn it on" }).click();
  await expect(orla.getByRole("list", { name: "Recovery codes" })).toBeVisible();
  await orla.goto("/office/staff");
  await orla.getByRole("button", { name: "Ask everybody for one" }).click();
  await expect(orla.getByText("Everybody needs one")).toBeVisible();
  const owes = page.getByText("This practice asks everybody for a second factor.");
  await page.goto("/returns");
  await expect(owes).toBeVisible();
  await page.getByRole("button", { name: "Sign out" }).click();
  await page.getByLabel("E-mail").fill("finn@larkfield.example");
  await page.getByLabel("Password").fill("slate harbour evening");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(owes).toBeVisible();
  await expect(page.getByRole("navigation", { name: "Places" }).getByRole("link")).toHaveText(["Office"]);
  await expectNoViolations(page, "second factor owed");
});
