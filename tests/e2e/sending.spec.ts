import { expect } from "@playwright/test";
import { execFileSync } from "node:child_process";
import { clientWords } from "../../src/i18n/client-words";
import { test } from "./practice";
import {
  choose,
  expectNoViolations,
  fetchPost,
  linkFor,
  linkIn,
  newDevice,
  next,
  passDoor,
  readPost,
  saved,
  sendOnly,
  signIn,
} from "./steps";

test("somebody new gets a questionnaire from the library; it comes back in their language, is sent back, mended, and withdrawn", async ({
  page,
  browser,
}) => {
  await signIn(page, "salma");
  await page.goto("/library");
  await page.getByRole("link", { name: "How you have been: PHQ-9" }).click();
  await page.getByRole("link", { name: "Send" }).click();
  // Found by what is known of them, or added; who may be here already is shown first.
  await page.getByLabel(/Name, e-mail/).fill("2.9.1967");
  await expect(page.getByRole("link", { name: "Bram Okafor" })).toBeVisible();
  await page.getByLabel("First name").fill("Bram");
  await page.getByLabel(/Last name/).fill("Okafo");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page.getByText("Give an e-mail address or a phone number.")).toBeVisible();
  await page.getByLabel("E-mail", { exact: true }).fill("bram.the.younger@mail.example");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page.getByText("Somebody like that may be here already. Nothing was added yet.")).toBeVisible();
  await expectNoViolations(page, "finding somebody");
  await page.getByRole("button", { name: "This is somebody else" }).click();
  await page.getByRole("button", { name: "Add and continue" }).click();
  await expect(page.getByRole("heading", { name: "Send to Bram Okafo" })).toBeVisible();
  await expect(page.getByRole("checkbox", { name: /PHQ-9/ })).toBeChecked();
  await page.getByRole("button", { name: /Language/ }).click();
  await page.getByRole("option", { name: "Spanish" }).click();
  await expect(page.getByText("Not available in Spanish: “How you have been: PHQ-9”")).toBeVisible();
  await page.getByText("Personal message", { exact: true }).click();
  await page.getByRole("textbox", { name: "Personal message" }).fill("Take your time.");
  await expectNoViolations(page, "sending with choices");
  await page.getByRole("button", { name: "Send a test to myself" }).click();
  await expect(page.getByText("A test is on its way to salma@fernhollow.example.")).toBeVisible();
  await page.getByRole("button", { name: "Send it to Bram" }).click();
  await expect(page.getByRole("heading", { name: "Packet for Bram Okafo" })).toBeVisible();
  const packet = page.url();
  await page.getByRole("button", { name: "Remind" }).click();
  await expect(page.getByText("Their last letter is not a day old. Remind again all the same?")).toBeVisible();

  const letter = await readPost(page, "Personal link", "Bram Okafo");
  expect(letter).toContain("Unas preguntas de Fernhollow Care Rooms");
  expect(letter).toContain("Take your time.");
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(letter), "Bram Okafo", "es");
  await expect(client.getByText(clientWords("fill", "es")("step", { at: "1", of: "2" }))).toBeVisible();
  const switched: string[] = [];
  client.on("request", (r) => {
    if (r.url().endsWith("/language")) switched.push(r.url());
  });
  const inArabic = async (): Promise<void> => {
    await client.locator("summary", { hasText: "Español" }).click();
    await client.getByRole("button", { name: "العربية" }).click();
  };
  // What cannot be kept now is not thrown away for another language; what is kept is there in the other.
  await client.route("**/answers", (route) => route.abort());
  await choose(client, /^1\. /, "Several days");
  await inArabic();
  await expect(client.getByText(clientWords("fill", "es")("offline"))).toBeVisible();
  expect(switched).toEqual([]);
  await client.unroute("**/answers");
  await expect(client.getByText(/^Guardado \d/)).toBeVisible();
  await inArabic();
  await expect(client.locator("[dir=rtl]").first()).toBeVisible();
  await expectNoViolations(client, "a page switched to Arabic");
  await client.locator("summary", { hasText: "العربية" }).click();
  await client.getByRole("button", { name: "English" }).click();
  await expect(client.getByText("Step 1 of 2")).toBeVisible();
  await expect(
    client.getByRole("radiogroup", { name: /^1\. / }).getByRole("radio", { name: "Several days" }),
  ).toBeChecked();
  for (let index = 2; index <= 8; index++) await choose(client, new RegExp(`^${index}\\. `), "Not at all");
  // The practice's own words stand beside an alarming answer at once, and hold nothing up.
  await choose(client, /^9\. /, "Several days");
  await expect(client.getByText("If you might hurt yourself")).toBeVisible();
  await next(client);
  await client.getByRole("button", { name: "Start again" }).click();
  await expect(client.getByText("Clear all your answers?")).toBeVisible();
  await client.getByRole("button", { name: "Keep them" }).click();
  await client.getByRole("button", { name: "Start again" }).click();
  await client.getByRole("button", { name: "Clear them all" }).click();
  await expect(client.getByText("All answers were cleared.")).toBeVisible();
  await saved(client);
  // Also after a reload they can be put back; what lies in the browser is sealed.
  expect(await client.evaluate(() => Object.values(localStorage).join(" "))).not.toContain("Several days");
  await client.reload();
  await expect(client.getByText("All answers were cleared.")).toBeVisible();
  await client.getByRole("button", { name: "Put back" }).click();
  await saved(client);
  await next(client);
  await client.getByLabel(/Anything else/).fill("Best after six.");
  await expectNoViolations(client, "review with a comment");
  const [copy] = await Promise.all([
    client.waitForEvent("download"),
    client.getByRole("link", { name: /Keep a copy/ }).click(),
  ]);
  expect(execFileSync("pdftotext", ["-layout", await copy.path(), "-"], { encoding: "utf8" })).toContain(
    "Several days",
  );
  await client.getByRole("button", { name: /^Send to/ }).click();
  await expect(client.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();

  // Alarming answers reach the practitioner at once; one answer goes back with a reason.
  await page.goto("/post-room");
  await expect(page.getByRole("link", { name: "To read first for Salma Idris" })).toBeVisible();
  await page.goto("/returns");
  await page.getByRole("link", { name: "Bram Okafo", exact: true }).click();
  await expect(page.getByText("Best after six.")).toBeVisible();
  await page.getByText("Send back", { exact: true }).click();
  await page
    .locator("details")
    .getByText(/Trouble falling or staying asleep/)
    .click();
  await page.getByLabel(/What should they look at/).fill("Every night, or some?");
  await expectNoViolations(page, "sending back");
  await page.getByRole("button", { name: "Send this one back" }).click();
  await expect(page.getByText("Sent back with a reason")).toBeVisible();
  const again = linkIn(await fetchPost(page, "Sent back", "Bram Okafo"));
  await passDoor(client, page, again, "Bram Okafo", "es");
  const es = clientWords("fill", "es");
  await expect(client.getByText(es("sentBackNote", { practice: "Fernhollow Care Rooms" }))).toBeVisible();
  await expect(client.getByText("Every night, or some?")).toBeVisible();
  await expect(client.getByRole("radiogroup")).toHaveCount(1);
  await expectNoViolations(client, "a page that was sent back");
  await choose(client, /^3\. /, "Nearly every day");
  await client.getByRole("button", { name: es("toReview") }).click();
  await client.getByRole("button", { name: es("send", { practice: "Fernhollow Care Rooms" }) }).click();
  await expect(client.getByRole("heading", { name: es("doneTitle") })).toBeVisible();
  await device.close();
  await page.goto(packet);
  await expect(page.getByText("Returned").first()).toBeVisible();
  await expect(page.getByText("Withdraw", { exact: true })).toHaveCount(0);
});

