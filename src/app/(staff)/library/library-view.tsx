"use client";
import { Link } from "@/ui/link";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { newQuestionnaireSchema } from "@/core/forms";
import type { QuestionnaireKind } from "@/core/questionnaire";
import { holdsWords, languageName, type Id, type Instant } from "@/core/shared";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { FileForm } from "@/ui/file-form";
import { ActionForm, type FormState } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { rowKeys } from "@/ui/shortcuts";
import { Moment } from "@/ui/time";
import {
  bringStartersAction,
  importAction,
  newQuestionnaireAction,
  takeInAsAction,
  worksheetAction,
  type ImportState,
} from "./actions";

const states = { draft: "Draft", active: "In use", retired: "Retired" } as const;
const kinds = [
  { value: "intake", label: "Intakes" },
  { value: "consent", label: "Consents" },
  { value: "measure", label: "Measures" },
  { value: "worksheet", label: "Worksheets" },
];
export interface LibraryViewProps {
  readonly lines: readonly {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly kind: QuestionnaireKind;
    readonly state: keyof typeof states;
    readonly version: number;
    readonly timesUsed: number;
    readonly changedAt: Instant;
    readonly languages: readonly string[];
    readonly draft: boolean;
  }[];
  /** How many of the starter library are not here. */
  readonly startersMissing: number;
  readonly requestId: string;
}
export function LibraryView({ lines, startersMissing, requestId }: LibraryViewProps) {
  const [search, setSearch] = useState("");
  const [kind, setKind] = useState("all");
  const [state, setState] = useState("all");
  const found = useMemo(
    () =>
      lines.filter(
        (l) =>
          (kind === "all" || l.kind === kind) && (state === "all" || l.state === state) && holdsWords(l.title, search),
      ),
    [lines, search, kind, state],
  );
  return (
    <Page
      title="Library"
      margin={`${lines.length} questionnaires`}
      actions={<Link href="/library/standing">Standing packets and leaflets</Link>}
    >
      <MarginRow margin="Find">
        <Filters>
          <TextField label="Words in the title" value={search} onChange={setSearch} />
          <Pick
            label="Kind"
            value={kind}
            options={[{ value: "all", label: "All kinds" }, ...kinds]}
            onChange={setKind}
          />
          <Pick
            label="State"
            value={state}
            options={[
              { value: "all", label: "All states" },
              ...Object.entries(states).map(([value, label]) => ({ value, label })),
            ]}
            onChange={setState}
          />
        </Filters>
      </MarginRow>
      {lines.length === 0 && (
        <MarginRow margin="">
          <p>Nothing here yet. Write a questionnaire, or bring in a file below.</p>
        </MarginRow>
      )}
      {lines.length > 0 && found.length === 0 && (
        <MarginRow margin="">
          <p>No questionnaire is like that.</p>
        </MarginRow>
      )}
      <ul onKeyDown={rowKeys}>
        {found.map((line) => (
          <li key={line.id}>
            <MarginRow
              margin={
                <>
                  <State $on={line.state === "active"}>{states[line.state]}</State>
                  <br />
                  {line.kind}
                </>
              }
            >
              <Title href={`/library/${line.id}`} data-row>
                {line.title}
              </Title>
              <Facts>
                {line.version > 0 ? `Version ${line.version}` : "No version yet"}
                {line.draft && line.version > 0 ? ", with a draft" : ""} ·{" "}
                {line.timesUsed === 0
                  ? "never sent"
                  : `sent ${line.timesUsed === 1 ? "once" : `${line.timesUsed} times`}`}{" "}
                · changed <Moment at={line.changedAt} as="day" />
                {line.languages.length > 1 ? ` · in ${line.languages.map(languageName).join(", ")}` : ""}
              </Facts>
            </MarginRow>
          </li>
        ))}
      </ul>
      <SectionTitle>Make one</SectionTitle>
      <MarginRow margin="Write it">
        <ActionForm
          action={newQuestionnaireAction}
          schema={newQuestionnaireSchema}
          submit="Open it in the Composer"
          hidden={{ requestId }}
        >
          <NewFields />
        </ActionForm>
      </MarginRow>
      {startersMissing > 0 && (
        <MarginRow margin="Starter library">
          <Stack $gap="0.6rem">
            <p>
              {startersMissing} questionnaires we wrote or that are published and free to use: intakes, consents,
              notices and measures. They come in as drafts, to read, change and put in use.
            </p>
            <ActionForm action={bringStartersAction} submit={`Bring in ${startersMissing}`} weight="plain" />
          </Stack>
        </MarginRow>
      )}
      <MarginRow margin="From a PDF">
        <Stack>
          <p>
            A worksheet of your own. If the PDF has fields, the client fills them in on the phone and the filled PDF
            comes back; if not, they download it and add the finished sheet.
          </p>
          <FileForm<FormState>
            action={worksheetAction}
            initial={{}}
            label="Choose a PDF"
            accept={[".pdf", "application/pdf"]}
          >
            {(s) => (s.message ? <Notice tone="problem">{s.message}</Notice> : null)}
          </FileForm>
        </Stack>
      </MarginRow>
      <MarginRow margin="Bring one in">
        <Stack>
          <p>
            A FHIR R4 Questionnaire file (JSON), from here or from another practice. You see what it contains before
            anything is put in use.
          </p>
          <FileForm<ImportState>
            action={importAction}
            initial={{}}
            label="Choose a questionnaire file"
            accept={[".json", "application/json", "application/fhir+json"]}
          >
            {(s) => {
              if (s.problems) return <Problems state={s} />;
              if (s.here) return <HereAlready key={s.here.text} state={s} />;
              if (s.message) return <Notice tone="problem">{s.message}</Notice>;
              return null;
            }}
          </FileForm>
        </Stack>
      </MarginRow>
    </Page>
  );
}

