import type { Browser } from "@playwright/test";
import type { Driver } from "./driver";

/** The browser that all other tests run in. */
export async function chromiumDriver(browser: Browser): Promise<Driver> {
  const device = await browser.newContext({ viewport: { width: 390, height: 664 }, locale: "en-GB" });
  let page = await device.newPage();
  return {
    name: "Chromium",
    goto: async (url) => void (await page.goto(url)),
    evaluate: <T>(body: string, ...args: readonly unknown[]) =>
      page.evaluate(([code, given]) => new Function("args", code as string)(given) as T, [body, args] as const),
    press: (key) => page.keyboard.press(key),
    type: (text) => page.keyboard.type(text),
    async draw([first, ...points]) {
      await page.mouse.move(first!.x, first!.y);
      await page.mouse.down();
      for (const point of points) await page.mouse.move(point.x, point.y);
      await page.mouse.up();
    },
    async anotherTab() {
      const next = await device.newPage();
      await page.close({ runBeforeUnload: false });
      page = next;
    },
    close: () => device.close(),
  };
}
