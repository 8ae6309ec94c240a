'use client';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';

export interface Shortcut {
  /** One key, as in KeyboardEvent.key. */
  readonly key: string;
  readonly does: string;
  readonly run: () => void;
}
const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** Single keys for the current page; `also` names those that work while typing and are handled there. They never fire while somebody types; `?` shows them. */
export function Shortcuts({ list, also = [] }: { readonly list: readonly Shortcut[]; readonly also?: readonly Pick<Shortcut, 'key' | 'does'>[] }) {
  const [shown, setShown] = useState(false);
  const current = useRef(list);
  useEffect(() => { current.current = list; }, [list]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      if (event.key === '?') { event.preventDefault(); setShown((s) => !s); return; }
      if (event.key === 'Escape') { setShown(false); return; }
      const found = current.current.find((s) => s.key === event.key);
      if (found) { event.preventDefault(); found.run(); }
    };
    document.addEventListener('keydown', onKey);
    return () => { document.removeEventListener('keydown', onKey); };
  }, []);
  if (!shown) return null;
  return (
    <Panel role="region" aria-label="Keys on this page">
      <strong>Keys on this page</strong>
      <dl>{[...list, ...also, { key: '?', does: 'show or hide this' }].map((s) => <div key={s.key}><dt><Key>{s.key}</Key></dt><dd>{s.does}</dd></div>)}</dl>
    </Panel>
  );
}
const Panel = styled.aside`
  position: fixed; inset-block-end: 1rem; inset-inline-end: 1rem; background: var(--leaf); border: 1px solid var(--rule-strong); border-radius: var(--corner); padding: 1rem 1.25rem; z-index: 5;
  & dl { display: grid; gap: 0.3rem; margin-block-start: 0.6rem; } & dl > div { display: flex; gap: 0.8rem; }
`;
export const Key = styled.kbd`display: inline-block; min-width: 1.5em; padding: 0 0.35em; text-align: center; font: 600 0.85rem/1.5 var(--sans); border: 1px solid var(--rule-strong); border-block-end-width: 2px; border-radius: var(--corner); color: var(--ink); background: var(--leaf);`;

/** Arrow keys move through the rows of a list (elements marked `data-row`), Home and End to its ends. */
export function rowKeys(event: React.KeyboardEvent<HTMLElement>): void {
  const rows = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-row]')];
  const at = rows.findIndex((r) => r === document.activeElement || r.contains(document.activeElement));
  const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key];
  const row = to === undefined || isTyping(event.target) ? undefined : rows[Math.max(0, Math.min(rows.length - 1, to))];
  if (row) { event.preventDefault(); row.focus(); }
}
