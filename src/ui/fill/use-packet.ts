'use client';
import { useCallback, useRef, useState } from 'react';
import { applyChange, place, type AnswerChange, type Answers, type Placed } from '@/core/questionnaire';
import type { Id, Instant } from '@/core/shared';
import { useAutosave } from '@/ui/autosave';
import type { FillPart } from '@/ui/fill/steps';
import type { Upload } from './upload';

type PartId = Id<'Part'>;
type Unsaved = ReadonlyMap<PartId, ReadonlyMap<string, AnswerChange>>;

/** What stands behind the client's page: the practice's server, or a rehearsal that keeps nothing. */
export interface FillServer {
  /** Keeps the changes of one part: all of them or none. `stop`: it can never work, so it is not tried again. */
  save(partId: PartId, changes: readonly AnswerChange[]): Promise<{ readonly kind: 'saved'; readonly at: Instant } | { readonly kind: 'again' | 'stop' }>;
  sign(partId: PartId, mark: { readonly place: string; readonly name: string; readonly path: string }): Promise<{ readonly kind: 'signed'; readonly at: Instant } | { readonly kind: 'incomplete' | 'no-reply' }>;
  readonly upload: Upload;
  /** Where the PDF of a worksheet is; none where there is nothing to get. */
  readonly sheet: ((partId: PartId) => string) | undefined;
  /** Returns the packet. True once it is returned, or closed for another reason, and the page says so. */
  send(comment: string): Promise<boolean>;
  /** Speaks another language from here on; none where the page has but one. */
  readonly chooseLanguage?: (language: string) => Promise<void>;
  /** Where one's own answers are to be had as a PDF; none where nothing is kept. */
  readonly paper?: string;
}

/** The answers on this page and their way to the server: each change is sent within a second, in order, until it is kept. */
export function usePacket(server: FillServer, initial: readonly FillPart[]) {
  const [parts, setParts] = useState(initial);
  const [savedAt, setSavedAt] = useState<Instant>();
  const unsaved = useRef(new Map<PartId, Map<string, AnswerChange>>());

  const { state, touch, flush } = useAutosave<Unsaved>({
    take: () => {
      if (unsaved.current.size === 0) return undefined;
      const taken = unsaved.current;
      unsaved.current = new Map();
      return taken;
    },
    giveBack: (snapshot) => {
      for (const [partId, changes] of snapshot)
        unsaved.current.set(partId, new Map([...changes, ...(unsaved.current.get(partId) ?? [])]));
    },
    save: async (snapshot) => {
      for (const [partId, changes] of snapshot) {
        const kept = await server.save(partId, [...changes.values()]);
        if (kept.kind !== 'saved') return kept.kind;
        setSavedAt(kept.at);
      }
      return 'done';
    },
  });

  const change = useCallback((partId: PartId, ...changes: AnswerChange[]): void => {
    const note = (c: AnswerChange): void => {
      const own = unsaved.current.get(partId) ?? new Map<string, AnswerChange>();
      unsaved.current.set(partId, own.set(`${c.kind} ${c.key}`, c));
    };
    setParts((all) => all.map((part) => {
      if (part.id !== partId) return part;
      let answers = changes.reduce<Answers>(applyChange, part.answers);
      changes.forEach(note);
      for (const c of firstRows(place(part.questionnaire, answers))) {
        answers = applyChange(answers, c);
        note(c);
      }
      const changed = new Set(changes.map((c) => c.key));
      return { ...part, answers, signed: {}, prefilled: part.prefilled.filter((key) => !changed.has(key)) };
    }));
    touch();
  }, [touch]);

  const signed = useCallback((partId: PartId, place: string, at: Instant) => setParts((all) => all.map((p) => (p.id === partId ? { ...p, signed: { ...p.signed, [place]: at } } : p))), []);
  return { parts, change, signed, state, savedAt, flush };
}

/** A repeating group that must have a row gets its first one as soon as it is shown. */
const firstRows = (placed: readonly Placed[]): AnswerChange[] => placed.flatMap((p): AnswerChange[] => [
  ...(p.shown && p.item.type === 'group' && p.item.repeats && p.item.required && p.row === undefined && p.children.length === 0 ? [{ kind: 'rows', key: p.key, rows: ['a1'] } as const] : []),
  ...firstRows(p.children),
]);
