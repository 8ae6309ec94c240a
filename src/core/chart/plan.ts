import {
  allItems,
  isQuestion,
  type Group,
  type Item,
  type PostingRule,
  type PostingTarget,
  type Question,
  type Questionnaire,
} from "../questionnaire";
import { fieldByKey, isNarrative, type ChartField } from "./fields";
import { remarksLine } from "./posting-plan";
import { columnOfWords, fieldOfCode, fieldOfWords } from "./plan-words";

/** Where somebody said that lines go: by linkId; null for what stays in the return. */
export interface PostingPlan {
  readonly lines: Readonly<Record<string, PostingTarget | null>>;
  /** Every line there was when it was last kept: what is not among them is new. */
  readonly seen: readonly string[];
  /** LinkIds in the order in which answers that share a narrative are told; the questionnaire's, where they are not here. */
  readonly order: readonly string[];
}
export const emptyPlan: PostingPlan = { lines: {}, seen: [], order: [] };
/** Where a question of these words went before, by `wordKey`. */
export type PlanMemory = Readonly<Record<string, string>>;

/** Why a line goes where it goes. */
export type PlanReason = "hand" | "bound" | "earlier" | "code" | "words" | "none";
/** One line of a questionnaire, and where it goes. */
export interface PlanLine {
  readonly linkId: string;
  readonly text: string;
  readonly kind: "question" | "group" | "score" | "remarks";
  /** None: it stays in the return. */
  readonly target: PostingTarget | undefined;
  readonly why: PlanReason;
  /** It was not there when the plan was last kept. */
  readonly isNew: boolean;
  /** Fields it may go to. */
  readonly fits: (field: ChartField) => boolean;
}

export const wordKey = (text: string): string =>
  text
    .normalize("NFKC")
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, " ")
    .trim();

/** What happens to a value on file, by the kind of field: a fact is decided, a list matched, a narrative goes on. */
export const usualRule = (field: ChartField): PostingRule => (isNarrative(field) ? "add" : "ask");

const isList = (item: Item): item is Group => item.type === "group" && (item.repeats || item.control === "htable");
/** Everything that can go somewhere: questions that are asked, scores, and groups whose rows are a list. */
function plannable(questionnaire: Questionnaire): (Question | Group)[] {
  const out: (Question | Group)[] = [];
  const visit = (items: readonly Item[]): void => {
    for (const item of items) {
      if (item.type === "display") continue;
      if (isList(item)) out.push(item);
      else {
        if (isQuestion(item) && item.type !== "attachment") out.push(item);
        visit(item.items);
      }
    }
  };
  visit(questionnaire.items);
  return out;
}
const kindOfLine = (item: Question | Group): PlanLine["kind"] => {
  if (item.type === "group") return "group";
  return item.score ? "score" : "question";
};
const fitsItem = (item: Question | Group, field: ChartField): boolean => (field.kind === "rows") === isList(item);

/**
 * The whole plan of a questionnaire: where each of its lines goes, by what somebody said, else by the chart field it
 * asks for, by where the same words went before, by its codes, by its words; else it stays in the return. A field that
 * holds one fact is proposed once.
 *
 * @param offered of the fields those that something may be proposed for: not the retired ones, to which what asks for
 *   them still goes
 */
