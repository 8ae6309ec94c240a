'use client';
import Link from 'next/link';
import styled from 'styled-components';
import type { QuestionnaireKind } from '@/core/questionnaire';
import type { Id } from '@/core/shared';
import { FileForm } from '@/ui/file-form';
import { Notice } from '@/ui/notice';
import { MarginRow, Page, Soft, Stack } from '@/ui/page';
import { rowKeys } from '@/ui/shortcuts';
import { importAction, type ImportState } from './actions';

const states = { draft: 'Draft', active: 'In use', retired: 'Retired' } as const;
export interface LibraryViewProps { readonly lines: readonly { readonly id: Id<'Questionnaire'>; readonly title: string; readonly kind: QuestionnaireKind; readonly state: keyof typeof states; readonly versions: number }[] }
export function LibraryView({ lines }: LibraryViewProps) {
  return (
    <Page title="Library" margin={`${lines.length} questionnaires`}>
      {lines.length === 0 && <MarginRow margin=""><p>Nothing here yet. Bring in a questionnaire file below, look at what it contains, and put it in use.</p></MarginRow>}
      <ul onKeyDown={rowKeys}>
        {lines.map((l) => (
          <li key={l.id}><MarginRow margin={<><State $on={l.state === 'active'}>{states[l.state]}</State><br />{l.kind}</>}><Title href={`/library/${l.id}`} data-row>{l.title}</Title> <Soft>· version {l.versions}</Soft></MarginRow></li>
        ))}
      </ul>
      <MarginRow margin="Bring one in">
        <Stack>
          <p>A FHIR R4 Questionnaire file (JSON). You see what it contains before anything is put in use.</p>
          <FileForm<ImportState> action={importAction} initial={{}} label="Choose a questionnaire file" accept={['.json', 'application/json', 'application/fhir+json']}>
            {(state) => (state.problems ? <Problems state={state} /> : state.message ? <Notice tone="problem">{state.message}</Notice> : null)}
          </FileForm>
        </Stack>
      </MarginRow>
    </Page>
  );
}
function Problems({ state }: { readonly state: ImportState }) {
  const { problems = [], fileName } = state;
  return (
    <Notice tone="problem">
      <strong>{fileName} was not taken in. Nothing was stored.</strong> {problems.length === 1 ? 'This is wrong:' : `These ${problems.length} things are wrong:`}
      <List>
        {problems.slice(0, 50).map((p, i) => <li key={i}>{p.linkId ? <Place>{p.linkId}</Place> : null}{p.path ? <Place>{p.path}</Place> : null}{p.problem}</li>)}
        {problems.length > 50 && <li>…and {problems.length - 50} more.</li>}
      </List>
    </Notice>
  );
}
const Title = styled(Link)`font: 600 1.08rem/1.3 var(--serif); color: var(--ink); text-decoration-color: var(--rule-strong);`;
const State = styled.span<{ $on: boolean }>`font-weight: 600; color: ${({ $on }) => ($on ? 'var(--fern)' : 'var(--soft)')};`;
const List = styled.ul`padding-block-start: 0.5rem; display: grid; gap: 0.4rem;`;
const Place = styled.code`font: 0.9rem/1.4 ui-monospace, monospace; background: var(--leaf); padding: 0.05rem 0.35rem; border-radius: var(--corner); margin-inline-end: 0.5rem;`;
