"use client";
import styled from "styled-components";
import { answerText, shownQuestions } from "@/core/questionnaire";
import { Soft } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import { usePage } from "./page";
import { languageOf } from "./page-look";

/** Every question that is asked, with its answer. */
export function Answered({ part }: { readonly part: FillPart }) {
  const { words, nameOf } = usePage();
  const { locale } = useTimeFrame();
  return (
    <List {...languageOf(part)}>
      {shownQuestions(part.questionnaire, part.answers)
        .filter((q) => !q.item.readOnly)
        .map(({ key, item }) => {
          const values = part.answers.values[key] ?? [];
          const by = nameOf(part.kept[`values ${key}`]?.by);
          const say = { yes: words("yes"), no: words("no"), locale };
          return (
            <div key={key}>
              <dt>{item.text}</dt>
              <dd dir="auto">
                {values.length === 0 ? (
                  <Soft>{words("notAnswered")}</Soft>
                ) : (
                  values.map((value) => answerText(item, value, say)).join(", ")
                )}
              </dd>
              {by ? <Soft>{words("answeredBy", { name: by })}</Soft> : null}
            </div>
          );
        })}
    </List>
  );
}
const List = styled.dl`
  & > div {
    padding-block: 0.5rem;
    border-block-end: 1px solid var(--rule);
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
