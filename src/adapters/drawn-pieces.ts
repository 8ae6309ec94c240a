import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFName,
  PDFRawStream,
  PDFRef,
  type PDFObject,
  type PDFPage,
} from "pdf-lib";

/** A piece of text as the PDF library draws it: a run in one font and direction, as it is seen from the left. */
export interface Piece {
  /** Where its operators are in the page's content. */
  readonly begin: number;
  readonly end: number;
  /** Of its line, in points; the same for all of a line. */
  readonly height: number;
  /** Its letters in the order of its glyphs. */
  readonly text: string;
}
export interface PageText {
  readonly content: string;
  readonly pieces: readonly Piece[];
}

/** Stands for a letter of which the font does not say what it is. */
export const unknown = "\0";

// What the library writes stands on lines of its own, strings in hex.
const operators =
  /^(?<push>q)$|^(?<pop>Q)$|^(?<matrix>[-\d. ]+) cm$|^(?<begin>BT)$|^(?<end>ET)$|^\/(?<font>\S+) [-\d.]+ Tf$|^(?<shown>[[<].*) T[Jj]$/gm;

/** The text of a page this program drew. */
export function textOn(page: PDFPage): PageText {
  const content = streamsOf(page.node.context.lookup(page.node.get(PDFName.of("Contents"))), page)
    .map((stream) => Buffer.from(decodePDFRawStream(stream).decode()).toString("latin1"))
    .join("\n");
  const letters = lettersOf(page);
  const pieces: Piece[] = [];
  const stack: number[] = [];
  let height = 0;
  let font = "";
  let begin = 0;
  let text = "";
  for (const { groups = {}, index, 0: whole } of content.matchAll(operators)) {
    if (groups["push"]) stack.push(height);
    else if (groups["pop"]) height = stack.pop() ?? 0;
    // Turned twice before each piece, which comes to nothing: what is moved is all that matters here.
    else if (groups["matrix"]) {
      const [, , , scale = 1, , moved = 0] = groups["matrix"].split(" ").map(Number);
      if (scale > 0) height += moved;
    } else if (groups["begin"]) {
      begin = index;
      text = "";
    } else if (groups["font"]) font = groups["font"];
    else if (groups["shown"])
      for (const [, hex = ""] of groups["shown"].matchAll(/<([0-9a-fA-F]*)>/g))
        for (const [code] of hex.matchAll(/.{4}/g)) text += letters.get(font)?.get(parseInt(code, 16)) || unknown;
    else if (groups["end"]) pieces.push({ begin, end: index + whole.length, height: Math.round(height * 10), text });
  }
  return { content, pieces };
}
function streamsOf(found: PDFObject | undefined, page: PDFPage): PDFRawStream[] {
  if (found instanceof PDFRawStream) return [found];
  if (found instanceof PDFArray)
    return found.asArray().flatMap((one) => streamsOf(page.node.context.lookup(one), page));
  if (found === undefined) return [];
  throw new Error("A page's content is no stream.");
}
/** By a font's name on the page: what its glyphs stand for (ISO 32000-1, 9.10.3). */
function lettersOf(page: PDFPage): ReadonlyMap<string, ReadonlyMap<number, string>> {
  const fonts = page.node.Resources()?.lookup(PDFName.of("Font"));
  if (!(fonts instanceof PDFDict)) return new Map();
  return new Map(
    fonts.entries().map(([name, given]) => {
      const font = given instanceof PDFRef ? page.node.context.lookup(given) : given;
      const map = font instanceof PDFDict ? font.lookup(PDFName.of("ToUnicode")) : undefined;
      return [name.decodeText(), map instanceof PDFRawStream ? glyphLetters(map) : new Map<number, string>()];
    }),
  );
}
function glyphLetters(map: PDFRawStream): ReadonlyMap<number, string> {
  const words = Buffer.from(decodePDFRawStream(map).decode()).toString("latin1");
  const letters = new Map<number, string>();
  for (const [, first = "", list = ""] of words.matchAll(/<([0-9a-f]+)>\s*<[0-9a-f]+>\s*\[([^\]]*)\]/gi))
    for (const [at, [, hex = ""]] of [...list.matchAll(/<([0-9a-f\s]*)>/gi)].entries())
      letters.set(parseInt(first, 16) + at, Buffer.from(hex.replaceAll(/\s/g, ""), "hex").swap16().toString("utf16le"));
  return letters;
}
