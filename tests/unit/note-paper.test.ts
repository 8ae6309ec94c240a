import fc from "fast-check";
import { expect, it } from "vitest";
import { renderNotePaper } from "../../src/server";
import { linesOf, plainText, readNote, type NoteContent } from "../../src/core/notes";
import type { Instant } from "../../src/core/shared";
import { textByPoppler } from "../support/pdf";

const at = "2026-11-24T17:10:00Z" as Instant;
/** Words that stand in no other place of the paper, in letters that poppler reads one by one. */
const word = fc.stringMatching(/^[a-p]{4,9}$/).map((letters) => `z${letters}q`);
const words = fc.array(word, { minLength: 1, maxLength: 6 }).map((all) => all.join(" "));
const text = words.map((said) => ({ type: "text", text: said }));
const para = text.map((one) => ({ type: "paragraph", content: [one] }));
const list = fc
  .record({
    type: fc.constantFrom("bulletList", "orderedList"),
    items: fc.array(para, { minLength: 1, maxLength: 3 }),
  })
  .map(({ type, items }) => ({ type, content: items.map((item) => ({ type: "listItem", content: [item] })) }));
const table = fc.array(fc.tuple(para, para), { minLength: 1, maxLength: 3 }).map((rows) => ({
  type: "table",
  content: rows.map((cells) => ({
    type: "tableRow",
    content: cells.map((cell) => ({ type: "tableCell", content: [cell] })),
  })),
}));
const heading = text.map((one) => ({
  type: "heading",
  attrs: { level: 2, section: null, prompt: null },
  content: [one],
}));
const quoted = words.map((remark) => ({ type: "quoted", attrs: { quote: "q", remark } }));
const restated = text.map((one) => ({ type: "restated", attrs: { quote: "q" }, content: [one] }));
const documents = fc.array(fc.oneof(para, list, table, heading, quoted, restated), { minLength: 1, maxLength: 12 });
const known: Pick<NoteContent, "quotes" | "measures"> = {
  quotes: {
    q: { kind: "answer", question: "Zaskedq?", answer: "Zansweredq", by: "Ines", at, source: "Sleep", section: "" },
  },
  measures: {},
};

it("what stands in a note, kept and opened again, stands on its paper: every word, in its order (read by poppler)", async () => {
  await fc.assert(
    fc.asyncProperty(documents, async (content) => {
      const read = readNote(JSON.parse(JSON.stringify({ type: "doc", content })));
      if (!read.ok) throw new Error(read.error.problem);
      // Kept as JSON and opened again, nothing of it is lost or put in.
      expect(readNote(JSON.parse(JSON.stringify(read.value)))).toEqual(read);
      expect(read.value).toEqual({ type: "doc", content });
      const lines = linesOf(read.value, known);
      const paper = textByPoppler(
        await renderNotePaper({
          title: "Note",
          person: "Ines",
          practice: "Rooms",
          address: "",
          logo: undefined,
          facts: [],
          lines,
          madeAt: at,
          madeBy: "Maren",
          zone: "Europe/London",
          locale: "en-GB",
        }),
      );
      // Cells stand beside each other on paper: what is counted is the words, each as often as it was written.
      const counted = (from: string): string[] => (from.match(/z[a-z]+q/gi) ?? []).toSorted();
      expect(counted(paper.replaceAll(/-\n/g, ""))).toEqual(counted(plainText(lines)));
    }),
    { numRuns: 12 },
  );
}, 120_000);
