import { plainDigits } from "../shared";
import { newLine, readOptions, type Item, type LineKind, type Question } from "../questionnaire";

/** One printed or pasted line. `size` is its height in points, where the paper tells. */
export interface PrintedLine {
  readonly text: string;
  readonly size?: number;
}
/** A line of the outline that was read off paper. */
export interface PaperLine {
  /** As it stood on the paper, for comparing. */
  readonly source: string;
  readonly kind: LineKind;
  readonly text: string;
  readonly options: readonly string[];
  /** Of a grid, its rows. */
  readonly rows: readonly string[];
  /** Of a scale, its ends and what they are called. */
  readonly scale?: { readonly low: number; readonly high: number; readonly ends?: readonly [string, string] };
  /** The paper does not say so in so many signs: somebody has to look at it. */
  readonly guessed: boolean;
}

// Signs that printed forms use (common practice): empty boxes and circles, ruled blanks, numbers before questions.
const box = "[☐□❏❑▢◻⬜▯]|\\[ ?\\]";
const circle = "[○◯⚪❍]|\\( ?\\)";
const anyMark = new RegExp(`${box}|${circle}`, "gu");
const someMark = new RegExp(anyMark.source, "u");
const bullet = /^(?:[-–•·*▪●]|\(?[a-h][).])\s+(?=\S)/u;
const numbered = /^(?:Q(?:uestion)?\s*)?\(?(\d{1,3})[.):]\s*(?=\S)/iu;
const blank = /(?:_[_\s]{2,}|\.{4,}|…{2,}|(?:\u2026\s?){3,})/u;
const blanks = new RegExp(blank.source, "gu");
const dayBlank =
  /_{1,4}\s*[/.-]\s*_{1,4}\s*[/.-]\s*_{2,4}|\b(?:dd|mm|tt|jj)[/.-](?:dd|mm)[/.-](?:yyyy|yy|jjjj|aaaa)\b/iu;
const yesNo = /\s*[([]?\s*\b(yes|sí|si|oui)\b\s*(?:[/|,]|\bor\b|\bo\b|\bou\b)?\s*\b(no|non)\b\s*[)\]]?\s*$/iu;

const clean = (text: string): string =>
  text
    .replace(/\s+/g, " ")
    .replace(/^[\s:;.\-–]+|[\s:;]+$/gu, "")
    .trim();
const withoutNumber = (text: string): string => text.replace(numbered, "");

const kindsByWords: readonly (readonly [RegExp, LineKind])[] = [
  [/\b(e-?mail|correo electrónico|courriel)\b/iu, "email"],
  [/\b(phone|mobile|telephone|tel|cell|teléfono|téléphone)\b/iu, "phone"],
  [/\b(date|born|birthday|d\.?o\.?b|fecha|naissance)\b/iu, "date"],
  [/\b(address|dirección|adresse)\b/iu, "postal-address"],
  [/\b(how many|number of|cuántos|cuántas|combien)\b/iu, "whole-number"],
];
const kindOfBlank = (label: string): LineKind => kindsByWords.find(([says]) => says.test(label))?.[1] ?? "short-text";
const isSignature = (label: string): boolean => /\b(signature|signed|firma|sign here)\b/iu.test(label);

interface Reading {
  readonly lines: PaperLine[];
  /** The line that options, blanks and a scale below it belong to. */
  open: PaperLine | undefined;
}
const bare = { options: [], rows: [], guessed: false } as const;
const put = (reading: Reading, line: PaperLine): PaperLine => {
  reading.lines.push(line);
  reading.open = line;
  return line;
};
function replaceOpen(reading: Reading, change: Partial<PaperLine>): void {
  const { open, lines } = reading;
  if (!open) return;
  const next = { ...open, ...change };
  lines[lines.indexOf(open)] = next;
  reading.open = next;
}

/** Several marks in one line: what stands before the first, and the words of each. */
function markedParts(
  text: string,
): { readonly before: string; readonly words: readonly string[]; readonly circles: boolean } | undefined {
  const found = [...text.matchAll(anyMark)];
  if (found.length === 0) return undefined;
  const words = found.map((mark, index) => clean(text.slice(mark.index + mark[0].length, found[index + 1]?.index)));
  return {
    before: text.slice(0, found[0]!.index),
    words,
    circles: new RegExp(`^(?:${circle})$`, "u").test(found[0]![0]),
  };
}
const isYesAndNo = (words: readonly string[]): boolean =>
  words.length === 2 && /^(yes|sí|si|oui)$/iu.test(words[0]!) && /^(no|non)$/iu.test(words[1]!);

/**
 * Rows that end in as many circles, boxes or numbers as the line above them has words: a grid. Gives how many lines it
 * took.
 */
