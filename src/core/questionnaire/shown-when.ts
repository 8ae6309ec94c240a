import {
  childrenOf,
  isQuestion,
  type AnswerOption,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
  type ScoreRule,
  type ShownWhen,
} from "./definition";
import { scoreValue } from "./score-value";
import { compareValues, sameValue, type AnswerValue } from "./answer-value";
import { enclosingPrefixes, keyOf, rowPrefix, type Answers } from "./answers";

/** One place where an item stands for this person: a repeating group's children stand once per row. */
export interface Placed<T extends Item = Item> {
  readonly item: T;
  readonly key: string;
  readonly prefix: string;
  readonly shown: boolean;
  readonly children: readonly Placed[];
  /** Row id when this placement is one row of a repeating group; `children` are then that row's questions. */
  readonly row?: string;
  /** Options that these answers rule out; `item` is without them. */
  readonly withheld?: readonly AnswerOption[];
}

/** Every condition that decides about an item: its own, then those of its options. */
export const conditionsOf = (item: Item): readonly Condition[] =>
  isQuestion(item) && item.options.some((o) => o.shownWhen)
    ? [...(item.shownWhen?.conditions ?? []), ...item.options.flatMap((o) => o.shownWhen?.conditions ?? [])]
    : (item.shownWhen?.conditions ?? []);

interface Index {
  readonly parents: ReadonlyMap<string, Item | undefined>;
  readonly items: ReadonlyMap<string, Item>;
}
const indexes = new WeakMap<Questionnaire, Index>();
function indexOf(questionnaire: Questionnaire): Index {
  const known = indexes.get(questionnaire);
  if (known) return known;
  const parents = new Map<string, Item | undefined>();
  const items = new Map<string, Item>();
  const visit = (item: Item, parent: Item | undefined): void => {
    parents.set(item.linkId, parent);
    items.set(item.linkId, item);
    childrenOf(item).forEach((child) => visit(child, item));
  };
  questionnaire.items.forEach((item) => visit(item, undefined));
  indexes.set(questionnaire, { parents, items });
  return { parents, items };
}

/**
 * Decides what is shown (FHIR R4 enableWhen/enableBehavior). An answer to a hidden question does not count,
 * and hiding a section hides all in it. A condition looks for its question in the same row first, then outward.
 * What is nested under a question is asked once that question is answered (a response has no other place for it).
 * A score answers with its number, computed from what stands outside repeating groups. An option that is not offered
 * is no answer. A circular condition counts as not met, so that evaluation always ends; Proof reports it.
 */
export interface Visibility {
  shown(item: Item, prefix: string): boolean;
  /** Its answers there that count: it is shown, and each is offered. */
  values(question: Question, prefix: string): readonly AnswerValue[];
  /** Whether a condition is met there; one without lines always is. */
  meets(rule: ShownWhen | undefined, prefix: string): boolean;
  /** Options that are not offered there. */
  withheld(question: Question, prefix: string): readonly AnswerOption[];
}
export function createVisibility(questionnaire: Questionnaire, answers: Answers): Visibility {
  const { parents, items } = indexOf(questionnaire);
  const byPrefix = new Map<string, Map<string, boolean | "busy">>();

  const shown = (item: Item, prefix: string): boolean => {
    let memo = byPrefix.get(prefix);
    if (!memo) byPrefix.set(prefix, (memo = new Map<string, boolean | "busy">()));
    const known = memo.get(item.linkId);
    if (known === "busy") return false;
    if (known !== undefined) return known;
    memo.set(item.linkId, "busy");
    const parent = parents.get(item.linkId);
    const result =
      (parent === undefined || parentLetsThrough(item, parent, prefixOfParent(parent, prefix))) && meets(item, prefix);
    memo.set(item.linkId, result);
    return result;
  };
  const parentLetsThrough = (item: Item, parent: Item, prefix: string): boolean =>
    shown(parent, prefix) && (!isQuestion(parent) || item.type === "display" || given(parent, prefix).length > 0);
  const meets = (item: Item, prefix: string): boolean => met(item.shownWhen, prefix);
  const met = (rule: ShownWhen | undefined, prefix: string): boolean => {
    if (!rule || rule.conditions.length === 0) return true;
    const test = (c: Condition): boolean => conditionMet(c, current(c.question, prefix));
    return rule.behavior === "all" ? rule.conditions.every(test) : rule.conditions.some(test);
  };
  const current = (linkId: string, prefix: string): readonly AnswerValue[] => {
    const question = items.get(linkId);
    if (!question) return [];
    if (isQuestion(question) && question.score) return scored(question, question.score);
    for (const around of enclosingPrefixes(prefix)) {
      const values = answers.values[keyOf(around, linkId)];
      if (values && values.length > 0)
        return isQuestion(question) && shown(question, around) ? given(question, around) : [];
    }
    return [];
  };
  const scored = (question: Question, rule: ScoreRule): readonly AnswerValue[] => {
    if (!shown(question, "")) return [];
    const counted = rule.items.flatMap((id) => {
      const item = items.get(id);
      return item && isQuestion(item) ? [item] : [];
    });
    const { value } = scoreValue(rule, counted, (q) => (shown(q, "") ? given(q, "") : []));
    return value === undefined ? [] : [{ type: "decimal", value }];
  };
  const choosy = new Set<Item>();
  const withheld = (question: Question, prefix: string): readonly AnswerOption[] => {
    if (!question.options.some((o) => o.shownWhen) || choosy.has(question)) return [];
    choosy.add(question);
    const out = question.options.filter((o) => !met(o.shownWhen, prefix));
    choosy.delete(question);
    return out;
  };
  const given = (question: Question, prefix: string): readonly AnswerValue[] =>
    offeredIn(answers.values[keyOf(prefix, question.linkId)] ?? [], withheld(question, prefix));
  return {
    shown,
    withheld,
    meets: met,
    values: (question, prefix) => (shown(question, prefix) ? given(question, prefix) : []),
  };
}
/** What is left of a question's answers without those that are not offered. */
export const offeredIn = (
  values: readonly AnswerValue[],
  withheld: readonly AnswerOption[] | undefined,
): readonly AnswerValue[] =>
  !withheld || withheld.length === 0 ? values : values.filter((v) => !withheld.some((o) => sameValue(o.value, v)));