test("what is on file is said right at a glance, and a packet is kept open, then withdrawn", async ({
  page,
  browser,
}) => {
  await signIn(page, "salma");
  await page.goto("/people");
  await page.getByLabel(/Name, e-mail/).fill("priya");
  await page.getByRole("link", { name: /Priya Desrosiers/ }).click();
  await page.getByRole("link", { name: "Send questionnaires" }).click();
  await page
    .getByRole("group", { name: /What to send/ })
    .getByText("Before your first visit")
    .click();
  await page.getByText(/Begin “Before your first visit” with what is on file/).click();
  await page.getByRole("button", { name: "Preview letter" }).click();
  await expect(page.getByText("Salma Idris asks you to answer some questions.")).toBeVisible();
  await page.getByRole("button", { name: /^Send it to/ }).click();
  await expect(page.getByRole("heading", { name: "Packet for Priya Desrosiers" })).toBeVisible();
  const packet = page.url();
  const link = linkIn(await fetchPost(page, "Personal link", "Priya Desrosiers"));
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, link, "Priya Desrosiers");
  await expect(client.getByLabel("First name")).toHaveValue("Priya");
  await next(client);
  await expect(client.getByText("Say if what we filled in is still right, or change it.")).toBeVisible();
  await expectNoViolations(client, "a page begun with what is on file");
  await client.getByRole("button", { name: "Yes, still right" }).click();
  await next(client);
  await expect(client.getByRole("heading", { name: "How to reach you" })).toBeVisible();
  await page.goto(packet);
  // Somebody who gets no message is let in by a code that is read out to them.
  const second = await newDevice(browser);
  const phone = await second.newPage();
  await page.getByRole("button", { name: "Read a code out" }).click();
  const code = (await page.getByText(/Read out:/).innerText()).replace(/\D/g, "").slice(0, 6);
  await phone.goto(link);
  await phone.getByLabel("Six digits from our message").fill(code);
  await phone.getByRole("button", { name: "Open my page" }).click();
  await expect(phone).toHaveURL(/\/f\//);
  await second.close();
  await page.getByText("Withdraw", { exact: true }).click();
  await page.getByRole("button", { name: "Withdraw packet" }).click();
  await expect(page.getByText("Withdrawn").first()).toBeVisible();
  await expectNoViolations(page, "a withdrawn packet");
  await client.goto(link);
  await expect(client.getByRole("heading", { name: "This page is closed" })).toBeVisible();
  await client.getByRole("link", { name: "Français" }).click();
  await expect(client.getByRole("heading", { name: clientWords("door", "fr")("closedTitle") })).toBeVisible();
  await device.close();
});

