"use client";
import { useState, type ReactNode } from "react";
import styled from "styled-components";
import { fillWording, placeholdersFor, sampleValues, type LetterKind, type Placeholder } from "@/core/messages";
import { directionOf, languageName } from "@/core/shared";
import type { Right } from "@/core/team";
import { nearMoment } from "@/i18n/moments";
import type { WordingLine } from "@/usecases/practice";
import type { VisitAhead } from "@/usecases/sending";
import { OfficePage } from "../office-page";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextCount } from "../../text-count";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import { resetWordingAction, saveWordingAction, wordingValuesAction, type SavedState } from "./actions";

const kinds: Readonly<Record<LetterKind, string>> = {
  packet: "Questionnaires, without a visit",
  packetForVisit: "Questionnaires before a visit",
  nudge: "Reminder",
  sentBack: "Sent back",
  sign: "Your turn to sign",
  signed: "Copy of what was signed",
  takeHome: "Take-home of a note",
  code: "Code at the door",
};
/** What the practice's letters and texts say, beside what somebody would get. */
export interface WordingsViewProps {
  readonly rights: readonly Right[];
  readonly wordings: readonly WordingLine[];
  /** Whom a wording can be looked at with. */
  readonly visits: readonly VisitAhead[];
}
type Values = Partial<Record<Placeholder, string>>;
export function WordingsView({ wordings, visits, rights }: WordingsViewProps) {
  const [seenFor, setSeenFor] = useState<{ readonly visitId: string; readonly values: Values }>();
  const [kind, setKind] = useState<LetterKind>("packetForVisit");
  const [way, setWay] = useState<"email" | "text">("email");
  const [language, setLanguage] = useState("en");
  // Kept here: once saved, the editor begins anew with what was saved.
  const [savedOf, setSavedOf] = useState("");
  const line = wordings.find((w) => w.kind === kind && w.way === way && w.language === language)!;
  return (
    <OfficePage rights={rights}>
      <MarginRow margin="Letter">
        <Row>
          <Pick
            label="Occasion"
            value={kind}
            options={Object.entries(kinds).map(([value, label]) => ({ value, label }))}
            onChange={(v) => setKind(v as LetterKind)}
          />
          <Pick
            label="By"
            value={way}
            options={[
              { value: "email", label: "E-mail" },
              { value: "text", label: "Text" },
            ]}
            onChange={(v) => setWay(v as "email" | "text")}
          />
          <Pick
            label="Language"
            value={language}
            options={[...new Set(wordings.map((w) => w.language))].map((l) => ({ value: l, label: languageName(l) }))}
            onChange={setLanguage}
          />
        </Row>
      </MarginRow>
      <Editor
        key={`${kind} ${way} ${language} ${line.changed?.at ?? ""}`}
        line={line}
        values={seenFor?.values ?? sampleValues}
        choose={
          <PreviewFor
            visits={visits}
            value={seenFor?.visitId ?? ""}
            onChange={(visitId, values) => setSeenFor(values && { visitId, values })}
          />
        }
        saved={savedOf === `${kind} ${way} ${language}`}
        onSaved={(done) => setSavedOf(done ? `${kind} ${way} ${language}` : "")}
      />
    </OfficePage>
  );
}

/** An example, or somebody who comes in the next days. */
function PreviewFor({
  visits,
  value,
  onChange,
}: {
  readonly visits: readonly VisitAhead[];
  readonly value: string;
  readonly onChange: (visitId: string, values: Values | undefined) => void;
}) {
  const frame = useTimeFrame();
  if (visits.length === 0) return null;
  return (
    <Pick
      small
      label="With the details of"
      value={value === "" ? "example" : value}
      options={[
        { value: "example", label: "an example" },
        ...visits.map((v) => ({ value: v.id, label: `${v.clientName}, ${nearMoment(v.startsAt, frame)}` })),
      ]}
      onChange={(chosen) => {
        if (chosen === "example") onChange("", undefined);
        else void wordingValuesAction(chosen).then((values) => onChange(chosen, values));
      }}
    />
  );
}

function Editor({
  line,
  values,
  choose,
  saved,
  onSaved,
}: {
  readonly line: WordingLine;
  readonly values: Values;
  readonly choose: ReactNode;
  readonly saved: boolean;
  readonly onSaved: (done: boolean) => void;
}) {
  const { kind, way, language } = line;
  const [subject, setSubject] = useState(line.subject);
  const [body, setBody] = useState(line.body);
  const filled = fillWording({ subject, body }, values, []);
  const which = { kind, way, language };
  const dir = directionOf(language);
  return (
    <>
      <MarginRow
        margin={
          line.changed ? (
            <>
              Yours
              <br />
              <Moment at={line.changed.at} />, {line.changed.by}
            </>
          ) : (
            "Built-in text"
          )
        }
      >
        <Stack>
          <ActionForm
            action={async (before, sent) => {
              const answer: SavedState = await saveWordingAction(before, sent);
              onSaved(answer.saved === true);
              return answer;
            }}
            submit="Save"
            hidden={which}
          >
            {way === "email" && (
              <TextField
                name="subject"
                label="Subject"
                value={subject}
                onChange={setSubject}
                lang={language}
                dir="auto"
              />
            )}
            <Tall>
              <TextField
                name="body"
                label={way === "email" ? "Letter" : "Text"}
                value={body}
                onChange={setBody}
                long
                lang={language}
                help={`You can put in ${placeholdersFor(kind)
                  .map((p) => `{{${p}}}`)
                  .join(", ")}.`}
              />
            </Tall>
          </ActionForm>
          {saved && <Notice tone="settled">Saved. The next letter says it so.</Notice>}
          {line.changed && (
            <ActionForm action={resetWordingAction} submit="Use built-in text" weight="quiet" hidden={which} />
          )}
        </Stack>
      </MarginRow>
      <MarginRow margin="Preview">
        {choose}
        {filled.ok ? (
          <Stack $gap="0.6rem">
            <Sheet lang={language} dir={dir}>
              {way === "email" ? (
                <strong>
                  {filled.value.subject}
                  {"\n\n"}
                </strong>
              ) : null}
              {filled.value.body}
            </Sheet>
            {way === "text" && <TextCount text={filled.value.body} />}
          </Stack>
        ) : (
          <Soft>{filled.error.names.map((n) => `{{${n}}}`).join(", ")} is not known.</Soft>
        )}
      </MarginRow>
    </>
  );
}
const Row = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: 1rem;
`;
const Tall = styled.div`
  & textarea {
    min-height: 12rem;
  }
`;
const Sheet = styled.div`
  white-space: pre-wrap;
  max-width: 36rem;
  padding: 1rem 1.25rem;
  background: var(--leaf);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  overflow-wrap: anywhere;
`;
