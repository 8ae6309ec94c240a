import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";
import { chartLine, fieldByKey } from "@/core/chart";
import {
  allItems,
  duplicateItem,
  gridOptions,
  hasOptions,
  insertAfter,
  isGrid,
  isQuestion,
  kindOf,
  markedKind,
  moveItem,
  newLine,
  removeItem,
  setKind,
  updateItem,
  type Item,
  type LineKind,
  type Questionnaire,
} from "@/core/questionnaire";
import type { PracticeFields } from "./chart-fields";
import type { LineActions } from "./line-settings";
import { rowId, type RowActions } from "./outline-row";
import { conditionOn } from "./shown-when-editor";
import type { useHistory } from "./use-history";

const newKey = (): string => crypto.randomUUID().slice(0, 8);
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
/** One line after another; never into itself. */
function dropped(questionnaire: Questionnaire, from: string, onto: string): Questionnaire {
  const item = allItems(questionnaire).find((i) => i.linkId === from);
  return item && !allItems({ ...questionnaire, items: [item] }).some((i) => i.linkId === onto)
    ? insertAfter(removeItem(questionnaire, from), onto, item)
    : questionnaire;
}

type Change = ReturnType<typeof useHistory<Questionnaire>>["change"];
/** Everything that is done to the outline, from its lines and from their settings; `said` tells who cannot see it. */
export function useOutline(
  questionnaire: Questionnaire,
  change: Change,
  fields: PracticeFields,
  choose: (linkId: string) => void,
) {
  const [said, setSaid] = useState("");
  const edits = useEdits(questionnaire, change, fields, setSaid);
  const { latest, add, remove, move } = edits;
  const actions = useMemo<RowActions>(
    () => ({
      write(linkId, text) {
        const marked = markedKind(text);
        // A text to read keeps its paragraphs; a question is one line.
        change(
          (now) =>
            marked?.rest === ""
              ? updateItem(setKind(now, linkId, marked.kind), linkId, (item) => ({ ...item, text: "" }))
              : updateItem(now, linkId, (item) => ({
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
          remove(linkId);
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
      drop(from, onto) {
        if (from === onto) return;
        change((now) => dropped(now, from, onto));
        setSaid("Moved.");
      },
    }),
    [add, change, choose, latest, move, remove],
  );

  const settings = useMemo<LineActions>(
    () => ({
      change: (linkId, changed, mark) => change((now) => updateItem(now, linkId, changed), mark),
      kind: (linkId, kind) => change((now) => setKind(now, linkId, kind)),
      followUp: (question) =>
        add(question.linkId, "short-text", (line) => ({
          ...line,
          shownWhen: { behavior: "all", conditions: [conditionOn(question)] },
        })),
      duplicate: (linkId) => {
        change((now) => duplicateItem(now, linkId, newKey));
        setSaid("Duplicated.");
      },
      remove,
    }),
    [add, change, remove],
  );

  return { said, add, addFromChart: edits.addFromChart, actions, settings };
}

/** Lines added, taken out and moved, each with the focus where the next key is meant for. */
function useEdits(
  questionnaire: Questionnaire,
  change: Change,
  fields: PracticeFields,
  setSaid: (words: string) => void,
) {
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
      setSaid("Deleted. Undo brings it back.");
    },
    [change, setSaid],
  );
  const move = useCallback(
    (linkId: string, by: -1 | 1): void => {
      const moved = allItems(moveItem(latest.current, linkId, by));
      thenFocus(() => change((now) => moveItem(now, linkId, by)), linkId);
      const before = moved[moved.findIndex((i) => i.linkId === linkId) - 1];
      setSaid(before ? `Moved. Now after ${before.text || "a line without words"}.` : "Moved. Now the first line.");
    },
    [change, setSaid],
  );

  return { latest, add, addFromChart, remove, move };
}
