import {
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNumber,
  type PDFRef,
  type PDFContext,
  type PDFObject,
  type PDFPage,
} from "pdf-lib";
import type { DrawnPage } from "./drawn-words";
import { textOn, unknown, type PageText, type Piece } from "./drawn-pieces";

/** What stands on the foot of a sheet. */
export const pageOf = (number: number, all: number): string => `${number} / ${all}`;

/** A line of a block of words: its pieces, and what it says in the order it is read. */
interface Line {
  readonly first: number;
  readonly last: number;
  readonly said: string;
}
/** Of one sheet: the blocks that stand there, or the parts of them; all other text belongs to its edges. */
type Sheet = readonly (readonly Line[])[];

/**
 * The same PDF with its text tagged (ISO 32000-1, 14.7 to 14.9): each block of words belongs to the structure in reading
 * order, and says in its own letters what it reads, since what runs from the right is drawn as it is seen. That is said
 * of the block and not of what is drawn: there poppler takes it for what is seen from the left, and turns it. For files
 * this program drew; one whose pieces are not those words stays as it is.
 */
export async function tagText(pdf: Uint8Array, pages: readonly DrawnPage[]): Promise<Uint8Array> {
  const document = await PDFDocument.load(pdf, { updateMetadata: false });
  const texts = document.getPages().map(textOn);
  const sheets = sheetsOf(texts, pages);
  if (!sheets) return pdf;
  const { context, catalog } = document;
  const root = context.nextRef();
  const whole = context.nextRef();
  const sections: PDFRef[] = [];
  const parents: PDFObject[] = [];
  for (const [index, page] of document.getPages().entries()) {
    const section = context.nextRef();
    const owners = tagSheet(context, page, texts[index]!, sheets[index]!, section);
    context.assign(section, context.obj({ Type: "StructElem", S: "Sect", P: whole, K: [...new Set(owners)] }));
    sections.push(section);
    page.node.set(PDFName.of("StructParents"), PDFNumber.of(index));
    page.node.set(PDFName.of("Tabs"), PDFName.of("S"));
    parents.push(PDFNumber.of(index), context.register(context.obj(owners)));
  }
  context.assign(whole, context.obj({ Type: "StructElem", S: "Document", P: root, K: sections }));
  const tree = context.register(context.obj({ Nums: parents }));
  context.assign(
    root,
    context.obj({ Type: "StructTreeRoot", K: [whole], ParentTree: tree, ParentTreeNextKey: sections.length }),
  );
  catalog.set(PDFName.of("StructTreeRoot"), root);
  catalog.set(PDFName.of("MarkInfo"), context.obj({ Marked: true }));
  return document.save({ useObjectStreams: false, updateFieldAppearances: false });
}

/** Marks what stands on one sheet; gives the element that each marked line belongs to, by its number. */
function tagSheet(
  context: PDFContext,
  page: PDFPage,
  { content, pieces }: PageText,
  blocks: Sheet,
  section: PDFRef,
): PDFRef[] {
  const owners: PDFRef[] = [];
  const before = new Map<number, string>();
  const behind = new Set<number>();
  const tagged = new Set<number>();
  for (const lines of blocks) {
    const element = context.nextRef();
    const from = owners.length;
    for (const { first, last } of lines) {
      before.set(first, `/P <</MCID ${owners.length}>> BDC\n`);
      behind.add(last);
      owners.push(element);
      for (let piece = first; piece <= last; piece++) tagged.add(piece);
    }
    const marked = owners.slice(from).map((_, index) => PDFNumber.of(from + index));
    const said = PDFHexString.fromText(lines.map((line) => line.said).join(""));
    context.assign(
      element,
      context.obj({ Type: "StructElem", S: "P", P: section, Pg: page.ref, K: marked, ActualText: said }),
    );
  }
  let out = "";
  let at = 0;
  for (const [index, { begin, end }] of pieces.entries()) {
    const isEdge = !tagged.has(index);
    out += content.slice(at, begin) + (isEdge ? "/Artifact BMC\n" : (before.get(index) ?? ""));
    out += content.slice(begin, end) + (isEdge || behind.has(index) ? "\nEMC" : "");
    at = end;
  }
  const bytes = Uint8Array.from(Buffer.from(out + content.slice(at), "latin1"));
  page.node.set(PDFName.of("Contents"), context.register(context.flateStream(bytes)));
  return owners;
}
/** Letters that are seen, without what only steers. */
const seen = (text: string): string[] => [...text.replaceAll(/[\s\p{Cf}]/gu, "")];
/**
 * Letters that may share a glyph, of which the font library remembers the one it drew first: those of Arabic, which look
 * alike within a word, and dashes.
 */
