"use client";
import { Link } from "@/ui/kit/link";
import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import {
  allItems,
  languagesOf,
  sourceLanguage,
  textsOf,
  translationState,
  withoutLanguage,
  withTranslation,
  type Questionnaire,
  type SourceText,
  type Translated,
} from "@/core/questionnaire";
import { directionOf, languageName } from "@/core/shared";
import { largestXliff, takeXliff, type Taken } from "@/core/xliff";
import { Button } from "@/ui/kit/button";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { FileForm } from "@/ui/kit/file-form";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { LookUp, Pick } from "@/ui/kit/pick";
import type { ComposerView } from "@/usecases/authoring";
import { DraftDesk } from "../compose/draft-desk";
import { SavedElsewhere, SaveState, useDraftSaving, useLeave } from "../compose/draft-saving";

/** Those of the client's own pages first, then others that are read far and wide. */
const offered =
  "es fr ar de it pt pl uk ru tr fa ur so ti am zh vi hi bn pa ta ro bg el sq sr hr nl sv da nb fi hu cs sk he ja ko th sw ku".split(
    " ",
  );
const partWords: Readonly<Record<SourceText["part"], string>> = {
  title: "Title",
  description: "Description",
  text: "Words",
  help: "Help",
  terms: "Terms",
  example: "Example",
  low: "Low end",
  high: "High end",
  option: "Option",
};

/** Every text beside its translation, with what is missing or out of date marked in the margin. */
export interface LanguagesProps {
  readonly view: ComposerView;
  /** The language to begin with. */
  readonly first: string | undefined;
}
export function Languages({ view, first }: LanguagesProps) {
  const [questionnaire, setQuestionnaire] = useState(view.questionnaire);
  const own = sourceLanguage(questionnaire);
  const begun = languagesOf(questionnaire);
  const [language, setLanguage] = useState(first !== undefined && first !== own ? first : (begun[0] ?? ""));
  const [only, setOnly] = useState<ReadonlySet<string>>();
  const saving = useDraftSaving(view, questionnaire);
  const leave = useLeave(saving);
  const texts = useMemo(() => textsOf(questionnaire), [questionnaire]);
  const said = questionnaire.translations?.[language] ?? {};
  const wanting = texts.filter((t) => translationState(t, said[t.place]) !== "done");
  const change = useCallback(
    (text: SourceText, words: string) => setQuestionnaire((now) => withTranslation(now, language, text, words)),
    [language],
  );
  const choose = (tag: string): void => {
    setLanguage(tag);
    setOnly(undefined);
    window.history.replaceState(null, "", `?in=${tag}`);
  };
  // Reading a file takes a moment: what it is put into is what stands there then.
  const latest = useRef(questionnaire);
  useEffect(() => {
    latest.current = questionnaire;
  });
  /** Read here and saved like what is typed, so that nothing written meanwhile is lost. */
  const takeIn = async (sent: FormData): Promise<TakenIn> => {
    const file = sent.get("file");
    if (!(file instanceof File)) return { problem: "Choose a file first." };
    const text = file.size > 4 * largestXliff ? undefined : await file.text();
    const taken = text === undefined ? undefined : takeXliff(latest.current, text);
    if (!taken?.ok) return { problem: `${taken ? taken.error : "The file is too large."} Nothing was changed.` };
    setQuestionnaire(taken.value.questionnaire);
    choose(taken.value.language);
    return { done: takenWords(taken.value) };
  };
  const groups = useMemo(() => grouped(questionnaire, texts), [questionnaire, texts]);
  return (
    <Page
      title={<bdi>{questionnaire.title || "Untitled"}</bdi>}
      margin={
        <>
          Languages
          <br />
          written in {languageName(own)}
        </>
      }
      actions={
        <Cluster>
          <SaveState state={saving.state} savedAt={saving.savedAt} />
          {language !== "" && (
            <Link href={`/library/${view.id}/rehearse?in=${language}`} onClick={leave}>
              Rehearse in {languageName(language)}
            </Link>
          )}
          <Link href={`/library/${view.id}/compose`} onClick={leave}>
            Composer
          </Link>
          <Link href={`/library/${view.id}`} onClick={leave}>
            Done
          </Link>
        </Cluster>
      }
    >
      <SavedElsewhere saving={saving} />
      <DraftDesk id={view.id} saving={saving}>
        <Choosing
          questionnaire={questionnaire}
          texts={texts}
          language={language}
          choose={choose}
          change={setQuestionnaire}
        />
        {language === "" ? (
          <MarginRow margin="">
            <p>
              Choose the language to translate into. Every text a client reads then stands beside a field for its
              translation. Answers keep their meaning: charts, notes and scores stay in the words you wrote.
            </p>
          </MarginRow>
        ) : (
          <>
            <MarginRow
              margin={wanting.length === 0 ? <Done>all translated</Done> : <Wanting>{wanting.length} to do</Wanting>}
            >
              <RadioGroup
                label="Show"
                inline
                value={only ? "open" : "all"}
                onChange={(v) => setOnly(v === "open" ? new Set(wanting.map((t) => t.place)) : undefined)}
                options={[
                  { value: "all", label: "Every text" },
                  { value: "open", label: "What is missing or out of date" },
                ]}
              />
            </MarginRow>
            {groups.map((group) => {
              const shown = group.filter((t) => !only || only.has(t.place));
              if (shown.length === 0) return null;
              return (
                <Group
                  key={`${language} ${group[0]!.place}`}
                  texts={shown}
                  said={shown.map((t) => said[t.place])}
                  from={own}
                  language={language}
                  change={change}
                />
              );
            })}
            <Elsewhere id={view.id} language={language} flush={saving.flush} takeIn={takeIn} />
          </>
        )}
      </DraftDesk>
    </Page>
  );
}

