import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { expect } from "@playwright/test";
import sharp from "sharp";
import { clientWords } from "../../src/i18n/client-words";
import { fieldsByQpdf, sleepDiary } from "../support/pdf";
import { test } from "./practice";
import { choose, expectNoViolations, fetchPost, linkIn, newDevice, next, passDoor, saved, signIn } from "./steps";

test("a PDF becomes a worksheet: filled in on the phone with a photo, signed at its place, and back as the same PDF", async ({
  page,
  browser,
}, info) => {
  await signIn(page);
  await page.goto("/library");
  const bring = async (name: string, bytes: Uint8Array): Promise<void> => {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose a PDF" }).click();
    await (await chooser).setFiles({ name, mimeType: "application/pdf", buffer: Buffer.from(bytes) });
  };
  await bring("Trap.pdf", sleepDiary("/OpenAction << /S /JavaScript /JS (1) >>"));
  await expect(
    page.getByText("Trap.pdf was not taken. Nothing was stored. The PDF holds something that runs"),
  ).toBeVisible();
  await bring("Sleep diary.pdf", sleepDiary());
  await expect(page.getByText("6 answers are written into Sleep diary.pdf")).toBeVisible();
  await page.getByRole("link", { name: "Continue in the Composer" }).click();
  const rows = page.getByRole("group", { name: "Outline" }).locator('textarea[id^="line-"]');
  const kind = async (name: string): Promise<void> => {
    await page.getByRole("button", { name: /Kind$/ }).click();
    await page.getByRole("option", { name, exact: true }).click();
  };
  const count = 8;
  await expect(rows).toHaveCount(count);
  await rows.last().press("Enter");
  await expect(rows).toHaveCount(count + 1);
  await rows.last().fill("A photo of your bedside");
  await kind("File or photo");
  await rows.last().press("Enter");
  await expect(rows).toHaveCount(count + 2);
  await kind("Place to sign");
  await rows.last().fill("I wrote this myself.");
  // Where it stands on the PDF, moved by a millimetre with an arrow key.
  await page.getByText("Stands on the PDF too").click();
  const foot = page.getByLabel("From the foot, mm");
  const spot = page.getByRole("application", { name: /mm from the foot of page 1/ });
  await expect(spot).toBeVisible();
  const before = Number(await foot.inputValue());
  await spot.focus();
  for (let pressed = 0; pressed < 20; pressed++) await spot.press("ArrowUp");
  await expect(foot).toHaveValue(String(before + 20));
  await page.getByLabel("Width, mm").fill("70");
  await saved(page);
  await expectNoViolations(page, "Composer with a file and a place to sign");
  await page.getByRole("button", { name: "Put in use" }).click();
  await expect(page.getByText("The first version.")).toBeVisible();

  await page.goto("/day");
  await page.getByRole("link", { name: "Send questionnaires: Ines Halvorsen" }).click();
  for (const title of ["Before your first visit", "Consent to care", "How you have been", "Sleep diary"])
    await page
      .getByRole("group", { name: /What to send/ })
      .getByText(new RegExp(`^${title}`))
      .first()
      .click();
  await page.getByRole("button", { name: /^Send it to Ines/ }).click();
  await expect(page.getByRole("heading", { name: "Packet for Ines Halvorsen" })).toBeVisible();

  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", "Ines Halvorsen")), "Ines Halvorsen");
  const [blank] = await Promise.all([
    client.waitForEvent("download"),
    client.getByRole("link", { name: "Get the empty sheet (PDF)" }).click(),
  ]);
  expect(new Uint8Array(readFileSync(await blank.path()))).toEqual(sleepDiary());
  await client.getByLabel("When did you go to bed?").fill("23:10");
  await choose(client, /How did you sleep/, "Badly");
  await next(client);
  await client.getByLabel(/went through your mind/).fill("The lake.");
  const add = async (name: string, content: Buffer): Promise<void> => {
    const path = info.outputPath(name);
    if (!existsSync(path)) writeFileSync(path, content);
    const chooser = client.waitForEvent("filechooser");
    await client.getByRole("button", { name: "Add a photo or file" }).click();
    await (await chooser).setFiles(path);
  };
  await add("notes.jpg", Buffer.from("these are no pixels"));
  await expect(client.getByRole("alert").filter({ hasText: "is not a photo or a PDF file" })).toBeVisible();
  // The reply to the first try is lost after the file was kept: the second try is known for the same.
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#6a3459" } })
    .jpeg()
    .toBuffer();
  const tries: string[] = [];
  client.on("request", (r) => {
    if (r.url().includes("/files?")) tries.push(r.url());
  });
  await client.route(
    "**/files?*",
    async (route) => {
      await route.fetch();
      await route.abort();
    },
    { times: 1 },
  );
  await add("bedside.jpg", picture);
  await expect(
    client
      .getByRole("alert")
      .filter({ hasText: clientWords("fill", "en")("fileAgain", { name: "\u2068bedside.jpg\u2069" }) }),
  ).toBeVisible();
  await add("bedside.jpg", picture);
  await expect(client.getByRole("button", { name: /Take away .*bedside\.jpg/ })).toBeVisible();
  expect([tries.length, new Set(tries).size]).toEqual([2, 1]);
  await saved(client);
  await expectNoViolations(client, "a page with a file");
  await client.reload();
  await expect(client.getByText("bedside.jpg", { exact: true })).toBeVisible();
  await next(client);
  await expect(client.getByText("I wrote this myself.")).toBeVisible();
  await client.getByText("I agree to sign on this screen").click();
  await client.getByRole("button", { name: "Sign", exact: true }).click();
  await client.getByRole("button", { name: /^Send to/ }).click();
  await expect(client.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();
  await device.close();

  await page.goto("/returns");
  await page.getByRole("link", { name: "Ines Halvorsen", exact: true }).click();
  await expect(page.getByText("I wrote this myself.")).toBeVisible();
  const [filled] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Filled sheet" }).click(),
  ]);
  expect(filled.suggestedFilename()).toBe("Sleep diary.pdf");
  expect(fieldsByQpdf(new Uint8Array(readFileSync(await filled.path())))).toMatchObject({
    bed_at: "23:10",
    slept: "/Badly",
    thoughts: "The lake.",
  });
  const [photo] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "bedside.jpg" }).click(),
  ]);
  expect((await sharp(readFileSync(await photo.path())).metadata()).width).toBe(60);
});

