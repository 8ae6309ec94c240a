import { PDFDocument, StandardFonts } from "pdf-lib";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kindOf, type Question } from "../../src/core/questionnaire";
import { linesOf, pageLines, paperItem, readPaper, type PaperLine } from "../../src/core/worksheet";

const read = (text: string): PaperLine[] => readPaper(linesOf(text));
const said = (text: string): unknown[] =>
  read(text).map(({ kind, text: words, options, guessed }) => [
    kind,
    words,
    ...(options.length > 0 ? [options] : []),
    ...(guessed ? ["guessed"] : []),
  ]);

describe("a form on paper", () => {
  it("gives headings, numbered questions, boxes, blanks, yes or no, and dates", () => {
    expect(
      said(`
ABOUT YOU
Name: ______________________   Phone: ____________
Date of birth: __/__/____
E-mail ........................
1. Do you smoke?   Yes / No
2) How did you hear of us?
   ○ A friend
   ○ The web
   ○ Other
Which of these do you have?
☐ Asthma   ☐ Diabetes
☐ None of these
3. What brings you here?
_______________________________
_______________________________
☐ I may be written to
Please bring this sheet to your first visit, filled in as far as you can.
Signature: ______________  Date: _________
`),
    ).toEqual([
      ["section", "About you", "guessed"],
      ["short-text", "Name"],
      ["phone", "Phone"],
      ["date", "Date of birth"],
      ["email", "E-mail"],
      ["yes-no", "Do you smoke?"],
      ["one-of", "How did you hear of us?", ["A friend", "The web", "Other"]],
      ["several-of", "Which of these do you have?", ["Asthma", "Diabetes", "None of these"]],
      ["long-text", "What brings you here?"],
      ["yes-no", "I may be written to", "guessed"],
      ["text", "Please bring this sheet to your first visit, filled in as far as you can.", "guessed"],
      ["signature", "Signature", "guessed"],
    ]);
  });
  it("gives scales and grids of circles or numbers", () => {
    const [scale, grid, numbers] = read(`
How strong is the pain now?
None 0 1 2 3 4 5 6 7 8 9 10 Worst
Never   Sometimes   Often
I sleep badly     ○ ○ ○
I am worried      ○ ○ ○

Over the last two weeks
1. Little interest   0 1 2 3
2. Feeling down      0 1 2 3
`).filter((line) => line.kind !== "short-text");
    expect(scale).toMatchObject({
      kind: "scale",
      text: "How strong is the pain now?",
      scale: { low: 0, high: 10, ends: ["None", "Worst"] },
      guessed: false,
    });
    expect(grid).toMatchObject({
      kind: "grid",
      rows: ["I sleep badly", "I am worried"],
      options: ["Never", "Sometimes", "Often"],
      guessed: false,
    });
    expect(numbers).toMatchObject({
      kind: "grid",
      rows: ["Little interest", "Feeling down"],
      options: ["0 = 0", "1 = 1", "2 = 2", "3 = 3"],
      guessed: true,
    });
    let made = 0;
    const item = paperItem(grid!, () => `k${made++}`, "urn:o");
    expect([kindOf(item), item.type === "group" && item.items.map((row) => (row as Question).options.length)]).toEqual([
      "grid",
      [3, 3],
    ]);
    expect(paperItem(scale!, () => "s", "urn:o")).toMatchObject({ minValue: 0, maxValue: 10, ends: ["None", "Worst"] });
  });
  it("marks as guessed whatever the signs do not say", () => {
    expect(said("Tell us about your work\nWhat helps?\n- Rest\n- Heat")).toEqual([
      ["short-text", "Tell us about your work", "guessed"],
      ["one-of", "What helps?", ["Rest", "Heat"], "guessed"],
    ]);
  });
  it("reads any text at all, each line once, with keys of their own, and quickly", () => {
    const sign = fc.constantFrom(
      "☐",
      "○",
      "____",
      "....",
      "1.",
      "Yes / No",
      "0 1 2 3 4",
      "?",
      ":",
      " ",
      "\t",
      "a",
      "Name",
      "\n",
      "DATE",
      "__/__/____",
      "[ ]",
      "( )",
      "é",
      "٣",
    );
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 80 }), (signs) => {
        let made = 0;
        for (const line of read(signs.join(" "))) {
          const item = paperItem(line, () => `k${made++}`, "urn:o");
          expect(item.linkId).toMatch(/^k\d+$/);
          if (line.kind === "one-of" || line.kind === "several-of")
            expect(line.options.every((o) => o !== "")).toBe(true);
        }
      }),
      { numRuns: 300 },
    );
    const began = performance.now();
    read(`${"_ ".repeat(500)}\n${"☐ ".repeat(500)}\n${"1 ".repeat(500)}\n${"a".repeat(100_000)}`);
    expect(performance.now() - began).toBeLessThan(2000);
  });
  it("is read the same out of a PDF (pdf.js), where larger letters are headings", async () => {
    const made = await PDFDocument.create();
    const font = await made.embedFont(StandardFonts.Helvetica);
    const page = made.addPage([595, 842]);
    const write = (text: string, x: number, y: number, size = 11) => page.drawText(text, { x, y, size, font });
    write("About your sleep", 60, 780, 16);
    write("1. How many hours do you sleep?", 60, 750);
    write("____________", 300, 750);
    write("Do you wake up at night?", 60, 730);
    write("Yes / No", 400, 730);
    write("How is it in the morning?", 60, 710);
    write("( ) Rested", 80, 692);
    write("( ) Tired", 200, 692);
    const document = await getDocument({ data: await made.save(), isEvalSupported: false, useSystemFonts: false })
      .promise;
    const { items } = await (await document.getPage(1)).getTextContent();
    const lines = pageLines(
      items.flatMap((item) => {
        if (!("str" in item)) return [];
        const [, , skew = 0, height = 0, x = 0, y = 0] = item.transform as number[];
        return [{ text: item.str, x, y, width: item.width, size: Math.hypot(skew, height) }];
      }),
    );
    expect(readPaper(lines).map(({ kind, text, options, guessed }) => [kind, text, options, guessed])).toEqual([
      ["section", "About your sleep", [], false],
      ["whole-number", "How many hours do you sleep?", [], false],
      ["yes-no", "Do you wake up at night?", [], false],
      ["one-of", "How is it in the morning?", ["Rested", "Tired"], false],
    ]);
  });
});
