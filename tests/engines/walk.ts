import { clientWords } from "../../src/i18n/client-words";
import type { Driver } from "./driver";
import type { Line } from "./line";

/** What holds the focus: never the page itself, whose text would seem to be a name. */
interface Focused {
  readonly tag: string;
  readonly type: string;
  readonly role: string;
  readonly name: string;
  readonly value: string;
  readonly popup: string;
  /** Of a radio or box: one of its group is chosen. */
  readonly chosen: boolean;
  readonly disabled: boolean;
  readonly open: boolean;
  /** It is in sight, with nothing that stays in place over it. */
  readonly seen: boolean;
}
const describe = `
const el = document.activeElement;
if (!el || el === document.body || el === document.documentElement) return null;
const text = (id) => (document.getElementById(id) || {}).textContent || "";
const labelled = (el.getAttribute("aria-labelledby") || "").split(" ").filter(Boolean).map(text).join(" ");
const name = el.getAttribute("aria-label") || labelled || (el.labels && el.labels[0] && el.labels[0].textContent) || (/^(BUTTON|A|SUMMARY|H1|H2)$/.test(el.tagName) ? el.textContent : "");
const group = el.closest("[role=radiogroup], [role=group]");
const box = el.getBoundingClientRect();
const shown = el.type === "radio" || el.type === "checkbox" ? (el.closest("label") || el).getBoundingClientRect() : box;
const x = shown.left + shown.width / 2, y = Math.min(shown.top + shown.height / 2, shown.bottom - 2);
const over = document.elementFromPoint(x, y);
const host = el.closest("label") || el;
return {
  tag: el.tagName, type: el.type || "", role: el.getAttribute("role") || "", name: name.trim(),
  value: el.value !== undefined && el.type !== "radio" && el.type !== "checkbox" ? String(el.value) : el.getAttribute("aria-valuenow") || "",
  popup: el.getAttribute("aria-haspopup") || "",
  chosen: group ? group.querySelector("input:checked") !== null : el.checked === true,
  disabled: el.disabled === true || el.getAttribute("aria-disabled") === "true",
  open: el.tagName === "SUMMARY" ? el.parentElement.open : el.getAttribute("aria-expanded") === "true",
  seen: over !== null && (host.contains(over) || over.contains(host)),
};`;
const heading = `return (document.querySelector("main h1") || document.querySelector("h1") || {}).textContent || "";`;

