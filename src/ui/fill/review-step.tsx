"use client";
import { useState } from "react";
import styled from "styled-components";
import { clockTime } from "@/i18n/moments";
import { signaturePlaces } from "@/core/signing";
import { Button } from "@/ui/kit/button";
import { TextField } from "@/ui/kit/text-field";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import { Answered } from "./answered";
import { JumpList } from "./jump-list";
import { usePage } from "./page";
import { labelOf, stepOfKey, type OpenPoint } from "./page-look";
import { Texts } from "./texts";

export interface ReviewStepProps {
  readonly open: readonly OpenPoint[];
  readonly comment: string;
  readonly setComment: (comment: string) => void;
  readonly startAgain: () => void;
  /** Why returning it did not work. */
  readonly failed: string | undefined;
}
/** Everything once more before it goes back. */
export function ReviewStep({ open, comment, setComment, startAgain, failed }: ReviewStepProps) {
  const { words, view, server, parts, go, goTo, setTried } = usePage();
  const reads = view.role === "reads";
  return (
    <Stack $gap="1.6rem">
      {!reads && <p>{words("reviewText")}</p>}
      {open.length > 0 && (
        <JumpList
          title={words("problems", { count: open.length })}
          list={open.map(({ part, problem, step }) => ({
            key: `${part.id} ${problem?.key ?? `sign ${step}`}`,
            label: problem
              ? labelOf(part, problem)
              : `${part.questionnaire.title}: ${words(step < 0 ? "waitsForSignature" : "mustSign")}`,
            go: () => {
              if (step < 0) return;
              setTried(step);
              if (problem) goTo(step, part.id, problem.key);
              else go(step);
            },
          }))}
        />
      )}
      {parts.map((part) => (
        <OnePart key={part.id} part={part} />
      ))}
      {!reads && (
        <TextField
          label={words("comment")}
          optional={words("optional")}
          value={comment}
          onChange={setComment}
          long
          maxLength={2000}
        />
      )}
      <Cluster $gap="0.5rem 1.5rem">
        {server.copy && <a href={server.copy}>{words("copyHere")}</a>}
        {server.paper && <a href={server.paper}>{words("copy")}</a>}
        {!view.sentBack && !reads && <StartAgain startAgain={startAgain} />}
      </Cluster>
      {failed && <Notice tone="problem">{failed}</Notice>}
    </Stack>
  );
}

/** All at once and for good would be too much for one press. */
function StartAgain({ startAgain }: Pick<ReviewStepProps, "startAgain">) {
  const { words } = usePage();
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <Button weight="quiet" onPress={() => setAsked(true)}>
        {words("startAgain")}
      </Button>
    );
  return (
    <Cluster role="group" aria-label={words("startAgainSure")}>
      <strong>{words("startAgainSure")}</strong>
      <Button weight="danger" onPress={startAgain} autoFocus>
        {words("clearAll")}
      </Button>
      <Button onPress={() => setAsked(false)}>{words("keepAll")}</Button>
    </Cluster>
  );
}

function OnePart({ part }: { readonly part: FillPart }) {
  const { words, steps, go, goTo, view } = usePage();
  const frame = useTimeFrame();
  const { questionnaire, signed } = part;
  const reads = view.role === "reads";
  const first = steps.findIndex((step) => step.kind === "section" && step.part === part.id);
  const change = (key: string): void => {
    const step = stepOfKey(steps, part, key);
    if (step >= 0) goTo(step, part.id, key);
  };
  return (
    <section aria-label={questionnaire.title}>
      <Head>
        <h2 dir="auto">{questionnaire.title}</h2>
        {first >= 0 && (
          <Button weight="quiet" aria-label={`${words("change")}: ${questionnaire.title}`} onPress={() => go(first)}>
            {words("change")}
          </Button>
        )}
      </Head>
      {reads && <Texts questionnaire={questionnaire} />}
      <Answered part={part} change={reads ? undefined : change} />
      {signaturePlaces(questionnaire).flatMap((place) =>
        signed[place] ? [<Soft key={place}>{words("signedAt", { time: clockTime(signed[place], frame) })}</Soft>] : [],
      )}
    </section>
  );
}
const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 1rem;
  border-block-end: 1px solid var(--rule-strong);
`;
