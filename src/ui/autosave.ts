'use client';
import { useCallback, useEffect, useRef, useState } from 'react';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'failed' | 'stopped';

/**
 * Saves what is pending a moment after the last change, one save at a time, and again until it works.
 * `save` takes a snapshot of what is pending and answers: done, again (try later), or stop (it can never work).
 */
export function useAutosave<T>({ take, giveBack, save, delay = 800, retry = 3000 }: {
  readonly take: () => T | undefined;
  /** Puts an unsaved snapshot back; newer typing wins. */
  readonly giveBack: (snapshot: T) => void;
  readonly save: (snapshot: T) => Promise<'done' | 'again' | 'stop'>;
  readonly delay?: number;
  readonly retry?: number;
}): { readonly state: SaveState; readonly touch: () => void; readonly flush: () => Promise<boolean> } {
  const [state, setState] = useState<SaveState>('saved');
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<boolean> | undefined>(undefined);
  const parts = useRef({ take, giveBack, save });
  useEffect(() => { parts.current = { take, giveBack, save }; });

  const flush = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    if (running.current) await running.current;
    const snapshot = parts.current.take();
    if (snapshot === undefined) return true;
    setState('saving');
    running.current = (async () => {
      const outcome = await parts.current.save(snapshot).catch(() => 'again' as const);
      if (outcome === 'done') { setState('saved'); return true; }
      parts.current.giveBack(snapshot);
      setState(outcome === 'stop' ? 'stopped' : 'failed');
      if (outcome === 'again') timer.current = setTimeout(() => void flush(), retry);
      return false;
    })();
    const done = await running.current;
    running.current = undefined;
    return done;
  }, [retry]);

  const touch = useCallback(() => {
    setState('waiting');
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void flush(), delay);
  }, [delay, flush]);

  useEffect(() => {
    // Leaving the page or turning to another app: send what is there now.
    const leave = (): void => { if (document.visibilityState === 'hidden') void flush(); };
    const warn = (event: BeforeUnloadEvent): void => {
      if (timer.current === undefined && running.current === undefined) return;
      void flush();
      if (state !== 'saved') event.preventDefault();
    };
    const online = (): void => void flush();
    document.addEventListener('visibilitychange', leave);
    window.addEventListener('beforeunload', warn);
    window.addEventListener('online', online);
    return () => {
      document.removeEventListener('visibilitychange', leave);
      window.removeEventListener('beforeunload', warn);
      window.removeEventListener('online', online);
    };
  }, [flush, state]);
  useEffect(() => () => clearTimeout(timer.current), []);

  return { state, touch, flush };
}
