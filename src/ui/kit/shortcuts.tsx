"use client";
import { createContext, use, useCallback, useEffect, useRef, useState, type ReactNode, type RefObject } from "react";
import styled from "styled-components";

export interface Shortcut {
  /** One key, as in KeyboardEvent.key. */
  readonly key: string;
  readonly does: string;
  readonly run: () => void;
}
/** Inputs in which letters are not written. */
const pressed = ["radio", "checkbox", "button", "submit", "reset", "file"];
/** Whether keys are letters here. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement
    ? !pressed.includes(target.type)
    : target instanceof HTMLElement && (target.isContentEditable || ["TEXTAREA", "SELECT"].includes(target.tagName));

interface Keys {
  readonly list: readonly Shortcut[];
  readonly also: readonly Pick<Shortcut, "key" | "does">[];
}
/** Takes keys in, and gives back how they are taken out again. */
const Register = createContext<(keys: RefObject<Keys>) => () => void>(() => () => undefined);

/**
 * Around all pages: hears single keys for whatever is on the page now, and shows them on `?`. They never fire while
 * somebody types. @param single false: somebody turned them off for themselves, since what they say or bump types
 * letters.
 */
export function ShortcutKeys({ single = true, children }: { readonly single?: boolean; readonly children: ReactNode }) {
  const [shown, setShown] = useState<Keys["also"]>();
  // A page's own keys come before those of what stands around it.
  const inside = useRef<RefObject<Keys>[]>([]);
  const register = useCallback((keys: RefObject<Keys>) => {
    inside.current = [keys, ...inside.current];
    return () => {
      inside.current = inside.current.filter((k) => k !== keys);
      setShown(undefined);
    };
  }, []);
  useEffect(() => {
    if (!single) return;
    const onKey = (event: KeyboardEvent): void => {
      // A key that is held down is one press: what it does may not be taken back.
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const all = inside.current.map((k) => k.current);
      if (event.key === "?") {
        event.preventDefault();
        setShown((s) =>
          s ? undefined : [...all.flatMap((k) => [...k.list, ...k.also]), { key: "?", does: "show or hide this" }],
        );
        return;
      }
      if (event.key === "Escape") {
        setShown(undefined);
        return;
      }
      const found = all.flatMap((k) => k.list).find((s) => s.key === event.key);
      if (found) {
        event.preventDefault();
        found.run();
      }
    };
    document.addEventListener("keydown", onKey);
    return () => {
      document.removeEventListener("keydown", onKey);
    };
  }, [single]);
  return (
    <Register value={register}>
      {children}
      {shown && (
        <Panel role="region" aria-label="Keys on this page">
          <strong>Keys on this page</strong>
          <dl>
            {shown.map((s) => (
              <div key={s.key}>
                <dt>
                  <Key>{s.key}</Key>
                </dt>
                <dd>{s.does}</dd>
              </div>
            ))}
          </dl>
        </Panel>
      )}
    </Register>
  );
}
const noKeys: Keys["also"] = [];
/** Single keys of what is around here; `also` names those that work while typing and are handled there. */
export function Shortcuts({
  list,
  also = noKeys,
}: {
  readonly list: readonly Shortcut[];
  readonly also?: Keys["also"];
}) {
  const register = use(Register);
  const current = useRef<Keys>({ list, also });
  useEffect(() => {
    current.current = { list, also };
  }, [list, also]);
  useEffect(() => register(current), [register]);
  return null;
}
const Panel = styled.aside`
  position: fixed;
  inset-block-end: 1rem;
  inset-inline-end: 1rem;
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  padding: 1rem 1.25rem;
  z-index: 5;
  & dl {
    display: grid;
    gap: 0.3rem;
    margin-block-start: 0.6rem;
  }
  & dl > div {
    display: flex;
    gap: 0.8rem;
  }
`;
export const Key = styled.kbd`
  display: inline-block;
  min-width: 1.5em;
  padding: 0 0.35em;
  text-align: center;
  font: 600 0.85rem/1.5 var(--sans);
  border: 1px solid var(--rule-strong);
  border-block-end-width: 2px;
  border-radius: var(--corner);
  color: var(--ink);
  background: var(--leaf);
`;

/**
 * Arrow keys move through the rows of a list (elements marked `data-row`), from whatever of a row has the focus; Home and
 * End to its ends.
 */
export function rowKeys(event: React.KeyboardEvent<HTMLElement>): void {
  const rows = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-row]")];
  const at = rows.findIndex((r) => (r.closest("li") ?? r).contains(document.activeElement));
  const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key];
  const row =
    to === undefined || isTyping(event.target) || event.target instanceof HTMLInputElement
      ? undefined
      : rows[Math.max(0, Math.min(rows.length - 1, to))];
  if (row) {
    event.preventDefault();
    row.focus();
  }
}
