import { assertNever, dateFormat, mainLanguage } from "../shared";

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
export function sameValue(value: AnswerValue, other: AnswerValue): boolean {
  if (value.type === "coding" && other.type === "coding") {
    if (value.value.code === undefined && other.value.code === undefined)
      return value.value.display === other.value.display;
    return value.value.code === other.value.code && (value.value.system ?? "") === (other.value.system ?? "");
  }
  if (value.type === "quantity" && other.type === "quantity")
    return value.value.value === other.value.value && (value.value.unit ?? "") === (other.value.unit ?? "");
  if (value.type === "attachment" && other.type === "attachment") return value.value.id === other.value.id;
  const na = numberOf(value);
  const nb = numberOf(other);
  if (na !== undefined && nb !== undefined) return na === nb;
  return value.type === other.type && value.value === other.value;
}

const numberOf = (a: AnswerValue): number | undefined =>
  a.type === "decimal" || a.type === "integer" ? a.value : undefined;

/**
 * Negative, zero or positive; undefined where the two have no order (FHIR allows <,> on numbers, dates, times, text).
 */
export function compareValues(value: AnswerValue, other: AnswerValue): number | undefined {
  const na = value.type === "quantity" ? value.value.value : numberOf(value);
  const nb = other.type === "quantity" ? other.value.value : numberOf(other);
  if (na !== undefined && nb !== undefined) return na - nb;
  if (value.type === other.type && (value.type === "date" || value.type === "time" || value.type === "string")) {
    if (value.value < (other.value as string)) return -1;
    if (value.value > (other.value as string)) return 1;
    return 0;
  }
  return undefined;
}

/**
 * How answers are put into words: yes and no in the reader's language, and dates in their locale (without one,
 * YYYY-MM-DD).
 */
export interface AnswerWords {
  readonly yes: string;
  readonly no: string;
  readonly locale?: string;
}
export const plainWords: AnswerWords = { yes: "Yes", no: "No" };
/** For a reader of a language; English where it is none of those the pages speak. */
export const answerWordsFor = (language: string): AnswerWords =>
  ({
    es: { yes: "Sí", no: "No" },
    fr: { yes: "Oui", no: "Non" },
    ar: { yes: "نعم", no: "لا" },
  })[mainLanguage(language)] ?? plainWords;

/** Words for one answer. */
export function textOf(value: AnswerValue, words: AnswerWords = plainWords): string {
  switch (value.type) {
    case "boolean":
      return value.value ? words.yes : words.no;
    case "decimal":
    case "integer":
      return String(value.value);
    case "date":
      return words.locale === undefined ? value.value : dateWords(value.value, words.locale);
    case "time":
    case "string":
    case "uri":
      return value.value;
    case "coding":
      return value.value.display ?? value.value.code ?? "";
    case "quantity":
      return `${value.value.value}${value.value.unit ? ` ${value.value.unit}` : ""}`;
    case "attachment":
      return value.value.title;
    default:
      return assertNever(value);
  }
}

/** "17 April 1991" for 1991-04-17; anything that is not a day comes back as it is. */
export function dateWords(day: string, locale: string): string {
  const at = /^\d{4}-\d{2}-\d{2}$/.test(day) ? Date.parse(`${day}T12:00:00Z`) : NaN;
  return Number.isNaN(at)
    ? day
    : dateFormat(locale, { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" }).format(at);
}
