import { launch, type KeyInput } from "puppeteer-core";
import type { Driver } from "./driver";

/** Debian's Firefox, by WebDriver BiDi. */
export async function firefoxDriver(): Promise<Driver> {
  const browser = await launch({
    browser: "firefox",
    executablePath: process.env["FIREFOX"] ?? "/usr/bin/firefox-esr",
    headless: true,
    args: ["--width=390", "--height=750"],
    extraPrefsFirefox: { "intl.accept_languages": "en-GB" },
  });
  // Not the tab it begins with, which is not in front: keys that press would go nowhere there.
  let page = await browser.newPage();
  await page.setViewport({ width: 390, height: 664 });
  return {
    name: "Firefox",
    goto: async (url) => void (await page.goto(url)),
    evaluate: <T>(body: string, ...args: readonly unknown[]) =>
      page.evaluate((code: string, given: readonly unknown[]) => new Function("args", code)(given) as T, body, args),
    press: (key) => page.keyboard.press((key === "Space" ? " " : key) as KeyInput),
    type: (text) => page.keyboard.type(text),
    async draw([first, ...points]) {
      await page.mouse.move(first!.x, first!.y);
      await page.mouse.down();
      for (const point of points) await page.mouse.move(point.x, point.y);
      await page.mouse.up();
    },
    async anotherTab() {
      const next = await browser.newPage();
      await page.close();
      page = next;
      await page.setViewport({ width: 390, height: 664 });
    },
    close: () => browser.close(),
  };
}
