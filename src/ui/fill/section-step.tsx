"use client";
import { useEffect, useRef, type ReactNode } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Soft } from "@/ui/kit/page";
import type { FillPart } from "@/usecases/filling";
import { ClashChoice } from "./clash-choice";
import { JumpList } from "./jump-list";
import { usePage } from "./page";
import { labelOf, languageOf, sectionItems, type PageLook } from "./page-look";
import { Items } from "./section-items";
import { jumpTo } from "./jump-to";
import { SupportWords } from "./support-words";
import { afterPaint } from "./use-step-number";

const stillRightId = "still-right";
export const jumpToStillRight = (): void => document.getElementById(stillRightId)?.querySelector("button")?.focus();

export interface SectionStepProps {
  readonly part: FillPart;
  /** What follows from the answers; a moment after them on a slow phone. */
  readonly look: PageLook;
}
/** One page of questions. */
export function SectionStep({ part, look }: SectionStepProps) {
  const { words, say, sync, at, tried, view } = usePage();
  const showProblems = tried.has(at);
  const { placed, problems, waitingKeys } = look;
  const sayRight = (): void => {
    const values = part.answers.values;
    sync.change(part.id, ...waitingKeys.map((key) => ({ kind: "values" as const, key, values: values[key] ?? [] })));
  };
  return (
    <>
      {waitingKeys.length > 0 && (
        <Notice tone={showProblems ? "problem" : "attention"}>
          <StillRight id={stillRightId}>
            <span>{showProblems ? words("sayStillRight") : words("stillRight", { count: waitingKeys.length })}</span>
            <Button onPress={sayRight}>{words("yesStillRight")}</Button>
          </StillRight>
        </Notice>
      )}
      {showProblems && problems.length > 0 && (
        <JumpList
          title={words("problems", { count: problems.length })}
          list={problems.map((problem) => ({
            key: problem.key,
            label: labelOf(part, problem),
            go: () => jumpTo(part, problem.key),
          }))}
        />
      )}
      <div {...languageOf(part)}>
        <Items
          key={at}
          partId={part.id}
          placed={sectionItems(placed)}
          around={(key) => ({
            above: <Above part={part} answerKey={key} />,
            below: look.alarming.has(key) ? <Support /> : null,
          })}
          answers={part.answers}
          words={words}
          say={say}
          // Leaving a field is often a press on the next one, which is to be seen first.
          onBlur={() => afterPaint(() => void sync.saver.flush())}
          // That a text is too long is said as it gets so; what is missing, once going on was tried.
          problems={showProblems ? problems : problems.filter((problem) => problem.reason === "too-long")}
          own={view.onBehalfOf === undefined}
          change={(...changes) => sync.change(part.id, ...changes)}
        />
      </div>
    </>
  );
}

/** Why a question is asked again, or where its answer comes from. */
function Above({ part, answerKey }: { readonly part: FillPart; readonly answerKey: string }): ReactNode {
  const { words, view, clashes, parts, nameOf } = usePage();
  const clash = clashes.find((c) => c.partId === part.id && c.key === answerKey);
  if (clash) return <ClashChoice clash={clash} part={part} />;
  const reason = view.sentBack?.find((line) => line.partId === part.id && line.key === answerKey)?.reason;
  if (reason) return <Reason dir="auto">{reason}</Reason>;
  if (part.prefilled.includes(answerKey)) return <Soft>{words("fromRecords")}</Soft>;
  const by = nameOf(part.kept[`values ${answerKey}`]?.by);
  if (by) return <Soft>{words("answeredBy", { name: by })}</Soft>;
  if ((part.answers.values[answerKey] ?? []).length === 0) return null;
  const twins = view.twins?.[`${part.id} ${answerKey}`] ?? [];
  const earlier = twins
    .map((twin) => parts.findIndex((p) => p.id === twin.part))
    .find((index) => index >= 0 && index < parts.indexOf(part));
  return earlier === undefined ? null : (
    <Soft>{words("answeredIn", { title: parts[earlier]!.questionnaire.title })}</Soft>
  );
}

/** The practice's own words, at once and in sight, beside an answer that alarms; nothing is held up by it. */
function Support() {
  const { view, words, language } = usePage();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: "center" });
  }, []);
  return (
    <div ref={box} role="status">
      <Notice tone="attention">
        {view.support && <SupportWords support={view.support} language={language} words={words} />}
      </Notice>
    </div>
  );
}
const Reason = styled.p`
  border-inline-start: 3px solid var(--clay);
  padding-inline-start: 0.75rem;
  margin-block-end: 0.6rem;
  font-weight: 600;
`;
const StillRight = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1rem;
  align-items: center;
  justify-content: space-between;
`;
