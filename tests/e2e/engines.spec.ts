import { existsSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { chromiumDriver } from "../engines/chromium";
import type { Driver } from "../engines/driver";
import { everyKind } from "../engines/every-kind";
import { firefoxDriver } from "../engines/firefox";
import { Line } from "../engines/line";
import { ClientWalk } from "../engines/walk";
import { webkitDriver } from "../engines/webkit";
import { test } from "./practice";
import { codeIn, fetchPost, linkIn, signIn } from "./steps";

/** A packet of every kind of question and a measure, to somebody of the practice. */
async function sendEveryKind(page: Page, name: string): Promise<string> {
  await signIn(page, "pia");
  await page.goto("/library");
  if ((await page.getByRole("link", { name: "Every kind" }).count()) === 0) {
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Choose a questionnaire file" }).click();
    await (
      await chooser
    ).setFiles({ name: "every.json", mimeType: "application/json", buffer: Buffer.from(everyKind) });
    await expect(page.getByRole("heading", { name: "Every kind" })).toBeVisible();
    await page.getByRole("button", { name: "Put in use" }).click();
    await expect(page.getByText("In use", { exact: true })).toBeVisible();
  }
  await page.goto("/people");
  await page.getByRole("link", { name: new RegExp(name) }).click();
  await page.getByRole("link", { name: "Send questionnaires" }).click();
  const what = page.getByRole("group", { name: /What to send/ });
  await expect(what).toBeVisible();
  for (const label of await what.locator("label").all()) {
    const wanted = /Every kind|PHQ-9/.test(await label.innerText());
    if ((await label.getByRole("checkbox").isChecked()) !== wanted) await label.click();
  }
  await page.getByRole("button", { name: /^Send all 2 to/ }).click();
  await expect(page.getByRole("heading", { name: `Packet for ${name}` })).toBeVisible();
  return linkIn(await fetchPost(page, "Personal link", name));
}

const engines: readonly {
  readonly name: string;
  readonly needs: string;
  readonly client: string;
  start(page: Page): Promise<Driver>;
}[] = [
  { name: "Chromium", needs: "", client: "Bram Okafor", start: (page) => chromiumDriver(page.context().browser()!) },
  { name: "Firefox", needs: "/usr/bin/firefox-esr", client: "Cosmo Rinaldi", start: () => firefoxDriver() },
  { name: "WebKit", needs: "/usr/bin/WebKitWebDriver", client: "Tamsin Oyelaran", start: () => webkitDriver() },
];
for (const { name, needs, client, start } of engines)
  test(`a client walks a packet of every kind of question by keyboard in ${name}: line lost, tab closed, in Arabic, signed by drawing`, async ({
    page,
    baseURL,
  }) => {
    if (needs !== "" && !existsSync(needs))
      throw new Error(`${name} is not here. apt-get install webkit2gtk-driver xvfb firefox-esr`);
    const link = await sendEveryKind(page, client);
    const line = new Line(Number(new URL(baseURL!).port));
    const base = await line.start();
    const driver = await start(page);
    try {
      const code = async () => codeIn(await fetchPost(page, "Door code", client));
      const walk = new ClientWalk({ driver, line, base, link, code });
      await walk.throughDoor();
      await walk.goOffline();
      expect(await walk.fillPage()).toBe("Section b");
      await walk.closeTab();
      await walk.fillPage();
      await walk.speak("ar");
      // Every point of a fast stroke is kept, whichever events the engine put together.
      expect(await walk.signByDrawing("ar")).toBeGreaterThanOrEqual(25);
      await walk.fillPage("ar");
      await walk.sendIn("ar");
      expect(walk.trouble).toEqual([]);
      expect(walk.covered).toEqual([]);
    } catch (error) {
      // What the page itself said tells more than what was waited for.
      const said = await driver
        .evaluate<unknown>("return [window.__trouble, document.body.innerText.slice(0, 600)];")
        .catch(() => []);
      throw new Error(`${String(error)} The page said: ${JSON.stringify(said)}`, { cause: error });
    } finally {
      await driver.close();
      line.stop();
    }
  });