test("the practice adds a chart field of its own, asks for it, and lets an option and a follow-up hang on a score", async ({
  page,
}) => {
  await signIn(page);
  await page.goto("/office/fields");
  await page.getByLabel("Name", { exact: true }).fill("Instrument");
  await page.getByRole("button", { name: "Add chart field" }).click();
  await expect(page.getByRole("button", { name: "Retire Instrument" })).toBeVisible();
  await page.goto("/library");
  await page.getByLabel("Title", { exact: true }).fill("Hands and wrists");
  await page.getByRole("button", { name: "Open in the Composer" }).click();
  const rows = page.getByRole("group", { name: "Outline" }).locator('textarea[id^="line-"]');
  const pick = async (label: string | RegExp, option: string): Promise<void> => {
    await page.getByRole("button", { name: label }).click();
    await page.getByRole("option", { name: option, exact: true }).click();
  };
  await rows.first().fill("What do you play?");
  await pick(/The answer goes to/, "Instrument");
  await expect(page.getByText("to Instrument")).toBeVisible();
  await rows.first().press("Enter");
  await expect(rows.nth(1)).toBeFocused();
  await page.keyboard.type("() How sore are your hands?");
  await page.getByLabel("Options", { exact: true }).fill("Not at all = 0\nA little = 1\nVery = 2");
  await page.getByRole("button", { name: "Score", exact: true }).click();
  await expect(rows.nth(2)).toBeFocused();
  await page.keyboard.type("Soreness");
  await page.getByRole("group", { name: "Settings of Soreness" }).getByText("How sore are your hands?").click();
  await rows.last().press("Enter");
  await expect(rows.nth(3)).toBeFocused();
  await page.keyboard.type("() What helps?");
  await page.getByLabel("Options", { exact: true }).fill("Rest\nPlaying on");
  await pick(/An option only for some/, "Playing on");
  const rule = page.getByRole("group", { name: "When Playing on is offered" });
  await rule.getByRole("button", { name: /Comparison/ }).click();
  await page.getByRole("option", { name: "is at most", exact: true }).click();
  await rule.getByRole("textbox", { name: "Answer" }).fill("1");
  await expect(rule.getByText("Shown when “Soreness” is at most 1.")).toBeVisible();
  await expect(page.getByText("one option only for some")).toBeVisible();
  const client = page.getByRole("complementary", { name: "What the client sees" });
  await choose(page, /How sore/, "A little");
  await expect(client.getByRole("radiogroup", { name: /What helps/ }).getByText("Playing on")).toBeVisible();
  await choose(page, /How sore/, "Very");
  await expect(client.getByRole("radiogroup", { name: /What helps/ }).getByText("Playing on")).toBeHidden();
  await rule.getByRole("textbox", { name: "Answer" }).fill("-1");
  await expect(page.getByText("No answers can ever offer “Playing on”").first()).toBeVisible();
  await expectNoViolations(page, "Composer with a rule on an option");

  // A line is dragged by a finger as by a mouse.
  const words = () => rows.evaluateAll((all) => all.map((el) => (el as HTMLTextAreaElement).value));
  const grip = async (nth: number) =>
    (await page.locator("[data-line]").nth(nth).locator('[title^="Drag to move"]').boundingBox())!;
  const middle = (b: { x: number; y: number; width: number; height: number }) => ({
    x: b.x + b.width / 2,
    y: b.y + b.height / 2,
  });
  const before = await words();
  await rows.first().scrollIntoViewIfNeeded();
  const [from, to] = [middle(await grip(0)), middle(await grip(1))];
  const finger = await page.context().newCDPSession(page);
  const touch = (type: "touchStart" | "touchMove" | "touchEnd", at?: { x: number; y: number }) =>
    finger.send("Input.dispatchTouchEvent", { type, touchPoints: at ? [at] : [] });
  await touch("touchStart", from);
  await touch("touchMove", { x: from.x, y: (from.y + to.y) / 2 });
  await touch("touchMove", to);
  await touch("touchEnd");
  await expect.poll(words).toEqual([before[1], before[0], ...before.slice(2)]);
  await page.mouse.move(...(Object.values(middle(await grip(0))) as [number, number]));
  await page.mouse.down();
  await page.mouse.move(...(Object.values(middle(await grip(1))) as [number, number]), { steps: 4 });
  await page.mouse.up();
  await expect.poll(words).toEqual(before);
});
