'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { allItems, answerText, checkAnswers, isSection, shownQuestions, type AnswerProblem, type Answers } from '@/core/questionnaire';
import { clockTime } from '@/i18n/moments';
import type { ClientMessages } from '@/i18n/client/en';
import { problemTranslator, translator, type FillWords } from '@/i18n/translator';
import { directionOf } from '@/core/shared';
import { intentSentence, placesToSign } from '@/core/signing';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Soft, Stack } from '@/ui/page';
import { useTimeFrame } from '@/ui/time';
import { Items } from './section-items';
import { SignStep } from './sign-step';
import { elementId, isShown, placedIn, problemKey, problemsIn, stepsOf, type FillPart, type Step } from './steps';
import { usePacket, type FillServer } from './use-packet';
import { UploadProvider } from './upload';
import { useStepNumber } from './use-step-number';

/** The page's own words, in one language. */
export interface PageWords {
  readonly language: string;
  readonly messages: Pick<ClientMessages, 'fill' | 'problem'>;
}
export interface FillAppProps {
  readonly words: PageWords;
  readonly server: FillServer;
  readonly view: { readonly practiceName: string; readonly person: string; readonly onBehalfOf: string | undefined; readonly parts: readonly FillPart[] };
  /** As the address had it; anything else than a step's number leads to the first. */
  readonly firstStep: string | undefined;
  /** Inside a page that has its own heading and main part. */
  readonly embedded?: boolean;
}
type Waiting = { readonly kind: 'idle' } | { readonly kind: 'busy' } | { readonly kind: 'failed'; readonly words: string };

