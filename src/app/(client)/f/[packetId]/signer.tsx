"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import styled from "styled-components";
import { I18nProvider } from "react-aria-components/I18nProvider";
import { directionOf } from "@/core/shared";
import { placesOf, signedText, waysAt } from "@/core/signing";
import { fullMoment } from "@/i18n/moments";
import { fillTranslator } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { useDocumentLanguage } from "@/ui/kit/document-language";
import { Logo } from "@/ui/kit/doorstep";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { useTimeFrame } from "@/ui/kit/time";
import type { PageWords } from "@/ui/fill/fill-app";
import { Reading } from "@/ui/fill/reading";
import { SignForm } from "@/ui/fill/seldom-asked";
import type { SignatureMade } from "@/ui/fill/sign-form";
import { cutSignature, sendSignature } from "@/ui/fill/send-signature";
import type { OwnConsent } from "@/usecases/consent";
import type { SignerPlaceView, SignerView } from "@/usecases/signing";
import { OwnConsents } from "./own-consents";

/** The page of somebody who signs what others filled in: each place of theirs, in turn. */
export function SignerPage({
  words: { language, messages },
  view,
  consents,
}: {
  readonly words: PageWords;
  readonly view: SignerView;
  readonly consents: readonly OwnConsent[];
}) {
  useDocumentLanguage(language);
  const t = fillTranslator(language, messages);
  const waiting = view.places.filter((p) => p.turn && !p.signedAt && !p.declined && !p.onPaper);
  const others = view.places.filter((p) => !waiting.includes(p));
  return (
    <I18nProvider locale={language}>
      <Shell lang={language} dir={directionOf(language)}>
        <header>
          {view.logo !== null && <Logo src={view.logo} alt="" />}
          {view.practiceName}
        </header>
        <Stack $gap="1.6rem">
          <div>
            <h1>{t("toSign", { practice: view.practiceName })}</h1>
            {!view.own && <p>{t("aboutClient", { name: view.client })}</p>}
          </div>
          {others.map((place) => (
            <Settled key={`${place.partId} ${place.place}`} place={place} view={view} words={t} />
          ))}
          {waiting[0] && (
            <OnePlace key={`${waiting[0].partId} ${waiting[0].place}`} place={waiting[0]} view={view} words={t} />
          )}
          <OwnConsents packetId={view.packetId} consents={consents} words={t} practice={view.practiceName} />
        </Stack>
      </Shell>
    </I18nProvider>
  );
}
type Words = ReturnType<typeof fillTranslator>;
interface PlaceProps {
  readonly place: SignerPlaceView;
  readonly view: SignerView;
  readonly words: Words;
}

/** What is signed, not to be signed, or waits for somebody else. */
function Settled({ place, view, words }: PlaceProps) {
  const frame = useTimeFrame();
  const said = () => {
    if (place.signedAt) return words("signedDone", { time: fullMoment(place.signedAt, frame) });
    if (place.declined) return words("declined", { practice: view.practiceName });
    if (place.onPaper) return words("paperAsked", { practice: view.practiceName });
    return words("notYourTurn");
  };
  return (
    <section aria-label={place.questionnaire.title}>
      <h2 dir="auto">{place.questionnaire.title}</h2>
      <Notice tone={place.signedAt ? "settled" : "attention"}>{said()}</Notice>
      {place.sealed ? (
        <p>
          <a href={`/f/${view.packetId}/signed/${place.partId}`}>
            {words("signedCopy")}: <bdi>{place.questionnaire.title}</bdi>
          </a>
        </p>
      ) : (
        place.signedAt && <p>{words("copySoon")}</p>
      )}
    </section>
  );
}
/** The PDF that is signed with the rest. */
function SheetLink({ place, view, words }: PlaceProps) {
  return place.questionnaire.sheet ? (
    <p>
      <a href={`/f/${view.packetId}/sheet/${place.partId}`}>{words("sheet")}</a>
    </p>
  ) : null;
}
function OnePlace({ place, view, words }: PlaceProps) {
  const router = useRouter();
  const [state, setState] = useState<{ readonly busy: boolean; readonly failed?: string }>({ busy: false });
  const [declining, setDeclining] = useState(false);
  const [why, setWhy] = useState("");
  const { questionnaire, answers, partId } = place;
  const at = { partId, place: place.place };
  const failed = {
    incomplete: words("signChanged"),
    changed: words("signChanged"),
    "not-your-turn": words("notYourTurn"),
    "no-reply": words("noReply"),
  };
  const sign = async (made: SignatureMade): Promise<void> => {
    setState({ busy: true });
    const done = await sendSignature(`/f/${view.packetId}/sign-turn`, { ...at, ...made });
    setState(done.kind === "signed" ? { busy: true } : { busy: false, failed: failed[done.kind] });
    if (done.kind === "signed") router.refresh();
  };
  const tell = async (path: "decline" | "paper-turn", body: object): Promise<void> => {
    setState({ busy: true });
    const response = await fetch(`/f/${view.packetId}/${path}`, { method: "POST", body: JSON.stringify(body) }).catch(
      () => undefined,
    );
    setState(response?.ok ? { busy: false } : { busy: false, failed: words("noReply") });
    if (response?.ok) router.refresh();
  };
  return (
    <section aria-label={questionnaire.title}>
      <Stack $gap="1.4rem">
        <h2 dir="auto">{questionnaire.title}</h2>
        <Reading questionnaire={questionnaire} answers={answers} words={words} />
        <SheetLink place={place} view={view} words={words} />
        <SignForm
          words={words}
          read={signedText(questionnaire, answers, place.place, view.language)}
          ways={waysAt(placesOf(questionnaire).find((item) => item.linkId === place.place)?.signing)}
          name={view.person}
          busy={state.busy}
          failed={state.failed}
          onSign={(made) => void sign(made)}
          cut={(picture) => cutSignature(`/f/${view.packetId}/picture`, picture)}
        />
        <Others>
          <Button weight="quiet" onPress={() => void tell("paper-turn", at)}>
            {words("askPaper")}
          </Button>
          {!declining && (
            <Button weight="quiet" onPress={() => setDeclining(true)}>
              {words("declineSign")}
            </Button>
          )}
        </Others>
        {declining && (
          <Stack $gap="0.8rem">
            <TextField label={words("declineWhy")} value={why} onChange={setWhy} long />
            <div>
              <Button weight="danger" onPress={() => void tell("decline", { ...at, reason: why })}>
                {words("declineDo")}
              </Button>
            </div>
          </Stack>
        )}
      </Stack>
    </section>
  );
}
const Others = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 1.2rem;
`;
const Shell = styled.main`
  max-width: 40rem;
  margin-inline: auto;
  padding: 0 1.25rem 3rem;
  font-size: 1.0625rem;
  & > header {
    padding-block: 0.9rem;
    margin-block-end: 1.2rem;
    border-block-end: 1px solid var(--rule);
    font: 500 1.05rem/1.3 var(--serif);
    color: var(--plum);
  }
`;
