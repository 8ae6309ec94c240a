import { fail, ok, type Result } from "../shared";

/** A stretch of text, or the end of a line. */
export type Inline =
  | { readonly type: "text"; readonly text: string; readonly marks?: readonly InlineMark[] }
  | { readonly type: "hardBreak" };
export type InlineMark =
  { readonly type: "bold" | "italic" } | { readonly type: "link"; readonly attrs: { readonly href: string } };

export interface Paragraph {
  readonly type: "paragraph";
  readonly content?: readonly Inline[];
}
/** Begins a section where it names one; `prompt` says what belongs under it, while nothing is there. */
export interface Heading {
  readonly type: "heading";
  readonly attrs: { readonly level: 2 | 3; readonly section: string | null; readonly prompt: string | null };
  readonly content?: readonly Inline[];
}
export interface List {
  readonly type: "bulletList" | "orderedList";
  readonly content: readonly ListItem[];
}
export interface ListItem {
  readonly type: "listItem";
  readonly content: readonly (Paragraph | List)[];
}
export interface Table {
  readonly type: "table";
  readonly content: readonly {
    readonly type: "tableRow";
    readonly content: readonly {
      readonly type: "tableCell" | "tableHeader";
      readonly content: readonly Paragraph[];
    }[];
  }[];
}
/** The client's own words. They are not in the document: it names them, and says what was remarked beside. */
export interface Quoted {
  readonly type: "quoted";
  readonly attrs: { readonly quote: string; readonly remark: string };
}
/** The practitioner's words in the place of the client's. */
export interface Restated {
  readonly type: "restated";
  readonly attrs: { readonly quote: string };
  readonly content?: readonly Inline[];
}
/** A question the client left open, to be completed in the session. */
export interface OpenPrompt {
  readonly type: "openPrompt";
  readonly attrs: { readonly quote: string };
  readonly content?: readonly Inline[];
}
export interface MeasurePlot {
  readonly type: "measure";
  readonly attrs: { readonly measure: string };
}
export type PlainBlock = Paragraph | Heading | List | Table;
export type NoteBlock = PlainBlock | Quoted | Restated | OpenPrompt | MeasurePlot;

/** What stands above the line: the practice's own. */
export interface NoteDocument {
  readonly type: "doc";
  readonly content: readonly NoteBlock[];
}
/** What stands below it, for the client. It can name nothing that stands above. */
export interface TakeHomeDocument {
  readonly type: "doc";
  readonly content: readonly PlainBlock[];
}

export const mostCharacters = 400_000;
const mostNodes = 20_000;
const deepest = 8;
const longestHref = 2000;

export interface DocumentProblem {
  /** As `content.3.attrs.href`. */
  readonly path: string;
  readonly problem: string;
}
class Wrong extends Error {
  constructor(
    readonly path: string,
    readonly problem: string,
  ) {
    super(problem);
  }
}
type Json = Readonly<Record<string, unknown>>;

/** Builds a document anew of what somebody sent, node by node: what is not known stands in none. */
class Reader {
  private nodes = 0;
  private characters = 0;
  constructor(private readonly plain: boolean) {}

