import type { AnswerOption, Display, Group, Item, Question, Signer } from "../questionnaire";

/**
 * One field of a PDF form, as far as a client can fill it in. Places are in points from the page's lower left corner.
 */
export interface SheetField {
  readonly name: string;
  /** What the PDF itself calls it for a reader (its tooltip), if anything. */
  readonly label: string | undefined;
  readonly kind: "text" | "long-text" | "check" | "one-of" | "drop-down" | "several-of" | "signature";
  readonly required: boolean;
  readonly maxLength: number | undefined;
  readonly options: readonly string[];
  /** From 0. */
  readonly page: number;
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Fields whose tops are this close stand in one line (common practice: about one line of small print). */
const lineHeight = 9;
/** In the order somebody reads the sheet: page by page, line by line, in each from the left. */
function inReadingOrder(fields: readonly SheetField[]): SheetField[] {
  const lines: SheetField[][] = [];
  for (const field of [...fields].sort((a, b) => a.page - b.page || b.top - a.top || a.left - b.left)) {
    const line = lines.at(-1);
    if (line && line[0]!.page === field.page && line[0]!.top - field.top < lineHeight) line.push(field);
    else lines.push([field]);
  }
  return lines.flatMap((line) => line.sort((a, b) => a.left - b.left));
}

/** A field without a label is called by its name: the last part of it, with blanks where its parts are joined. */
const nameWords = (name: string): string => {
  const words = (name.split(".").at(-1) ?? name)
    .replace(/\[\d+\]$/, "")
    .replace(/[_-]+/g, " ")
    .replace(/(?<=\p{Ll})\p{Lu}/gu, (capital) => ` ${capital.toLowerCase()}`)
    .trim();
  return words === "" ? "Field" : words.charAt(0).toUpperCase() + words.slice(1);
};

/** Whom a place is for, by what its field is called; the client, where that says nothing. */
const signerWords: readonly (readonly [RegExp, Signer])[] = [
  [/practi[ct]|therapist|clinician|provider|counsel|staff/i, "practitioner"],
  [/guardian|parent|mother|father/i, "guardian"],
  [/partner|spouse/i, "partner"],
  [/supervisor/i, "supervisor"],
  [/witness|employer|landlord|payer/i, "named"],
];
const signerCalled = (words: string): Signer => signerWords.find(([pattern]) => pattern.test(words))?.[1] ?? "client";

const bare = { repeats: false, readOnly: false, codes: [], options: [], items: [] } as const;
/**
 * The fields of a PDF as questions, a section for each page that has any. Keys are `f1`, `f2`… and each question names
 * its field.
 */
export function sheetItems(fields: readonly SheetField[], optionSystem: string): Item[] {
  const ordered = inReadingOrder(fields);
  const pages = [...new Set(ordered.map((f) => f.page))];
  const option = (words: string): AnswerOption => ({
    value: { type: "coding", value: { system: optionSystem, code: words, display: words } },
  });
  /** Who signs there is guessed, and for the author to say; the words stand for what is agreed to. */
  const signaturePlace = ({ page, left, top, width, height }: SheetField, linkId: string, words: string): Display => ({
    type: "display",
    linkId,
    text: `${words}: I have read this sheet, and I agree to it.`,
    codes: [],
    signature: true,
    signer: signerCalled(words),
    signing: { onSheet: { page: page + 1, left, bottom: top - height, width, height } },
  });
  const question = (field: SheetField, index: number): Question | Display => {
    const base = {
      ...bare,
      linkId: `f${index + 1}`,
      text: field.label?.trim() || nameWords(field.name),
      required: field.required,
      sheetField: field.name,
    };
    switch (field.kind) {
      case "signature":
        return signaturePlace(field, base.linkId, base.text);
      case "check":
        return { ...base, type: "boolean" };
      case "text":
      case "long-text":
        return {
          ...base,
          type: field.kind === "text" ? "string" : "text",
          ...(field.maxLength === undefined ? {} : { maxLength: field.maxLength }),
        };
      case "one-of":
        return { ...base, type: "choice", options: field.options.map(option) };
      case "drop-down":
        return { ...base, type: "choice", control: "drop-down", options: field.options.map(option) };
      case "several-of":
        return { ...base, type: "choice", repeats: true, options: field.options.map(option) };
    }
  };
  const questions = ordered.map((field, i) => [field.page, question(field, i)] as const);
  return pages.map((page): Group => ({
    type: "group",
    linkId: `page${page + 1}`,
    text: `Page ${page + 1}`,
    codes: [],
    required: false,
    repeats: false,
    items: questions.filter(([p]) => p === page).map(([, q]) => q),
  }));
}