function readGrid(reading: Reading, printed: readonly PrintedLine[], at: number): number {
  const row = (text: string): { readonly label: string; readonly marks: readonly string[] } | undefined => {
    const ends = new RegExp(`((?:\\s+(?:${box}|${circle}|\\d{1,2})){3,})\\s*$`, "u").exec(text);
    const label = ends && clean(withoutNumber(text.slice(0, ends.index)));
    return ends && label && /\p{L}{2}/u.test(label)
      ? { label, marks: ends[1]!.trim().split(/\s+(?![\])])/u) }
      : undefined;
  };
  const first = row(printed[at]!.text);
  if (!first) return 0;
  const rows = [first];
  for (let next = at + 1; next < printed.length; next++) {
    const found = row(printed[next]!.text);
    if (found?.marks.length !== first.marks.length) break;
    rows.push(found);
  }
  if (rows.length < 2) return 0;
  const head = printed[at - 1]?.text ?? "";
  const titles = head
    .split(/\s{2,}|\t|\s*\|\s*/u)
    .map(clean)
    .filter(Boolean);
  const numbers = first.marks.every((mark) => /^\d+$/.test(mark)) ? first.marks : undefined;
  const named = titles.length === first.marks.length ? titles : undefined;
  const options = first.marks.map((_, index) => {
    const words = named?.[index] ?? numbers?.[index] ?? `Option ${index + 1}`;
    return numbers ? `${words} = ${numbers[index]!}` : words;
  });
  // The line of titles was taken for something else before its rows were seen.
  if (named && reading.lines.at(-1)?.source === head) reading.lines.pop();
  put(reading, {
    ...bare,
    source: printed
      .slice(at, at + rows.length)
      .map((line) => line.text)
      .join("\n"),
    kind: "grid",
    text: "",
    options,
    rows: rows.map((one) => one.label),
    guessed: !named,
  });
  reading.open = undefined;
  return rows.length;
}

/** A row of numbers alone, each one more than the last: a scale of the question above. */
function readScale(reading: Reading, text: string): boolean {
  const numbers = /^[\D\s]{0,40}?(\d{1,2}(?:\s+\d{1,2}){3,})[\D\s]{0,40}$/u.exec(text);
  if (!numbers) return false;
  const list = numbers[1]!.split(/\s+/).map(Number);
  const low = list[0]!;
  if (!list.every((value, index) => value === low + index)) return false;
  const [left, right] = [
    clean(text.slice(0, text.indexOf(numbers[1]!))),
    clean(text.slice(text.indexOf(numbers[1]!) + numbers[1]!.length)),
  ];
  const scale = { low, high: list.at(-1)!, ...(left && right ? { ends: [left, right] as const } : {}) };
  if (reading.open && ["short-text", "long-text", "scale"].includes(reading.open.kind)) {
    replaceOpen(reading, { kind: "scale", scale, guessed: false });
    return true;
  }
  put(reading, { ...bare, source: text, kind: "scale", text: "", scale, guessed: true });
  return true;
}

function readMarked(reading: Reading, text: string): boolean {
  const parts = markedParts(text);
  if (!parts) return false;
  const { words, circles } = parts;
  const before = clean(withoutNumber(parts.before));
  const named = words.filter(Boolean);
  if (named.length === 0 && before === "") return true;
  if (before !== "") {
    // "I agree ☐": one box after words is something to tick.
    const kind = (): LineKind => {
      if (isYesAndNo(named)) return "yes-no";
      if (named.length === 0) return "yes-no";
      return circles ? "one-of" : "several-of";
    };
    put(reading, {
      ...bare,
      source: text,
      kind: kind(),
      text: before,
      options: kind() === "yes-no" ? [] : named,
      guessed: named.length === 0,
    });
    return true;
  }
  if (!takesOptions(reading.open)) {
    // Boxes without a question: each is one to tick.
    for (const one of named) put(reading, { ...bare, source: text, kind: "yes-no", text: one, guessed: true });
    return true;
  }
  addOptions(reading, named, circles ? "one-of" : "several-of", false);
  return true;
}
/** A question whose way of answering is not seen yet, or whose options have begun. */
const takesOptions = (open: PaperLine | undefined): boolean =>
  open !== undefined && open.kind !== "section" && open.kind !== "text" && (open.options.length > 0 || open.guessed);
function addOptions(reading: Reading, words: readonly string[], kind: LineKind, guessed: boolean): void {
  const { open } = reading;
  if (!open) return;
  const options = [...open.options, ...words];
  if (isYesAndNo(options)) replaceOpen(reading, { kind: "yes-no", options, guessed: false });
  else
    replaceOpen(reading, {
      kind: open.kind === "several-of" || open.kind === "one-of" ? open.kind : kind,
      options,
      guessed: open.options.length > 0 ? open.guessed : guessed,
    });
}

