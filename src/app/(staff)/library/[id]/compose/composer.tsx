'use client';
import Link from 'next/link';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { builtInFields, fieldByKey } from '@/core/chart';
import { writeQuestionnaire } from '@/core/fhir';
import {
  allItems, duplicateItem, hasOptions, insertAfter, isQuestion, kindOf, markedKind, moveItem, newLine, questionsByKey, removeItem, setKind, shownWhenWords, updateItem, type Item, type LineKind, type Question, type Questionnaire,
} from '@/core/questionnaire';
import type { Id, Instant } from '@/core/shared';
import { useAutosave } from '@/ui/autosave';
import { Button } from '@/ui/button';
import { Checkbox, TextField } from '@/ui/fields';
import { ActionForm } from '@/ui/form';
import { Notice } from '@/ui/notice';
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from '@/ui/page';
import { Pick } from '@/ui/pick';
import { Moment } from '@/ui/time';
import { putInUseAction, saveDraftAction } from './actions';
import { kindWords } from './kind-words';
import { LineSettings } from './line-settings';
import { OutlineRow, rowId, type RowActions } from './outline-row';
import { Preview } from './preview';
import { ProofPanel } from './proof-panel';
import { conditionOn } from './shown-when-editor';
import { useHistory } from './use-history';
import { useProof } from './use-proof';

export interface ComposerProps {
  readonly view: { readonly id: Id<'Questionnaire'>; readonly questionnaire: Questionnaire; readonly revision: number; readonly savedAt: Instant | undefined; readonly inUseNumber: number | undefined };
}
const newKey = (): string => crypto.randomUUID().slice(0, 8);
const kinds = [{ value: 'intake', label: 'Intake' }, { value: 'consent', label: 'Consent' }, { value: 'measure', label: 'Measure' }, { value: 'worksheet', label: 'Worksheet' }];

