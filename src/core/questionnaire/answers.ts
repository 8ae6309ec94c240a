import type { AnswerValue } from "./answer-value";

/**
 * A person's answers, keyed by where each question stands.
 * Key of a question outside any repeating group: its linkId. Inside row `r` of repeating group `g`: `g:r/linkId`;
 * nested rows prefix again (`g:r/h:s/linkId`). Row ids are made by the browser and never reused, so that two
 * devices adding or removing rows do not renumber each other's answers.
 */
export interface Answers {
  readonly values: Readonly<Record<string, readonly AnswerValue[]>>;
  /** Row ids of each repeating group, in order. Key: the group's own key (`keyOf`). */
  readonly rows: Readonly<Record<string, readonly string[]>>;
}

export const noAnswers: Answers = { values: {}, rows: {} };

/** What one save carries: a question's answers, or a group's row order. An empty list clears. */
export type AnswerChange =
  | { readonly kind: "values"; readonly key: string; readonly values: readonly AnswerValue[] }
  | { readonly kind: "rows"; readonly key: string; readonly rows: readonly string[] };

export function applyChange(answers: Answers, change: AnswerChange): Answers {
  return change.kind === "values"
    ? { ...answers, values: { ...answers.values, [change.key]: change.values } }
    : { ...answers, rows: { ...answers.rows, [change.key]: change.rows } };
}

const escaped: Record<string, string> = { "%": "%25", "/": "%2F", ":": "%3A" };
/** linkIds may hold any sign, `/` and `:` included (LOINC panels use them); a key escapes those three. */
export const keyOf = (prefix: string, linkId: string): string =>
  prefix + (/[%/:]/.test(linkId) ? linkId.replace(/[%/:]/g, (sign) => escaped[sign]!) : linkId);

export const rowPrefix = (groupKey: string, row: string): string => `${groupKey}:${row}/`;

/** `g:r/` for `g:r/linkId`, the empty text outside repeating groups. */
export const prefixOf = (key: string): string => key.slice(0, key.lastIndexOf("/") + 1);
export const linkIdOf = (key: string): string =>
  decodeURIComponent(key.slice(key.lastIndexOf("/") + 1).replace(/%(?!25|2F|3A)/g, "%25"));

/** Enclosing prefixes from the innermost outward, always ending with the empty one. */
export function enclosingPrefixes(prefix: string): string[] {
  const out: string[] = [];
  for (let inner = prefix; inner !== ""; inner = prefixOf(inner.slice(0, -1))) out.push(inner);
  return [...out, ""];
}