test("a wording without its link is refused, what makes a text costlier is named, and the next letter says it in the practice's words", async ({
  page,
}) => {
  await signIn(page, "maren");
  await page.goto("/office");
  await page.getByRole("link", { name: "Letters and texts" }).click();
  await page.getByRole("button", { name: /By$/ }).click();
  await page.getByRole("option", { name: "Text", exact: true }).click();
  const text = page.getByRole("textbox", { name: "Text" });
  await text.fill("We’ll see you soon");
  await expect(page.getByText("The sign “’” makes each hold 70 characters instead of 160.")).toBeVisible();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Without {{link}} the message is of no use. Put it in.").first()).toBeVisible();
  await text.fill("See you {{visit.when}}. Before that: {{link}}");
  await expect(page.getByText(/characters, sent as one message/)).toBeVisible();
  await expectNoViolations(page, "wordings");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Saved. The next letter says it so.")).toBeVisible();
  await page.goto("/post-room");
  await page.getByRole("button", { name: "Make them slow" }).click();
  await expect(page.getByText("They are slow: nothing is taken for now.")).toBeVisible();
  await page.getByRole("button", { name: "Make them deliver everything" }).click();
  await expect(page.getByText("They deliver everything.")).toBeVisible();
});

test("a packet is opened by matching details, and the practice says how its door is opened", async ({
  page,
  browser,
}) => {
  await signIn(page, "maren");
  await page.goto("/office/door");
  await page.getByRole("button", { name: /Door check/ }).click();
  await page.getByRole("option", { name: "None: link only" }).click();
  await expect(page.getByText("Whoever has the link gets in.")).toBeVisible();
  await page.getByRole("button", { name: /Door check/ }).click();
  await page.getByRole("option", { name: "Matching details" }).click();
  await page.getByRole("button", { name: "Save" }).click();
  await page.goto("/people");
  await page.getByRole("link", { name: /Bram Okafor/ }).click();
  await page.getByRole("link", { name: "Send questionnaires" }).click();
  await expect(page.getByText("proves who they are by a birth date and a last name")).toBeVisible();
  await sendOnly(page, "How you have been: PHQ-9");
  await page.getByRole("button", { name: /^Send it to/ }).click();
  await expect(page.getByRole("heading", { name: "Packet for Bram Okafor" })).toBeVisible();
  const link = linkIn(await fetchPost(page, "Personal link", "Bram Okafor"));
  const device = await newDevice(browser);
  const client = await device.newPage();
  await client.goto(link);
  await client.getByLabel("Birth date").fill("1967-09-02");
  await client.getByLabel("Last name").fill("Okafo");
  await client.getByRole("button", { name: "Open my page" }).click();
  await expect(client.getByText("That is not what we have on file. You have 4 tries left.")).toBeVisible();
  await expectNoViolations(client, "a door with details");
  await client.getByLabel("Birth date").fill("1967-09-02");
  await client.getByLabel("Last name").fill("okafor");
  await client.getByRole("button", { name: "Open my page" }).click();
  await expect(client).toHaveURL(/\/f\//);
  await device.close();
  await page.goto("/office/door");
  await page.getByRole("button", { name: /Door check/ }).click();
  await page.getByRole("option", { name: "Code to the same address" }).click();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("button", { name: /Door check/ })).toContainText("Code to the same address");
});

