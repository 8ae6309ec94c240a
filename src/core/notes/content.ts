import type { Instant } from "../shared";
import {
  isOpen,
  wordsOf,
  type Inline,
  type List,
  type NoteBlock,
  type NoteDocument,
  type TakeHomeDocument,
} from "./document";

/** The client's own words, or what stands in their chart, as they were when the note was drafted. */
export interface Quote {
  /** `chart`: a value on file; all others were answered in a questionnaire. */
  readonly kind: "answer" | "chart";
  readonly question: string;
  /** Empty where it was left unanswered. */
  readonly answer: string;
  /** Whose words: the client's name, or who wrote it in the chart. */
  readonly by: string;
  readonly at: Instant;
  /** The questionnaire, or what brought it into the chart. */
  readonly source: string;
  readonly section: string;
  readonly packetId?: string;
  readonly partId?: string;
  readonly key?: string;
  /** Files among the answers, by the names they have in `answer`. */
  readonly files?: readonly { readonly id: string; readonly title: string }[];
}
/** A score over time, the oldest point first. */
export interface MeasureFact {
  readonly title: string;
  readonly points: readonly { readonly at: Instant; readonly value: number; readonly band: string }[];
  readonly least: number | undefined;
  readonly most: number | undefined;
}
/** What was laid into a note when it was begun. */
export interface Brought {
  readonly packetId: string;
  readonly titles: readonly string[];
  readonly returnedAt: Instant;
  readonly answers: number;
  /** It still waits to be charted. */
  readonly uncharted: boolean;
}
/** A note: what the practice keeps, what the client gets, and the words it quotes. */
export interface NoteContent {
  readonly body: NoteDocument;
  readonly takeHome: TakeHomeDocument;
  /** By what the document calls them. They are written by the server alone, so nobody alters them by the way. */
  readonly quotes: Readonly<Record<string, Quote>>;
  readonly measures: Readonly<Record<string, MeasureFact>>;
  readonly brought: readonly Brought[];
  /** What stood below the line before anybody wrote there, as plain text. */
  readonly standing?: string;
}

/** A note as lines of text, whatever it is written out as. */
export type NoteLine =
  | { readonly kind: "heading"; readonly level: 2 | 3; readonly text: string }
  | { readonly kind: "text"; readonly runs: readonly Run[] }
  | {
      readonly kind: "item";
      readonly depth: number;
      readonly number: number | undefined;
      readonly runs: readonly Run[];
    }
  | { readonly kind: "row"; readonly header: boolean; readonly cells: readonly string[] }
  | { readonly kind: "quoted"; readonly quote: Quote; readonly remark: string }
  | { readonly kind: "restated"; readonly quote: Quote; readonly text: string }
  | { readonly kind: "measure"; readonly measure: MeasureFact };
export interface Run {
  readonly text: string;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly href: string | undefined;
}
const runsOf = (content: readonly Inline[] = []): Run[] =>
  content.map((one) => {
    if (one.type === "hardBreak") return { text: "\n", bold: false, italic: false, href: undefined };
    const marks = one.marks ?? [];
    return {
      text: one.text,
      bold: marks.some(({ type }) => type === "bold"),
      italic: marks.some(({ type }) => type === "italic"),
      href: marks.flatMap((mark) => (mark.type === "link" ? [mark.attrs.href] : []))[0],
    };
  });
function itemsOf(list: List, depth: number): NoteLine[] {
  return list.content.flatMap(({ content }, index) =>
    content.flatMap((inner, place): NoteLine[] => {
      if (inner.type !== "paragraph") return itemsOf(inner, depth + 1);
      const number = list.type === "orderedList" && place === 0 ? index + 1 : undefined;
      return [{ kind: "item", depth, number, runs: runsOf(inner.content) }];
    }),
  );
}
/** Every line of a document; questions that are still open and headings with nothing below them are left out. */
export function linesOf(
  { content }: { readonly content: readonly NoteBlock[] },
  { quotes, measures }: Pick<NoteContent, "quotes" | "measures"> = { quotes: {}, measures: {} },
): NoteLine[] {
  const lines = content.flatMap((block): NoteLine[] => {
    switch (block.type) {
      case "heading":
        return [{ kind: "heading", level: block.attrs.level, text: wordsOf(block.content) }];
      case "paragraph":
        return wordsOf(block.content).trim() === "" ? [] : [{ kind: "text", runs: runsOf(block.content) }];
      case "bulletList":
      case "orderedList":
        return itemsOf(block, 0);
      case "table":
        return block.content.map((row) => ({
          kind: "row",
          header: row.content.every((cell) => cell.type === "tableHeader"),
          cells: row.content.map((cell) => cell.content.map((p) => wordsOf(p.content)).join("\n")),
        }));
      case "quoted": {
        const quote = quotes[block.attrs.quote];
        return quote ? [{ kind: "quoted", quote, remark: block.attrs.remark }] : [];
      }
      case "restated":
      case "openPrompt": {
        const quote = quotes[block.attrs.quote];
        return quote && !isOpen(block) ? [{ kind: "restated", quote, text: wordsOf(block.content) }] : [];
      }
      case "measure": {
        const measure = measures[block.attrs.measure];
        return measure ? [{ kind: "measure", measure }] : [];
      }
    }
  });
  return underHeadings(lines);
}
/** Without headings that nothing stands below. */
export const underHeadings = (lines: readonly NoteLine[]): NoteLine[] =>
  lines.filter((line, index) => {
    if (line.kind !== "heading") return true;
    const next = lines.slice(index + 1).find((one) => one.kind !== "heading" || one.level <= line.level);
    return next !== undefined && next.kind !== "heading";
  });

/** What a plot of a measure says, in a sentence. */
export function measureWords({ title, points }: MeasureFact): string {
  const [last, before] = [points.at(-1), points.at(-2)];
  if (!last) return `${title}: not scored yet`;
  const band = last.band === "" ? "" : `, ${last.band.toLowerCase()}`;
  if (!before) return `${title}: ${last.value}${band}`;
  const by = last.value - before.value;
  const change = by === 0 ? "as before" : `${Math.abs(by)} ${by > 0 ? "more" : "fewer"} than before`;
  return `${title}: ${points.map(({ value }) => value).join(", ")}; ${change}${band}`;
}

/** A document as plain text, a line a paragraph. */
export function plainText(lines: readonly NoteLine[]): string {
  return lines
    .map((line): string => {
      switch (line.kind) {
        case "heading":
          return line.text;
        case "text":
          return line.runs.map(({ text }) => text).join("");
        case "item": {
          const mark = line.number === undefined ? "-" : `${line.number}.`;
          return `${"  ".repeat(line.depth)}${mark} ${line.runs.map(({ text }) => text).join("")}`;
        }
        case "row":
          return line.cells.join(" | ");
        case "quoted":
          return `${line.quote.question} ${line.quote.answer}${line.remark === "" ? "" : ` (${line.remark})`}`;
        case "restated":
          return `${line.quote.question} ${line.text}`;
        case "measure":
          return measureWords(line.measure);
      }
    })
    .join("\n");
}
