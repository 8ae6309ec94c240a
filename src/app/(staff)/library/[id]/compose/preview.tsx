"use client";
import { memo, useMemo, useState } from "react";
import styled from "styled-components";
import {
  applyChange,
  forClient,
  isSection,
  noAnswers,
  sectionsOf,
  type Answers,
  type Questionnaire,
} from "@/core/questionnaire";
import { fillTranslator, type PageMessages } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { AuthorSees } from "../author-sees";
import { Items } from "@/ui/fill/section-items";
import { placedIn } from "@/ui/fill/steps";
import { Cluster, Soft } from "@/ui/kit/page";

/** The client's own page of the section that is being written, with answers to try that are thrown away. */
export const Preview = memo(function Preview({
  questionnaire,
  chosen,
  words,
}: {
  readonly questionnaire: Questionnaire;
  readonly chosen: string | undefined;
  readonly words: PageMessages;
}) {
  const t = useMemo(() => fillTranslator("en", words), [words]);
  const [answers, setAnswers] = useState<Answers>(noAnswers);
  const client = useMemo(() => forClient(questionnaire), [questionnaire]);
  const sections = useMemo(() => sectionsOf(client), [client]);
  const has = (items: Questionnaire["items"]): boolean =>
    items.some((i) => i.linkId === chosen || (i.type !== "display" && has(i.items)));
  const at = Math.max(
    0,
    sections.findIndex((s) => has(s.items)),
  );
  const section = sections[at];
  if (!section) return <Soft>What the client sees appears here as you write.</Soft>;
  const placed = placedIn(client, answers, section);
  const only = placed[0];
  const shown = placed.length === 1 && only && isSection(only.item) ? only.children : placed;
  return (
    <>
      <Which at={at} of={sections.length} setAnswers={setAnswers} />
      <AuthorSees questionnaire={questionnaire} answers={answers} />
      <Phone role="region" aria-label="The page, to scroll" tabIndex={0}>
        <h2 dir="auto">{section.title || "Untitled"}</h2>
        {placed.some((p) => p.shown) ? (
          <Items
            key={at}
            partId="preview"
            placed={shown}
            answers={answers}
            words={t}
            say={() => ""}
            problems={[]}
            onBlur={() => undefined}
            change={(...changes) => setAnswers((a) => changes.reduce<Answers>(applyChange, a))}
          />
        ) : (
          <Soft>Not shown for these answers.</Soft>
        )}
      </Phone>
    </>
  );
});
const Which = memo(function Which({
  at,
  of,
  setAnswers,
}: {
  readonly at: number;
  readonly of: number;
  readonly setAnswers: (answers: Answers) => void;
}) {
  return (
    <Cluster $gap="0.25rem 0.5rem">
      <Soft>
        The client’s page {at + 1} of {of}
      </Soft>
      <Button weight="quiet" onPress={() => setAnswers(noAnswers)}>
        Clear answers
      </Button>
    </Cluster>
  );
});
// Positioned, so that the hidden inputs in it stay in it.
const Phone = styled.div`
  position: relative;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--paper);
  padding: 1.25rem;
  display: grid;
  gap: 1.2rem;
  font-size: 1.0625rem;
  max-height: calc(100dvh - 9rem);
  overflow: auto;
  margin-block-start: 0.6rem;
  & h2 {
    font-size: 1.35rem;
  }
`;