/** An outline to type in, beside the client's live page. */
export function Composer({ view }: ComposerProps) {
  const { now: q, change, undo, redo, canUndo, canRedo } = useHistory(view.questionnaire);
  const [chosen, setChosen] = useState<string | undefined>(view.questionnaire.items[0]?.linkId);
  const [said, setSaid] = useState('');
  const report = useProof(q);
  const { state, savedAt, stopped, flush } = useDraftSaving(view, q);

  const focus = (linkId: string | undefined): void => { if (linkId !== undefined) requestAnimationFrame(() => document.getElementById(rowId(linkId))?.focus()); };
  const latest = useRef(q);
  useEffect(() => { latest.current = q; });

  const add = useCallback((after: string | undefined, kind: LineKind, more?: (item: Item) => Item): void => {
    const linkId = newKey();
    const line = newLine(kind, linkId);
    change((now) => insertAfter(now, after, more ? more(line) : line));
    focus(linkId);
  }, [change]);
  const remove = useCallback((linkId: string): void => {
    const all = allItems(latest.current);
    const before = all[all.findIndex((i) => i.linkId === linkId) - 1];
    change((now) => removeItem(now, linkId));
    setSaid('Deleted. Undo brings it back.');
    focus(before?.linkId);
  }, [change]);
  const move = useCallback((linkId: string, by: -1 | 1): void => {
    change((now) => moveItem(now, linkId, by));
    focus(linkId);
    const moved = allItems(moveItem(latest.current, linkId, by));
    const before = moved[moved.findIndex((i) => i.linkId === linkId) - 1];
    setSaid(before ? `Moved. Now after ${before.text || 'a line without words'}.` : 'Moved. Now the first line.');
  }, [change]);

  const actions = useMemo<RowActions>(() => ({
    write(linkId, text) {
      const line = text.replace(/\n/g, ' ');
      const marked = markedKind(line);
      change((now) => (marked?.rest === '' ? updateItem(setKind(now, linkId, marked.kind), linkId, (item) => ({ ...item, text: '' })) : updateItem(now, linkId, (item) => ({ ...item, text: line }))), `text ${linkId}`);
    },
    key(event: KeyboardEvent, linkId) {
      const item = allItems(latest.current).find((i) => i.linkId === linkId);
      if (!item || event.nativeEvent.isComposing) return;
      if (event.key === 'Enter') {
        event.preventDefault();
        // The next line asks in the same way, so that a list of alike questions is only typed.
        const kind = kindOf(item);
        add(linkId, hasOptions(kind) || kind === 'yes-no' || kind === 'scale' ? kind : 'short-text', (line) => (isQuestion(line) && isQuestion(item) && hasOptions(kind) ? { ...line, options: item.options } : line));
      } else if (event.key === 'Backspace' && item.text === '') {
        event.preventDefault();
        remove(linkId);
      } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
        event.preventDefault();
        move(linkId, event.key === 'ArrowUp' ? -1 : 1);
      } else if (!event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
        const all = allItems(latest.current);
        event.preventDefault();
        focus(all[all.findIndex((i) => i.linkId === linkId) + (event.key === 'ArrowUp' ? -1 : 1)]?.linkId);
      }
    },
    choose: setChosen,
    drop(from, onto) {
      if (from === onto) return;
      change((now) => {
        const item = allItems(now).find((i) => i.linkId === from);
        return item && !allItems({ ...now, items: [item] }).some((i) => i.linkId === onto) ? insertAfter(removeItem(now, from), onto, item) : now;
      });
      setSaid('Moved.');
    },
  }), [add, change, move, remove]);

  useEffect(() => {
    const keys = (event: globalThis.KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) redo(); else undo();
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [undo, redo]);

  const byKey = useMemo(() => questionsByKey(q), [q]);
  const found = useMemo(() => {
    const out = new Map<string, { words: string; error: boolean }>();
    for (const f of report?.findings ?? []) if (f.linkId !== undefined && !out.has(f.linkId)) out.set(f.linkId, { words: f.message, error: f.level === 'error' });
    return out;
  }, [report]);

  const rows: React.ReactNode[] = [];
  const earlier: Question[] = [];
  const visit = (items: readonly Item[], depth: number): void => {
    for (const item of items) {
      const posting = item.type === 'display' ? undefined : item.posting;
      const finding = found.get(item.linkId);
      const when = shownWhenWords(item, byKey);
      rows.push(<OutlineRow key={item.linkId} item={item} depth={depth} chosen={chosen === item.linkId} when={when} goesTo={posting && (fieldByKey(posting.field, builtInFields)?.label ?? posting.field)} findings={finding?.words ?? ''} isError={finding?.error ?? false} actions={actions} />);
      if (chosen === item.linkId)
        rows.push(
          <MarginRow key={`${item.linkId} settings`} margin="">
            <LineSettings
              id={view.id} item={item} url={q.url} earlier={[...earlier]} sentence={when} report={report} onChange={(c, mark) => change((now) => updateItem(now, item.linkId, c), mark)}
              onKind={(kind) => change((now) => setKind(now, item.linkId, kind))}
              onFollowUp={() => add(item.linkId, 'short-text', (line) => ({ ...line, shownWhen: { behavior: 'all', conditions: [conditionOn(item as Question)] } }))}
              onDuplicate={() => { change((now) => duplicateItem(now, item.linkId, newKey)); setSaid('Duplicated.'); }} onRemove={() => remove(item.linkId)}
            />
          </MarginRow>,
        );
      if (isQuestion(item)) earlier.push(item);
      if (item.type !== 'display') visit(item.items, depth + 1);
    }
  };
  visit(q.items, 0);

  const last = allItems(q).at(-1)?.linkId;
  return (
    <Desk>
      <Page
        title={q.title || 'Untitled'} margin={<>Composer<br />{view.inUseNumber === undefined ? 'draft' : `draft after version ${view.inUseNumber}`}</>}
        actions={
          <Cluster>
            <Saved role="status">{state === 'saved' ? (savedAt ? <>Saved <Moment at={savedAt} as="clock" /></> : 'Nothing changed yet') : state === 'failed' ? 'Not saved yet, trying again' : state === 'stopped' ? 'Not saved' : 'Saving…'}</Saved>
            <Button weight="quiet" isDisabled={!canUndo} onPress={undo}>Undo</Button><Button weight="quiet" isDisabled={!canRedo} onPress={redo}>Redo</Button>
            <Link href={`/library/${view.id}/rehearse`} onClick={() => void flush()}>Rehearse</Link>
            <Link href={`/library/${view.id}`}>Done</Link>
          </Cluster>
        }
      >
        {stopped && <MarginRow margin="Not saved"><Notice tone="problem">{stopped.reason === 'changed' ? <>{stopped.by} changed this questionnaire{stopped.at ? <> at <Moment at={stopped.at} as="clock" /></> : null}. Nothing of theirs was overwritten. What you wrote is still on this page: <Link href={`/library/${view.id}/compose`} onClick={(e) => { e.preventDefault(); window.location.reload(); }}>load theirs</Link> when you have copied what you need.</> : 'This could not be saved. What you wrote is still on this page.'}</Notice></MarginRow>}
        <MarginRow margin="Title">
          <Stack $gap="0.8rem">
            <TextField label="Title, as the client reads it" value={q.title} onChange={(title) => change((now) => ({ ...now, title }), 'title')} onBlur={() => void flush()} />
            <Cluster $gap="0.8rem">
              <Pick small bare label="Kind of questionnaire" value={q.kind} options={kinds} onChange={(kind) => change((now) => ({ ...now, kind: kind as Questionnaire['kind'] }))} />
              <Checkbox label="The client signs it" isSelected={q.signed} onChange={(signed) => change((now) => ({ ...now, signed }))} />
            </Cluster>
          </Stack>
        </MarginRow>
        <div role="group" aria-label="Outline">{rows}</div>
        <MarginRow margin={q.items.length === 0 ? 'Begin here' : 'Add'}>
          <Stack $gap="0.5rem">
            <Cluster>
              {(['short-text', 'yes-no', 'one-of', 'several-of', 'section', 'text', 'score'] as const).map((kind) => <Button key={kind} weight="quiet" onPress={() => add(last, kind)}>{kindWords[kind]}</Button>)}
            </Cluster>
            <Soft>Enter makes the next line. Alt with an arrow key moves it. A mark and a blank before the words set the kind: # section, () one of, [] several of, y/n yes or no, -- text.</Soft>
          </Stack>
        </MarginRow>
        <SectionTitle>Proof</SectionTitle>
        <ProofPanel report={report} onGo={(linkId) => { setChosen(linkId); focus(linkId); }} />
        <MarginRow margin={view.inUseNumber === undefined ? 'Not in use yet' : `Version ${view.inUseNumber} is in use`}>
          <Stack>
            <p>{view.inUseNumber === undefined ? 'Once in use it can be sent.' : 'Packets already sent stay on their version; new ones get this.'} A version in use never changes.</p>
            {report && report.findings.some((f) => f.level === 'error') ? <Soft>Mend the errors first.</Soft> : null}
            <ActionForm action={async (previous, sent) => ((await flush()) ? putInUseAction(previous, sent) : { message: 'The last changes could not be saved, so it was not put in use.' })} submit="Put in use" hidden={{ id: view.id }} disabled={report === undefined || report.findings.some((f) => f.level === 'error')} />
          </Stack>
        </MarginRow>
        <Quiet role="status">{said}</Quiet>
      </Page>
      <Aside aria-label="What the client sees"><Preview questionnaire={q} chosen={chosen} /></Aside>
    </Desk>
  );
}

