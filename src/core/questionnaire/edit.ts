import {
  childrenOf,
  isGrid,
  isQuestion,
  isSection,
  type AnswerOption,
  type Item,
  type Questionnaire,
  type ShownWhen,
  type Translations,
} from "./definition";
import { withKind, type LineKind } from "./kinds";

/** Changes to a questionnaire that is being written. Each gives a new one; a key that is not there changes nothing. */
type Lists = (items: readonly Item[]) => readonly Item[];

/** Applies `change` to the list of items that holds `linkId`. */
function inListOf(items: readonly Item[], linkId: string, change: Lists): readonly Item[] {
  if (items.some((i) => i.linkId === linkId)) return change(items);
  let changed = false;
  const next = items.map((item) => {
    if (item.type === "display" || changed) return item;
    const inner = inListOf(item.items, linkId, change);
    if (inner === item.items) return item;
    changed = true;
    return { ...item, items: inner };
  });
  return changed ? next : items;
}
const inList = (q: Questionnaire, linkId: string, change: Lists): Questionnaire => {
  const items = inListOf(q.items, linkId, change);
  return items === q.items ? q : { ...q, items };
};

export const updateItem = (q: Questionnaire, linkId: string, change: (item: Item) => Item): Questionnaire =>
  inList(q, linkId, (items) => items.map((i) => (i.linkId === linkId ? change(i) : i)));
/**
 * Turns a line into another kind. What stood in a section that is none any more comes after it; a line that becomes a
 * section stands at the top level and takes the lines that follow it there. @param before what this line was when it
 * was of that kind: its options, limits and the like come back.
 */
export const setKind = (questionnaire: Questionnaire, linkId: string, kind: LineKind, before?: Item): Questionnaire => {
  const changed = changeKind(questionnaire, linkId, kind, before);
  return kind === "section" ? beginSection(changed, linkId) : changed;
};
/** A section at the top level, or at the edge of one, takes what follows up to the next section. */
function beginSection(questionnaire: Questionnaire, linkId: string): Questionnaire {
  const takes = (section: Item, following: readonly Item[]): readonly Item[] => {
    const end = following.findIndex(isSection);
    const own = end < 0 ? following : following.slice(0, end);
    return section.type === "group" && section.items.length === 0
      ? [{ ...section, items: own }, ...following.slice(own.length)]
      : [section, ...following];
  };
  const { items } = questionnaire;
  const at = items.findIndex((i) => i.linkId === linkId);
  if (at >= 0) return { ...questionnaire, items: [...items.slice(0, at), ...takes(items[at]!, items.slice(at + 1))] };
  const parentAt = items.findIndex((i) => isSection(i) && childrenOf(i).some((c) => c.linkId === linkId));
  const parent = items[parentAt];
  if (parent?.type !== "group") return questionnaire;
  const inner = parent.items.findIndex((c) => c.linkId === linkId);
  return {
    ...questionnaire,
    items: [
      ...items.slice(0, parentAt),
      { ...parent, items: parent.items.slice(0, inner) },
      ...takes(parent.items[inner]!, parent.items.slice(inner + 1)),
      ...items.slice(parentAt + 1),
    ],
  };
}
const changeKind = (
  questionnaire: Questionnaire,
  linkId: string,
  kind: LineKind,
  before: Item | undefined,
): Questionnaire =>
  inList(questionnaire, linkId, (items) =>
    items.flatMap((i) => {
      if (i.linkId !== linkId) return [i];
      const next = withKind(i, kind, before);
      const inner = childrenOf(i);
      if (next.type === "group" || inner.length === 0) return [next];
      return [next.type === "display" ? next : { ...next, items: [] }, ...inner];
    }),
  );
export const removeItem = (q: Questionnaire, linkId: string): Questionnaire =>
  inList(q, linkId, (items) => items.filter((i) => i.linkId !== linkId));

/**
 * Puts a line after another: inside a section as its first, after anything else as its next. A section goes after the
 * whole section it would fall into.
 */
export function insertAfter(questionnaire: Questionnaire, linkId: string | undefined, item: Item): Questionnaire {
  if (linkId === undefined) return { ...questionnaire, items: [...questionnaire.items, item] };
  if (isSection(item)) {
    const at = questionnaire.items.findIndex((i) => i.linkId === linkId || holds(i, linkId));
    return at < 0
      ? questionnaire
      : {
          ...questionnaire,
          items: [...questionnaire.items.slice(0, at + 1), item, ...questionnaire.items.slice(at + 1)],
        };
  }
  return inList(questionnaire, linkId, (items) =>
    items.flatMap((i) => {
      if (i.linkId !== linkId) return [i];
      if (i.type === "group") return [{ ...i, items: [item, ...i.items] }];
      return [i, item];
    }),
  );
}
/** Puts a line before another, in the same list; a section before the whole section it would fall into. */
export function insertBefore(questionnaire: Questionnaire, linkId: string, item: Item): Questionnaire {
  if (isSection(item)) {
    const at = questionnaire.items.findIndex((i) => i.linkId === linkId || holds(i, linkId));
    return at < 0
      ? questionnaire
      : { ...questionnaire, items: [...questionnaire.items.slice(0, at), item, ...questionnaire.items.slice(at)] };
  }
  return inList(questionnaire, linkId, (items) => items.flatMap((i) => (i.linkId === linkId ? [item, i] : [i])));
}
/** Nothing is written or set in it, so that taking it out loses nothing. */
export function isBareLine(item: Item): boolean {
  if (item.text.trim() !== "" || item.shownWhen || childrenOf(item).length > 0) return false;
  if (!isQuestion(item)) return true;
  const { options, score, posting, alert, help, terms } = item;
  return (
    options.length === 0 &&
    (score === undefined || (score.items.length === 0 && score.bands.length === 0)) &&
    !posting &&
    !alert &&
    !help &&
    !terms
  );
}
/** Does it stand somewhere within? */
export const holds = (item: Item, linkId: string): boolean =>
  childrenOf(item).some((c) => c.linkId === linkId || holds(c, linkId));