/** Which languages there are, how far each is, and the one that is worked on. */
function Choosing({ questionnaire, texts, language, choose, change }: ChoosingProps) {
  const [gone, setGone] = useState<{ readonly language: string; readonly before: Questionnaire }>();
  const own = sourceLanguage(questionnaire);
  const begun = languagesOf(questionnaire);
  return (
    <MarginRow
      margin={
        begun.length === 0 ? (
          "Not translated yet"
        ) : (
          <>
            {begun.map((tag) => (
              <div key={tag}>
                {languageName(tag)}{" "}
                {texts.length -
                  texts.filter((t) => translationState(t, questionnaire.translations?.[tag]?.[t.place]) !== "done")
                    .length}{" "}
                of {texts.length}
              </div>
            ))}
          </>
        )
      }
    >
      <Chooser>
        {begun.length > 0 && (
          <Pick
            label="Language"
            value={begun.includes(language) ? language : ""}
            options={begun.map((l) => ({ value: l, label: languageName(l) }))}
            onChange={choose}
          />
        )}
        <LookUp
          label={begun.length > 0 ? "Another language" : "Language"}
          value={begun.includes(language) ? "" : language}
          options={offered
            .filter((l) => l !== own && !begun.includes(l))
            .map((l) => ({ value: l, label: languageName(l) }))}
          onChange={(l) => {
            if (l !== "") choose(l);
          }}
        />
        <Pick
          label="Written in"
          value={own}
          options={[own, ...offered.filter((l) => l !== own && !begun.includes(l)), ...(own === "en" ? [] : ["en"])]
            .filter((l, at, all) => all.indexOf(l) === at)
            .map((l) => ({ value: l, label: languageName(l) }))}
          onChange={(tag) => change((now) => ({ ...now, language: tag }))}
        />
        {begun.includes(language) && (
          <Button
            weight="quiet"
            onPress={() => {
              setGone({ language, before: questionnaire });
              change((now) => withoutLanguage(now, language));
              choose(begun.find((l) => l !== language) ?? "");
            }}
          >
            Remove {languageName(language)}
          </Button>
        )}
      </Chooser>
      {gone && (
        <Notice>
          {languageName(gone.language)} and all its translations were removed.{" "}
          <Button
            weight="quiet"
            onPress={() => {
              const { before } = gone;
              change((now) => ({
                ...now,
                translations: { ...now.translations, [gone.language]: before.translations?.[gone.language] ?? {} },
              }));
              choose(gone.language);
              setGone(undefined);
            }}
          >
            Put back
          </Button>
        </Notice>
      )}
    </MarginRow>
  );
}
interface ChoosingProps {
  readonly change: (change: (now: Questionnaire) => Questionnaire) => void;
  readonly questionnaire: Questionnaire;
  readonly texts: readonly SourceText[];
  readonly language: string;
  readonly choose: (language: string) => void;
}

interface ElsewhereProps {
  readonly id: string;
  readonly language: string;
  readonly flush: () => Promise<boolean>;
  readonly takeIn: (sent: FormData) => Promise<TakenIn>;
}
/** A file for a translator, and its way back. */
function Elsewhere({ id, language, flush, takeIn }: ElsewhereProps) {
  return (
    <>
      <SectionTitle>Translators</SectionTitle>
      <MarginRow margin="XLIFF 2.0">
        <Stack>
          <p>All texts in one file for a translator. What was made of words that have changed since is marked.</p>
          <div>
            <a
              href={`/api/questionnaires/${id}/xliff?in=${language}`}
              onClick={(event) => {
                event.preventDefault();
                const { href } = event.currentTarget;
                void flush().then(() => {
                  window.location.href = href;
                });
              }}
            >
              Download texts for {languageName(language)}
            </a>
          </div>
          <FileForm<TakenIn>
            action={(_, sent) => takeIn(sent)}
            initial={{}}
            label="Upload translations"
            accept={[".xlf", ".xliff", "application/xliff+xml"]}
          >
            {(state) => {
              if (state.problem) return <Notice tone="problem">{state.problem}</Notice>;
              if (state.done) return <Notice tone="settled">{state.done}</Notice>;
              return null;
            }}
          </FileForm>
        </Stack>
      </MarginRow>
    </>
  );
}

