"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import styled from "styled-components";
import type { Choice, Decision, ReconcileLine, RowValue } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import type { Id, Instant } from "@/core/shared";
import { Button } from "@/ui/button";
import { RadioGroup, TextField } from "@/ui/fields";
import { Notice } from "@/ui/notice";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Moment, useTimeFrame } from "@/ui/time";
import { postAction, type PostOutcome } from "./actions";

type Line = ReconcileLine & { readonly questionnaire: string };
export interface ReconcileViewProps {
  readonly requestId: string;
  readonly view: {
    readonly packetId: Id<"Packet">;
    readonly clientName: string;
    readonly returnedAt: Instant;
    readonly revision: number;
    readonly lines: readonly Line[];
  };
}
const asText = (value: string | RowValue | undefined): string =>
  typeof value === "object" ? Object.values(value).filter(Boolean).join(", ") : (value ?? "");

/** What a choice does on this line, in words. */
function choiceWords(line: ReconcileLine, choice: Choice): string {
  switch (choice) {
    case "keep":
      if (line.status === "new") return "Leave it out";
      if (line.status === "not-mentioned") return "Still true";
      return "Keep what is on file";
    case "take":
      if (line.status === "new") return "Take it in";
      if (line.status === "not-mentioned") return "End it";
      return "Take the new one";
    case "both":
      return line.shape === "row" ? "Keep both as two lines" : "Keep both";
    case "edit":
      return "Write it myself";
  }
}
const startText = (line: ReconcileLine): string | RowValue => line.incoming ?? line.onFile?.value ?? "";

export function ReconcileView({ view, requestId }: ReconcileViewProps) {
  const router = useRouter();
  const [chosen, setChosen] = useState<Readonly<Record<string, Choice>>>({});
  const [edits, setEdits] = useState<Readonly<Record<string, string | RowValue>>>({});
  const [outcome, setOutcome] = useState<PostOutcome>({});
  const [posting, startPosting] = useTransition();
  const choiceFor = (line: Line): Choice | undefined => chosen[line.id] ?? line.suggested;
  const toDecide = view.lines.filter((l) => l.status !== "same");
  const same = view.lines.filter((l) => l.status === "same");
  const open = toDecide.filter((l) => choiceFor(l) === undefined);
  const writes = toDecide.filter((l) => {
    const c = choiceFor(l);
    return c !== undefined && c !== "keep";
  }).length;

  const post = (): void =>
    startPosting(async () => {
      const decisions = view.lines.flatMap((line): Decision[] => {
        const choice = choiceFor(line);
        if (choice === undefined) return [];
        return [{ line: line.id, choice, ...(choice === "edit" ? { edited: edits[line.id] ?? startText(line) } : {}) }];
      });
      const result = await postAction({ packetId: view.packetId, requestId, revision: view.revision, decisions });
      setOutcome(result);
      if (result.moved) router.refresh();
      const first = result.lines?.[0];
      if (first) document.getElementById(`line-${first}`)?.scrollIntoView({ block: "center" });
    });

  return (
    <Page
      title={
        <>
          Reconcile <bdi>{view.clientName}</bdi>
        </>
      }
      margin={
        <>
          Returned <Moment at={view.returnedAt} />
        </>
      }
    >
      <MarginRow margin="Your decision">
        <p>
          {toDecide.length === 0
            ? "Everything that came in is on file already."
            : `${toDecide.length} ${toDecide.length === 1 ? "line differs" : "lines differ"} from the chart or ${toDecide.length === 1 ? "is" : "are"} new.`}{" "}
          <Soft>Who they are is never changed unless you say so. Unanswered questions change nothing.</Soft>
        </p>
      </MarginRow>
      {toDecide.map((line) => {
        const choice = choiceFor(line);
        const needs = outcome.lines?.includes(line.id) ?? false;
        const why = () => {
          if (line.status === "not-mentioned") return "On file, but not in their answer.";
          if (line.question === line.field.label) return "";
          return line.question;
        };
        return (
          <MarginRow
            key={line.id}
            id={`line-${line.id}`}
            tone={choice === undefined ? "attention" : "plain"}
            margin={
              <Pad>
                <RadioGroup
                  label={<Hidden>Decision for {line.field.label}</Hidden>}
                  value={choice ?? ""}
                  onChange={(v) => setChosen({ ...chosen, [line.id]: v as Choice })}
                  options={line.choices.map((c) => ({ value: c, label: choiceWords(line, c) }))}
                  {...(needs ? { problem: "Decide this one." } : {})}
                />
              </Pad>
            }
          >
            <Stack $gap="0.6rem">
              <div>
                <h3>{line.field.label}</h3>
                <Soft>
                  {line.field.identity ? "Who they are. " : ""}
                  {why()}
                </Soft>
              </div>
              <Compare>
                <Side>
                  <dt>
                    On file
                    {line.onFile ? (
                      <>
                        , <Moment at={line.onFile.dated.at} as="day" />
                      </>
                    ) : null}
                  </dt>
                  <dd dir="auto">
                    {line.onFile ? (
                      <Value
                        value={line.onFile.value}
                        field={line.field}
                        struck={choice === "take" && line.status !== "same"}
                      />
                    ) : (
                      <Soft>Nothing</Soft>
                    )}
                  </dd>
                </Side>
                <Side>
                  <dt>Came in</dt>
                  <dd dir="auto">
                    {line.incoming === undefined ? (
                      <Soft>Not mentioned</Soft>
                    ) : (
                      <Value value={line.incoming} field={line.field} struck={choice === "keep"} />
                    )}
                  </dd>
                </Side>
              </Compare>
              {choice === "edit" && (
                <Edit
                  line={line}
                  value={edits[line.id] ?? startText(line)}
                  onChange={(v) => setEdits({ ...edits, [line.id]: v })}
                />
              )}
            </Stack>
          </MarginRow>
        );
      })}
      {same.length > 0 && (
        <>
          <SectionTitle>The same as on file</SectionTitle>
          {same.map((line) => (
            <MarginRow key={line.id} margin="No change">
              {line.field.label}: <bdi>{asText(line.incoming)}</bdi>
            </MarginRow>
          ))}
        </>
      )}
      <Foot>
        {outcome.message ? <Notice tone="problem">{outcome.message}</Notice> : null}
        <div>
          <Button weight="primary" onPress={post} busy={posting}>
            {writes === 0 ? "Settle without changes" : `Post ${writes} ${writes === 1 ? "answer" : "answers"}`}
          </Button>
        </div>
        <Soft>
          {open.length > 0
            ? `${open.length} ${open.length === 1 ? "line still needs" : "lines still need"} your decision.`
            : "A posting can be reversed later; nothing is ever deleted."}
        </Soft>
      </Foot>
    </Page>
  );
}

