"use client";
import styled from "styled-components";
import { answerText, shownQuestions } from "@/core/questionnaire";
import { Button } from "@/ui/kit/button";
import { Soft } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import { usePage } from "./page";
import { languageOf } from "./page-look";

/** Every question that is asked, with its answer. `change`: the way back to one of them. */
export function Answered({
  part,
  change,
}: {
  readonly part: FillPart;
  readonly change?: ((key: string) => void) | undefined;
}) {
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
              <dt>
                <span>{item.text}</span>
                {change && (
                  <Button weight="quiet" aria-label={`${words("change")}: ${item.text}`} onPress={() => change(key)}>
                    {words("change")}
                  </Button>
                )}
              </dt>
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
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    gap: 1rem;
  }
  & dd {
    font-weight: 600;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
`;
