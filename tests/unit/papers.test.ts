import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { renderBlankPaper } from "../../src/adapters/blank-paper";
import { renderOwnPaper } from "../../src/adapters/own-paper";
import { renderPaper } from "../../src/adapters/paper";
import { writtenDirection, type Instant } from "../../src/core/shared";
import { renderSignedPaper, type SignedPaper } from "../../src/adapters/signed-paper";
import { tagText } from "../../src/adapters/tag-text";
import type { ReadBlock } from "../../src/core/signing";
import { taggedWords } from "../support/pdf";

const folder = mkdtempSync(join(tmpdir(), "kl-paper-"));
let made = 0;
/** What stands on each page, as poppler reads it. */
function pages(pdf: Uint8Array): string[] {
  const path = join(folder, `${made++}.pdf`);
  writeFileSync(path, pdf);
  return execFileSync("pdftotext", ["-layout", path, "-"]).toString().split("\f").slice(0, -1);
}
const at = "2026-11-25T09:30:00Z" as Instant;
const many = <T>(make: (n: number) => T): T[] => Array.from({ length: 60 }, (_, index) => make(index));

describe("a loose page of a paper", () => {
  it("says whose it is, of which questionnaire and version, which page of how many, and when and by whom it was made", async () => {
    const all = pages(
      await renderPaper({
        practice: "Fernhollow Care Rooms",
        address: "3 Lakeside Walk, Fernhollow",
        logo: undefined,
        zone: "Europe/London",
        locale: "en-GB",
        title: "Adult intake",
        version: "3",
        client: "Ines Halvorsen",
        birthDate: "3 May 1990",
        filledBy: "Ines Halvorsen",
        visit: undefined,
        returnedAt: at,
        returnedFrom: "192.0.2.1",
        reference: "ref-1",
        madeAt: at,
        madeBy: "Maren Holloway",
        texts: [],
        lines: many((index) => ({
          partId: "p",
          key: `k${index}`,
          section: "Health",
          question: "Q",
          answer: "A",
        })) as never,
        signedWords: [],
        scores: [],
        signatures: [],
      }),
    );
    expect(all.length).toBeGreaterThan(1);
    for (const [index, page] of all.entries()) {
      expect(page).toContain("Ines Halvorsen, born 3 May 1990");
      expect(page).toContain("Adult intake, version 3");
      expect(page).toContain(`Page ${index + 1} of ${all.length}`);
      expect(page).toContain("Made 25 November 2026 at 09:30 (Europe/London) by Maren Holloway");
    }
  });
  it("begins with the practice's logo, as the picture that was given, on every kind of paper", async () => {
    const logo = {
      format: "png" as const,
      bytes: new Uint8Array(
        await sharp({ create: { width: 64, height: 16, channels: 3, background: "#2f6247" } })
          .png()
          .toBuffer(),
      ),
    };
    const head = { practice: "Fernhollow Care Rooms", address: "", logo };
    const words = { name: "Name", date: "Date", signature: "Signature" };
    const own = { language: "ar", person: "Ines", at, zone: "Europe/London", locale: "ar", parts: [] };
    for (const [what, file] of [
      ["blank", await renderBlankPaper({ ...head, title: "T", version: "1", signed: false, words, lines: [] })],
      ["own", await renderOwnPaper({ ...head, ...own })],
    ] as const)
      expect(Buffer.from(file).toString("latin1"), what).toMatch(
        /\/Subtype \/Image[^>]*\/Width 64|\/Width 64[^>]*\/Subtype \/Image/,
      );
  });
  it("says so of a copy for the client, and of a blank one leaves room for the name", async () => {
    const own = pages(
      await renderOwnPaper({
        practice: "Fernhollow Care Rooms",
        address: "3 Lakeside Walk, Fernhollow",
        logo: undefined,
        language: "en",
        person: "Ines Halvorsen",
        at,
        zone: "Europe/London",
        locale: "en-GB",
        parts: [{ title: "Adult intake", lines: many(() => ({ question: "Q", answer: "A" })) }],
      }),
    );
    expect(own.length).toBeGreaterThan(1);
    for (const page of own)
      for (const words of ["Ines Halvorsen", "Adult intake", "25 November 2026"]) expect(page).toContain(words);
    for (const [index, page] of own.entries()) expect(page).toMatch(new RegExp(`${index + 1} ?/ ?${own.length}`));
    const blank = pages(
      await renderBlankPaper({
        practice: "Fernhollow Care Rooms",
        address: "3 Lakeside Walk, Fernhollow",
        logo: undefined,
        title: "Adult intake",
        version: "3",
        signed: true,
        words: { name: "Name", date: "Date", signature: "Signature" },
        lines: many((index) => ({
          kind: "question",
          text: `Question ${index}`,
          help: undefined,
          only: undefined,
          options: [],
          rules: 2,
        })),
      }),
    );
    expect(blank.length).toBeGreaterThan(2);
    for (const [index, page] of blank.entries())
      expect(page).toMatch(new RegExp(`Name _{4,}[^]*Adult intake, version 3[^]*${index + 1} ?/ ?${blank.length}`));
  });
});