const rough = (letter: string): string => letter.replace(/\p{Script=Arabic}/u, "\u0627").replace(/\p{Pd}/u, "-");
/** Whether both are the same letters in any order; of a letter that a font lacks nothing is known. */
function isSameLetters(one: readonly string[], other: readonly string[]): boolean {
  const left = new Map<string, number>();
  for (const letter of one.map(rough)) left.set(letter, (left.get(letter) ?? 0) + 1);
  let unsaid = 0;
  for (const letter of other.map(rough))
    if (letter === unknown) unsaid++;
    else if ((left.get(letter) ?? 0) > 0) left.set(letter, left.get(letter)! - 1);
    else return false;
  return one.length === other.length && [...left.values()].reduce((sum, many) => sum + many, 0) === unsaid;
}

/** Which pieces say which words; undefined where they do not. */
function sheetsOf(texts: readonly PageText[], pages: readonly DrawnPage[]): Sheet[] | undefined {
  const rest = pages.map(({ body, edges }) => ({
    words: body.filter((words) => seen(words).length > 0),
    edges: edges.reduce((sum, words) => sum + seen(words).length, 0),
  }));
  const sheets: Sheet[] = [];
  let page = 0;
  let said = 0;
  for (const [index, { pieces }] of texts.entries()) {
    while (rest[page] && rest[page]!.words.length === 0) page++;
    const now = rest[page];
    if (!now) return undefined;
    const edge = now.edges + seen(pageOf(index + 1, texts.length)).length;
    const all = pieces.reduce((sum, { text }) => sum + seen(text).length, 0);
    const read = readBlocks(pieces, now.words, said, all - edge);
    if (!read) return undefined;
    ({ said } = read);
    sheets.push(read.blocks);
  }
  return rest.slice(page).every(({ words }) => words.length === 0) ? sheets : undefined;
}
/**
 * Takes as many letters off the words as stand on a sheet. @param words loses what is said whole @param said of the
 * first of them, how many characters stand on sheets before
 */
function readBlocks(
  pieces: readonly Piece[],
  words: string[],
  said: number,
  most: number,
): { readonly blocks: Sheet; readonly said: number } | undefined {
  const blocks: Line[][] = [];
  let block: Line[] = [];
  let left = most;
  let at = 0;
  const blank = (index: number): boolean => seen(pieces[index]!.text).length === 0;
  while (left > 0) {
    const whole = words[0];
    if (whole === undefined || at >= pieces.length) return undefined;
    // A line: pieces side by side, as long as they are of this block.
    const open = seen(whole.slice(said)).length;
    const first = at;
    const drawn: string[] = [];
    while (at < pieces.length && pieces[at]!.height === pieces[first]!.height && drawn.length < Math.min(open, left))
      drawn.push(...seen(pieces[at++]!.text));
    if (drawn.length === 0 && blank(first)) {
      at = Math.max(at, first + 1);
      continue;
    }
    const end = endOf(whole, said, drawn.length);
    const line = whole.slice(said, end);
    if (drawn.length > open || drawn.length > left || !isSameLetters(seen(line), drawn)) return undefined;
    left -= drawn.length;
    const isWhole = drawn.length === open;
    block.push({ first, last: at - 1, said: `${line.trim()}${isWhole ? "" : " "}` });
    said = isWhole ? 0 : end;
    if (isWhole) {
      words.shift();
      blocks.push(block);
      block = [];
    }
  }
  if (block.length > 0) blocks.push(block);
  return { blocks, said };
}
/** Where this many seen letters end. */
function endOf(text: string, from: number, letters: number): number {
  let at = from;
  let many = 0;
  while (many < letters && at < text.length) {
    const letter = String.fromCodePoint(text.codePointAt(at)!);
    many += seen(letter).length;
    at += letter.length;
  }
  return at;
}
