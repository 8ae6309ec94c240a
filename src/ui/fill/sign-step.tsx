"use client";
import { useState } from "react";
import { checkAnswers } from "@/core/questionnaire";
import { placesOf, signedText, waysAt } from "@/core/signing";
import { clockTime } from "@/i18n/moments";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import { Answered } from "./answered";
import { usePage } from "./page";
import { SignForm } from "./seldom-asked";
import type { SignatureMade } from "./sign-form";
import { Texts } from "./texts";

type Waiting =
  { readonly kind: "idle" } | { readonly kind: "busy" } | { readonly kind: "failed"; readonly words: string };

/** One place to sign: what is agreed to, everything it covers, and the signature. */
export function SignStep({ part, place }: { readonly part: FillPart; readonly place: string }) {
  const { words, language, view, server, sync, clashes, move } = usePage();
  const frame = useTimeFrame();
  const [waiting, setWaiting] = useState<Waiting>({ kind: "idle" });
  const failedWords = {
    incomplete: words("signFirst"),
    changed: words("signChanged"),
    "not-your-turn": words("notYourTurn"),
    "no-reply": words("noReply"),
  };
  const sign = async (made: SignatureMade): Promise<void> => {
    setWaiting({ kind: "busy" });
    const done = await signed(made);
    if (done.kind === "signed") {
      sync.signed(part.id, place, done.at);
      move(1);
    } else setWaiting({ kind: "failed", words: failedWords[done.kind] });
  };
  const signed = async (made: SignatureMade): ReturnType<typeof server.sign> => {
    if (clashes.some((clash) => clash.partId === part.id)) return { kind: "incomplete" };
    if (!(await sync.saver.flush())) return { kind: "no-reply" };
    return server.sign(part.id, { place, ...made });
  };
  const onPaper = async (): Promise<void> => {
    setWaiting({ kind: "busy" });
    if (await server.askPaper?.(part.id, place)) {
      sync.onPaper(part.id, place);
      setWaiting({ kind: "idle" });
      move(1);
    } else setWaiting({ kind: "failed", words: words("noReply") });
  };
  const { questionnaire } = part;
  const at = part.signed[place];
  const form = () => {
    if (at) return <Notice tone="settled">{words("signedAt", { time: clockTime(at, frame) })}</Notice>;
    if (part.onPaper.includes(place))
      return <Notice tone="settled">{words("paperAsked", { practice: view.practiceName })}</Notice>;
    if (checkAnswers(questionnaire, part.answers).length > 0)
      return <Notice tone="attention">{words("signFirst")}</Notice>;
    return (
      <>
        <SignForm
          key={place}
          words={words}
          read={signedText(questionnaire, part.answers, place, language)}
          ways={waysAt(placesOf(questionnaire).find((item) => item.linkId === place)?.signing)}
          name={view.person}
          busy={waiting.kind === "busy"}
          failed={waiting.kind === "failed" ? waiting.words : undefined}
          onSign={(made) => void sign(made)}
          cut={server.cut}
        />
        {server.askPaper && (
          <div>
            <Button weight="quiet" onPress={() => void onPaper()}>
              {words("askPaper")}
            </Button>
          </div>
        )}
      </>
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