test("who cannot be reached fills in on a tablet of the practice, which is handed over and given back", async ({
  page,
  browser,
}) => {
  const tablet = await browser.newContext({ viewport: { width: 820, height: 1180 }, locale: "en-GB" });
  const held = await tablet.newPage();
  const make = async (): Promise<void> => {
    await signIn(held, "tobias");
    await held.goto("/people");
    await held.getByRole("link", { name: /Otto Fenn/ }).click();
    await held.getByRole("link", { name: "Send questionnaires" }).click();
    await expect(held.getByText("Otto Fenn cannot be reached.")).toBeVisible();
    await sendOnly(held, "How you have been: PHQ-9");
    await held.getByRole("button", { name: "Make packet without a letter" }).click();
    await expect(held.getByText("No letter went out.")).toBeVisible();
  };
  await make();
  await expect(held.getByText("Made; no letter went out")).toBeVisible();
  await expectNoViolations(held, "a packet without a letter");
  const packet = held.url();
  await held.getByRole("button", { name: "Hand over this device" }).click();
  await expect(held).toHaveURL(/\/f\//);
  await expect(held.getByText("This device belongs to Fernhollow Care Rooms.")).toBeVisible();
  await expectNoViolations(held, "a device handed over");
  const own = held.url();
  // Nothing of the practice is open on it, by going back neither.
  await held.goBack();
  await expect(held).toHaveURL(/\/sign-in$/);
  await expect(held.getByText("Otto")).toHaveCount(0);
  await held.goto(packet);
  await expect(held).toHaveURL(/\/sign-in$/);
  await held.goto(own);
  for (const question of await held.getByRole("radiogroup").all())
    await question.getByText("Not at all", { exact: true }).click();
  await saved(held);
  expect(await held.evaluate(() => Object.keys(localStorage).length)).toBe(0);
  // Without a line it says so, and stays where it is.
  await tablet.setOffline(true);
  await held.getByRole("button", { name: "Stop and give it back" }).click();
  await expect(held.getByText(/No connection/)).toBeVisible();
  await tablet.setOffline(false);
  // Stopped in the middle, it is shut; handed over once more, everything is still there.
  await held.getByRole("button", { name: "Stop and give it back" }).click();
  await expect(held).toHaveURL(/\/sign-in$/);
  await held.goBack();
  await expect(held.getByRole("button", { name: "Sign in" })).toBeVisible();
  await expect(held.getByRole("radiogroup")).toHaveCount(0);
  await held.goto(own);
  await expect(held.getByText("To open this page, use the link in our message")).toBeVisible();
  // The practice wants measures asked one by one from here on.
  await signIn(page, "maren");
  const oneByOne = async (on: boolean): Promise<void> => {
    await page.goto("/office/pages");
    await page.getByText("Measures ask one question a page").click();
    await page.getByRole("button", { name: "Save" }).click();
    await expect(page.getByRole("checkbox", { name: /one question a page/, checked: on })).toBeVisible();
  };
  await oneByOne(true);
  await signIn(held, "tobias");
  await held.goto(packet);
  await expect(held.getByText("The device was given back")).toBeVisible();
  await held.getByRole("button", { name: "Hand over this device" }).click();
  await expect(held).toHaveURL(/\/f\//);
  await held.goto(`${held.url().split("?")[0]!}?s=1`);
  for (let index = 1; index <= 9; index++) {
    await expect(held.getByText(`Step ${index} of 11`)).toBeVisible();
    await expect(held.getByRole("radiogroup")).toHaveCount(1);
    await expect(held.getByRole("radio", { name: "Not at all", checked: true })).toHaveCount(1);
    if (index === 1) await expectNoViolations(held, "one question a page");
    await next(held);
  }
  // What is asked only after a trouble is left out, its page too.
  await expect(held.getByText("Step 11 of 11")).toBeVisible();
  await held.getByRole("button", { name: /^Send to/ }).click();
  await expect(held.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();
  await expectNoViolations(held, "sent from a device handed over");
  await held.getByRole("button", { name: "Close my page" }).click();
  await expect(held).toHaveURL(/\/sign-in$/);
  await held.goBack();
  await expect(held.getByText("To open this page, use the link in our message")).toBeVisible();
  await oneByOne(false);
  await page.goto("/returns");
  await expect(page.getByRole("link", { name: "Otto Fenn" }).first()).toBeVisible();
  // Withdrawn while they have it: nothing can be kept any more, and the device can be given back all the same.
  await make();
  const second = held.url();
  await held.getByRole("button", { name: "Hand over this device" }).click();
  await expect(held.getByRole("radiogroup").first()).toBeVisible();
  await page.goto(second);
  await page.getByText("Withdraw", { exact: true }).click();
  await page.getByRole("button", { name: "Withdraw packet" }).click();
  await expect(page.getByText("Withdrawn").first()).toBeVisible();
  await held.getByText("Not at all", { exact: true }).first().click();
  await expect(held.getByText("This page is no longer open")).toBeVisible();
  await held.getByRole("button", { name: "Stop and give it back" }).click();
  await expect(held).toHaveURL(/\/sign-in$/);
  await tablet.close();
});

test("how somebody is reached is changed with its past kept, and who is no longer a contact is closed out", async ({
  page,
}) => {
  await signIn(page, "maren");
  await page.goto("/people");
  await page.getByRole("link", { name: "Bram Okafor", exact: true }).click();
  await page.getByRole("link", { name: "Details" }).click();
  const client = page.locator("form", { has: page.getByRole("button", { name: "Save", exact: true }) });
  const email = client.getByRole("textbox", { name: "E-mail" });
  const before = await email.inputValue();
  await email.fill("bram at home");
  await client.getByRole("button", { name: "Save" }).click();
  await expect(client.getByText("An e-mail address looks like name@mail.example.")).toBeVisible();
  await email.fill("bram.new@mail.example");
  await client.getByRole("button", { name: "Save" }).click();
  await expect(client.getByText("Kept.")).toBeVisible();

  await page.getByText("Add a relation").click();
  const added = page.locator("form", { has: page.getByRole("button", { name: "Add", exact: true }) });
  await added.getByLabel("First name").fill("Ada");
  await added.getByRole("textbox", { name: "E-mail" }).fill("ada@mail.example");
  await added.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByText("Change Ada").click();
  const ada = page.locator("form", { has: page.getByRole("button", { name: "Save for Ada" }) });
  await ada.getByRole("textbox", { name: "E-mail" }).fill("ada.okafor@mail.example");
  await ada.getByRole("button", { name: "Save for Ada" }).click();
  await expect(ada.getByText("Kept.")).toBeVisible();
  await page.reload();
  await expect(email).toHaveValue("bram.new@mail.example");
  await expect(page.getByText("ada.okafor@mail.example")).toBeVisible();
  await page.getByText("Ada is no longer a contact").click();
  await page.getByRole("button", { name: "End for Ada" }).click();
  await expect(page.getByText("No longer", { exact: true })).toBeVisible();
  await expect(page.getByText("Change Ada")).toHaveCount(0);

  await page.getByRole("link", { name: "Chart", exact: true }).click();
  await expect(page.getByText("bram.new@mail.example")).toBeVisible();
  await page.locator("summary", { hasText: `was ${before}` }).click();
  await expect(page.locator("details[open] li", { hasText: before }).first()).toBeVisible();
});

test("a packet whose person is gone says so, offers nothing that would be refused, and goes to somebody else", async ({
  page,
}) => {
  await signIn(page, "pia");
  await linkFor(page, "Noor Vance", "Leila Vance");
  await page.goto("/day");
  await page.getByRole("link", { name: "Open packet: Noor Vance" }).click();
  await expect(page.getByRole("button", { name: "Hand over this device" })).toBeVisible();
  const journey = page.url();
  await page.getByRole("link", { name: "Contact details" }).click();
  await page.getByText("Leila is no longer a contact").click();
  await page.getByRole("button", { name: "End for Leila" }).click();
  await expect(page.getByText("No longer", { exact: true })).toBeVisible();
  await page.goto(journey);
  await expect(page.getByText("Leila Vance is no longer around the client, and their link is closed.")).toBeVisible();
  for (const name of ["Hand over this device", "Remind", "Read a code out", "Send a fresh link"])
    await expect(page.getByRole("button", { name })).toHaveCount(0);

  await page.getByText("Give somebody else a link", { exact: true }).click();
  await page.getByText("Add a relation").click();
  const added = page.locator("form", { has: page.getByRole("button", { name: "Add", exact: true }) });
  await added.getByLabel("First name").fill("Idris");
  await added.getByRole("textbox", { name: "E-mail" }).fill("idris@mail.example");
  await added.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByRole("button", { name: "Send Idris a link" }).click();
  await expect(page.getByRole("button", { name: "Remind" })).toBeEnabled();
  await expect(page.getByText("A reminder goes to i···@m···.example with")).toBeVisible();
  await expect(page.getByText("is no longer around the client, and their link is closed.")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Hand over this device" })).toHaveCount(0);
});
