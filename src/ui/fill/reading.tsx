"use client";
import styled from "styled-components";
import type { Answers, Questionnaire } from "@/core/questionnaire";
import { readingOrder } from "@/core/signing";
import { directionOf } from "@/core/shared";
import type { FillWords } from "@/i18n/translator";
import { Soft } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";

/** A questionnaire as it was read and answered, in its order: what somebody reads who signs it. */
export function Reading({
  questionnaire,
  answers,
  words,
}: {
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  readonly words: FillWords;
}) {
  const { locale } = useTimeFrame();
  const { language = "en" } = questionnaire;
  const blocks = readingOrder(questionnaire, answers, { yes: words("yes"), no: words("no"), locale });
  return (
    <Read lang={language} dir={directionOf(language)}>
      {blocks.map((block, index) => {
        if (block.kind === "heading") return <h3 key={index}>{block.text}</h3>;
        if (block.kind === "answer")
          return (
            <dl key={index}>
              <dt dir="auto">{block.question}</dt>
              <dd dir="auto">{block.answer === "" ? <Soft>{words("notAnswered")}</Soft> : block.answer}</dd>
            </dl>
          );
        return block.kind === "text" ? (
          <p key={index} dir="auto">
            {block.text}
          </p>
        ) : null;
      })}
    </Read>
  );
}
const Read = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
  border-block: 1px solid var(--rule-strong);
  padding-block: 1rem;
  & > p {
    white-space: pre-wrap;
  }
  & dt {
    color: var(--soft);
    font-size: var(--small);
  }
  & dd {
    font-weight: 600;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
`;
