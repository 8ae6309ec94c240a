import { plainSheet } from "../support/pdf";
import { expect, type Page } from "@playwright/test";
import { test } from "./practice";
import { expectNoViolations, fetchPost, linkIn, newDevice, next, passDoor, saved, signIn } from "./steps";

const asked = "What do you do most days";
const field = (client: Page) => client.getByLabel(new RegExp(asked));
/** Waits until the server has it. */
const kept = (client: Page, words: string) =>
  expect
    .poll(() => client.evaluate(async () => (await fetch(`${location.pathname}/changes?since=-1`)).text()))
    .toContain(words);
/** To the page that asks what fills their days. */
const toDays = async (client: Page): Promise<void> => {
  await client.goto(`${new URL(client.url()).pathname}?s=4`);
  await expect(field(client)).toBeEnabled();
};

const sendTo = async (page: Page, name: string): Promise<void> => {
  await page.goto("/send");
  await page.getByLabel(/Name, e-mail/).fill(name);
  await page.getByRole("link", { name }).click();
  await expect(page.getByRole("heading", { name: `Send to ${name}` })).toBeVisible();
};

test("two people fill in one copy: each by their own door, seeing what the other writes, and losing nothing", async ({
  page,
  browser,
}) => {
  await signIn(page, "pia");
  await sendTo(page, "Priya Desrosiers");
  await page
    .getByRole("group", { name: /What to send/ })
    .getByText("Before your first visit")
    .click();
  await page.getByText("Add a relation").click();
  await page.getByLabel("First name").fill("Rowan");
  await page.getByLabel(/Last name/).fill("Ashe");
  await page.getByLabel("E-mail", { exact: true }).fill("rowan.ashe@mail.example");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  // Who is added gets it.
  await expect(page.getByText("Rowan Ashe fills it in too, by a link to r···@m···.example")).toBeVisible();
  await expectNoViolations(page, "sending to two");
  await page.getByRole("button", { name: "Send it to Priya" }).click();
  await expect(page.getByRole("heading", { name: "Packet for Priya Desrosiers" })).toBeVisible();
  await expect(page.getByText("partner, fills in, r···@m···.example")).toBeVisible();
  const packet = page.url();
  await expectNoViolations(page, "a packet with two");

  const clients: Page[] = [];
  for (const name of ["Priya Desrosiers", "Rowan Ashe"]) {
    const client = await (await newDevice(browser)).newPage();
    await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", name)), name);
    clients.push(client);
  }
  const [priya, rowan] = clients as [Page, Page];
  await expect(priya.getByText("You fill this in together with Rowan Ashe.")).toBeVisible();
  await expect(priya.getByText(/Step 1 of \d+ · about \d+ minutes? left/)).toBeVisible();
  await Promise.all([toDays(priya), toDays(rowan)]);

  // What one writes appears on the other's page, with their name.
  await field(priya).fill("Seed librarian");
  await saved(priya);
  await expect(field(rowan)).toHaveValue("Seed librarian");
  await expect(rowan.getByText("Answered by Priya Desrosiers")).toBeVisible();
  await expectNoViolations(rowan, "answered by the other");

  // Both at once, one without a line: neither is lost, and the one who comes later chooses.
  await rowan.context().setOffline(true);
  await field(rowan).fill("Librarian of seeds");
  await expect(rowan.getByText(/No connection/)).toBeVisible();
  await field(priya).fill("Keeper of seeds");
  await kept(priya, "Keeper of seeds");
  await rowan.context().setOffline(false);
  await expect(rowan.getByText("Priya Desrosiers answered this too, at the same time:")).toBeVisible();
  await expect(rowan.getByText("“Keeper of seeds”")).toBeVisible();
  await expect(field(rowan)).toHaveValue("Librarian of seeds");
  await expectNoViolations(rowan, "two answers");
  // What is typed now covers nothing: the choice waits, through loading the page again too.
  await field(rowan).pressSequentially(" and bulbs");
  await expect.poll(() => rowan.evaluate(() => Object.keys(localStorage).length)).toBe(1);
  await rowan.reload();
  await expect(rowan.getByText("“Keeper of seeds”")).toBeVisible();
  await expect(field(rowan)).toHaveValue("Librarian of seeds and bulbs");
  await kept(rowan, "Keeper of seeds");
  // It holds up going on: it comes first.
  await next(rowan);
  await expect(rowan.getByRole("button", { name: "Take that one" })).toBeVisible();
  await rowan.getByRole("button", { name: "Keep what stands here" }).click();
  await saved(rowan);
  await expect(field(priya)).toHaveValue("Librarian of seeds and bulbs");

  // The same again on one's own second device; the other value is taken.
  await field(priya).fill("First of two");
  await rowan.route("**/changes**", (route) => route.abort());
  await kept(priya, "First of two");
  await field(rowan).fill("Second of two");
  await expect(rowan.getByRole("button", { name: "Take that one" })).toBeVisible();
  await rowan.getByRole("button", { name: "Take that one" }).click();
  await expect(field(rowan)).toHaveValue("First of two");
  await rowan.unroute("**/changes**");

  // Withdrawn while both have it open: both are told, by themselves.
  await page.goto(packet);
  await page.getByText("Withdraw", { exact: true }).click();
  await page.getByRole("button", { name: "Withdraw packet" }).click();
  await expect(rowan.getByText(/To open this page, use the link in our message|closed/)).toBeVisible();
  for (const client of clients) await client.context().close();
});