const prefixOfParent = (parent: Item, prefix: string): string =>
  parent.type === "group" && parent.repeats && prefix !== "" ? (enclosingPrefixes(prefix)[1] ?? "") : prefix;

/** FHIR R4: with several answers, a condition is met when any of them meets it; `!=` needs an answer. */
export function conditionMet(condition: Condition, values: readonly AnswerValue[]): boolean {
  const { operator, answer } = condition;
  if (operator === "exists") return values.length > 0 === (answer.type === "boolean" && answer.value);
  return values.some((value) => {
    if (operator === "=") return sameValue(value, answer);
    if (operator === "!=") return !sameValue(value, answer);
    const order = compareValues(value, answer);
    if (order === undefined) return false;
    if (operator === ">") return order > 0;
    if (operator === "<") return order < 0;
    if (operator === ">=") return order >= 0;
    return order <= 0;
  });
}

/** Lays the whole questionnaire out for these answers, rows included, in the order it is read. */
export function place(questionnaire: Questionnaire, answers: Answers): Placed[] {
  const visible = createVisibility(questionnaire, answers);
  const placeAll = (items: readonly Item[], prefix: string, parentShown: boolean): Placed[] =>
    items.map((item): Placed => {
      const key = keyOf(prefix, item.linkId);
      const shown = parentShown && visible.shown(item, prefix);
      if (item.type === "group" && item.repeats) {
        const rows = answers.rows[key] ?? [];
        return {
          item,
          key,
          prefix,
          shown,
          children: rows.map((row) => ({
            item,
            key,
            prefix,
            row,
            shown,
            children: placeAll(item.items, rowPrefix(key, row), shown),
          })),
        };
      }
      const withheld = isQuestion(item) ? visible.withheld(item, prefix) : [];
      const children = placeAll(childrenOf(item), prefix, shown);
      if (withheld.length === 0 || !isQuestion(item)) return { item, key, prefix, shown, children };
      return {
        item: { ...item, options: item.options.filter((o) => !withheld.includes(o)) },
        withheld,
        key,
        prefix,
        shown,
        children,
      };
    });
  return placeAll(questionnaire.items, "", true);
}

/** Every question that is shown, in reading order, rows included. */
export function shownQuestions(questionnaire: Questionnaire, answers: Answers): Placed<Question>[] {
  const out: Placed<Question>[] = [];
  const visit = (placed: Placed): void => {
    if (!placed.shown) return;
    if (isQuestion(placed.item)) out.push(placed as Placed<Question>);
    placed.children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return out;
}

/** Only what may be returned: answers of shown, writable questions, and the rows that are left. */
export function prune(questionnaire: Questionnaire, answers: Answers): Answers {
  const values: Record<string, readonly AnswerValue[]> = {};
  const rows: Record<string, readonly string[]> = {};
  const visit = (placed: Placed): void => {
    if (!placed.shown) return;
    if (isQuestion(placed.item) && !placed.item.readOnly) {
      const given = offeredIn(answers.values[placed.key] ?? [], placed.withheld);
      if (given.length > 0) values[placed.key] = given;
    }
    if (placed.item.type === "group" && placed.item.repeats && placed.row === undefined) {
      const list = answers.rows[placed.key];
      if (list && list.length > 0) rows[placed.key] = list;
    }
    placed.children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return { values, rows };
}
