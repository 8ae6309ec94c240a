import { expect, type Locator, type Page } from "@playwright/test";
import { writeQuestionnaire } from "../../src/core/fhir";
import { emptyQuestionnaire, newLine, type Item } from "../../src/core/questionnaire";
import { test } from "./practice";
import { codeIn, fetchPost, linkIn, newDevice, next, passDoor, sendOnly, signIn } from "./steps";

/** Counts what somebody does: each press, and each field that is typed into, is one action. */
class Hand {
  actions = 0;
  async press(what: Locator): Promise<void> {
    this.actions++;
    await what.click();
  }
  async type(where: Locator, text: string): Promise<void> {
    this.actions++;
    await where.fill(text);
  }
}
const button = (page: Page, name: string | RegExp) => page.getByRole("button", { name });

test("the usual packet goes to a visit in 2 actions, and to somebody new in 5", async ({ page }) => {
  await signIn(page, "pia");
  await page.goto("/day");
  const visit = new Hand();
  await visit.press(page.getByRole("link", { name: "Send questionnaires: Ines Halvorsen" }));
  await visit.press(button(page, /^Send all \d+ to Ines/));
  await expect(page.getByRole("heading", { name: "Packet for Ines Halvorsen" })).toBeVisible();
  expect(visit.actions).toBeLessThanOrEqual(2);

  await page.goto("/day");
  const fresh = new Hand();
  await fresh.press(page.getByRole("link", { name: "Send to somebody new" }));
  await fresh.type(page.getByLabel("First name"), "Marit");
  await fresh.type(page.getByLabel("E-mail", { exact: true }), "marit@mail.example");
  await fresh.press(button(page, "Continue"));
  await fresh.press(button(page, /^Send (it|all \d+) to Marit/));
  await expect(page.getByRole("heading", { name: "Packet for Marit" })).toBeVisible();
  expect(fresh.actions).toBeLessThanOrEqual(5);
});

test("one packet goes to twenty people in 4 actions", async ({ page }) => {
  await signIn(page, "pia");
  await page.goto("/people");
  const hand = new Hand();
  await hand.press(page.getByRole("link", { name: "Send to many" }));
  await hand.press(page.getByRole("group", { name: "What to send" }).getByText("How you have been: PHQ-9"));
  await hand.press(button(page, /^Send to \d+ people/));
  await expect(page.getByText(/written to|Writing/).first()).toBeVisible();
  expect(hand.actions).toBeLessThanOrEqual(4);
});

/** Single facts first, then narratives. */
const asked = [
  ["pronouns", "emergency-name", "emergency-relation", "family-doctor", "payer", "insurer", "member-number"],
  ["referred-by", "alcohol", "tobacco", "movement", "occupation", "pregnancy", "preferred-name", "address"],
  ["earlier-care", "inpatient-care", "living", "support", "money", "legal", "hobbies", "faith", "eating"],
].flat();
const title = "Twenty-four lines";
const questionnaire = JSON.stringify(
  writeQuestionnaire({
    ...emptyQuestionnaire("urn:twenty-four-lines", title, "intake", "x"),
    status: "active",
    items: asked.map(
      (field, index) =>
        ({
          ...newLine(index < 14 ? "short-text" : "long-text", field),
          text: `Line ${index + 1}`,
          posting: { field, rule: index < 15 ? "ask" : "add" },
        }) as Item,
    ),
  }),
);