test("what was typed just before the tab closed is there again, and lies in the browser as nobody can read it", async ({
  page,
  browser,
}) => {
  await signIn(page, "pia");
  await sendTo(page, "Tamsin Oyelaran");
  await page
    .getByRole("group", { name: /What to send/ })
    .getByText("Before your first visit")
    .click();
  await page.getByRole("button", { name: "Send it to Tamsin" }).click();
  await expect(page.getByRole("heading", { name: "Packet for Tamsin Oyelaran" })).toBeVisible();
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "Tamsin Oyelaran")), "Tamsin Oyelaran");
  await toDays(client);
  const url = client.url();
  await device.setOffline(true);
  await field(client).fill("Bee keeper by the lake");
  await expect(client.getByText(/No connection/)).toBeVisible();
  const stored = (p: Page) => p.evaluate(() => JSON.stringify({ ...localStorage, ...sessionStorage }));
  await expect.poll(() => stored(client)).toContain("kind-ledger");
  expect(await stored(client)).not.toMatch(/Bee keeper|by the lake|occupation|value/);
  await client.close({ runBeforeUnload: false });

  await device.setOffline(false);
  const again = await device.newPage();
  await again.goto(url);
  await expect(field(again)).toHaveValue("Bee keeper by the lake");
  // Saved by this page, or by the last breath of the closed one, which a busy machine lets out once the line is back:
  // nothing is left to be saved either way.
  await expect.poll(() => stored(again)).toBe("{}");
  await again.reload();
  await expect(field(again)).toHaveValue("Bee keeper by the lake");
  await device.close();
});

const small = (index: number, title: string, more: object[]): string =>
  JSON.stringify({
    resourceType: "Questionnaire",
    url: `https://rooms.example/small-${index}`,
    version: "1",
    title,
    status: "active",
    language: "en",
    code: [{ system: "https://kind-ledger.example/kind", code: "intake" }],
    item: [{ linkId: "call", type: "string", text: "Whom may we call if you feel faint?", required: true }, ...more],
  });
