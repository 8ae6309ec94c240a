import { fail, ok, type Result } from "../shared";
import { isGroup, type Item, type Question, type Questionnaire } from "./definition";
import type { AnswerValue } from "./answer-value";
import { keyOf, linkIdOf, prefixOf, type AnswerChange } from "./answers";
import { checkAnswer, type AnswerProblem } from "./validity";

export type ChangeError =
  { readonly reason: "malformed" } | { readonly reason: "problem"; readonly problem: AnswerProblem };

// What may be saved while somebody is still typing: half an e-mail address, or text where a number will stand, is kept.
const refusedAtOnce: ReadonlySet<AnswerProblem["reason"]> = new Set(["not-an-option", "only-one", "exclusive"]);
const mostRows = 60;
/** A text too long to be returned is kept while it is made shorter; beyond this it is no answer to anything. */
const longestDraft = 200_000;

/** Reads one change from a stranger's JSON. Nothing that does not belong to this questionnaire gets past it. */
export function readChange(questionnaire: Questionnaire, json: unknown): Result<AnswerChange, ChangeError> {
  const malformed = fail({ reason: "malformed" as const });
  if (typeof json !== "object" || json === null) return malformed;
  const { kind, key, values, rows } = json as Record<string, unknown>;
  if (typeof key !== "string" || key.length > 500) return malformed;
  const item = itemAt(questionnaire, key);
  if (!item) return malformed;
  if (kind === "rows") {
    if (item.type !== "group" || !item.repeats || !Array.isArray(rows) || rows.length > mostRows) return malformed;
    if (
      !rows.every((r): r is string => typeof r === "string" && /^[a-z0-9]{1,16}$/.test(r)) ||
      new Set(rows).size !== rows.length
    )
      return malformed;
    return ok({ kind, key, rows });
  }
  if (
    kind !== "values" ||
    item.type === "group" ||
    item.type === "display" ||
    item.readOnly ||
    !Array.isArray(values) ||
    values.length > 100
  )
    return malformed;
  const read = (values as unknown[]).map(readValue);
  if (!read.every((v): v is AnswerValue => v !== undefined)) return malformed;
  const draft = read.every((v) => v.type === "string" || v.type === "uri");
  const problem = checkAnswer(item as Question, key, read).find(
    (p) => refusedAtOnce.has(p.reason) || (p.reason === "wrong-type" && !draft),
  );
  return problem ? fail({ reason: "problem", problem }) : ok({ kind, key, values: read });
}

/**
 * The item a key names, if the key has the shape such a place has: a row in its prefix for every repeating group around
 * it.
 */
function itemAt(questionnaire: Questionnaire, key: string): Item | undefined {
  const linkId = linkIdOf(key);
  const prefix = prefixOf(key);
  const search = (items: readonly Item[], groups: readonly string[]): Item | undefined => {
    for (const item of items) {
      if (item.linkId === linkId) return prefixFits(prefix, groups) ? item : undefined;
      if (item.type === "display") continue;
      const found = search(item.items, isGroup(item) && item.repeats ? [...groups, item.linkId] : groups);
      if (found) return found;
    }
    return undefined;
  };
  return search(questionnaire.items, []);
}

function prefixFits(prefix: string, groups: readonly string[]): boolean {
  const parts = prefix.split("/").slice(0, -1);
  return (
    parts.length === groups.length &&
    parts.every((part, i) => {
      const stem = keyOf("", groups[i]!);
      return part.startsWith(`${stem}:`) && /^[a-z0-9]{1,16}$/.test(part.slice(stem.length + 1));
    })
  );
}

function readValue(json: unknown): AnswerValue | undefined {
  if (typeof json !== "object" || json === null) return undefined;
  const { type, value } = json as Record<string, unknown>;
  switch (type) {
    case "boolean":
      return typeof value === "boolean" ? { type, value } : undefined;
    case "decimal":
    case "integer":
      return typeof value === "number" && Number.isFinite(value) ? { type, value } : undefined;
    case "date":
    case "time":
    case "string":
    case "uri":
      return typeof value === "string" && value.length <= longestDraft && isStorable(value)
        ? { type, value }
        : undefined;
    case "coding": {
      if (typeof value !== "object" || value === null) return undefined;
      const { system, code, display } = value as Record<string, unknown>;
      const fits = [system, code, display].every((v) => v === undefined || (typeof v === "string" && v.length <= 1000));
      return fits
        ? {
            type,
            value: {
              ...(system ? { system: system as string } : {}),
              ...(code ? { code: code as string } : {}),
              ...(display ? { display: display as string } : {}),
            },
          }
        : undefined;
    }
    case "attachment": {
      if (typeof value !== "object" || value === null) return undefined;
      const { id, title, contentType, size } = value as Record<string, unknown>;
      const fits =
        typeof id === "string" &&
        typeof title === "string" &&
        title.length <= 200 &&
        isStorable(title) &&
        typeof contentType === "string" &&
        contentType.length <= 100 &&
        typeof size === "number";
      return fits ? { type, value: { id, title, contentType, size } } : undefined;
    }
    case "quantity": {
      if (typeof value !== "object" || value === null) return undefined;
      const { value: amount, unit } = value as Record<string, unknown>;
      return typeof amount === "number" &&
        Number.isFinite(amount) &&
        (unit === undefined || (typeof unit === "string" && unit.length <= 50))
        ? { type, value: { value: amount, ...(unit === undefined ? {} : { unit }) } }
        : undefined;
    }
    default:
      return undefined;
  }
}

/** No NUL and no lone surrogates: neither a PDF nor a database can hold them. */
const isStorable = (text: string): boolean => !/\u0000|\p{Surrogate}/u.test(text);