/** Waits until something is so; gives what it is. */
async function until<T>(what: string, look: () => Promise<T>, isSo: (found: T) => boolean, most = 30_000): Promise<T> {
  const end = Date.now() + most;
  for (;;) {
    const found = await look().catch(() => undefined);
    if (found !== undefined && isSo(found)) return found;
    if (Date.now() > end) throw new Error(`Waited for ${what}; there is ${JSON.stringify(found)}.`);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
}
const textFor = ({ type, name }: Focused): string => {
  if (type === "email") return "ana@mail.example";
  if (type === "tel") return "020 7946 0321";
  if (type === "url") return "https://rooms.example/a";
  // Where an engine has no field of its own for times, it is a line of text.
  if (/A time/.test(name)) return type === "time" ? "0930AM" : "09:30";
  if (/whole-number/.test(name)) return "7";
  if (/decimal|amount/.test(name)) return "7.5";
  return "Some words";
};
const segments: readonly (readonly [RegExp, string])[] = [
  [/^(day|يوم|اليوم)/i, "05"],
  [/^(month|الشهر|شهر)/i, "04"],
  [/^(year|السنة|سنة|عام)/i, "1991"],
];

export interface WalkFrame {
  readonly driver: Driver;
  readonly line: Line;
  /** Where the practice is, over this line. */
  readonly base: string;
  readonly link: string;
  /** The code that was sent to them last. */
  readonly code: () => Promise<string>;
}
/** Everything that went wrong on the pages so far. */
export class ClientWalk {
  readonly trouble: string[] = [];
  /** What the focus was on, and could not be seen. */
  readonly covered: string[] = [];
  constructor(private readonly frame: WalkFrame) {}
  private get driver(): Driver {
    return this.frame.driver;
  }
  private focused = (): Promise<Focused | null> => this.driver.evaluate<Focused | null>(describe);
  heading = (): Promise<string> => this.driver.evaluate<string>(heading);
  private async collect(): Promise<void> {
    const found = await this.driver
      .evaluate<string[]>("const all = window.__trouble || []; window.__trouble = []; return all;")
      .catch(() => []);
    this.trouble.push(...found);
  }
  /** Tabs on until a control of this name has the focus. */
  async tabTo(name: RegExp, most = 80): Promise<Focused> {
    const met: string[] = [];
    for (let count = 0; count < most; count++) {
      await this.driver.press("Tab");
      const now = await this.focused();
      if (now) met.push(now.name);
      if (now && name.test(now.name)) return now;
    }
    throw new Error(
      `${this.driver.name}: nothing called ${String(name)} can be reached by Tab. Met: ${met.join(" | ")}`,
    );
  }
  async throughDoor(): Promise<void> {
    const t = clientWords("door", "en");
    await this.driver.goto(this.frame.base + this.frame.link);
    await until(
      "the door’s script",
      () =>
        this.driver.evaluate<boolean>(
          `const b = document.querySelector("form button"); return !!b && Object.keys(b).some((key) => key.startsWith("__reactProps"));`,
        ),
      Boolean,
    );
    await this.tabTo(new RegExp(`^${t("send")}$`));
    await this.driver.press("Enter");
    await until("where the code is typed", this.focused, (now) => now?.name.includes(t("codeLabel")) === true);
    await this.driver.type(await this.frame.code());
    await this.driver.press("Enter");
    await until("the first page", this.heading, (now) => now !== "" && now !== t("title"));
    await this.ready();
  }
  /** Nothing can be typed before the page's script runs. */
  async ready(): Promise<void> {
    await until(
      "a page that can be typed on",
      () =>
        this.driver.evaluate<boolean>(`const all = document.querySelector("fieldset"); return !!all && !all.disabled;`),
      Boolean,
    );
  }
  private async write(now: Focused): Promise<void> {
    await this.driver.type(textFor(now));
    if (now.type !== "time" || (await this.focused())?.value) return;
    // WebKitGTK takes no keys in a field for times; phones open a wheel there, which no driver turns.
    await this.driver.evaluate(
      `const el = document.activeElement; Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(el, "09:30"); el.dispatchEvent(new Event("input", { bubbles: true }));`,
    );
  }
  /** Answers what has the focus, if it wants an answer. */
  private async answer(now: Focused): Promise<void> {
    const { driver } = this;
    if (now.disabled) return;
    if ((now.type === "radio" || now.type === "checkbox") && !now.chosen) return driver.press("Space");
    if (now.role === "spinbutton" && now.value === "") {
      const digits = segments.find(([says]) => says.test(now.name))?.[1];
      return digits === undefined ? undefined : driver.type(digits);
    }
    if (now.tag === "SUMMARY" && !now.open && /terms/i.test(now.name)) return driver.press("Enter");
    if (now.role === "combobox" && now.tag === "INPUT" && now.value === "") {
      await driver.type("Sec");
      await driver.press("ArrowDown");
      return driver.press("Enter");
    }
    if (now.popup === "listbox" && !/Second|First|Third/.test(now.name)) {
      await driver.press("Enter");
      await until("an open list", this.focused, (there) => there?.role === "option");
      await driver.press("ArrowDown");
      await driver.press("Enter");
      await until("a closed list", this.focused, (there) => there?.popup === "listbox");
      return undefined;
    }
    if (now.tag === "BUTTON" && now.name.startsWith("Add: ")) return driver.press("Enter");
    if (
      (now.tag === "INPUT" || now.tag === "TEXTAREA") &&
      now.value === "" &&
      !["radio", "checkbox", "file"].includes(now.type)
    )
      return this.write(now);
    return undefined;
  }
  /** What is under the foot as it takes the focus comes out of it at once. */
  private comesOut = (): Promise<boolean> =>
    until("a focus in sight", this.focused, (now) => now?.seen === true, 1000).then(
      () => true,
      () => false,
    );
  private problems = (): Promise<string> =>
    this.driver.evaluate<string>(
      `return [...document.querySelectorAll("[role=alert]")].map((one) => one.textContent).join(" / ");`,
    );
  /** Fills the page that is there by keyboard alone, and presses the button that leads on. */
  async fillPage(language = "en"): Promise<string> {
    const t = clientWords("fill", language);
    const onward = new RegExp(`^(${t("next")}|${t("toReview")})$`);
    const before = await this.heading();
    let presses = 0;
    for (let count = 0; count < 250; count++) {
      await this.driver.press("Tab");
      const now = await this.focused();
      if (!now) continue;
      if (!now.seen && !(await this.comesOut())) this.covered.push(`${before}: ${now.name || now.tag}`);
      if (onward.test(now.name)) {
        await this.driver.press("Enter");
        const next = await until(
          "the next page",
          this.heading,
          (title) => title !== before,
          presses < 3 ? 4000 : 30_000,
        ).catch(() => undefined);
        await this.collect();
        if (next !== undefined) return next;
        // What still wants an answer has the focus now: on from there.
        const there = await this.focused();
        if (++presses > 3)
          throw new Error(`${this.driver.name}: “${before}” does not lead on: ${await this.problems()}`);
        if (there) await this.answer(there);
        continue;
      }
      await this.answer(now);
    }
    throw new Error(`${this.driver.name}: “${before}” has no end that Tab reaches.`);
  }
  /** What is typed while the line is down stays on the page, is said to, and is kept once it is back. */
  async goOffline(): Promise<void> {
    const says = (words: string) =>
      until(
        words,
        () => this.driver.evaluate<string>("return document.body.innerText;"),
        (text) => text.includes(words),
      );
    this.frame.line.down();
    await this.tabTo(/long-text/);
    await this.driver.type("Typed without a line");
    await says("No connection. Keep going");
    this.frame.line.up();
    await until(
      "saved after the line came back",
      () => this.driver.evaluate<string>("return document.body.innerText;"),
      (text) => /Saved \d/.test(text) && !text.includes("No connection"),
    );
    // A lost line is what it was about; what was said of it is no fault of the page.
    await this.driver.evaluate("window.__trouble = [];");
  }
  /** The tab is closed and the link opened again: no code, and where they stopped. */
  async closeTab(): Promise<void> {
    await this.collect();
    const before = await this.heading();
    await this.driver.anotherTab();
    await this.driver.goto(this.frame.base + this.frame.link);
    await until("where they stopped", this.heading, (title) => title === before);
    await this.ready();
  }
  async speak(language: string): Promise<void> {
    await this.collect();
    await this.driver.evaluate(
      `document.querySelector("details > summary[aria-label*=':']").click(); document.querySelector("button[lang=" + args[0] + "]").click();`,
      language,
    );
    await until(
      `a page in ${language}`,
      () => this.driver.evaluate<string>("return document.documentElement.lang + ' ' + document.documentElement.dir;"),
      (now) => now === `${language} ${language === "ar" ? "rtl" : "ltr"}`,
    );
    await this.ready();
  }
  /** Draws a name in a fast stroke; gives how many points of it are there. */
  async signByDrawing(language: string): Promise<number> {
    const t = clientWords("fill", language);
    const { driver } = this;
    const before = await this.heading();
    await until(
      "the ways to sign",
      () => driver.evaluate<number>(`return document.querySelectorAll("input[type=radio]").length;`),
      (n) => n === 3,
    );
    await driver.evaluate(`document.querySelectorAll("input[type=radio]")[1].click();`);
    const pad = `const pad = document.querySelector("[data-testid=signature-pad]");`;
    await until("the pad", () => driver.evaluate<boolean>(`${pad} return pad !== null;`), Boolean);
    const box = await driver.evaluate<{ x: number; y: number; width: number; height: number }>(
      `${pad} pad.scrollIntoView({ block: "center" }); const b = pad.getBoundingClientRect(); return { x: b.x, y: b.y, width: b.width, height: b.height };`,
    );
    await driver.draw(
      Array.from({ length: 31 }, (_, index) => ({
        x: box.x + 15 + (index * (box.width - 30)) / 31,
        y: box.y + box.height * (index % 2 === 0 ? 0.3 : 0.7),
      })),
    );
    const points = await until(
      "the stroke",
      () =>
        driver.evaluate<number>(
          `${pad} return (pad.querySelectorAll("path")[1].getAttribute("d").match(/[ML]/g) || []).length;`,
        ),
      (count) => count > 5,
    );
    await driver.evaluate(`document.querySelector("input[type=checkbox]").click();`);
    await this.tabTo(new RegExp(`^${t("sign")}$`));
    await driver.press("Enter");
    await until("what comes after signing", this.heading, (title) => title !== before);
    await this.collect();
    return points;
  }
  async sendIn(language: string): Promise<void> {
    const t = clientWords("fill", language);
    const send = t("send", { practice: "\u2068" }).split("\u2068")[0]!.trim();
    await this.tabTo(new RegExp(`^${send}`), 200);
    await this.driver.press("Enter");
    await until("the thanks", this.heading, (title) => title === t("doneTitle"));
    await this.collect();
  }
}