describe("Arabic on paper", () => {
  it("keeps the order of dates and numbers, and each letter's dots with it", async () => {
    const answer = "منذ 25 نوفمبر 2026، 4 ساعات";
    const pdf = await renderOwnPaper({
      practice: "Fernhollow",
      address: "",
      logo: undefined,
      language: "ar",
      person: "ليلى حداد",
      at,
      zone: "Europe/London",
      locale: "ar-u-ca-gregory-nu-latn",
      parts: [{ title: "استبيان", lines: [{ question: "كم ساعة تنام؟", answer }] }],
    });
    const path = join(folder, "arabic.pdf");
    writeFileSync(path, pdf);
    // Where each word stands: what is read first stands further right (UAX #9).
    const words = [
      ...execFileSync("pdftotext", ["-bbox", path, "-"])
        .toString()
        .matchAll(/xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>([^<]+)</g),
    ].map(([, x, y, text]) => ({
      x: Number(x),
      y: Math.round(Number(y)),
      text: text!.replace(/[\u200E\u200F\u202A-\u202E،]/g, ""),
    }));
    const line = words.find((w) => w.text === "4")!.y;
    const inLine = (text: string): number => words.find((w) => w.text === text && Math.abs(w.y - line) < 6)!.x;
    expect(inLine("25")).toBeGreaterThan(inLine("2026"));
    expect(inLine("2026")).toBeGreaterThan(inLine("4"));
    // A face whose dots are part of their letters; those that set them as marks come apart in this PDF library.
    const fonts = execFileSync("pdffonts", [path]).toString();
    expect(fonts).toContain("Vazirmatn");
    expect(fonts).not.toMatch(/Noto/);
  });
  it("knows how a text runs by its first letter", () => {
    expect(["ليلى, born 1990", "25 نوفمبر", "שלום", "Ines ليلى", "12", ""].map(writtenDirection)).toEqual([
      "rtl",
      "rtl",
      "rtl",
      "ltr",
      "ltr",
      "ltr",
    ]);
  });
});

describe("a paper to be sealed", () => {
  const arabic =
    "نلتقي مرة في الأسبوع لمدة 50 دقيقة في Fernhollow Rooms. ما يقال يبقى بيننا، وهناك حدود: إذا كان أحد في خطر فعلينا أن نتصرف، ونخبرك أولًا حيثما أمكن.";
  const english =
    "We meet once a week. Layla (ليلى حداد) comes alone; what is said stays, as a rule, between us — and “limits” are told first.";
  const paper = (language: string, blocks: readonly ReadBlock[]): SignedPaper => ({
    practice: "Fernhollow Care Rooms",
    address: "",
    logo: undefined,
    language,
    locale: language,
    zone: "UTC",
    title: "Terms",
    version: "1.0",
    client: "ليلى حداد",
    birthDate: undefined,
    returnedAt: at,
    reference: "a part",
    madeAt: at,
    readings: [{ language, title: "Terms", blocks }],
    signatures: [],
    talk: [],
  });
  it.each([
    ["ar", arabic],
    ["en", english],
  ])("says of each block what it reads, in its own order and letters: %s", async (language, words) => {
    // Long enough for several sheets, so that blocks are cut in two.
    const blocks = Array.from({ length: 60 }, (_, index): ReadBlock[] => [
      { kind: "text", text: `${index + 1}. ${words}` },
      { kind: "answer", question: `(${index + 1}) ${words.slice(0, 20)}`, answer: words.slice(0, 31) },
    ]).flat();
    const bytes = await renderSignedPaper(paper(language, blocks));
    const said = taggedWords(bytes).join("\n");
    const flat = (text: string): string => text.replaceAll(/\s+/g, " ");
    const whole = flat(said);
    let from = 0;
    for (const block of blocks)
      for (const one of block.kind === "answer" ? [block.question, block.answer] : [(block as { text: string }).text]) {
        from = whole.indexOf(flat(one).trim(), from);
        expect(from, one).toBeGreaterThanOrEqual(0);
        from += flat(one).trim().length;
      }
    // What takes text out by itself finds each letter, whatever was drawn before in this process.
    if (language === "en") expect(flat(pages(bytes).join(" "))).toContain("(12) We meet once a week.");
    // What stands on every sheet is read on none.
    expect(said).not.toContain("Fernhollow Care Rooms · a part");
    expect(said.endsWith("breaks the seal.")).toBe(true);
  });
  it("is left untagged rather than tagged wrong", async () => {
    const bytes = await renderSignedPaper(paper("en", [{ kind: "text", text: "Yes" }]));
    const other = await tagText(bytes, [{ body: ["No"], edges: [] }]);
    expect(other).toEqual(bytes);
  });
});