/** Saves the draft as it is written, each time from the revision it last saved; stops where somebody else saved in between. */
function useDraftSaving(view: ComposerProps['view'], q: Questionnaire) {
  const [savedAt, setSavedAt] = useState(view.savedAt);
  const [stopped, setStopped] = useState<{ readonly reason: string; readonly by?: string; readonly at?: Instant }>();
  const revision = useRef(view.revision);
  const dirty = useRef<Questionnaire>(undefined);
  const { state, touch, flush } = useAutosave({
    take: () => { const d = dirty.current; dirty.current = undefined; return d; },
    giveBack: (d) => { dirty.current ??= d; },
    save: async (d) => {
      const outcome = await saveDraftAction({ id: view.id, revision: revision.current, fhir: writeQuestionnaire(d) });
      if (!outcome.ok) { setStopped(outcome); return 'stop'; }
      revision.current = outcome.revision;
      setSavedAt(outcome.savedAt);
      return 'done';
    },
  });
  const first = useRef(q);
  useEffect(() => {
    if (q === first.current) return;
    first.current = q;
    dirty.current = q;
    touch();
  }, [q, touch]);
  return { state, savedAt, stopped, flush };
}

const Desk = styled.div`display: grid; grid-template-columns: minmax(0, 1fr) 22rem; --margin-column: 9.5rem; @media (max-width: 70rem) { grid-template-columns: minmax(0, 1fr); }`;
const Aside = styled.aside`position: sticky; top: 0; align-self: start; padding: 1.75rem 1.5rem 1rem 0; @media (max-width: 70rem) { position: static; padding: 0 1rem 2rem; }`;
const Saved = styled.span`color: var(--soft); font-size: 0.94rem; white-space: nowrap;`;
const Quiet = styled.p`position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%);`;
