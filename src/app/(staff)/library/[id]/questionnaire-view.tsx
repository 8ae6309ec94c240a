'use client';
import styled from 'styled-components';
import type { QuestionnaireKind } from '@/core/questionnaire';
import type { Id, Instant } from '@/core/shared';
import { ActionForm } from '@/ui/form';
import { Notice } from '@/ui/notice';
import { MarginRow, Page, SectionTitle, Soft, Stack } from '@/ui/page';
import { Moment } from '@/ui/time';
import { putInUseAction } from '../actions';

const typeWords: Readonly<Record<string, string>> = {
  group: 'section', display: 'text', boolean: 'yes or no', decimal: 'number', integer: 'whole number', date: 'date', time: 'time', string: 'short text', text: 'long text', url: 'web address', choice: 'one of', 'open-choice': 'one of, or other', quantity: 'amount',
};
export interface QuestionnaireViewProps {
  readonly already: boolean;
  readonly view: {
    readonly id: Id<'Questionnaire'>; readonly title: string; readonly kind: QuestionnaireKind; readonly state: 'draft' | 'active' | 'retired'; readonly description: string; readonly copyright: string; readonly signed: boolean;
    readonly questions: number; readonly sections: number; readonly inUseNumber: number | undefined;
    readonly newest: { readonly versionId: Id<'Version'>; readonly number: number; readonly at: Instant; readonly by: string; readonly inUse: boolean };
    readonly lines: readonly { readonly linkId: string; readonly depth: number; readonly text: string; readonly type: string; readonly required: boolean; readonly shownWhen: string | undefined; readonly goesTo: string | undefined; readonly marks: readonly string[] }[];
    readonly scores: readonly { readonly title: string; readonly bands: readonly { readonly low: number; readonly high: number; readonly label: string; readonly source: string }[] }[];
  };
}
export function QuestionnaireView({ view, already }: QuestionnaireViewProps) {
  const { newest } = view;
  return (
    <Page title={view.title} margin={<>{view.kind}<br />version {newest.number}<br /><Moment at={newest.at} />, {newest.by}</>} actions={<a href={`/api/versions/${newest.versionId}`}>Export as FHIR</a>}>
      {already && <MarginRow margin="Brought in"><Notice>This file is here already, word for word. Nothing was changed.</Notice></MarginRow>}
      <MarginRow margin={<State $on={newest.inUse}>{newest.inUse ? 'In use' : 'Draft'}</State>}>
        <Stack>
          <p>{view.description} <Soft>{view.questions} questions in {view.sections} {view.sections === 1 ? 'section' : 'sections'}{view.signed ? ', signed by the client' : ''}.</Soft></p>
          {!newest.inUse && (
            <>
              <p>{view.inUseNumber === undefined ? 'Not sent to anybody until you put it in use.' : `Version ${view.inUseNumber} is in use. Packets already sent stay on it; new ones get version ${newest.number}.`}</p>
              <ActionForm action={putInUseAction} submit="Put in use" hidden={{ id: view.id }} />
            </>
          )}
        </Stack>
      </MarginRow>
      <SectionTitle>What it contains</SectionTitle>
      {view.lines.map((l) => (
        <MarginRow key={l.linkId} margin={<>{l.shownWhen ? <div>when {l.shownWhen}</div> : null}{l.goesTo ? <Goes>to {l.goesTo}</Goes> : null}</>}>
          <Item $depth={l.depth} $section={l.type === 'group'}>{l.text}{l.required ? <Soft> (required)</Soft> : null}<Kind>{[typeWords[l.type] ?? l.type, ...l.marks].join(' · ')}</Kind></Item>
        </MarginRow>
      ))}
      {view.scores.map((s) => (
        <section key={s.title}>
          <SectionTitle>{s.title}</SectionTitle>
          {s.bands.map((b) => <MarginRow key={b.low} margin={<span className="figures">{b.low} to {b.high}</span>}>{b.label}</MarginRow>)}
          {s.bands[0] && <MarginRow margin="Source">{s.bands[0].source}</MarginRow>}
        </section>
      ))}
      {view.copyright && <MarginRow margin="Licence"><Soft>{view.copyright}</Soft></MarginRow>}
    </Page>
  );
}
const State = styled.span<{ $on: boolean }>`font-weight: 600; color: ${({ $on }) => ($on ? 'var(--fern)' : 'var(--clay)')};`;
const Goes = styled.div`color: var(--fern);`;
const Item = styled.div<{ $depth: number; $section: boolean }>`padding-inline-start: ${({ $depth }) => $depth * 1.1}rem; ${({ $section }) => ($section ? 'font-weight: 600;' : '')}`;
const Kind = styled.span`display: block; font-weight: 400; font-size: 0.9rem; color: var(--soft);`;
