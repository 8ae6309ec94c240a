import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";
import { chartLine, fieldByKey } from "@/core/chart";
import {
  allItems,
  duplicateItem,
  gridOptions,
  hasOptions,
  insertAfter,
  insertBefore,
  isBareLine,
  isGrid,
  isQuestion,
  isSection,
  kindOf,
  markedKind,
  moveItem,
  newLine,
  removeItem,
  setKind,
  updateItem,
  type Item,
  type LineKind,
  type Question,
  type Questionnaire,
} from "@/core/questionnaire";
import type { PracticeFields } from "./chart-fields";
import type { LineActions } from "./line-settings";
import { rowId, type RowActions } from "./outline-row";
import { conditionOn } from "./shown-when-editor";
import type { useHistory } from "./use-history";

export const newKey = (): string => crypto.randomUUID().slice(0, 8);
export const gridAround = (questionnaire: Questionnaire, linkId: string): Item | undefined =>
  allItems(questionnaire).find((i) => isGrid(i) && i.items.some((row) => row.linkId === linkId));
export const focus = (linkId: string | undefined): void => {
  if (linkId !== undefined) document.getElementById(rowId(linkId))?.focus();
};
/** Draws at once and goes there, so that the very next key, however soon, is written in that line. */
const thenFocus = (change: () => void, linkId: string | undefined): void => {
  flushSync(change);
  focus(linkId);
};

/** The next line asks in the same way, so that a list of alike questions is only typed. */
function nextLine(questionnaire: Questionnaire, item: Item): { kind: LineKind; more: (line: Item) => Item } {
  const kind = kindOf(item);
  const around = gridAround(questionnaire, item.linkId);
  const shared = gridOptions(isGrid(item) ? item : (around ?? item));
  if (isGrid(item) || (shared.length > 0 && around))
    return { kind: "one-of", more: (line) => ({ ...line, options: shared }) as Item };
  return {
    kind: hasOptions(kind) || kind === "yes-no" || kind === "scale" ? kind : "short-text",
    more: (line) =>
      isQuestion(line) && isQuestion(item) && hasOptions(kind) ? { ...line, options: item.options } : line,
  };
}
/** One line before or after another; never into itself. */
function dropped(questionnaire: Questionnaire, from: string, onto: string, where: "before" | "after"): Questionnaire {
  const item = allItems(questionnaire).find((i) => i.linkId === from);
  if (!item || allItems({ ...questionnaire, items: [item] }).some((i) => i.linkId === onto)) return questionnaire;
  return (where === "before" ? insertBefore : insertAfter)(removeItem(questionnaire, from), onto, item);
}

type Change = ReturnType<typeof useHistory<Questionnaire>>["change"];
/** What was done: quiet where the outline shows it and only who cannot see it has to be told. */
export interface Said {
  readonly words: string;
  readonly quiet?: boolean;
  /** It can be taken back by one press, until something else is done. */
  readonly undo?: boolean;
}
/**
 * Everything that is done to the outline, from its lines and from their settings. `pasted`: several lines were pasted
 * into one.
 */
export function useOutline(
  questionnaire: Questionnaire,
  change: Change,
  fields: PracticeFields,
  choose: (linkId: string) => void,
  pasted: (linkId: string, text: string) => void,
) {
  const [said, setSaid] = useState<Said>({ words: "" });
  const edits = useEdits(questionnaire, change, fields, setSaid);
  const { latest, add, remove, move, kind } = edits;
  const actions = useMemo<RowActions>(
    () => ({
      write(linkId, text) {
        const marked = markedKind(text);
        if (marked?.rest === "") return kind(linkId, marked.kind, "");
        // A text to read keeps its paragraphs; a question is one line.
        change(
          (now) =>
            updateItem(now, linkId, (item) => ({
              ...item,
              text: item.type === "display" ? text : text.replace(/\n/g, " "),
            })),
          `text ${linkId}`,
        );
      },
      key(event: KeyboardEvent, linkId) {
        const item = allItems(latest.current).find((i) => i.linkId === linkId);
        if (!item || event.nativeEvent.isComposing) return;
        if (event.key === "Enter") {
          if (event.shiftKey && item.type === "display") return;
          event.preventDefault();
          const { kind, more } = nextLine(latest.current, item);
          add(linkId, kind, more);
        } else if (event.key === "Backspace" && item.text === "") {
          event.preventDefault();
          // A key held down stops at the line it emptied; a line that holds something is deleted by its own button.
          if (event.repeat) return;
          if (isBareLine(item)) remove(linkId);
          else setSaid({ words: "This line holds more than its words. Delete stands in its settings below it." });
        } else if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
          event.preventDefault();
          move(linkId, event.key === "ArrowUp" ? -1 : 1);
        } else if (
          !event.altKey &&
          !item.text.includes("\n") &&
          (event.key === "ArrowUp" || event.key === "ArrowDown")
        ) {
          const all = allItems(latest.current);
          event.preventDefault();
          focus(all[all.findIndex((i) => i.linkId === linkId) + (event.key === "ArrowUp" ? -1 : 1)]?.linkId);
        }
      },
      choose,
      drop(from, onto, where) {
        if (from === onto) return;
        change((now) => dropped(now, from, onto, where));
        setSaid({ words: "Moved.", quiet: true });
      },
      paste(linkId, text) {
        const item = allItems(latest.current).find((i) => i.linkId === linkId);
        if (
          item?.type === "display" ||
          text
            .trim()
            .split(/\n/)
            .filter((line) => line.trim()).length < 2
        )
          return false;
        pasted(linkId, text);
        return true;
      },
    }),
    [add, change, choose, kind, latest, move, pasted, remove],
  );

  const settings = useMemo<LineActions>(
    () => ({
      change: (linkId, changed, mark) => change((now) => updateItem(now, linkId, changed), mark),
      kind,
      move,
      followUp: (question) =>
        add(question.linkId, "short-text", (line) => ({
          ...line,
          shownWhen: { behavior: "all", conditions: [conditionOn(question)] },
        })),
      duplicate: (linkId) => {
        change((now) => duplicateItem(now, linkId, newKey));
        setSaid({ words: "Duplicated.", quiet: true });
      },
      remove,
    }),
    [add, change, kind, move, remove],
  );

  return { said, add, addFromChart: edits.addFromChart, addAll: edits.addAll, actions, settings };
}

