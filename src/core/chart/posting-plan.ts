import {
  allItems,
  childrenOf,
  isQuestion,
  place,
  rowPrefix,
  keyOf,
  linkIdOf,
  sameValue,
  shownQuestions,
  textOf,
  type Answers,
  type Placed,
  type PostingTarget,
  type Question,
  type Questionnaire,
} from "../questionnaire";
import { missingWords, scoresOf } from "../scoring";
import { chartValue } from "./convert";
import { fieldByKey, isNarrative, type ChartField } from "./fields";
import type { RowValue } from "./entries";

/** What one posting line brings in from one person's answers. */
export type Incoming =
  | {
      readonly kind: "value";
      readonly target: PostingTarget;
      readonly field: ChartField;
      readonly key: string;
      readonly question: string;
      readonly value: string;
    }
  | {
      readonly kind: "rows";
      readonly target: PostingTarget;
      readonly field: ChartField & { kind: "rows" };
      readonly key: string;
      readonly question: string;
      readonly rows: readonly { readonly key: string; readonly value: RowValue }[];
    }
  /** Not asked, because the question before it was answered with no, or with what rules all others out. */
  | {
      readonly kind: "denied";
      readonly target: PostingTarget;
      readonly field: ChartField;
      readonly key: string;
      readonly question: string;
      readonly value: string;
    };

/** A line of the plan that is no question: staff's own remarks beside the answers of a return. */
export const remarksLine = "~remarks";
export interface IncomingOptions {
  /** The day it was said, as YYYY-MM-DD. */
  readonly on?: string | undefined;
  /** LinkIds in the order in which answers that share a narrative are told. */
  readonly order?: readonly string[];
  /** Where staff's remarks go, and those there are, by the key of the answer they stand beside. */
  readonly remarks?:
    | { readonly target: PostingTarget; readonly notes: readonly { readonly key: string; readonly text: string }[] }
    | undefined;
}
/**
 * The posting plan applied: what was denied, and every shown, answered question (or repeating group, or score) that has
 * a posting line. Unanswered questions bring nothing in, so they can never blank a chart field; a "no" is for somebody
 * to decide about.
 */