function Value({
  value,
  field,
  struck,
}: {
  readonly value: string | RowValue;
  readonly field: ReconcileLine["field"];
  readonly struck: boolean;
}) {
  const { locale } = useTimeFrame();
  if (typeof value === "string")
    return <Text $struck={struck}>{field.kind === "date" ? dateWords(value, locale) : value}</Text>;
  const columns = field.kind === "rows" ? field.columns : [];
  return (
    <Text $struck={struck}>
      {columns
        .filter((c) => value[c.key])
        .map((c, i) => (
          <span key={c.key}>
            {i > 0 ? ", " : ""}
            {value[c.key]}
          </span>
        ))}
    </Text>
  );
}
function Edit({
  line,
  value,
  onChange,
}: {
  readonly line: ReconcileLine;
  readonly value: string | RowValue;
  readonly onChange: (value: string | RowValue) => void;
}) {
  if (typeof value === "string")
    return (
      <TextField
        label="Write it as it should stand"
        value={value}
        onChange={onChange}
        long={line.field.kind === "long-text"}
      />
    );
  return (
    <Columns>
      {(line.field.kind === "rows" ? line.field.columns : []).map((c) => (
        <TextField
          key={c.key}
          label={c.label}
          value={value[c.key] ?? ""}
          onChange={(v) => onChange({ ...value, [c.key]: v })}
        />
      ))}
    </Columns>
  );
}
const Pad = styled.div`
  font-size: 0.94rem;
  color: var(--ink);
  & label {
    min-height: 2.2rem;
    padding: 0.3rem 0.5rem;
    gap: 0.5rem;
  }
`;
const Hidden = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;
const Compare = styled.dl`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.5rem 1.5rem;
  padding-inline-end: 0.5rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Side = styled.div`
  & > dt {
    font-size: 0.9rem;
    color: var(--soft);
  }
  & > dd {
    font-size: 1.06rem;
    white-space: pre-wrap;
  }
`;
const Text = styled.span<{ $struck: boolean }>`
  ${({ $struck }) => ($struck ? "text-decoration: line-through; color: var(--soft);" : "font-weight: 600;")}
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr));
  gap: 0.75rem;
`;
const Foot = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.75rem;
  padding-block-start: 1.5rem;
  padding-inline-start: calc(var(--margin-column) + 1.5rem);
  @media (max-width: 44rem) {
    padding-inline-start: 0;
  }
`;
