import { fail, ok, type Result } from "../shared";
import type { FileProblem } from "./kinds-of-file";

/** A stream that a reader must unpack to know what is in the file: an object stream or a cross-reference stream. */
export interface PackedPart {
  /** Where its bytes are. */
  readonly begin: number;
  readonly end: number;
  /** Whether its bytes are deflated; else they stand as they are. */
  readonly deflated: boolean;
}
/** Most objects of one file, those in object streams included. */
const mostObjects = 100_000;
const mostDepth = 60;

const codes = (text: string): Set<number> => new Set([...text].map((sign) => sign.codePointAt(0)!));
const blank = codes("\0\t\n\f\r ");
const delimiters = codes("()<>[]{}/%");

/**
 * A name (with its `/`), a number or keyword, an array, a dictionary as its pairs, or a string, whose words do not
 * matter here.
 */
type Value = string | readonly Value[] | Dictionary | undefined;
interface Dictionary {
  readonly pairs: readonly (readonly [string, Value])[];
}
/** What stands elsewhere in the file. */
const reference: Dictionary = { pairs: [] };

/**
 * Walks a PDF's objects in the order of the file, as readers do, without unpacking anything (ISO 32000-1, 7.2, 7.3 and
 * 7.5.7). Says what would have to be unpacked, and refuses what makes a reader work without end: objects nested
 * deeper than 60 or more than 100,000 of them, and parts of the file's own structure that are packed in
 * another way than once by FlateDecode, or whose kind, number or packing stands elsewhere in the file.
 */
export function surveyPdf(bytes: Uint8Array): Result<readonly PackedPart[], FileProblem> {
  const walk = new Walk(bytes);
  try {
    walk.run();
  } catch (error) {
    if (error instanceof Refusal) return fail(error.problem);
    throw error;
  }
  return ok(walk.packed);
}

class Refusal extends Error {
  constructor(readonly problem: FileProblem) {
    super(problem);
  }
}

class Walk {
  readonly packed: PackedPart[] = [];
  private at = 0;
  private objects = 0;
  constructor(private readonly bytes: Uint8Array) {}