function NewFields() {
  const [kind, setKind] = useState("intake");
  return (
    <Filters>
      <TextField label="Title" name="title" />
      <div>
        <Pick
          label="Kind"
          value={kind}
          options={kinds.map((k) => ({ value: k.value, label: k.label.slice(0, -1) }))}
          onChange={setKind}
        />
        <input type="hidden" name="kind" value={kind} />
      </div>
    </Filters>
  );
}

/** The file is here with other content: what is to become of it? */
function HereAlready({ state: { here, fileName } }: { readonly state: ImportState }) {
  const [gone, setGone] = useState(false);
  if (gone || !here) return <Notice>Nothing was taken in.</Notice>;
  const hidden = { text: here.text, fileName: fileName ?? "" };
  const hereWords = () => {
    if (!here.mayChange) return "It is not shared with you to change, so only a copy can be made.";
    if (here.draftBy === undefined)
      return "A new version becomes its draft; packets already sent stay on theirs. A copy stands beside it.";
    return `It has a draft, last changed by ${here.draftBy}, that would be lost: put it in use or throw it away first, or take a copy.`;
  };
  return (
    <Notice tone="attention">
      <Stack $gap="0.6rem">
        <p>
          <strong>“{here.title}” is here already, with other content.</strong> Nothing was stored yet. {hereWords()}
        </p>
        <Cluster>
          {here.mayChange && here.draftBy === undefined && (
            <ActionForm
              action={takeInAsAction}
              submit="New version"
              weight="plain"
              hidden={{ ...hidden, as: "new-version" }}
            />
          )}
          <ActionForm action={takeInAsAction} submit="Copy" weight="plain" hidden={{ ...hidden, as: "copy" }} />
          <Button weight="quiet" onPress={() => setGone(true)}>
            Cancel
          </Button>
        </Cluster>
      </Stack>
    </Notice>
  );
}

function Problems({ state }: { readonly state: ImportState }) {
  const { problems = [], fileName } = state;
  return (
    <Notice tone="problem">
      <strong>{fileName} was not taken in. Nothing was stored.</strong>{" "}
      {problems.length === 1 ? "This is wrong:" : `These ${problems.length} things are wrong:`}
      <List>
        {problems.slice(0, 50).map((p, i) => (
          <li key={i}>
            {p.linkId ? <Place>{p.linkId}</Place> : null}
            {p.path ? <Place>{p.path}</Place> : null}
            {p.problem}
          </li>
        ))}
        {problems.length > 50 && <li>…and {problems.length - 50} more.</li>}
      </List>
    </Notice>
  );
}
const Filters = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 1rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Title = styled(Link)`
  font: 600 1.08rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
const Facts = styled(Soft)`
  display: block;
  font-size: 0.94rem;
`;
const State = styled.span<{ $on: boolean }>`
  font-weight: 600;
  color: ${({ $on }) => ($on ? "var(--fern)" : "var(--soft)")};
`;
const List = styled.ul`
  padding-block-start: 0.5rem;
  display: grid;
  gap: 0.4rem;
`;
const Place = styled.code`
  font:
    0.9rem/1.4 ui-monospace,
    monospace;
  background: var(--leaf);
  padding: 0.05rem 0.35rem;
  border-radius: var(--corner);
  margin-inline-end: 0.5rem;
`;
