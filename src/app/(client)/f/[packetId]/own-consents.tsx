"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { fullMoment, type TimeFrame } from "@/i18n/moments";
import type { FillWords } from "@/i18n/translator";
import { fillTranslator, type PageMessages } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { TimeFrameProvider, useTimeFrame } from "@/ui/kit/time";
import type { OwnConsent } from "@/usecases/consent";

/** What somebody agreed to, each to be taken back. */
export function OwnConsents({
  packetId,
  consents,
  words,
  practice,
}: {
  readonly packetId: string;
  readonly consents: readonly OwnConsent[];
  readonly words: FillWords;
  readonly practice: string;
}) {
  if (consents.length === 0) return null;
  return (
    <section aria-label={words("yourConsents")}>
      <h2>{words("yourConsents")}</h2>
      <ul>
        {consents.map((consent) => (
          <li key={consent.id}>
            <OneConsent packetId={packetId} consent={consent} words={words} practice={practice} />
          </li>
        ))}
      </ul>
    </section>
  );
}
/** The same on a page that is drawn on the server. */
export function OwnConsentsIsland({
  language,
  messages,
  frame,
  ...rest
}: {
  readonly language: string;
  readonly messages: PageMessages;
  readonly frame: TimeFrame;
  readonly packetId: string;
  readonly consents: readonly OwnConsent[];
  readonly practice: string;
}) {
  return (
    <TimeFrameProvider frame={frame}>
      <OwnConsents {...rest} words={fillTranslator(language, messages)} />
    </TimeFrameProvider>
  );
}
function OneConsent({
  packetId,
  consent,
  words,
  practice,
}: {
  readonly packetId: string;
  readonly consent: OwnConsent;
  readonly words: FillWords;
  readonly practice: string;
}) {
  const frame = useTimeFrame();
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState("");
  const [failed, setFailed] = useState(false);
  const takeBack = async (): Promise<void> => {
    const body = JSON.stringify({ consentId: consent.id, reason: why });
    const response = await fetch(`/f/${packetId}/take-back`, { method: "POST", body }).catch(() => undefined);
    setFailed(response?.ok !== true);
    if (response?.ok) router.refresh();
  };
  return (
    <Stack $gap="0.6rem">
      <div>
        <bdi>{consent.title}</bdi>{" "}
        <Soft>
          {consent.withdrawnAt
            ? words("consentEnded", { time: fullMoment(consent.withdrawnAt, frame) })
            : words("consentSince", { time: fullMoment(consent.from, frame) })}
        </Soft>
      </div>
      {!consent.withdrawnAt && !asking && (
        <div>
          <Button weight="quiet" aria-label={`${words("takeBack")}: ${consent.title}`} onPress={() => setAsking(true)}>
            {words("takeBack")}
          </Button>
        </div>
      )}
      {!consent.withdrawnAt && asking && (
        <>
          <Notice tone="attention">{words("takeBackSay", { practice })}</Notice>
          <TextField label={words("declineWhy")} value={why} onChange={setWhy} long />
          {failed && <Notice tone="problem">{words("noReply")}</Notice>}
          <div>
            <Button weight="danger" onPress={() => void takeBack()}>
              {words("takeBack")}
            </Button>
          </div>
        </>
      )}
    </Stack>
  );
}
