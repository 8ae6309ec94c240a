"use client";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { textOf, type Question } from "@/core/questionnaire";
import { Soft } from "@/ui/kit/page";
import { questionBankAction } from "./actions";

const pause = 400;
const fewestLetters = 4;
export interface BankOfferProps {
  readonly words: string;
  readonly except: string;
  readonly onTake: (question: Question) => void;
}

/** While a question is typed: the same one asked elsewhere, with its options, codes and where its answer goes. */
export function BankOffer({ words, except, onTake }: BankOfferProps) {
  const [found, setFound] = useState<{
    readonly words: string;
    readonly lines: Awaited<ReturnType<typeof questionBankAction>>;
  }>({ words: "", lines: [] });
  const asked = words.trim();
  useEffect(() => {
    if (asked.length < fewestLetters) return;
    let current = true;
    const timer = setTimeout(() => {
      void questionBankAction({ words: asked, except }).then(
        (lines) => {
          if (current) setFound({ words: asked, lines });
        },
        () => undefined,
      );
    }, pause);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [asked, except]);
  if (asked.length < fewestLetters || found.words !== asked || found.lines.length === 0) return null;
  return (
    <section aria-label="Asked elsewhere">
      <Soft>Asked elsewhere. Taking one copies it; changing it here changes nothing there.</Soft>
      <List>
        {found.lines.map(({ question, from }) => (
          <li key={question.text}>
            <Take type="button" onClick={() => onTake(question)}>
              {question.text}
            </Take>{" "}
            <Soft>
              in “{from}”
              {question.options.length > 0
                ? `: ${question.options
                    .slice(0, 4)
                    .map((o) => textOf(o.value))
                    .join(", ")}${question.options.length > 4 ? "…" : ""}`
                : ""}
            </Soft>
          </li>
        ))}
      </List>
    </section>
  );
}
const List = styled.ul`
  display: grid;
  gap: 0.2rem;
  padding-block-start: 0.3rem;
`;
const Take = styled.button`
  font: inherit;
  color: var(--plum);
  background: none;
  border: 0;
  padding: 0;
  min-height: 1.5rem;
  text-align: start;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 0.2em;
`;