/** "Name ______ Date ______": each blank is a question, called by the words before it. */
function readBlanks(reading: Reading, text: string): boolean {
  if (dayBlank.test(text)) {
    const label = clean(withoutNumber(text.replace(dayBlank, "").replace(blanks, "")));
    if (label === "" && reading.open) replaceOpen(reading, { kind: "date", guessed: false });
    else put(reading, { ...bare, source: text, kind: "date", text: label });
    return true;
  }
  if (!blank.test(text)) return false;
  const labels = text.split(blanks).map((part) => clean(withoutNumber(part)));
  const named = labels.filter(Boolean);
  if (named.length === 0) {
    // A ruled line of its own gives the question above room.
    const { open } = reading;
    if (open && ["short-text", "long-text"].includes(open.kind))
      replaceOpen(reading, { kind: "long-text", guessed: false });
    return true;
  }
  const signs = named.some(isSignature);
  for (const label of named) {
    if (isSignature(label)) put(reading, { ...bare, source: text, kind: "signature", text: label, guessed: true });
    // The date beside a signature is written down by itself.
    else if (!(signs && kindOfBlank(label) === "date"))
      put(reading, { ...bare, source: text, kind: kindOfBlank(label), text: label });
  }
  return true;
}

const isHeading = (line: PrintedLine, body: number): boolean => {
  const text = clean(line.text);
  if (text.length > 70 || /[?.!]$/u.test(text) || numbered.test(line.text.trim())) return false;
  if (line.size !== undefined && line.size > body * 1.12) return true;
  return /\p{Lu}/u.test(text) && text === text.toLocaleUpperCase() && /\p{L}{3}/u.test(text);
};
function readWords(reading: Reading, line: PrintedLine, body: number): void {
  const source = line.text.trim();
  if (isHeading(line, body)) {
    const text = clean(source);
    put(reading, {
      ...bare,
      source,
      kind: "section",
      text: text === text.toLocaleUpperCase() ? text.charAt(0) + text.slice(1).toLocaleLowerCase() : text,
      guessed: line.size === undefined,
    });
    return;
  }
  const asks = yesNo.exec(source);
  if (asks && asks.index > 0) {
    put(reading, { ...bare, source, kind: "yes-no", text: clean(withoutNumber(source.slice(0, asks.index))) });
    return;
  }
  if (asks && reading.open) {
    replaceOpen(reading, { kind: "yes-no", options: [], guessed: false });
    return;
  }
  if (bullet.test(source) && takesOptions(reading.open)) {
    addOptions(reading, [clean(source.replace(bullet, ""))], "one-of", true);
    return;
  }
  const text = clean(withoutNumber(source));
  const isQuestion = numbered.test(source) || /[?:؟]\s*$/u.test(source);
  // A sentence that asks nothing is there to be read.
  const kind: LineKind = !isQuestion && (/[.!]$/u.test(source) || text.length > 90) ? "text" : kindOfBlank(text);
  put(reading, { ...bare, source, kind, text: kind === "text" ? source : text, guessed: true });
  if (kind === "text") reading.open = undefined;
}

/** Common practice: the height that most of a page's letters have is that of its body. */
function bodySize(printed: readonly PrintedLine[]): number {
  const letters = new Map<number, number>();
  for (const { size, text } of printed)
    if (size !== undefined) letters.set(size, (letters.get(size) ?? 0) + text.length);
  return [...letters].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
}

/**
 * Reads a form off paper: headings, numbered questions, boxes and circles as options, ruled blanks as text, Yes / No,
 * dates, scales and grids of circles. What the signs do not say is guessed, and says so. At most `mostLines` lines are
 * read.
 */
export function readPaper(all: readonly PrintedLine[]): PaperLine[] {
  const printed = all
    .slice(0, mostLines)
    .map((line) => ({
      ...line,
      text: plainDigits(line.text.replace(/[\u00AD\u200B\uFEFF]/g, "")).slice(0, longestLine),
    }))
    .filter((line) => line.text.trim() !== "");
  const body = bodySize(printed);
  const reading: Reading = { lines: [], open: undefined };
  for (let at = 0; at < printed.length; at++) {
    const line = printed[at]!;
    const rows = readGrid(reading, printed, at);
    if (rows > 0) {
      at += rows - 1;
      continue;
    }
    const text = line.text.trim();
    if (someMark.test(text) && readMarked(reading, text)) continue;
    if (readScale(reading, text) || readBlanks(reading, text)) continue;
    readWords(reading, line, body);
  }
  return reading.lines.filter((line) => line.text !== "" || line.kind === "grid" || line.kind === "scale");
}
export const mostLines = 2000;
const longestLine = 1000;
export const linesOf = (text: string): PrintedLine[] => text.split(/\r?\n/).map((line) => ({ text: line }));

/** The line as it stands in an outline. @param newKey gives a key that is not taken. */
export function paperItem(line: PaperLine, newKey: () => string, optionSystem: string): Item {
  const made = { ...newLine(line.kind, newKey()), text: line.text };
  const options = (typed: readonly string[]) => readOptions(typed.join("\n"), [], optionSystem);
  if (made.type === "group")
    return {
      ...made,
      items: line.rows.map(
        (row) => ({ ...newLine("one-of", newKey()), text: row, options: options(line.options) }) as Question,
      ),
    };
  if (made.type === "display") return made;
  const { scale } = line;
  return {
    ...made,
    ...(made.type === "choice" || made.type === "open-choice" ? { options: options(line.options) } : {}),
    ...(scale && line.kind === "scale"
      ? { minValue: scale.low, maxValue: scale.high, ...(scale.ends ? { ends: scale.ends } : {}) }
      : {}),
  };
}
