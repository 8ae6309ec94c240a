import { assertNever } from "../shared";

export interface Coding {
  readonly system?: string;
  readonly code?: string;
  readonly display?: string;
}

/** A file that was given as an answer. `id` names it in the practice's store; the rest is what the store says of it. */
export interface FileValue {
  readonly id: string;
  readonly title: string;
  readonly contentType: string;
  /** In bytes. */
  readonly size: number;
}

/** One answer, tagged with the FHIR R4 `value[x]` it becomes. Dates are YYYY-MM-DD, times HH:MM[:SS]. */
export type AnswerValue =
  | { readonly type: "boolean"; readonly value: boolean }
  | { readonly type: "decimal" | "integer"; readonly value: number }
  | { readonly type: "date" | "time" | "string" | "uri"; readonly value: string }
  | { readonly type: "coding"; readonly value: Coding }
  | { readonly type: "quantity"; readonly value: { readonly value: number; readonly unit?: string } }
  | { readonly type: "attachment"; readonly value: FileValue };

/** The same choice? A coding is its system and code; without a code, its display. */
export function sameValue(a: AnswerValue, b: AnswerValue): boolean {
  if (a.type === "coding" && b.type === "coding") {
    if (a.value.code === undefined && b.value.code === undefined) return a.value.display === b.value.display;
    return a.value.code === b.value.code && (a.value.system ?? "") === (b.value.system ?? "");
  }
  if (a.type === "quantity" && b.type === "quantity")
    return a.value.value === b.value.value && (a.value.unit ?? "") === (b.value.unit ?? "");
  if (a.type === "attachment" && b.type === "attachment") return a.value.id === b.value.id;
  const na = numberOf(a);
  const nb = numberOf(b);
  if (na !== undefined && nb !== undefined) return na === nb;
  return a.type === b.type && a.value === b.value;
}

const numberOf = (a: AnswerValue): number | undefined =>
  a.type === "decimal" || a.type === "integer" ? a.value : undefined;

/** Negative, zero or positive; undefined where the two have no order (FHIR allows <,> on numbers, dates, times, text). */
export function compareValues(a: AnswerValue, b: AnswerValue): number | undefined {
  const na = a.type === "quantity" ? a.value.value : numberOf(a);
  const nb = b.type === "quantity" ? b.value.value : numberOf(b);
  if (na !== undefined && nb !== undefined) return na - nb;
  if (a.type === b.type && (a.type === "date" || a.type === "time" || a.type === "string"))
    return a.value < (b.value as string) ? -1 : a.value > (b.value as string) ? 1 : 0;
  return undefined;
}

/** How answers are put into words: yes and no in the reader's language, and dates in their locale (without one, YYYY-MM-DD). */
export interface AnswerWords {
  readonly yes: string;
  readonly no: string;
  readonly locale?: string;
}
export const plainWords: AnswerWords = { yes: "Yes", no: "No" };

/** Words for one answer. */
export function textOf(a: AnswerValue, words: AnswerWords = plainWords): string {
  switch (a.type) {
    case "boolean":
      return a.value ? words.yes : words.no;
    case "decimal":
    case "integer":
      return String(a.value);
    case "date":
      return words.locale === undefined ? a.value : dateWords(a.value, words.locale);
    case "time":
    case "string":
    case "uri":
      return a.value;
    case "coding":
      return a.value.display ?? a.value.code ?? "";
    case "quantity":
      return `${a.value.value}${a.value.unit ? ` ${a.value.unit}` : ""}`;
    case "attachment":
      return a.value.title;
    default:
      return assertNever(a);
  }
}

/** "17 April 1991" for 1991-04-17; anything that is not a day comes back as it is. */
export function dateWords(day: string, locale: string): string {
  const at = /^\d{4}-\d{2}-\d{2}$/.test(day) ? Date.parse(`${day}T12:00:00Z`) : NaN;
  return Number.isNaN(at)
    ? day
    : new Intl.DateTimeFormat(locale, { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" }).format(at);
}