export function FillApp({ words: { language, messages }, view, server, firstStep, embedded = false }: FillAppProps) {
  const t = useMemo(() => translator(language, messages, 'fill'), [language, messages]);
  const sayProblem = useMemo(() => problemTranslator(language, messages), [language, messages]);
  const frame = useTimeFrame();
  const { parts, change, signed, state, savedAt, flush } = usePacket(server, view.parts);
  const steps = stepsOf(view.parts);
  const [at, setAt] = useStepNumber(steps.length, firstStep);
  const step = steps[at]!;
  const [tried, setTried] = useState<ReadonlySet<number>>(new Set());
  const [waiting, setWaiting] = useState<Waiting>({ kind: 'idle' });
  const top = useRef<HTMLHeadingElement>(null);
  const partOf = (s: Step): FillPart | undefined => (s.kind === 'review' ? undefined : parts.find((p) => p.id === s.part));
  const part = partOf(step);

  const say = (p: AnswerProblem): string => sayProblem(p.reason === 'wrong-kind' ? numberKey(parts, p) : problemKey(p), p.limit ?? '');
  const isEmpty = (s: Step): boolean => {
    const own = partOf(s);
    if (own === undefined) return false;
    return s.kind === 'section' ? !isShown(placedIn(own.questionnaire, own.answers, s.section)) : s.kind === 'sign' && !placesToSign(own.questionnaire, own.answers).includes(s.place);
  };
  const go = (to: number): void => {
    setAt(to);
    setWaiting({ kind: 'idle' });
  };
  const move = (by: 1 | -1): void => {
    let to = at + by;
    while (to > 0 && to < steps.length - 1 && isEmpty(steps[to]!)) to += by;
    if (to >= 0 && to < steps.length) go(to);
  };
  useEffect(() => {
    if (!embedded) window.scrollTo(0, 0);
    top.current?.focus({ preventScroll: true });
  }, [at, embedded]);

  const problems = step.kind === 'section' && part ? problemsIn(part.questionnaire, part.answers, step.section) : [];
  const jump = (key: string): void => {
    const box = part && document.getElementById(elementId(part.id, key));
    box?.scrollIntoView({ block: 'center' });
    box?.querySelector<HTMLElement>('input, textarea, button')?.focus({ preventScroll: true });
  };
  const next = (): void => {
    void flush();
    if (problems.length > 0) {
      setTried(new Set([...tried, at]));
      requestAnimationFrame(() => jump(problems[0]!.key));
      return;
    }
    move(1);
  };

  const sign = async (mark: { name: string; path: string }): Promise<void> => {
    if (!part || step.kind !== 'sign') return;
    setWaiting({ kind: 'busy' });
    const done = (await flush()) ? await server.sign(part.id, { place: step.place, ...mark }) : { kind: 'no-reply' as const };
    if (done.kind !== 'signed') { setWaiting({ kind: 'failed', words: done.kind === 'incomplete' ? t('signFirst') : t('noReply') }); return; }
    signed(part.id, step.place, done.at);
    move(1);
  };
  const send = async (): Promise<void> => {
    setWaiting({ kind: 'busy' });
    if ((await flush()) && (await server.send())) return;
    setWaiting({ kind: 'failed', words: t('noReply') });
  };

  const open = parts.flatMap((p) => [
    ...checkAnswers(p.questionnaire, p.answers).map((problem) => ({ part: p, problem, step: stepFor(steps, p, problem.key, p.answers) })),
    ...placesToSign(p.questionnaire, p.answers).filter((place) => !p.signed[place]).map((place) => ({ part: p, problem: undefined, step: steps.findIndex((s) => s.kind === 'sign' && s.part === p.id && s.place === place) })),
  ]);
  const showProblems = tried.has(at);
  const title = step.kind === 'review' ? t('reviewTitle') : step.kind === 'sign' ? t('signTitle', { title: part?.questionnaire.title ?? '' }) : step.section.title;

  return (
    <UploadProvider value={server.upload}>
    <Shell lang={language} dir={directionOf(language)}>
      <Top>
        <span>{view.practiceName}</span>
        <Saved role="status" data-state={state}>{state === 'failed' ? '' : state === 'saved' ? (savedAt ? t('saved', { time: clockTime(savedAt, frame) }) : '') : state === 'stopped' ? '' : t('saving')}</Saved>
      </Top>
      <Body as={embedded ? 'div' : 'main'}>
        <Progress>{t('step', { at: String(at + 1), of: String(steps.length) })}{view.onBehalfOf ? ` · ${t('forWhom', { name: view.onBehalfOf })}` : ''}</Progress>
        <Bar aria-hidden="true" style={{ '--done': `${((at + 1) / steps.length) * 100}%` } as React.CSSProperties} />
        <Title as={embedded ? 'h2' : 'h1'} ref={top} tabIndex={-1} dir="auto">{title}</Title>
        {part?.questionnaire.sheet && step.kind === 'section' && server.sheet && <p><a href={server.sheet(part.id)}>{t('sheet')}</a></p>}
        {at === 0 && <Note>{t('startNote')}</Note>}
        {state === 'failed' && <Notice tone="attention">{t('offline')}</Notice>}
        {state === 'stopped' && <Notice tone="problem">{t('stopped')}</Notice>}
        {showProblems && problems.length > 0 && (
          <Notice tone="problem"><strong>{t('problems', { count: problems.length })}</strong>
            <ul>{problems.map((p) => <li key={p.key}><Jump type="button" onClick={() => jump(p.key)}>{labelOf(part, p)}</Jump></li>)}</ul>
          </Notice>
        )}
        {step.kind === 'section' && part && (
          <div {...languageOf(part)}><Items
            key={at} partId={part.id} placed={sectionItems(part, step)} answers={part.answers} words={t} say={say} onBlur={() => void flush()}
            problems={showProblems ? problems : []}
            change={(...changes) => change(part.id, ...changes)}
          /></div>
        )}
        {step.kind === 'sign' && part && (
          <Stack $gap="1.4rem">
            {part.questionnaire.items.flatMap((i) => (i.type === 'group' ? i.items : [i])).map((i) => (i.type === 'display' && !i.signature ? <p key={i.linkId} dir="auto">{i.text}</p> : null))}
            <Answered part={part} words={t} />
            {part.signed[step.place]
              ? <Notice tone="settled">{t('signedAt', { time: clockTime(part.signed[step.place]!, frame) })}</Notice>
              : checkAnswers(part.questionnaire, part.answers).length > 0
                ? <Notice tone="attention">{t('signFirst')}</Notice>
                : <SignStep key={step.place} words={t} intent={allItems(part.questionnaire).find((i) => step.place !== '' && i.linkId === step.place)?.text ?? intentSentence(language)} name={view.person} busy={waiting.kind === 'busy'} failed={waiting.kind === 'failed' ? waiting.words : undefined} onSign={(mark) => void sign(mark)} />}
          </Stack>
        )}
        {step.kind === 'review' && (
          <Stack $gap="1.6rem">
            <p>{t('reviewText')}</p>
            {open.length > 0 && (
              <Notice tone="problem"><strong>{t('problems', { count: open.length })}</strong>
                <ul>{open.map((o) => <li key={`${o.part.id} ${o.problem?.key ?? `sign ${o.step}`}`}><Jump type="button" onClick={() => { setTried(new Set([...tried, o.step])); go(o.step); }}>{o.problem ? labelOf(o.part, o.problem) : `${o.part.questionnaire.title}: ${t('mustSign')}`}</Jump></li>)}</ul>
              </Notice>
            )}
            {parts.map((p) => (
              <section key={p.id} aria-label={p.questionnaire.title}>
                <ReviewHead><h2 dir="auto">{p.questionnaire.title}</h2><Button weight="quiet" aria-label={`${t('change')}: ${p.questionnaire.title}`} onPress={() => go(steps.findIndex((s) => s.kind === 'section' && s.part === p.id))}>{t('change')}</Button></ReviewHead>
                <Answered part={p} words={t} />
                {placesToSign(p.questionnaire, p.answers).flatMap((place) => (p.signed[place] ? [<Soft key={place}>{t('signedAt', { time: clockTime(p.signed[place], frame) })}</Soft>] : []))}
              </section>
            ))}
            {waiting.kind === 'failed' && <Notice tone="problem">{waiting.words}</Notice>}
          </Stack>
        )}
      </Body>
      <Foot>
        {at > 0 ? <Button onPress={() => move(-1)}>{t('back')}</Button> : <span />}
        {step.kind === 'review'
          ? <Button weight="primary" isDisabled={open.length > 0} busy={waiting.kind === 'busy'} onPress={() => void send()}>{waiting.kind === 'failed' ? t('sendAgain') : t('send', { practice: view.practiceName })}</Button>
          : step.kind === 'sign' && part && !part.signed[step.place] ? null
            : <Button weight="primary" onPress={next}>{at === steps.length - 2 ? t('toReview') : t('next')}</Button>}
      </Foot>
    </Shell>
    </UploadProvider>
  );
}