  run(): void {
    while (this.skipBlank()) {
      const value = this.value(0);
      if (value === "obj") this.count(1);
      if (isDictionary(value) && this.skipBlank() && this.word("stream")) this.stream(value);
    }
  }
  private count(more: number): void {
    this.objects += more;
    if (this.objects > mostObjects) throw new Refusal("too-costly");
  }
  /** Past blanks and comments; false at the end. */
  private skipBlank(): boolean {
    const { bytes } = this;
    for (; this.at < bytes.length; this.at++) {
      const sign = bytes[this.at]!;
      if (sign === 0x25) {
        while (this.at + 1 < bytes.length && bytes[this.at + 1] !== 10 && bytes[this.at + 1] !== 13) this.at++;
      } else if (!blank.has(sign)) return true;
    }
    return false;
  }
  private word(words: string): boolean {
    for (let index = 0; index < words.length; index++)
      if (this.bytes[this.at + index] !== words.codePointAt(index)) return false;
    this.at += words.length;
    return true;
  }
  private value(depth: number): Value {
    if (depth > mostDepth) throw new Refusal("too-costly");
    const sign = this.bytes[this.at]!;
    const next = this.bytes[this.at + 1];
    if (sign === 0x28) return this.string();
    if (sign === 0x2f) return this.name();
    if (sign === 0x5b) return this.many("]", depth);
    if (sign === 0x3c && next === 0x3c) {
      this.at++;
      return { pairs: pairsOf(this.many(">>", depth)) };
    }
    if (sign === 0x3c) return this.hexString();
    if (delimiters.has(sign)) {
      this.at++;
      return undefined;
    }
    const from = this.at;
    while (this.at < this.bytes.length && !blank.has(this.bytes[this.at]!) && !delimiters.has(this.bytes[this.at]!))
      this.at++;
    return this.text(from, this.at);
  }
  private text(from: number, to: number): string {
    return String.fromCodePoint(...this.bytes.subarray(from, Math.min(to, from + 200)));
  }
  private string(): undefined {
    let open = 0;
    for (; this.at < this.bytes.length; this.at++) {
      const sign = this.bytes[this.at];
      if (sign === 0x5c) this.at++;
      else if (sign === 0x28) open++;
      else if (sign === 0x29 && --open === 0) break;
    }
    this.at++;
    return undefined;
  }
  private hexString(): undefined {
    while (this.at < this.bytes.length && this.bytes[this.at] !== 0x3e) this.at++;
    this.at++;
    return undefined;
  }
  /** With its hex spelling undone (7.3.5). */
  private name(): string {
    const from = ++this.at;
    while (this.at < this.bytes.length && !blank.has(this.bytes[this.at]!) && !delimiters.has(this.bytes[this.at]!))
      this.at++;
    return `/${this.text(from, this.at).replace(/#([\da-f]{2})/gi, (_, hex: string) => String.fromCodePoint(Number.parseInt(hex, 16)))}`;
  }
  private many(close: "]" | ">>", depth: number): Value[] {
    this.at++;
    const all: Value[] = [];
    while (this.skipBlank()) {
      if (this.word(close)) return all;
      all.push(this.value(depth + 1));
      if (all.length > 3 * mostObjects) throw new Refusal("too-costly");
    }
    return all;
  }
  private stream(dictionary: Dictionary): void {
    if (this.bytes[this.at] === 13) this.at++;
    if (this.bytes[this.at] === 10) this.at++;
    const begin = this.at;
    const end = this.endOfStream(begin, dictionary);
    const kinds = valuesOf(dictionary, "/Type");
    if (!kinds.some((kind) => kind === "/ObjStm" || kind === "/XRef" || kind === reference)) return;
    this.packed.push({ begin, end, deflated: isDeflated(dictionary) });
    if (kinds.every((kind) => kind === "/XRef")) return;
    // How many objects it says it holds is how often a reader looks.
    for (const said of valuesOf(dictionary, "/N")) this.count(countOf(said));
  }
  /** By its length where that is right, else at the next `endstream`. */
  private endOfStream(begin: number, dictionary: Dictionary): number {
    const said = Number(valuesOf(dictionary, "/Length").at(-1));
    if (Number.isInteger(said) && said >= 0) {
      this.at = begin + said;
      if (this.at <= this.bytes.length && this.skipBlank() && this.word("endstream")) return begin + said;
    }
    this.at = begin;
    for (; this.at < this.bytes.length; this.at++)
      if (this.bytes[this.at] === 0x65 && this.word("endstream")) return this.at - "endstream".length;
    return this.at;
  }
}
const isDictionary = (value: Value): value is Dictionary => typeof value === "object" && "pairs" in value;
const pairsOf = (items: readonly Value[]): (readonly [string, Value])[] => {
  const pairs: (readonly [string, Value])[] = [];
  for (let index = 0; index < items.length;) {
    const key = items[index];
    const points = items[index + 3] === "R";
    if (typeof key === "string") pairs.push([key, points ? reference : items[index + 1]]);
    index += points ? 4 : 2;
  }
  return pairs;
};
const valuesOf = ({ pairs }: Dictionary, key: string): Value[] => pairs.filter(([k]) => k === key).map(([, v]) => v);
function isDeflated(dictionary: Dictionary): boolean {
  const all = valuesOf(dictionary, "/Filter").flatMap((given) => (Array.isArray(given) ? (given as Value[]) : [given]));
  if (all.length > 1 || all.some((filter) => filter !== "/FlateDecode")) throw new Refusal("pdf-unusual");
  return all.length === 1;
}
function countOf(said: Value): number {
  const count = Number(said);
  if (typeof said !== "string" || !Number.isInteger(count) || count < 0) throw new Refusal("pdf-unusual");
  return count;
}
