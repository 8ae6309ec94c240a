"use client";
import styled from "styled-components";
import { clockTime } from "@/i18n/moments";
import type { FillWords } from "@/i18n/translator";
import { Notice } from "@/ui/kit/notice";
import { Spoken } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { AnswerSync } from "./answer-sync";
import { useAnswers, useSaveState } from "./use-answer-sync";

interface SaveWordsProps {
  readonly sync: AnswerSync;
  readonly words: FillWords;
}
/** How saving goes, in a word; trouble is said on the page. */
export function SaveWords({ sync, words, ready }: SaveWordsProps & { readonly ready: boolean }) {
  const frame = useTimeFrame();
  const state = useSaveState(sync);
  const savedAt = useAnswers(sync, "savedAt");
  const say = (): string => {
    if (!ready) return words("oneMoment");
    if (state === "saved") return savedAt ? words("saved", { time: clockTime(savedAt, frame) }) : "";
    return state === "failed" || state === "stopped" ? "" : words("saving");
  };
  return (
    <>
      <Saved data-state={state} suppressHydrationWarning>
        {say()}
      </Saved>
      {/* Said aloud once, and again after trouble: not at each pause in typing. */}
      <Spoken role="status">{savedAt && state !== "failed" && state !== "stopped" ? words("savedShort") : ""}</Spoken>
    </>
  );
}
/** What is typed is not kept yet, or cannot be. `unheard`: the server did not hear something else. */
export function SaveTrouble({ sync, words, unheard }: SaveWordsProps & { readonly unheard: boolean }) {
  const state = useSaveState(sync);
  return (
    <>
      {(state === "failed" || unheard) && <Notice tone="attention">{words("offline")}</Notice>}
      {state === "stopped" && <Notice tone="problem">{words("stopped")}</Notice>}
    </>
  );
}
const Saved = styled.span`
  color: var(--soft);
  font-size: var(--small);
  white-space: nowrap;
`;