test("a standing packet goes out with a leaflet; what it asks twice is answered once; and the practice has the last word", async ({
  page,
  browser,
}) => {
  await signIn(page, "pia");
  for (const [number, title] of [
    [1, "Walking group"],
    [2, "Water group"],
  ] as const) {
    await page.goto("/library");
    const [chooser] = await Promise.all([
      page.waitForEvent("filechooser"),
      page.getByRole("button", { name: "Choose a questionnaire file" }).click(),
    ]);
    await chooser.setFiles({
      name: `small-${number}.json`,
      mimeType: "application/json",
      buffer: Buffer.from(
        small(number, title, [
          { linkId: `own-${number}`, type: "string", text: `What do you hope for from the ${title.toLowerCase()}?` },
        ]),
      ),
    });
    await expect(page.getByRole("heading", { name: title })).toBeVisible();
    await page.getByRole("button", { name: "Put in use" }).click();
    await expect(page.getByText("In use", { exact: true })).toBeVisible();
  }
  await page.goto("/library/standing");
  const pdf = Buffer.from(plainSheet());
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Choose a file" }).click(),
  ]);
  await chooser.setFiles({ name: "Finding us by the lake.pdf", mimeType: "application/pdf", buffer: pdf });
  await expect(page.getByRole("link", { name: "Finding us by the lake.pdf" })).toBeVisible();
  await page.getByLabel("Title").fill("Groups");
  for (const title of ["Water group", "Walking group"]) {
    await page.getByRole("button", { name: /Add a questionnaire/ }).click();
    await page.getByRole("option", { name: new RegExp(title) }).click();
  }
  await page.getByRole("button", { name: "Move Walking group up" }).click();
  await page.getByRole("group", { name: "Leaflets that go with it" }).getByText("Finding us by the lake.pdf").click();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("button", { name: "Change Groups" })).toBeVisible();
  await expectNoViolations(page, "standing packets");

  await page.goto("/office/pages");
  await page.getByLabel("Thank-you text in English").fill("See you at the lake.");
  await page.getByLabel(/Link after finishing/).fill("http://rooms.example");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(/Type an address that begins with https/).first()).toBeVisible();
  await page.getByLabel(/Link after finishing/).fill("https://rooms.example/lake");
  await page.getByText("Practitioners may look at answers before they are returned").click();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(/Type an address that begins/)).toHaveCount(0);

  await sendTo(page, "Edda Marsh");
  await page.getByRole("button", { name: /Standing packet/ }).click();
  await page.getByRole("option", { name: "Groups" }).click();
  await expect(page.getByRole("checkbox", { name: /Walking group/ })).toBeChecked();
  await page.getByText("Each session by the same link").click();
  await page.getByRole("button", { name: "Send all 2 to Edda" }).click();
  await expect(page.getByText("The same link asks again each session")).toBeVisible();
  const packet = page.url();
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "Edda Marsh")), "Edda Marsh");
  await expect(client.getByRole("heading", { name: "Walking group" })).toBeVisible();
  const [leaflet] = await Promise.all([
    client.waitForEvent("download"),
    client.getByRole("link", { name: "Finding us by the lake.pdf" }).click(),
  ]);
  expect(leaflet.suggestedFilename()).toBe("Finding us by the lake.pdf");
  await client.getByLabel(/Whom may we call/).fill("My sister Ada");
  await saved(client);
  await next(client);
  await expect(client.getByRole("heading", { name: "Water group" })).toBeVisible();
  await expect(client.getByLabel(/Whom may we call/)).toHaveValue("My sister Ada");
  await expect(client.getByText("You gave this answer in “Walking group”.")).toBeVisible();
  await expectNoViolations(client, "answered before");
  await next(client);

  // A practitioner looks before it is back, and the journey says so.
  const maren = await (await browser.newContext({ locale: "en-GB", viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(maren, "maren");
  await maren.goto(packet);
  await maren.getByRole("link", { name: "Look at answers so far" }).click();
  await expect(maren.getByText("They are still writing.")).toBeVisible();
  await expect(maren.getByText("My sister Ada").first()).toBeVisible();
  await expectNoViolations(maren, "looking before it is back");
  await client.getByRole("button", { name: /^Send to/ }).click();
  await expect(client.getByText("See you at the lake.")).toBeVisible();
  await expect(client.getByRole("link", { name: /Go on: rooms.example/ })).toHaveAttribute(
    "href",
    "https://rooms.example/lake",
  );
  await expect(client.getByText(/The same link asks you again from \d+ \w+ 2026 on\./)).toBeVisible();
  await expectNoViolations(client, "after it was sent");
  await maren.goto(packet);
  await expect(maren.getByText("Looked at by staff before it came back")).toBeVisible();
  await maren.context().close();
  await device.close();
});

test("one packet is written to many, chosen by what came back when; a link is copied for a channel of one's own", async ({
  page,
}) => {
  await signIn(page, "pia");
  await page.goto("/send/many");
  await expect(page.getByText("1 cannot be reached")).toBeVisible();
  await page.getByRole("group", { name: "What to send" }).getByText("Walking group").click();
  await page
    .getByRole("button", { name: /Questionnaire/ })
    .last()
    .click();
  await page.getByRole("option", { name: "Consent to care" }).click();
  await page.getByRole("button", { name: /Those/ }).click();
  await page.getByRole("option", { name: "who never returned it", exact: true }).click();
  await page.getByRole("button", { name: "Choose none" }).click();
  await expect(page.getByRole("button", { name: "Send to 0 people" })).toBeDisabled();
  await page.getByText("Cosmo Rinaldi", { exact: true }).click();
  await page.getByText("Bram Okafor", { exact: true }).click();
  await expect(page.getByText(/2 people get a letter each: 2 by e-mail, 0 by text/)).toBeVisible();
  await expectNoViolations(page, "sending to many");
  await page.getByRole("button", { name: "Send to 2 people" }).click();
  await expect(page.getByText("2 of 2 written to.")).toBeVisible();
  await expectNoViolations(page, "a mailing");
  await page.getByRole("link", { name: "Cosmo Rinaldi" }).click();
  await page.getByRole("button", { name: "Copy a link for Cosmo Rinaldi" }).click();
  await expect(page.getByText("Whoever opens it still has to prove who they are")).toBeVisible();
  const link = await page.getByLabel("Their link").inputValue();
  expect(link).toMatch(/\/p\/[\w-]{40,}$/);
  await expectNoViolations(page, "a copied link");
  await page.goto(new URL(link).pathname);
  await expect(page.getByRole("heading", { name: "Is it you?" })).toBeVisible();
});

test("on a slow line that loses every second reply, each keystroke ends where it belongs, and the page speaks every language without a fault", async ({
  page,
  browser,
}) => {
  await signIn(page, "pia");
  await sendTo(page, "Hugo Lindgren");
  await page
    .getByRole("group", { name: /What to send/ })
    .getByText("Before your first visit")
    .click();
  await page
    .getByRole("group", { name: /What to send/ })
    .getByText("Consent to care")
    .click();
  await page.getByRole("button", { name: "Send all 2 to Hugo" }).click();
  await expect(page.getByRole("heading", { name: "Packet for Hugo Lindgren" })).toBeVisible();
  const link = linkIn(await fetchPost(page, "Personal link", "Hugo Lindgren"));
  const device = await newDevice(browser);
  const client = await device.newPage();
  for (const language of ["en", "es", "fr", "ar"]) {
    await client.goto(`${link}?in=${language}`);
    await expect(client.locator(`[lang="${language}"]`).first()).toBeVisible();
    await expectNoViolations(client, `the door in ${language}`);
  }
  await passDoor(client, page, link, "Hugo Lindgren");
  // Slow 3G: 400 kbit/s, 400 ms there and back.
  const line = await device.newCDPSession(client);
  await line.send("Network.enable");
  await line.send("Network.emulateNetworkConditions", {
    offline: false,
    latency: 400,
    downloadThroughput: 50_000,
    uploadThroughput: 50_000,
  });
  let sent = 0;
  let lost = 0;
  await client.route("**/answers", async (route) => {
    if (sent++ % 2 === 0) {
      lost++;
      await route.fetch();
      await route.abort();
    } else await route.continue();
  });
  await toDays(client);
  const words = "Night porter, and a grower of pears";
  await field(client).pressSequentially(words, { delay: 90 });
  await client.getByText("Once or twice a week").click();
  await client.getByLabel(/Who do you turn to/).pressSequentially("My brother", { delay: 90 });
  await expect
    .poll(() =>
      client.evaluate(async () => {
        const { parts } = (await (await fetch(`${location.pathname}/changes?since=-1`)).json()) as {
          parts: { kept: { change: { key: string; values: { value: unknown }[] } }[] }[];
        };
        return parts
          .flatMap((p) => p.kept.map((k) => `${k.change.key}=${JSON.stringify(k.change.values.map((v) => v.value))}`))
          .sort();
      }),
    )
    .toEqual([expect.stringMatching(/^movement=/), `occupation=["${words}"]`, 'support=["My brother"]']);
  expect(lost).toBeGreaterThan(0);
  await saved(client);
  await expect(client.getByRole("button", { name: "Take that one" })).toHaveCount(0);
  await client.unroute("**/answers");
  await line.send("Network.emulateNetworkConditions", {
    offline: false,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: -1,
  });

  // Each kind of page, in each language and its own direction; what was written is there in all of them.
  for (const language of ["es", "fr", "ar"]) {
    await client.evaluate(async (to) => {
      await fetch(`${location.pathname}/language`, { method: "POST", body: JSON.stringify({ language: to }) });
    }, language);
    for (const step of [1, 4, 6, 7, 8]) {
      await client.goto(`${new URL(client.url()).pathname}?s=${step}`);
      await expect(
        client.locator(`[lang="${language}"][dir="${language === "ar" ? "rtl" : "ltr"}"]`).first(),
      ).toBeVisible();
      await expectNoViolations(client, `page ${step} in ${language}`);
    }
    await expect(client.getByText(words)).toBeVisible();
  }
  await device.close();
});
