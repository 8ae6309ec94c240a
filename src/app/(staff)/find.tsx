'use client';
import dynamic from 'next/dynamic';
import { useRef, useState } from 'react';
import styled from 'styled-components';
import type { Role } from '@/core/shared';
import { Key, Shortcuts } from '@/ui/shortcuts';

// Comes when it is wanted: most pages are left again without it.
const Finder = dynamic(() => import('./finder').then((m) => m.Finder), { ssr: false });

/** Where one finds: a button in the spine that becomes a field. */
export function Find({ role }: { readonly role: Role }) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null), cameFrom = useRef<Element>(null);
  const start = (): void => { cameFrom.current = document.activeElement; setOpen(true); };
  const done = (back: boolean): void => {
    setOpen(false);
    if (back) requestAnimationFrame(() => { (cameFrom.current instanceof HTMLElement && cameFrom.current.isConnected ? cameFrom.current : button.current)?.focus(); });
  };
  return (
    <Place>
      <Shortcuts list={[{ key: '/', does: 'find a person, a questionnaire or a page', run: start }]} />
      {open ? <Finder role={role} onDone={done} /> : <Open ref={button} type="button" onClick={start}>Find <Key>/</Key></Open>}
    </Place>
  );
}
const Place = styled.div`padding-inline: 1.25rem 0.75rem; min-height: 2.75rem; @media (max-width: 52rem) { padding: 0; align-self: center; width: 9.5rem; }`;
const Open = styled.button`
  width: 100%; min-height: 2.5rem; display: flex; gap: 0.75rem; align-items: center; justify-content: space-between; padding: 0.3rem 0.6rem; font: inherit; text-align: start; cursor: pointer;
  color: var(--soft); background: none; border: 1px solid var(--rule-strong); border-radius: var(--corner); &:hover { background: var(--plum-wash); color: var(--ink); }
`;
