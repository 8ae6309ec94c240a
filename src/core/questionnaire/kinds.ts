import { mainLanguage } from "../shared";
import type { AnswerOption, Group, Item, Question, Questionnaire, QuestionnaireKind } from "./definition";

/** The kinds of line somebody can write, as the Composer offers them. Several share one FHIR item type. */
export const lineKinds = [
  "short-text",
  "long-text",
  "yes-no",
  "one-of",
  "drop-down",
  "look-up",
  "one-or-other",
  "several-of",
  "scale",
  "whole-number",
  "decimal",
  "amount",
  "date",
  "time",
  "email",
  "phone",
  "web-address",
  "postal-address",
  "file",
  "text",
  "terms",
  "section",
  "grid",
  "repeating",
  "score",
  "signature",
] as const;
export type LineKind = (typeof lineKinds)[number];

const bare = { required: false, repeats: false, readOnly: false, codes: [], options: [], items: [] } as const;
type Shape = Partial<Question> & Pick<Question, "type">;
const shapes: Readonly<Record<Exclude<LineKind, "text" | "signature" | "section" | "grid" | "repeating">, Shape>> = {
  "short-text": { type: "string" },
  "long-text": { type: "text" },
  "yes-no": { type: "boolean" },
  "one-of": { type: "choice" },
  "drop-down": { type: "choice", control: "drop-down" },
  "look-up": { type: "choice", control: "autocomplete" },
  "one-or-other": { type: "open-choice" },
  "several-of": { type: "choice", repeats: true },
  scale: { type: "integer", control: "slider", minValue: 0, maxValue: 10, step: 1, ends: ["Not at all", "Very much"] },
  "whole-number": { type: "integer" },
  decimal: { type: "decimal" },
  amount: { type: "quantity", unit: { code: "kg", display: "kg" } },
  date: { type: "date" },
  time: { type: "time" },
  email: { type: "string", keyboard: "email" },
  phone: { type: "string", keyboard: "phone" },
  "web-address": { type: "url" },
  "postal-address": { type: "text", control: "address" },
  file: { type: "attachment", repeats: true },
  terms: { type: "boolean", terms: "" },
  score: {
    type: "decimal",
    readOnly: true,
    score: { method: "sum", items: [], fewestAnswered: 0, proration: "none", bands: [] },
  },
};

export function kindOf(item: Item): LineKind {
  if (item.type === "display") return item.signature ? "signature" : "text";
  if (item.type === "group") {
    if (item.repeats) return "repeating";
    if (item.control === "htable") return "grid";
    return "section";
  }
  if (item.score) return "score";
  switch (item.type) {
    case "boolean":
      return item.terms === undefined ? "yes-no" : "terms";
    case "choice":
      if (item.repeats) return "several-of";
      if (item.control === "drop-down") return "drop-down";
      if (item.control === "autocomplete") return "look-up";
      return "one-of";
    case "open-choice":
      return "one-or-other";
    case "integer":
      return item.control === "slider" ? "scale" : "whole-number";
    case "decimal":
      return "decimal";
    case "quantity":
      return "amount";
    case "string":
      return item.keyboard ?? "short-text";
    case "text":
      return item.control === "address" ? "postal-address" : "long-text";
    case "url":
      return "web-address";
    case "attachment":
      return "file";
    case "date":
    case "time":
      return item.type;
  }
}

export const hasOptions = (kind: LineKind): boolean =>
  ["one-of", "drop-down", "look-up", "one-or-other", "several-of"].includes(kind);

/** A new line of a kind, with nothing in it yet. */
export function newLine(kind: LineKind, linkId: string): Item {
  if (kind === "text") return { type: "display", linkId, text: "", codes: [] };
  if (kind === "signature") return { type: "display", linkId, text: "", codes: [], signature: true };
  if (kind === "section" || kind === "grid" || kind === "repeating")
    return {
      type: "group",
      linkId,
      text: "",
      codes: [],
      required: false,
      repeats: kind === "repeating",
      items: [],
      ...(kind === "grid" ? { control: "htable" as const } : {}),
    };
  return { ...bare, linkId, text: "", ...shapes[kind] };
}

/**
 * The same line as another kind: its words, key, conditions and what still makes sense stay. @param before what it was
 * when it was of that kind: what only that kind has comes back with it.
 */
