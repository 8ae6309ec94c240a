import { fail, ok, type Result } from "../shared";

/** Placeholders a wording may use, and nothing else. */
export const placeholders = [
  "client.firstName",
  "recipient.firstName",
  "practitioner.name",
  "visit.when",
  "link",
  "door",
  "about",
  "expires",
  "practice.name",
  "code",
] as const;
export type Placeholder = (typeof placeholders)[number];

export interface Wording {
  readonly subject: string;
  readonly body: string;
}
export type WordingError =
  | { readonly reason: "unknown-placeholder"; readonly names: readonly string[] }
  | { readonly reason: "missing"; readonly names: readonly Placeholder[] };

/** A sign that stands in no wording. */
const nothing = "\u0000";
const pattern = /\{\{\s*([^{}]*?)\s*\}\}/g;

/**
 * Fills a wording. Fails when it names what does not exist, or lacks a placeholder the message is pointless without.
 */
export function fillWording(
  wording: Wording,
  values: Partial<Record<Placeholder, string>>,
  mustHave: readonly Placeholder[],
): Result<Wording, WordingError> {
  const used = [...`${wording.subject} ${wording.body}`.matchAll(pattern)].map((m) => m[1] ?? "");
  const unknown = used.filter(
    (name) => !(placeholders as readonly string[]).includes(name) || values[name as Placeholder] === undefined,
  );
  if (unknown.length > 0) return fail({ reason: "unknown-placeholder", names: [...new Set(unknown)] });
  const missing = mustHave.filter((name) => ![...wording.body.matchAll(pattern)].some((m) => m[1] === name));
  if (missing.length > 0) return fail({ reason: "missing", names: missing });
  // Where a placeholder stands for nothing, the blank or the empty line beside it goes too.
  const fill = (text: string): string =>
    text
      .replace(pattern, (_, name: string) => values[name as Placeholder] || nothing)
      .replace(new RegExp(`${nothing}(?: |\n\n)`, "g"), "")
      .replace(new RegExp(` ?${nothing}`, "g"), "");
  return ok({ subject: fill(wording.subject), body: fill(wording.body) });
}
