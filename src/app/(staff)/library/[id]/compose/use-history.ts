import { useCallback, useReducer } from "react";

interface History<T> {
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
  readonly mark: string | undefined;
}
type Step<T> =
  | { readonly kind: "change"; readonly change: (now: T) => T; readonly mark: string | undefined }
  | { readonly kind: "undo" | "redo" };

function step<T>(h: History<T>, action: Step<T>): History<T> {
  if (action.kind === "change") {
    const now = action.change(h.now);
    if (now === h.now) return h;
    // Typing on in one place is one step back.
    const joined = action.mark !== undefined && action.mark === h.mark;
    return { past: joined ? h.past : [...h.past, h.now], now, future: [], mark: action.mark };
  }
  if (action.kind === "undo")
    return h.past.length === 0
      ? h
      : { past: h.past.slice(0, -1), now: h.past.at(-1)!, future: [h.now, ...h.future], mark: undefined };
  return h.future.length === 0
    ? h
    : { past: [...h.past, h.now], now: h.future[0]!, future: h.future.slice(1), mark: undefined };
}

/** A value with undo and redo to the beginning of the editing session. Changes with the same mark, one after the other, are one step. */
export function useHistory<T>(first: T) {
  const [h, dispatch] = useReducer(step<T>, { past: [], now: first, future: [], mark: undefined });
  const change = useCallback((change: (now: T) => T, mark?: string) => dispatch({ kind: "change", change, mark }), []);
  const undo = useCallback(() => dispatch({ kind: "undo" }), []);
  const redo = useCallback(() => dispatch({ kind: "redo" }), []);
  return { now: h.now, change, undo, redo, canUndo: h.past.length > 0, canRedo: h.future.length > 0 };
}