export function incomingOf(
  questionnaire: Questionnaire,
  answers: Answers,
  fields: readonly ChartField[],
  { on, order = [], remarks }: IncomingOptions = {},
): Incoming[] {
  const scores = new Map(scoresOf(questionnaire, answers).map((s) => [s.linkId, s]));
  const out: Incoming[] = [];
  const denials: (Incoming & { kind: "denied" })[] = [];
  const shown = new Map(shownQuestions(questionnaire, answers).map((q) => [q.item.linkId, q]));
  const shared = sharedIn(questionnaire, fields, remarks?.target);
  const visit = (placed: Placed): void => {
    if (!placed.shown) {
      denials.push(...deniedBy(placed, shown, answers, fields));
      return;
    }
    const { item, key } = placed;
    const target = item.type === "display" ? undefined : item.posting;
    const field = target && fieldByKey(target.field, fields);
    if (target && field) {
      if (item.type === "group") {
        if (field.kind === "rows") {
          const rows = item.control === "htable" ? gridRows(placed, answers, field) : rowsIn(placed, answers, on);
          if (rows.length > 0) out.push({ kind: "rows", target, field, key, question: item.text, rows });
          return;
        }
      } else if (isQuestion(item)) {
        const score = scores.get(item.linkId);
        const valueOf = () => {
          if (score) {
            if (score.value === undefined) return "";
            const missing = missingWords(score);
            return missing === "" ? String(score.value) : `${score.value}; ${missing}`;
          }
          const said = chartValue(item, answers.values[key] ?? [], field, on);
          // Among other paragraphs a bare yes says nothing.
          const isBare = item.type === "boolean" && said !== "" && isNarrative(field) && !shared.has(field.key);
          return isBare ? `${item.text} ${said}` : said;
        };
        const value = valueOf();
        if (value !== "" && field.kind !== "rows")
          out.push({ kind: "value", target, field, key, question: item.text, value });
      }
    }
    placed.children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  out.push(...remarkedIn(shown, fields, remarks));
  // Where something came in for the same field after all, that is what is laid beside it.
  const brought = new Set(out.map((o) => o.field.key));
  const once = denials.filter(
    (d, i) => !brought.has(d.field.key) && denials.findIndex((e) => e.field.key === d.field.key) === i,
  );
  return [...told(out, shared, order), ...once];
}
function remarkedIn(
  shown: ReadonlyMap<string, Placed<Question>>,
  fields: readonly ChartField[],
  remarks: IncomingOptions["remarks"],
): Incoming[] {
  const field = remarks && fieldByKey(remarks.target.field, fields);
  if (!field || !isNarrative(field) || field.kind === "rows" || remarks.notes.length === 0) return [];
  const lines = remarks.notes.map(({ key, text }) => {
    const question = shown.get(linkIdOf(key))?.item.text;
    return question ? `${question} ${text}` : text;
  });
  const { target } = remarks;
  return [{ kind: "value", target, field, key: remarksLine, question: "Margin notes:", value: lines.join("\n") }];
}

/** Narratives that several lines of a questionnaire go to, whether they were answered or not. */
export function sharedIn(
  questionnaire: Questionnaire,
  fields: readonly ChartField[],
  remarks?: PostingTarget,
): ReadonlySet<string> {
  const targets = allItems(questionnaire).map((item) => (item.type === "display" ? undefined : item.posting));
  const fed = [...targets, remarks].flatMap((target) => {
    const field = target && fieldByKey(target.field, fields);
    return field && isNarrative(field) ? [field.key] : [];
  });
  return new Set(fed.filter((key, index) => fed.indexOf(key) < index));
}
/**
 * Answers that share a narrative as one text, each led by its question, so that it stays clear which is which. @param
 * order linkIds in the order they are told, where that is another than they were asked in
 */
function told(incoming: readonly Incoming[], shared: ReadonlySet<string>, order: readonly string[]): Incoming[] {
  const placeOf = ({ key }: Incoming): number => {
    const at = order.indexOf(linkIdOf(key));
    return at < 0 ? order.length : at;
  };
  return incoming.flatMap((one, index): Incoming[] => {
    if (one.kind !== "value" || !shared.has(one.field.key)) return [one];
    const all = incoming.filter((other) => other.kind === "value" && other.field.key === one.field.key);
    if (incoming.findIndex((other) => other === all[0]) !== index) return [];
    const inOrder = [...all].sort((a, b) => placeOf(a) - placeOf(b));
    const lines = inOrder.map((part) => `${part.question} ${(part as Incoming & { kind: "value" }).value}`);
    return [{ ...one, question: all.length === 1 ? one.question : `${all.length} answers`, value: lines.join("\n") }];
  });
}

/** A hidden line that would have gone to the chart, and the answer before it that says there is nothing of it. */
function deniedBy(
  placed: Placed,
  shown: ReadonlyMap<string, Placed<Question>>,
  answers: Answers,
  fields: readonly ChartField[],
): (Incoming & { kind: "denied" })[] {
  const { item } = placed;
  const inner = placed.children.flatMap((c) => deniedBy(c, shown, answers, fields));
  const target = item.type === "display" ? undefined : item.posting;
  const field = target && fieldByKey(target.field, fields);
  if (!target || !field || field.identity || placed.row !== undefined) return inner;
  for (const { question, operator, answer } of item.shownWhen?.conditions ?? []) {
    const gate = shown.get(question);
    const given = gate ? (answers.values[gate.key] ?? []) : [];
    const first = given[0];
    if (!gate || !first || given.length > 1 || operator === "exists") continue;
    const said =
      first.type === "boolean"
        ? !first.value && answer.type === "boolean"
        : gate.item.options.some((o) => o.exclusive && sameValue(o.value, first));
    if (said)
      return [
        { kind: "denied", target, field, key: gate.key, question: gate.item.text, value: textOf(first) },
        ...inner,
      ];
  }
  return inner;
}

const cell = { kind: "text", identity: false, key: "", label: "", section: "health" } as const;
/** The rows of a grid: each question in the first column, what was chosen in the second. */
function gridRows(
  placed: Placed,
  answers: Answers,
  field: ChartField & { kind: "rows" },
): { key: string; value: RowValue }[] {
  const second = field.columns.find((column) => column.key !== field.matchOn)?.key;
  return placed.children.flatMap((row) => {
    if (!row.shown || !isQuestion(row.item)) return [];
    const text = chartValue(row.item, answers.values[row.key] ?? [], cell, undefined);
    if (text === "") return [];
    return [{ key: row.key, value: { [field.matchOn]: row.item.text, ...(second ? { [second]: text } : {}) } }];
  });
}
/** Columns of a row are the group's questions whose posting line names the column. */
function rowsIn(placed: Placed, answers: Answers, on: string | undefined): { key: string; value: RowValue }[] {
  return placed.children.flatMap((row) => {
    if (row.row === undefined) return [];
    const prefix = rowPrefix(placed.key, row.row);
    const value: Record<string, string> = {};
    for (const child of row.children) {
      if (!child.shown || !isQuestion(child.item) || !child.item.posting) continue;
      const text = chartValue(child.item, answers.values[keyOf(prefix, child.item.linkId)] ?? [], cell, on);
      if (text !== "") value[child.item.posting.field] = text;
    }
    return Object.keys(value).length > 0 ? [{ key: `${placed.key}:${row.row}`, value }] : [];
  });
}

/**
 * Posting lines that name no field of this practice, or a field of the wrong shape: told at import, never met at
 * posting.
 */
export function postingProblems(
  questionnaire: Questionnaire,
  fields: readonly ChartField[],
): { linkId: string; field: string; problem: string }[] {
  const out: { linkId: string; field: string; problem: string }[] = [];
  const visit = (items: Questionnaire["items"], list: (ChartField & { kind: "rows" }) | undefined): void => {
    for (const item of items) {
      const target = item.type === "display" ? undefined : item.posting;
      let inner = list;
      if (target && list) {
        if (!list.columns.some((c) => c.key === target.field))
          out.push({
            linkId: item.linkId,
            field: target.field,
            problem: `"${list.label}" has no column "${target.field}". Columns are: ${list.columns.map((c) => c.key).join(", ")}.`,
          });
      } else if (target) {
        const field = fieldByKey(target.field, fields);
        if (!field)
          out.push({
            linkId: item.linkId,
            field: target.field,
            problem: `No chart field is called "${target.field}".`,
          });
        else if ((field.kind === "rows") !== (item.type === "group" && item.repeats))
          out.push({
            linkId: item.linkId,
            field: target.field,
            problem: `"${field.label}" holds ${field.kind === "rows" ? "a list, so a repeating group" : "one value, so a question"} must post to it.`,
          });
        else if (field.kind === "rows") inner = field;
      }
      visit(childrenOf(item), inner);
    }
  };
  visit(questionnaire.items, undefined);
  return out;
}
