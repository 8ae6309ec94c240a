"use client";
import { Link } from "@/ui/kit/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { applyChange, noAnswers, type Answers } from "@/core/questionnaire";
import { languageName, type Id } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { FillApp, type PageWords } from "@/ui/fill/fill-app";
import type { FillServer, PacketView } from "@/ui/fill/fill-server";
import { keepNothing } from "@/ui/fill/upload";
import { Cluster, MarginRow, Page } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import type { RehearsalView } from "@/usecases/authoring";
import { placesOf } from "@/core/signing";
import { TextField } from "@/ui/kit/text-field";
import { AuthorSees } from "../author-sees";
import { RehearseSigners } from "./rehearse-signers";
import { TimeFrameProvider, useTimeFrame } from "@/ui/kit/time";

const widths = { phone: 390, tablet: 820 } as const;
export interface RehearsalProps {
  readonly practiceName: string;
  readonly firstStep: string | undefined;
  readonly view: RehearsalView;
  readonly words: PageWords;
}

/** The client's own page, with answers that go nowhere. */
export function Rehearsal({ view, words, practiceName, firstStep }: RehearsalProps) {
  const [width, setWidth] = useState<keyof typeof widths>("phone");
  const [round, setRound] = useState(0);
  const [over, setOver] = useState(false);
  const [answers, setAnswers] = useState<Answers>(noAnswers);
  const [signed, setSigned] = useState<readonly string[]>([]);
  const [typedAge, setTypedAge] = useState("");
  const age = /^\d{1,3}$/.test(typedAge.trim()) ? Number(typedAge.trim()) : undefined;
  const frame = useTimeFrame();
  const { now } = frame;
  const router = useRouter();
  const server = useMemo(
    (): FillServer => ({
      save: async (_, changes) => {
        setAnswers((there) => changes.map((c) => c.change).reduce<Answers>(applyChange, there));
        return { kind: "saved", at: now, kept: {}, clashes: [] };
      },
      sign: async (_, { place }) => {
        setSigned((there) => [...there.filter((one) => one !== place), place]);
        return { kind: "signed", at: now };
      },
      submit: async () => {
        setOver(true);
        return true;
      },
      upload: keepNothing,
      sheet: () => `/api/questionnaires/${view.id}/sheet`,
    }),
    [now, view.id],
  );
  const again = (): void => {
    window.history.replaceState(null, "", `?in=${view.language}&s=1`);
    setOver(false);
    setAnswers(noAnswers);
    setSigned([]);
    setRound(round + 1);
  };
  return (
    <Page
      title={
        <>
          Rehearse <bdi>{view.title}</bdi>
        </>
      }
      margin="as the client"
      actions={
        <Cluster>
          <Button weight="quiet" onPress={again}>
            Start again
          </Button>
          <Link href={`/library/${view.id}`}>Done</Link>
        </Cluster>
      }
    >
      <MarginRow margin="Nothing is kept">
        <Cluster $gap="1rem 2rem">
          <RadioGroup
            label="Seen on"
            inline
            value={width}
            onChange={(v) => setWidth(v as keyof typeof widths)}
            options={[
              { value: "phone", label: "A phone" },
              { value: "tablet", label: "A tablet" },
            ]}
          />
          {placesOf(view.questionnaire).some((place) => place.signing?.ages) && (
            <TextField label="Client’s age" inputMode="numeric" value={typedAge} onChange={setTypedAge} />
          )}
          {view.languages.length > 1 && (
            <Pick
              label="Read in"
              value={view.language}
              options={view.languages.map((l) => ({ value: l, label: languageName(l) }))}
              onChange={(l) => router.push(`/library/${view.id}/rehearse?in=${l}`)}
            />
          )}
        </Cluster>
      </MarginRow>
      <Stage>
        <Device style={{ inlineSize: `min(100%, ${widths[width]}px)` }} data-device={width}>
          {over ? (
            <RehearseSigners
              questionnaire={view.questionnaire}
              answers={answers}
              age={age}
              before={signed}
              words={words}
            />
          ) : (
            <TimeFrameProvider frame={words.language === "en" ? frame : { ...frame, locale: words.language }}>
              <FillApp
                words={words}
                embedded
                key={round}
                server={server}
                firstStep={round === 0 ? firstStep : undefined}
                view={viewOf(view, practiceName, age)}
              />
            </TimeFrameProvider>
          )}
        </Device>
        <aside>
          <AuthorSees questionnaire={view.authored} answers={answers} />
        </aside>
      </Stage>
    </Page>
  );
}
/** A packet of this one questionnaire, for somebody made up. */
const viewOf = (view: RehearsalView, practiceName: string, age: number | undefined): PacketView => ({
  practiceName,
  logo: null,
  person: "Alex Example",
  onBehalfOf: undefined,
  oneByOne: view.oneByOne,
  signsAs: "client",
  fillers: ["client"],
  age,
  parts: [
    {
      id: "rehearsal" as Id<"Part">,
      questionnaire: view.questionnaire,
      answers: noAnswers,
      signed: {},
      onPaper: [],
      prefilled: [],
      kept: {},
    },
  ],
});
/** What the author reads stays in sight beside the page, or stands below where there is no room. */
const Stage = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 17rem);
  gap: 1.5rem;
  align-items: start;
  & > aside {
    position: sticky;
    top: 1rem;
    margin-block-start: 1.5rem;
  }
  @media (max-width: 64rem) {
    grid-template-columns: minmax(0, 1fr);
    & > aside {
      position: static;
      order: -1;
    }
  }
`;
const Device = styled.div`
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  margin: 1.5rem auto;
  background: var(--paper);
  & > div {
    min-height: 40rem;
  }
`;