/** A questionnaire without a translation stands in the language it was written in, on a page in another. */
const languageOf = ({ questionnaire: { language = 'en' } }: FillPart): { lang: string; dir: 'ltr' | 'rtl' } => ({ lang: language, dir: directionOf(language) });

/** A section's own title stands as the page's heading, so its group is not headed again. */
function sectionItems(part: FillPart, step: Step & { kind: 'section' }) {
  const placed = placedIn(part.questionnaire, part.answers, step.section);
  const only = placed[0];
  return placed.length === 1 && only && isSection(only.item) ? only.children : placed;
}
const stepFor = (steps: readonly Step[], part: FillPart, key: string, answers: Answers): number =>
  steps.findIndex((s) => s.kind === 'section' && s.part === part.id && problemsIn(part.questionnaire, answers, s.section).some((p) => p.key === key));
const labelOf = (part: FillPart | undefined, problem: AnswerProblem): string =>
  part?.questionnaire ? (findText(part.questionnaire.items, problem.linkId) ?? problem.linkId) : problem.linkId;
function findText(items: FillPart['questionnaire']['items'], linkId: string): string | undefined {
  for (const i of items) {
    if (i.linkId === linkId) return i.text;
    const inner = i.type === 'display' ? undefined : findText(i.items, linkId);
    if (inner !== undefined) return inner;
  }
  return undefined;
}
function numberKey(parts: readonly FillPart[], p: AnswerProblem): 'number' | 'wholeNumber' | 'wrongKind' {
  const type = parts.flatMap((x) => shownQuestions(x.questionnaire, x.answers)).find((q) => q.key === p.key)?.item.type;
  return type === 'integer' ? 'wholeNumber' : type === 'decimal' || type === 'quantity' ? 'number' : 'wrongKind';
}

function Answered({ part, words }: { readonly part: FillPart; readonly words: FillWords }) {
  const { locale } = useTimeFrame();
  return (
    <List {...languageOf(part)}>
      {shownQuestions(part.questionnaire, part.answers).filter((q) => !q.item.readOnly).map((q) => {
        const values = part.answers.values[q.key] ?? [];
        return <div key={q.key}><dt>{q.item.text}</dt><dd dir="auto">{values.length === 0 ? <Soft>{words('notAnswered')}</Soft> : values.map((v) => answerText(q.item, v, { yes: words('yes'), no: words('no'), locale })).join(', ')}</dd></div>;
      })}
    </List>
  );
}
const Shell = styled.div`max-width: 40rem; margin-inline: auto; min-height: 100dvh; display: flex; flex-direction: column; padding-inline: 1.25rem; font-size: 1.0625rem; `;
const Body = styled.main`flex: 1; display: flex; flex-direction: column; gap: 1.2rem; padding-block: 1rem 2rem;`;
const Top = styled.header`display: flex; justify-content: space-between; gap: 1rem; padding-block: 0.9rem; border-block-end: 1px solid var(--rule); & > :first-child { font: 500 1.05rem/1.3 var(--serif); color: var(--plum); }`;
const Saved = styled.span`color: var(--soft); font-size: 0.94rem; white-space: nowrap;`;
const Progress = styled.p`color: var(--soft);`;
const Bar = styled.div`height: 3px; margin-block-start: -0.8rem; background: linear-gradient(var(--plum), var(--plum)) no-repeat left / var(--done) 100%, var(--rule); &:dir(rtl) { background-position: right; }`;
const Title = styled.h1`outline: none;`;
const Note = styled.p`color: var(--soft);`;
const Foot = styled.footer`display: flex; justify-content: space-between; gap: 1rem; padding-block: 1rem; border-block-start: 1px solid var(--rule); position: sticky; bottom: 0; background: var(--paper);`;
const Jump = styled.button`font: inherit; color: inherit; background: none; border: 0; padding: 0.35rem 0; min-height: 1.5rem; text-align: start; text-decoration: underline; text-underline-offset: 0.2em; cursor: pointer;`;
const ReviewHead = styled.div`display: flex; justify-content: space-between; align-items: baseline; gap: 1rem; border-block-end: 1px solid var(--rule-strong);`;
const List = styled.dl`& > div { padding-block: 0.5rem; border-block-end: 1px solid var(--rule); } & dt { color: var(--soft); font-size: 0.94rem; } & dd { font-weight: 600; white-space: pre-wrap; overflow-wrap: anywhere; }`;