  document(json: unknown): { type: "doc"; content: NoteBlock[] } {
    const node = this.node(json, "", 0);
    if (node["type"] !== "doc") throw new Wrong("type", "This is no document.");
    const content = this.list(node, "", 0).map(([one, path]) => this.block(one, path, 1));
    return { type: "doc", content: content.length > 0 ? content : [{ type: "paragraph" }] };
  }
  private node(json: unknown, path: string, depth: number): Json {
    if (typeof json !== "object" || json === null || Array.isArray(json)) throw new Wrong(path, "A node is missing.");
    if (++this.nodes > mostNodes) throw new Wrong(path, "This is too long for one note.");
    if (depth > deepest) throw new Wrong(path, "This is nested too deep.");
    return json as Json;
  }
  private list(node: Json, path: string, depth: number): [Json, string][] {
    const { content = [] } = node;
    if (!Array.isArray(content)) throw new Wrong(`${path}content`, "The content is no list.");
    return content.map((one, index) => {
      const at = `${path}content.${index}.`;
      return [this.node(one, at, depth + 1), at];
    });
  }
  private text(value: unknown, path: string, most = mostCharacters): string {
    if (typeof value !== "string") throw new Wrong(path, "Text is missing.");
    this.characters += value.length;
    if (value.length > most || this.characters > mostCharacters)
      throw new Wrong(path, "This is too long for one note.");
    return value;
  }
  private name(value: unknown, path: string, most: number): string | null {
    return value === null || value === undefined ? null : this.text(value, path, most);
  }
  private attrs(node: Json): Json {
    const { attrs } = node;
    return typeof attrs === "object" && attrs !== null ? (attrs as Json) : {};
  }
  private block(node: Json, path: string, depth: number): NoteBlock {
    const attrs = this.attrs(node);
    const quote = (): string => this.text(attrs["quote"], `${path}attrs.quote`, 700);
    switch (node["type"]) {
      case "heading":
        return {
          type: "heading",
          attrs: {
            level: attrs["level"] === 3 ? 3 : 2,
            section: this.name(attrs["section"], `${path}attrs.section`, 60),
            prompt: this.name(attrs["prompt"], `${path}attrs.prompt`, 500),
          },
          ...this.inlines(node, path, depth),
        };
      case "bulletList":
      case "orderedList":
      case "table":
      case "paragraph":
        return this.plainBlock(node, path, depth);
      case "quoted":
        this.mayName(path);
        return {
          type: "quoted",
          attrs: { quote: quote(), remark: this.text(attrs["remark"] ?? "", `${path}attrs.remark`, 4000) },
        };
      case "restated":
      case "openPrompt":
        this.mayName(path);
        return { type: node["type"], attrs: { quote: quote() }, ...this.inlines(node, path, depth) };
      case "measure":
        this.mayName(path);
        return { type: "measure", attrs: { measure: this.text(attrs["measure"], `${path}attrs.measure`, 700) } };
      default:
        throw new Wrong(`${path}type`, "This does not belong in a note.");
    }
  }
  private mayName(path: string): void {
    if (this.plain) throw new Wrong(`${path}type`, "What is quoted above the line does not go below it.");
  }
  private plainBlock(node: Json, path: string, depth: number): Paragraph | List | Table {
    switch (node["type"]) {
      case "paragraph":
        return { type: "paragraph", ...this.inlines(node, path, depth) };
      case "bulletList":
      case "orderedList":
        return {
          type: node["type"],
          content: this.list(node, path, depth).map(([one, at]) => ({
            type: "listItem",
            content: this.list(this.only(one, at, "listItem"), at, depth + 1).map(([inner, innerAt]) => {
              const block = this.plainBlock(inner, innerAt, depth + 2);
              if (block.type === "table") throw new Wrong(`${innerAt}type`, "A list holds no table.");
              return block;
            }),
          })),
        };
      case "table":
        return {
          type: "table",
          content: this.list(node, path, depth).map(([row, at]) => ({
            type: "tableRow",
            content: this.list(this.only(row, at, "tableRow"), at, depth + 1).map(([cell, cellAt]) => ({
              type: cell["type"] === "tableHeader" ? ("tableHeader" as const) : ("tableCell" as const),
              content: this.list(cell, cellAt, depth + 2).map(([inner, innerAt]) => ({
                type: "paragraph" as const,
                ...this.inlines(this.only(inner, innerAt, "paragraph"), innerAt, depth + 3),
              })),
            })),
          })),
        };
      default:
        throw new Wrong(`${path}type`, "This does not belong here.");
    }
  }
  private only(node: Json, path: string, type: string): Json {
    if (node["type"] !== type) throw new Wrong(`${path}type`, "This does not belong here.");
    return node;
  }
  private inlines(node: Json, path: string, depth: number): { content?: Inline[] } {
    const content = this.list(node, path, depth).map(([one, at]): Inline => {
      if (one["type"] === "hardBreak") return { type: "hardBreak" };
      const text = this.text(this.only(one, at, "text")["text"], `${at}text`);
      if (text === "") throw new Wrong(`${at}text`, "Text is missing.");
      const { marks = [] } = one;
      if (!Array.isArray(marks)) throw new Wrong(`${at}marks`, "The marks are no list.");
      const own = marks.map((mark, index) => this.mark(mark as Json | null, `${at}marks.${index}.`));
      return { type: "text", text, ...(own.length > 0 ? { marks: own } : {}) };
    });
    return content.length > 0 ? { content } : {};
  }
  private mark(mark: Json | null, path: string): InlineMark {
    if (mark?.["type"] === "bold" || mark?.["type"] === "italic") return { type: mark["type"] };
    if (mark?.["type"] !== "link") throw new Wrong(`${path}type`, "This does not belong in a text.");
    const href = this.text(this.attrs(mark)["href"], `${path}attrs.href`, longestHref);
    if (!isSafeAddress(href))
      throw new Wrong(`${path}attrs.href`, "A link leads to a web page, an address or a number.");
    return { type: "link", attrs: { href } };
  }
}
/** A link leads to a web page, a mail address or a phone number, and runs nothing. */
export const isSafeAddress = (href: string): boolean =>
  /^(?:https?:\/\/[^\s<>"'\\]+|mailto:[^\s<>"'\\]+|tel:[+\d() .-]+)$/i.test(href);

/**
 * A document out of JSON that somebody sent: the same in known nodes alone, or why it is none. Whatever else was in it
 * (scripts, styles, events, other nodes) is not carried over.
 */
export const readNote = (json: unknown): Result<NoteDocument, DocumentProblem> => read(json, false) as never;
/** The same for what stands below the line: no node that names something above it. */
export const readTakeHome = (json: unknown): Result<TakeHomeDocument, DocumentProblem> => read(json, true) as never;
function read(json: unknown, plain: boolean): Result<NoteDocument, DocumentProblem> {
  try {
    return ok(new Reader(plain).document(json));
  } catch (error) {
    if (error instanceof Wrong) return fail({ path: error.path, problem: error.problem });
    throw error;
  }
}

/** The words of a stretch of text. */
export const wordsOf = (content: readonly Inline[] = []): string =>
  content.map((one) => (one.type === "hardBreak" ? "\n" : one.text)).join("");
export const paragraph = (text: string): Paragraph =>
  text === "" ? { type: "paragraph" } : { type: "paragraph", content: [{ type: "text", text }] };
/** Paragraphs of a text, one a line. */
export const paragraphs = (text: string): Paragraph[] => (text === "" ? [] : text.split("\n").map(paragraph));
export const isBlank = (block: NoteBlock): boolean =>
  block.type === "paragraph" && wordsOf(block.content).trim() === "";
/** Nothing stands under its headings. */
export const isEmptyDocument = ({ content }: { readonly content: readonly NoteBlock[] }): boolean =>
  content.every((block) => block.type === "heading" || isBlank(block) || isOpen(block));
/** A question that was left open, and still is. */
export const isOpen = (block: NoteBlock): boolean =>
  block.type === "openPrompt" && wordsOf(block.content).trim() === "";
/** Keys of what is quoted, restated or left open in it. */
export const quotesIn = ({ content }: NoteDocument): readonly string[] =>
  content.flatMap((block) => ("attrs" in block && "quote" in block.attrs ? [block.attrs.quote] : []));
export const measuresIn = ({ content }: NoteDocument): readonly string[] =>
  content.flatMap((block) => (block.type === "measure" ? [block.attrs.measure] : []));