export function planOf(
  questionnaire: Questionnaire,
  fields: readonly ChartField[],
  plan: PostingPlan = emptyPlan,
  memory: PlanMemory = {},
  offered: readonly ChartField[] = fields,
): readonly PlanLine[] {
  const items = plannable(questionnaire);
  const isNew = (linkId: string): boolean => plan.seen.length > 0 && !plan.seen.includes(linkId);
  const taken = new Set<string>();
  const settled = items.map((item) => {
    const said = plan.lines[item.linkId];
    const bound = said === undefined ? item.posting : (said ?? undefined);
    const field = bound && fieldByKey(bound.field, fields);
    if (field) taken.add(field.key);
    return { item, said, target: field ? bound : undefined };
  });
  // The questions of a grid are no lines of their own, and go where they say.
  for (const item of items)
    if (item.type === "group" && item.control === "htable")
      for (const row of item.items) if (isQuestion(row) && row.posting) taken.add(row.posting.field);
  const gates = new Set(
    allItems(questionnaire).flatMap((item) => (item.shownWhen?.conditions ?? []).map(({ question }) => question)),
  );
  // What only says whether the next question is asked says nothing of its own.
  const words = (item: Question | Group): string | undefined =>
    item.type === "boolean" && gates.has(item.linkId) ? undefined : fieldOfWords(item, offered);
  const propose = (item: Question | Group): { target: PostingTarget; why: PlanReason } | undefined => {
    const guesses: readonly (readonly [PlanReason, string | undefined])[] = [
      ["earlier", item.text === "" ? undefined : memory[wordKey(item.text)]],
      ["code", fieldOfCode(item.codes)],
      // A measure asks about the last days, not for what stands in a chart: only its scores go there.
      ["words", questionnaire.kind === "measure" ? undefined : words(item)],
    ];
    for (const [why, key] of guesses) {
      const field = key === undefined ? undefined : fieldByKey(key, offered);
      if (!field || !fitsItem(item, field) || (taken.has(field.key) && !isNarrative(field))) continue;
      taken.add(field.key);
      return { why, target: { field: field.key, rule: usualRule(field) } };
    }
    return undefined;
  };
  const lines = settled.map(({ item, said, target }): PlanLine => {
    const line = {
      linkId: item.linkId,
      text: item.text,
      kind: kindOfLine(item),
      isNew: isNew(item.linkId),
      fits: (field: ChartField) => fitsItem(item, field),
    };
    if (said !== undefined) return { ...line, target, why: "hand" };
    if (target) return { ...line, target, why: "bound" };
    const proposed = item.posting === undefined ? propose(item) : undefined;
    return proposed ? { ...line, ...proposed } : { ...line, target: undefined, why: "none" };
  });
  return [...lines, remarksOf(plan, fields, offered, memory)];
}
const remarksText = "Margin notes beside the answers";
/** Where staff's remarks go: as somebody said, as they went before, else they stay in the return. */
function remarksOf(
  plan: PostingPlan,
  fields: readonly ChartField[],
  offered: readonly ChartField[],
  memory: PlanMemory,
): PlanLine {
  const line = { linkId: remarksLine, text: remarksText, kind: "remarks", isNew: false, fits: isNarrative } as const;
  const said = plan.lines[remarksLine];
  if (said !== undefined)
    return { ...line, target: said && fieldByKey(said.field, fields) ? said : undefined, why: "hand" };
  const earlier = fieldByKey(memory[wordKey(remarksText)] ?? "", offered);
  return earlier && isNarrative(earlier)
    ? { ...line, target: { field: earlier.key, rule: usualRule(earlier) }, why: "earlier" }
    : { ...line, target: undefined, why: "none" };
}

/** The questionnaire with its lines going where the plan says, so that whatever posts them posts by the plan. */
export function withPlan(
  questionnaire: Questionnaire,
  lines: readonly PlanLine[],
  fields: readonly ChartField[],
): Questionnaire {
  const targets = new Map(lines.map((line) => [line.linkId, line.target]));
  const visit = (item: Item): Item => {
    if (item.type === "display") return item;
    const { posting: before, ...rest } = item;
    const posting = targets.has(item.linkId) ? targets.get(item.linkId) : before;
    const field = posting && fieldByKey(posting.field, fields);
    const inner = isList(item) && field?.kind === "rows" ? columnsFor(item, field) : item.items.map(visit);
    return { ...rest, items: inner, ...(posting ? { posting } : {}) } as Item;
  };
  return { ...questionnaire, items: questionnaire.items.map(visit) };
}
/**
 * The columns that a list's questions go to: as they say, where any of them says; else by their words, and the first of
 * them what rows are matched on, where no other does. What fits no column stays in the return.
 */
function columnsFor(group: Group, field: ChartField & { readonly kind: "rows" }): Item[] {
  const isColumn = (key: string | undefined): boolean => field.columns.some((column) => column.key === key);
  const isBound = (item: Item): boolean => isQuestion(item) && isColumn(item.posting?.field);
  if (group.items.some(isBound)) return group.items.map((item) => (isBound(item) ? item : unposted(item)));
  const free = new Set(field.columns.map((column) => column.key));
  const worded = group.items.map((item) => {
    const key = isQuestion(item)
      ? columnOfWords(
          item.text,
          field.columns.filter((column) => free.has(column.key)),
        )
      : undefined;
    if (key !== undefined) free.delete(key);
    return key;
  });
  const first = group.items.findIndex((item, index) => isQuestion(item) && worded[index] === undefined);
  if (free.has(field.matchOn) && first >= 0) worded[first] = field.matchOn;
  return group.items.map((item, index) => {
    const column = worded[index];
    return column === undefined || !isQuestion(item)
      ? unposted(item)
      : { ...item, posting: { field: column, rule: "ask" as const } };
  });
}
function unposted(item: Item): Item {
  if (!isQuestion(item)) return item;
  const { posting: _, ...rest } = item;
  return rest;
}

/** Keys of the fields of one fact that several lines go to: to be seen at a glance. */
export function fedTwice(
  lines: readonly { readonly target: PostingTarget | undefined }[],
  fields: readonly ChartField[],
): readonly string[] {
  return fields
    .filter((field) => !isNarrative(field) && lines.filter((line) => line.target?.field === field.key).length > 1)
    .map((field) => field.key);
}

/** What other plans may learn from this one: where each of its words goes. */
export const remembered = (lines: readonly PlanLine[]): PlanMemory =>
  Object.fromEntries(
    lines.flatMap(({ text, target }) => (target && wordKey(text) !== "" ? [[wordKey(text), target.field]] : [])),
  );
