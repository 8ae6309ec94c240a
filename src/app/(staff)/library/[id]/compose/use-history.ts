import { useCallback, useEffect, useReducer, useState } from "react";

interface History<T> {
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
  readonly mark: string | undefined;
  /** How often something was undone or redone. */
  readonly turns: number;
}
type Step<T> =
  | { readonly kind: "change"; readonly change: (now: T) => T; readonly mark: string | undefined }
  | { readonly kind: "undo" | "redo" };

function step<T>(history: History<T>, action: Step<T>): History<T> {
  if (action.kind === "change") {
    const now = action.change(history.now);
    if (now === history.now) return history;
    // Typing on in one place is one step back.
    const joined = action.mark !== undefined && action.mark === history.mark;
    return {
      ...history,
      past: joined ? history.past : [...history.past, history.now],
      now,
      future: [],
      mark: action.mark,
    };
  }
  if (action.kind === "undo")
    return history.past.length === 0
      ? history
      : {
          past: history.past.slice(0, -1),
          now: history.past.at(-1)!,
          future: [history.now, ...history.future],
          mark: undefined,
          turns: history.turns + 1,
        };
  return history.future.length === 0
    ? history
    : {
        past: [...history.past, history.now],
        now: history.future[0]!,
        future: history.future.slice(1),
        mark: undefined,
        turns: history.turns + 1,
      };
}

/**
 * A value with undo and redo to the beginning of the editing session. Changes with the same mark, one after the other,
 * are one step.
 */
export function useHistory<T>(first: T) {
  const [history, dispatch] = useReducer(step<T>, { past: [], now: first, future: [], mark: undefined, turns: 0 });
  const change = useCallback((change: (now: T) => T, mark?: string) => dispatch({ kind: "change", change, mark }), []);
  const undo = useCallback(() => dispatch({ kind: "undo" }), []);
  const redo = useCallback(() => dispatch({ kind: "redo" }), []);
  return {
    now: history.now,
    turns: history.turns,
    change,
    undo,
    redo,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
  };
}

/**
 * Text of a box that says more than what is made of it (blanks, a line half typed), and so holds its own. Undo and redo
 * reach it: after either, it says what is there. What is made of it may come a moment after the letter that was typed.
 */
export function useTypedText(there: string, turns: number): readonly [string, (text: string) => void] {
  const [typed, setTyped] = useState({ text: there, turns });
  const setText = useCallback((text: string) => setTyped({ text, turns }), [turns]);
  if (typed.turns !== turns) {
    setTyped({ text: there, turns });
    return [there, setText];
  }
  return [typed.text, setText];
}

/** Ctrl Z and Ctrl Shift Z, wherever the focus is. */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const keys = (event: globalThis.KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [undo, redo]);
}
