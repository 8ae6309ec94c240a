"use client";
import { useState } from "react";
import { I18nProvider } from "react-aria-components/I18nProvider";
import { directionOf } from "@/core/shared";
import type { Answers, Questionnaire } from "@/core/questionnaire";
import { placesOf, signedText, signingPlan, standingOf, waysAt, type GivenSignature } from "@/core/signing";
import { fillTranslator } from "@/i18n/page-words";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import type { PageWords } from "@/ui/fill/fill-app";
import { Reading } from "@/ui/fill/reading";
import { SignForm } from "@/ui/fill/seldom-asked";
import { signerWords } from "../../../signer-words";

/** Everybody who signs once it came back, one after the other, as each of them sees it. */
export function RehearseSigners({
  questionnaire,
  answers,
  age,
  before,
  words: { language, messages },
}: {
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  readonly age: number | undefined;
  /** Places that the client signed. */
  readonly before: readonly string[];
  readonly words: PageWords;
}) {
  const [given, setGiven] = useState<readonly GivenSignature[]>(() =>
    before.map((place, order) => ({ place, order, fresh: true })),
  );
  const standing = standingOf(signingPlan(questionnaire, answers, age), given);
  const next = standing.find((one) => one.turn);
  const done = given.length - before.length;
  if (!next)
    return (
      <Notice tone="settled">
        {standing.some((one) => !one.signed && one.required)
          ? "Somebody could never sign: the order does not end. Proof says where."
          : `That was all${done > 0 ? `; ${done} more signed after the client` : ""}. The answers were thrown away.`}
      </Notice>
    );
  const item = placesOf(questionnaire).find((place) => place.linkId === next.place);
  const who = item?.signing?.title ?? (next.signer ? signerWords[next.signer] : "the client");
  const t = fillTranslator(language, messages);
  return (
    <I18nProvider locale={language}>
      <div style={{ padding: "1.25rem" }}>
        <Stack $gap="1.2rem">
          <Notice tone="attention">
            It came back. Now as <strong>{who}</strong>
            {next.required ? "" : ", who need not sign"}.
          </Notice>
          <div lang={language} dir={directionOf(language)}>
            <Stack $gap="1.2rem">
              <h2>{questionnaire.title}</h2>
              <Reading questionnaire={questionnaire} answers={answers} words={t} />
              <SignForm
                key={next.place}
                words={t}
                read={signedText(questionnaire, answers, next.place, language)}
                ways={waysAt(item?.signing)}
                name="Alex Example"
                busy={false}
                failed={undefined}
                onSign={() => setGiven([...given, { place: next.place, order: given.length, fresh: true }])}
              />
            </Stack>
          </div>
        </Stack>
      </div>
    </I18nProvider>
  );
}