interface TakenIn {
  readonly problem?: string;
  readonly done?: string;
}
const takenWords = ({ language, changed, outOfDate, unknown }: Taken): string => {
  const changedWords = () => {
    if (changed === 0) return "nothing in the file was new";
    if (changed === 1) return "one translation taken in";
    return `${changed} translations taken in`;
  };
  return [
    `${languageName(language)}: ${changedWords()}.`,
    ...(outOfDate > 0 ? [`${outOfDate} of words that have changed since: they are marked.`] : []),
    ...(unknown.length > 0 ? [`${unknown.length} in the file are of texts that are no longer here.`] : []),
  ].join(" ");
};

/** The texts of one question together, in reading order. */
function grouped(questionnaire: Questionnaire, texts: readonly SourceText[]): SourceText[][] {
  const by = new Map<string | undefined, SourceText[]>([
    [undefined, []],
    ...allItems(questionnaire).map((i): [string, SourceText[]] => [i.linkId, []]),
  ]);
  for (const t of texts) by.get(t.linkId)?.push(t);
  return [...by.values()].filter((g) => g.length > 0);
}

interface GroupProps {
  readonly texts: readonly SourceText[];
  readonly said: readonly (Translated | undefined)[];
  readonly from: string;
  readonly language: string;
  readonly change: (text: SourceText, words: string) => void;
}
const Group = memo(
  function Group({ texts, said, from, language, change }: GroupProps) {
    const open = texts.filter((t, i) => translationState(t, said[i]) === "missing").length;
    const old = texts.filter((t, i) => translationState(t, said[i]) === "out-of-date").length;
    return (
      <MarginRow
        margin={
          <>
            {open > 0 ? <Wanting>{open === 1 && texts.length === 1 ? "missing" : `${open} missing`}</Wanting> : null}
            {old > 0 ? (
              <Wanting>{old === 1 && texts.length === 1 ? "out of date" : `${old} out of date`}</Wanting>
            ) : null}
            {open + old === 0 ? <Done>done</Done> : null}
          </>
        }
      >
        <Stack $gap="0.7rem">
          {texts.map((t, i) => (
            <Pair key={t.place} text={t} said={said[i]} from={from} language={language} change={change} />
          ))}
        </Stack>
      </MarginRow>
    );
  },
  (a, b) =>
    a.language === b.language &&
    a.change === b.change &&
    a.texts.length === b.texts.length &&
    a.texts.every(
      (t, i) => t.source === b.texts[i]!.source && t.place === b.texts[i]!.place && a.said[i] === b.said[i],
    ),
);

function Pair({
  text,
  said,
  from,
  language,
  change,
}: {
  readonly text: SourceText;
  readonly said: Translated | undefined;
  readonly from: string;
  readonly language: string;
  readonly change: GroupProps["change"];
}) {
  const old = translationState(text, said) === "out-of-date";
  return (
    <Sides>
      <div>
        {text.part === "text" ? null : <Part>{partWords[text.part]}</Part>}
        <Source lang={from} dir={directionOf(from)} $strong={text.part === "text" || text.part === "title"}>
          {text.source}
        </Source>
      </div>
      <div>
        <TextField
          bare
          label={`${languageName(language)}: ${text.source}`}
          value={said?.text ?? ""}
          long={text.source.length > 70 || text.source.includes("\n")}
          lang={language}
          dir={directionOf(language)}
          onChange={(words) => change(text, words)}
        />
        {old && said && (
          <Old>
            <span>
              Made when the words were “<bdi>{said.of}</bdi>”.
            </span>
            <Button weight="quiet" onPress={() => change(text, said.text)}>
              It is still right
            </Button>
          </Old>
        )}
      </div>
    </Sides>
  );
}
const Chooser = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 16rem));
  gap: 1rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Sides = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.4rem 1.5rem;
  align-items: center;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Source = styled.p<{ $strong: boolean }>`
  white-space: pre-wrap;
  ${({ $strong }) => ($strong ? "font-weight: 600;" : "")}
`;
const Part = styled(Soft)`
  display: block;
  font-size: var(--small);
`;
const Old = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1rem;
  align-items: baseline;
  color: var(--clay);
  font-size: var(--small);
  padding-block-start: 0.3rem;
`;
const Wanting = styled.div`
  color: var(--clay);
  font-weight: 600;
`;
const Done = styled.div`
  color: var(--fern);
`;