test("24 answers of which 5 differ from what is on file are charted with 8 actions, and those that all agree with 2", async ({
  page,
  browser,
}) => {
  const who = "Bram Okafor";
  await signIn(page, "maren");
  await page.goto("/library");
  await page
    .locator("input[type=file]")
    .last()
    .setInputFiles({ name: "lines.json", mimeType: "application/fhir+json", buffer: Buffer.from(questionnaire) });
  await page.waitForURL(/\/library\/[0-9a-f-]{36}/);
  await page.goto(`${new URL(page.url()).pathname.replace(/\/compose$/, "")}/compose`);
  await button(page, "Put in use").click();
  await page.waitForURL(/\/library\/[0-9a-f-]{36}$/);
  await page.goto("/people");
  const chart = (await page.getByRole("main").getByRole("link", { name: who, exact: true }).getAttribute("href"))!;
  const returned = async (answers: readonly string[]): Promise<string> => {
    await page.goto(`${chart}/send`);
    await sendOnly(page, title);
    await button(page, /^Send it /).click();
    await expect(page.getByRole("heading", { name: `Packet for ${who}` })).toBeVisible();
    const packet = new URL(page.url()).pathname;
    const device = await newDevice(browser);
    const client = await device.newPage();
    await passDoor(client, page, linkIn(await fetchPost(page, "Personal link", who)), who);
    for (const [index, answer] of answers.entries())
      await client.getByLabel(new RegExp(`^Line ${index + 1}\\b`)).fill(answer);
    await next(client);
    await button(client, /^Send to /).click();
    await expect(client.getByRole("heading", { name: "Thank you. It is sent." })).toBeVisible();
    await device.close();
    return packet.replace("/packets/", "/returns/");
  };
  const first = asked.map((_, index) => `As it was ${index + 1}`);
  /** From the opened return into the chart; what is not suggested is for them to decide, one press each. */
  const chartIt = async (path: string): Promise<{ readonly actions: number; readonly decided: number }> => {
    await page.goto(path);
    const hand = new Hand();
    await hand.press(page.getByRole("link", { name: "Reconcile" }));
    await expect(page.getByRole("heading", { name: `Reconcile ${who}` })).toBeVisible();
    const open = page.getByRole("radiogroup").filter({ hasNot: page.getByRole("radio", { checked: true }) });
    const decided = await open.count();
    for (let left = decided; left > 0; left--) await hand.press(open.first().getByText("Take", { exact: true }));
    await hand.press(button(page, /^(Post|Settle) /));
    await expect(page.getByText("Posted.", { exact: true })).toBeVisible();
    return { actions: hand.actions, decided };
  };
  await chartIt(await returned(first));
  const differing = [0, 3, 7, 10, 12];
  const second = first.map((answer, index) => (differing.includes(index) ? `Now ${index + 1}` : answer));
  const { actions, decided } = await chartIt(await returned(second));
  expect(decided).toBe(differing.length);
  expect(actions).toBeLessThanOrEqual(8);
  for (const index of differing)
    await expect(
      page
        .getByText(`Now ${index + 1}`)
        .filter({ visible: true })
        .first(),
    ).toBeVisible();
  expect(await chartIt(await returned(second))).toEqual({ actions: 2, decided: 0 });
});

test("the door takes 3 actions where the code is sent on opening, and the page that fetches a link sends none", async ({
  page,
  browser,
}) => {
  await signIn(page, "maren");
  await page.goto("/office/door");
  await page.getByText("The code is sent as soon as the page is opened").click();
  await button(page, "Save").click();
  await expect(page.getByRole("checkbox", { name: /as soon as the page is opened/, checked: true })).toBeVisible();
  const link = linkIn(await fetchPost(page, "Personal link", "Edda Marsh"));
  // A program that looks at links in letters has no script.
  expect((await page.request.get(link)).ok()).toBe(true);
  await expect(fetchPost(page, "Door code", "Edda Marsh")).rejects.toThrow("no Door code");
  const device = await newDevice(browser);
  const client = await device.newPage();
  const hand = new Hand();
  hand.actions++;
  await client.goto(link);
  await expect(client.getByText("A code is on its way")).toBeVisible();
  const code = codeIn(await fetchPost(page, "Door code", "Edda Marsh"));
  await hand.type(client.getByLabel("Six digits from our message"), code);
  await hand.press(button(client, "Open my page"));
  await expect(client).toHaveURL(/\/f\//);
  expect(hand.actions).toBeLessThanOrEqual(3);
  await device.close();
});

test("what came back is posted with 3 actions and one for each line that differs, and a note drafted with one", async ({
  page,
}) => {
  await signIn(page, "maren");
  await page.goto("/returns");
  const posting = new Hand();
  await posting.press(page.getByRole("link", { name: "Read Hugo Lindgren" }));
  await posting.press(page.getByRole("link", { name: "Reconcile" }));
  await expect(page.getByRole("heading", { name: "Reconcile Hugo Lindgren" })).toBeVisible();
  // What is not suggested is for them to decide: one press each.
  const open = page.getByRole("radiogroup").filter({ hasNot: page.getByRole("radio", { checked: true }) });
  const undecided = await open.count();
  for (let left = undecided; left > 0; left--) await posting.press(open.first().locator("label").first());
  await posting.press(button(page, /^Post /));
  await expect(page.getByText("Posted.", { exact: true })).toBeVisible();
  expect(posting.actions).toBeLessThanOrEqual(3 + undecided);
  // Twenty answers, four of which differ from what is on file: from the opened return to the chart.
  expect(posting.actions - 1).toBeLessThanOrEqual(8);

  await page.goto("/returns");
  await page.getByRole("link", { name: "Read Hugo Lindgren" }).click();
  const note = new Hand();
  await note.press(button(page, /Draft note/).first());
  await expect(page).toHaveURL(/\/notes\//);
  expect(note.actions).toBe(1);
});