/** A bare line that they come after gives way to them. */
function withLines(questionnaire: Questionnaire, after: string | undefined, items: readonly Item[]): Questionnaire {
  const sections = items.reduce<Item[]>((all, item) => {
    const last = all.at(-1);
    if (last?.type === "group" && isSection(last) && !isSection(item))
      return [...all.slice(0, -1), { ...last, items: [...last.items, item] }];
    return [...all, item];
  }, []);
  const { questionnaire: filled } = sections.reduce(
    (so, item) => ({
      questionnaire: insertAfter(so.questionnaire, so.after, item),
      after: item.linkId,
    }),
    { questionnaire, after },
  );
  const place = after === undefined ? undefined : allItems(filled).find((i) => i.linkId === after);
  return place && isBareLine(place) ? removeItem(filled, place.linkId) : filled;
}
/** "Deleted “Your sleep” and the 4 lines in it." */
function deletedWords(questionnaire: Questionnaire, item: Item | undefined): string {
  const inner = item ? allItems({ ...questionnaire, items: [item] }).length - 1 : 0;
  const lines = inner === 1 ? " and the line in it" : ` and the ${inner} lines in it`;
  return `Deleted ${item?.text.trim() ? `“${item.text.trim()}”` : "a line without words"}${inner > 0 ? lines : ""}.`;
}
/** Lines added, taken out and moved, each with the focus where the next key is meant for. */
function useEdits(questionnaire: Questionnaire, change: Change, fields: PracticeFields, setSaid: (said: Said) => void) {
  /** What a line was in each kind it had, so that going there and back loses nothing. */
  const before = useRef(new Map<string, Item>());
  const latest = useRef(questionnaire);
  useEffect(() => {
    latest.current = questionnaire;
  });

  const add = useCallback(
    (after: string | undefined, kind: LineKind, more?: (item: Item) => Item): void => {
      const linkId = newKey();
      const line = newLine(kind, linkId);
      thenFocus(() => change((now) => insertAfter(now, after, more ? more(line) : line)), linkId);
    },
    [change],
  );
  /** Lines after one another; those after a section of theirs stand in it. */
  const addAll = useCallback(
    (after: string | undefined, items: readonly Item[]): void => {
      change((now) => withLines(now, after, items));
      setSaid({ words: items.length === 1 ? "One line was added." : `${items.length} lines were added.`, undo: true });
      requestAnimationFrame(() => focus(items[0]?.linkId));
    },
    [change, setSaid],
  );
  const addFromChart = useCallback(
    (after: string | undefined, key: string): void => {
      const field = fieldByKey(key, fields.offered);
      if (!field) return;
      const line = chartLine(field, newKey);
      change((now) => insertAfter(now, after, line));
      // After the list has closed, which takes the focus back.
      requestAnimationFrame(() => focus(line.linkId));
    },
    [change, fields],
  );
  const remove = useCallback(
    (linkId: string): void => {
      const all = allItems(latest.current);
      const before = all[all.findIndex((i) => i.linkId === linkId) - 1];
      thenFocus(() => change((now) => removeItem(now, linkId)), before?.linkId);
      setSaid({
        words: deletedWords(
          latest.current,
          all.find((i) => i.linkId === linkId),
        ),
        undo: true,
      });
    },
    [change, setSaid],
  );
  const move = useCallback(
    (linkId: string, by: -1 | 1): void => {
      const moved = allItems(moveItem(latest.current, linkId, by));
      thenFocus(() => change((now) => moveItem(now, linkId, by)), linkId);
      const before = moved[moved.findIndex((i) => i.linkId === linkId) - 1];
      setSaid({
        words: before ? `Moved. Now after ${before.text || "a line without words"}.` : "Moved. Now the first line.",
        quiet: true,
      });
    },
    [change, setSaid],
  );

  const kind = useCallback(
    (linkId: string, next: LineKind, text?: string): void => {
      const item = allItems(latest.current).find((i) => i.linkId === linkId);
      if (!item) return;
      before.current.set(`${linkId} ${kindOf(item)}`, item);
      const known = before.current.get(`${linkId} ${next}`);
      // Options outlive a kind that has none, whichever kind with options comes next.
      const withOptions = [...before.current.entries()]
        .filter(([key]) => key.startsWith(`${linkId} `))
        .map(([, one]) => one)
        .findLast((one) => isQuestion(one) && one.options.length > 0);
      change((now) => {
        const changed = setKind(now, linkId, next, known);
        return updateItem(changed, linkId, (line) => ({
          ...line,
          ...(text === undefined ? {} : { text }),
          ...(isQuestion(line) && isQuestion(withOptions ?? line) && hasOptions(next) && line.options.length === 0
            ? { options: ((withOptions ?? line) as Question).options }
            : {}),
        }));
      });
    },
    [change],
  );

  return { latest, add, addAll, addFromChart, remove, move, kind };
}