/**
 * Moves a line by one place in reading order. A question goes into a section it meets and out of one at its edge; a
 * section, with all in it, goes past its neighbours.
 */
export function moveItem(questionnaire: Questionnaire, linkId: string, by: -1 | 1): Questionnaire {
  const items = moveIn(questionnaire.items, linkId, by);
  return items ? { ...questionnaire, items } : questionnaire;
}
function moveIn(items: readonly Item[], linkId: string, by: -1 | 1): readonly Item[] | undefined {
  const at = items.findIndex((i) => i.linkId === linkId);
  if (at >= 0) {
    const item = items[at]!;
    const other = items[at + by];
    if (!other) return undefined;
    const without = items.filter((i) => i !== item);
    if (other.type === "group" && item.type !== "group")
      return without.map((i) =>
        i === other ? { ...other, items: by === 1 ? [item, ...other.items] : [...other.items, item] } : i,
      );
    const to = at + by;
    return [...without.slice(0, to), item, ...without.slice(to)];
  }
  for (const [index, parent] of items.entries()) {
    if (!holds(parent, linkId) || parent.type === "display") continue;
    const inner = moveIn(parent.items, linkId, by);
    if (inner) return items.map((x) => (x === parent ? { ...parent, items: inner } : x));
    const item = parent.items.find((c) => c.linkId === linkId);
    // At the edge of its section: out of it. From deeper down there is no place beside it that means anything.
    if (!item) return undefined;
    const rest = { ...parent, items: parent.items.filter((c) => c !== item) };
    return [...items.slice(0, index), ...(by === 1 ? [rest, item] : [item, rest]), ...items.slice(index + 1)];
  }
  return undefined;
}

/**
 * Puts a copy after the line, all in it with keys of its own; conditions inside the copy follow the copied questions.
 */
export function duplicateItem(questionnaire: Questionnaire, linkId: string, newKey: () => string): Questionnaire {
  const keys = new Map<string, string>();
  const next = inList(questionnaire, linkId, (items) =>
    items.flatMap((item) => {
      if (item.linkId !== linkId) return [item];
      const name = (i: Item): void => {
        keys.set(i.linkId, newKey());
        childrenOf(i).forEach(name);
      };
      name(item);
      const follow = ({ shownWhen: rule }: { readonly shownWhen?: ShownWhen }): { shownWhen?: ShownWhen } =>
        rule
          ? {
              shownWhen: {
                ...rule,
                conditions: rule.conditions.map((c) => ({ ...c, question: keys.get(c.question) ?? c.question })),
              },
            }
          : {};
      const copy = (one: Item): Item => {
        const own = { ...one, linkId: keys.get(one.linkId)!, ...follow(one) };
        if (own.type === "display") return own;
        return {
          ...own,
          items: own.items.map(copy),
          ...(own.type === "group" ? {} : { options: own.options.map((o) => ({ ...o, ...follow(o) })) }),
          ...(own.type !== "group" && own.alert?.test.kind === "condition"
            ? {
                alert: {
                  ...own.alert,
                  test: { kind: "condition", rule: follow({ shownWhen: own.alert.test.rule }).shownWhen! },
                },
              }
            : {}),
        } as Item;
      };
      return [item, copy(item)];
    }),
  );
  if (!questionnaire.translations) return next;
  // A place ends with the key of its line; the copy's words are the same, so are their translations.
  const placesToo = (said: Translations[string]): Translations[string] => ({
    ...said,
    ...Object.fromEntries(
      Object.entries(said).flatMap(([place, t]) =>
        [...keys].flatMap(([old, fresh]) =>
          place.endsWith(`:${old}`) ? [[place.slice(0, -old.length) + fresh, t]] : [],
        ),
      ),
    ),
  });
  return {
    ...next,
    translations: Object.fromEntries(
      Object.entries(questionnaire.translations).map(([language, said]) => [language, placesToo(said)]),
    ),
  };
}

/** What the rows of a grid share: the options of its first row that has any. */
export const gridOptions = (grid: Item): readonly AnswerOption[] =>
  childrenOf(grid).flatMap((i) =>
    isQuestion(i) && i.type === "choice" && i.options.length > 0 ? [i.options] : [],
  )[0] ?? [];
/** Gives every row of a grid the same options. */
export const withGridOptions = (grid: Item, options: readonly AnswerOption[]): Item =>
  isGrid(grid)
    ? { ...grid, items: grid.items.map((i) => (isQuestion(i) && i.type === "choice" ? { ...i, options } : i)) }
    : grid;
