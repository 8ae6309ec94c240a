"use client";
import { useState } from "react";
import { allItems, checkAnswers } from "@/core/questionnaire";
import { intentSentence } from "@/core/signing";
import { clockTime } from "@/i18n/moments";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import { Answered } from "./answered";
import type { SignatureMark } from "./fill-server";
import { usePage } from "./page";
import { SignForm } from "./seldom-asked";
import { Texts } from "./texts";

type Waiting =
  { readonly kind: "idle" } | { readonly kind: "busy" } | { readonly kind: "failed"; readonly words: string };

/** One place to sign: what is agreed to, everything it covers, and the signature. */
export function SignStep({ part, place }: { readonly part: FillPart; readonly place: string }) {
  const { words, language, view, server, sync, clashes, move } = usePage();
  const frame = useTimeFrame();
  const [waiting, setWaiting] = useState<Waiting>({ kind: "idle" });
  const sign = async (mark: SignatureMark): Promise<void> => {
    setWaiting({ kind: "busy" });
    const done = await signed(mark);
    if (done.kind === "signed") {
      sync.signed(part.id, place, done.at);
      move(1);
    } else setWaiting({ kind: "failed", words: done.kind === "incomplete" ? words("signFirst") : words("noReply") });
  };
  const signed = async (mark: SignatureMark): ReturnType<typeof server.sign> => {
    if (clashes.some((clash) => clash.partId === part.id)) return { kind: "incomplete" };
    if (!(await sync.saver.flush())) return { kind: "no-reply" };
    return server.sign(part.id, { place, ...mark });
  };
  const { questionnaire } = part;
  const at = part.signed[place];
  const form = () => {
    if (at) return <Notice tone="settled">{words("signedAt", { time: clockTime(at, frame) })}</Notice>;
    if (checkAnswers(questionnaire, part.answers).length > 0)
      return <Notice tone="attention">{words("signFirst")}</Notice>;
    const text = allItems(questionnaire).find((i) => place !== "" && i.linkId === place)?.text;
    return (
      <SignForm
        key={place}
        words={words}
        intent={text ?? intentSentence(language)}
        name={view.person}
        busy={waiting.kind === "busy"}
        failed={waiting.kind === "failed" ? waiting.words : undefined}
        onSign={(mark) => void sign(mark)}
      />
    );
  };
  return (
    <Stack $gap="1.4rem">
      <Texts questionnaire={questionnaire} />
      <Answered part={part} />
      {form()}
    </Stack>
  );
}
