"use client";
import { mostBytes } from "@/core/files";
import { Link } from "@/ui/kit/link";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { holdsWords, languageName } from "@/core/shared";
import type { LibraryLine, Starters } from "@/usecases/authoring";
import { Columns, ListLine, Name } from "@/ui/kit/ledger";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { FileForm } from "@/ui/kit/file-form";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { rowKeys } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
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
  readonly lines: readonly LibraryLine[];
  readonly starters: Starters;
  readonly requestId: string;
}
export function LibraryView({ lines, starters, requestId }: LibraryViewProps) {
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
      actions={
        <Cluster>
          <Filters>
            <TextField
              bare
              label="Words in the title"
              placeholder="Words in the title"
              value={search}
              onChange={setSearch}
            />
            <Pick
              bare
              label="Kind"
              value={kind}
              options={[{ value: "all", label: "All kinds" }, ...kinds]}
              onChange={setKind}
            />
            <Pick
              bare
              label="State"
              value={state}
              options={[
                { value: "all", label: "All states" },
                ...Object.entries(states).map(([value, label]) => ({ value, label })),
              ]}
              onChange={setState}
            />
          </Filters>
          <Link href="/library/standing">Standing packets</Link>
        </Cluster>
      }
    >
      {lines.length === 0 && (
        <MarginRow margin="">
          <p>Nothing here yet. Write a questionnaire, or bring in the starter library or a file below.</p>
        </MarginRow>
      )}
      {lines.length > 0 && found.length === 0 && (
        <MarginRow margin="">
          <p>No questionnaire is like that.</p>
        </MarginRow>
      )}
      <ul onKeyDown={rowKeys}>
        {found.map((line) => (
          <ListLine
            key={line.id}
            margin={
              <>
                <span>
                  <State $on={line.state === "active"}>{states[line.state]}</State> · {line.kind}
                </span>
              </>
            }
          >
            <Columns>
              <Name href={`/library/${line.id}`} data-row>
                {line.title}
              </Name>
              <Facts line={line} />
            </Columns>
          </ListLine>
        ))}
      </ul>
      <Making starters={starters} requestId={requestId} />
    </Page>
  );
}

/** A questionnaire of one's own, from the starters, from a PDF or from a file. */
function Making({ starters, requestId }: Omit<LibraryViewProps, "lines">) {
  return (
    <>
      <SectionTitle>New questionnaire</SectionTitle>
      <MarginRow margin="Write">
        <ActionForm
          action={newQuestionnaireAction}
          schema={async () => (await import("@/core/forms")).newQuestionnaireSchema}
          submit="Open in the Composer"
          hidden={{ requestId }}
        >
          <NewFields />
        </ActionForm>
      </MarginRow>
      {starters.missing > 0 && (
        <MarginRow margin="Starter library">
          <BringIn starters={starters} />
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
            most={mostBytes}
          >
            {(state) => (state.message ? <Notice tone="problem">{state.message}</Notice> : null)}
          </FileForm>
        </Stack>
      </MarginRow>
      <MarginRow margin="From a file">
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
            {(state) => {
              if (state.problems) return <Problems state={state} />;
              if (state.here) return <HereAlready key={state.here.text} state={state} />;
              if (state.message) return <Notice tone="problem">{state.message}</Notice>;
              return null;
            }}
          </FileForm>
        </Stack>
      </MarginRow>
    </>
  );
}

function Facts({ line }: { readonly line: LibraryLine }) {
  const sent = line.timesUsed === 1 ? "sent once" : `sent ${line.timesUsed} times`;
  return (
    <Soft as="div">
      {line.version > 0 ? `Version ${line.version}` : "No version yet"}
      {line.draft && line.version > 0 ? ", with a draft" : ""} · {line.timesUsed === 0 ? "never sent" : sent} · changed{" "}
      <Moment at={line.changedAt} as="day" />
      {line.languages.length > 1 ? ` · in ${line.languages.map(languageName).join(", ")}` : ""}
    </Soft>
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
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.6rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
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
/** Starters for one's work, as drafts or in use at once. */
function BringIn({ starters }: { readonly starters: Starters }) {
  const [discipline, setDiscipline] = useState("");
  const [inUse, setInUse] = useState(false);
  const count = starters.by.find((one) => one.discipline === discipline)?.missing ?? starters.missing;
  return (
    <Stack $gap="0.6rem">
      <p>
        Questionnaires we wrote or that are published and free to use: intakes, consents, notices and measures. Read
        them, and change what does not fit you.
      </p>
      <ActionForm
        action={bringStartersAction}
        submit={`Bring in ${count}`}
        weight="plain"
        disabled={count === 0}
        hidden={{ discipline, inUse: String(inUse) }}
      >
        <Fields $least="15rem">
          <Pick
            label="For"
            value={discipline === "" ? "all" : discipline}
            options={[
              { value: "all", label: "Everything" },
              ...starters.by.map(({ discipline: one, words }) => ({ value: one as string, label: words })),
            ]}
            onChange={(chosen) => setDiscipline(chosen === "all" ? "" : chosen)}
          />
        </Fields>
        <Checkbox label="Put them in use at once" isSelected={inUse} onChange={setInUse} />
      </ActionForm>
    </Stack>
  );
}