export function withKind(item: Item, kind: LineKind, before?: Item): Item {
  if (kindOf(item) === kind) return item;
  const fresh = before && kindOf(before) === kind ? { ...before, linkId: item.linkId } : newLine(kind, item.linkId);
  const common = {
    text: item.text,
    codes: item.codes,
    ...(item.prefix === undefined ? {} : { prefix: item.prefix }),
    ...(item.shownWhen ? { shownWhen: item.shownWhen } : {}),
  };
  if (fresh.type === "display" || item.type === "display") return { ...fresh, ...common } as Item;
  if (fresh.type === "group")
    return { ...fresh, ...common, items: item.items, required: item.required && fresh.repeats } as Group;
  if (item.type === "group") return { ...fresh, ...common, items: item.items };
  return {
    ...fresh,
    ...common,
    items: item.items,
    required: item.required && !fresh.readOnly,
    ...(item.help === undefined ? {} : { help: item.help }),
    ...(item.posting && kind !== "score" ? { posting: item.posting } : {}),
    ...(hasOptions(kind) && item.options.length > 0 ? { options: item.options } : {}),
    ...(item.alert && !fresh.readOnly ? { alert: item.alert } : {}),
  };
}

/** One line to begin with, so that the first thing to do is to type. */
export const emptyQuestionnaire = (
  url: string,
  title: string,
  kind: QuestionnaireKind,
  firstKey: string,
): Questionnaire => ({
  url,
  version: "1",
  title,
  status: "draft",
  kind,
  codes: [],
  signed: kind === "consent",
  items: [newLine("short-text", firstKey)],
});

const none: Readonly<Record<string, RegExp>> = {
  en: /^(none|no,? none|nothing|none (of|at all)\b.*|not applicable|n\/a)$/iu,
  es: /^(ninguno|ninguna|nada|no aplica|ningun[oa] (de|en)\b.*)$/iu,
  fr: /^(aucun|aucune|rien|sans objet|aucune? (de|des|d’|d')\b.*)$/iu,
  ar: /^(لا شيء.*|لا أحد.*|لا ينطبق)$/u,
};
/** Words by which an option says that none of the others is meant. */
export const meansNone = (words: string, language: string): boolean =>
  [none[mainLanguage(language)], none["en"]].some((says) => says?.test(words.trim()) === true);

/**
 * Options as somebody types them: one a line; `= 2` at the end is its number in a score, `!` before it means that it
 * rules the others out. An option keeps its code while its words or its place stay, so that rewording it is no new one.
 */
export function readOptions(text: string, before: readonly AnswerOption[], system: string): AnswerOption[] {
  const lines = text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
  const taken = new Set<string>();
  const words = (o: AnswerOption): string => {
    if (o.value.type === "coding") return o.value.value.display ?? "";
    if ("value" in o.value) return String(o.value.value);
    return "";
  };
  return lines.map((line, index) => {
    const number = /\s*=\s*(-?\d+(?:\.\d+)?)$/.exec(line);
    const exclusive = line.startsWith("!");
    const label = line.slice(0, number ? number.index : undefined).replace(/^!\s*/, "");
    const same = before.find((o) => words(o) === label) ?? (lines.length === before.length ? before[index] : undefined);
    let code = same?.value.type === "coding" ? (same.value.value.code ?? "") : "";
    for (let index = 1; code === "" || taken.has(code); index++)
      code = `${
        label
          .toLowerCase()
          .replace(/[^\p{L}\p{N}]+/gu, "-")
          .replace(/^-|-$/g, "")
          .slice(0, 40) || "option"
      }${index > 1 ? `-${index}` : ""}`;
    taken.add(code);
    const value = {
      type: "coding" as const,
      value: {
        system: same?.value.type === "coding" ? (same.value.value.system ?? system) : system,
        code,
        display: label,
      },
    };
    return {
      ...(same?.kept ? { kept: same.kept } : {}),
      ...(same?.shownWhen ? { shownWhen: same.shownWhen } : {}),
      value,
      ...(number ? { ordinal: Number(number[1]) } : {}),
      ...(exclusive ? { exclusive: true } : {}),
    };
  });
}
export const writeOptions = (options: readonly AnswerOption[]): string =>
  options
    .map((o) => {
      const labelHere = () => {
        if (o.value.type === "coding") return o.value.value.display ?? o.value.value.code ?? "";
        if ("value" in o.value) return String(o.value.value);
        return "";
      };
      return `${o.exclusive ? "! " : ""}${labelHere()}${o.ordinal === undefined ? "" : ` = ${o.ordinal}`}`;
    })
    .join("\n");

const marks: Readonly<Record<string, LineKind>> = {
  "#": "section",
  "()": "one-of",
  "[]": "several-of",
  "y/n": "yes-no",
  "123": "whole-number",
  "...": "long-text",
  "--": "text",
  "@": "email",
  "1-10": "scale",
  "**": "repeating",
  "|": "grid",
};
/** A kind typed as a mark before the words: `() How did you hear of us?` */
export function markedKind(text: string): { readonly kind: LineKind; readonly rest: string } | undefined {
  const found = /^(\S{1,4}) (.*)$/su.exec(text);
  const kind = found && marks[found[1]!];
  return kind ? { kind, rest: found[2]! } : undefined;
}
export const markOf = (kind: LineKind): string | undefined => Object.keys(marks).find((m) => marks[m] === kind);
