"use client";
import { Link } from "@/ui/link";
import styled from "styled-components";
import type { ProofReport } from "@/core/proof";
import type { Difference, QuestionnaireKind } from "@/core/questionnaire";
import { languageName, type Id, type Instant } from "@/core/shared";
import { ButtonLink } from "@/ui/button";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Moment } from "@/ui/time";
import { duplicateAction, removeDraftAction, stateAction } from "../actions";
import { Sharing, type SharingProps } from "./sharing";
import { ProofPanel } from "./compose/proof-panel";

const typeWords: Readonly<Record<string, string>> = {
  group: "section",
  display: "text",
  boolean: "yes or no",
  decimal: "number",
  integer: "whole number",
  date: "date",
  time: "time",
  string: "short text",
  text: "long text",
  url: "web address",
  choice: "one of",
  "open-choice": "one of, or other",
  quantity: "amount",
  attachment: "file or photo",
};
const stateWords = { draft: "Draft", active: "In use", retired: "Retired" } as const;
export interface QuestionnaireViewProps {
  readonly already: boolean;
  readonly requestId: string;
  readonly view: {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly kind: QuestionnaireKind;
    readonly state: keyof typeof stateWords;
    readonly description: string;
    readonly copyright: string;
    readonly signed: boolean;
    readonly sheet: { readonly title: string; readonly fields: number } | undefined;
    readonly languages: readonly { readonly language: string; readonly done: number; readonly of: number }[];
    readonly sharing: SharingProps["sharing"];
    readonly questions: number;
    readonly sections: number;
    readonly timesUsed: number;
    readonly draft: { readonly at: Instant; readonly by: string } | undefined;
    readonly draftChanges: readonly Difference[];
    readonly report: ProofReport;
    readonly versions: readonly {
      readonly versionId: Id<"Version">;
      readonly number: number;
      readonly at: Instant;
      readonly by: string;
      readonly inUse: boolean;
      readonly changes: readonly Difference[];
    }[];
    readonly lines: readonly {
      readonly linkId: string;
      readonly depth: number;
      readonly text: string;
      readonly type: string;
      readonly required: boolean;
      readonly shownWhen: string | undefined;
      readonly goesTo: string | undefined;
      readonly marks: readonly string[];
    }[];
    readonly scores: readonly {
      readonly title: string;
      readonly bands: readonly {
        readonly low: number;
        readonly high: number;
        readonly label: string;
        readonly source: string;
      }[];
    }[];
  };
}
export function QuestionnaireView({ view, already, requestId }: QuestionnaireViewProps) {
  const inUse = view.versions.find((v) => v.inUse);
  const newest = view.versions[0];
  const hidden = { id: view.id };
  const { mayChange } = view.sharing;
  const sheetWords = () => {
    if (view.sheet) {
      if (view.sheet.fields > 0)
        return ` ${view.sheet.fields === 1 ? "One answer is" : `${view.sheet.fields} answers are`} written into ${view.sheet.title}, which comes back filled in and stays open for more.`;
      return ` The client downloads ${view.sheet.title} and adds the finished sheet.`;
    }
    return "";
  };
  return (
    <Page
      title={view.title}
      margin={
        <>
          {view.kind}
          <br />
          {view.timesUsed === 0 ? "never sent" : `sent ${view.timesUsed === 1 ? "once" : `${view.timesUsed} times`}`}
        </>
      }
      actions={
        mayChange && (
          <ButtonLink href={`/library/${view.id}/compose`} weight={view.draft ? "plain" : "primary"}>
            {view.draft ? "Go on in the Composer" : "Change it in the Composer"}
          </ButtonLink>
        )
      }
    >
      {already && (
        <MarginRow margin="Brought in">
          <Notice>This file is here already, word for word. Nothing was changed.</Notice>
        </MarginRow>
      )}
      <MarginRow margin={<State $on={view.state === "active"}>{stateWords[view.state]}</State>}>
        <Stack>
          <p>
            {view.description}{" "}
            <Soft>
              {view.questions} questions in {view.sections} {view.sections === 1 ? "section" : "sections"}
              {view.signed ? ", signed by the client" : ""}.{sheetWords()} In{" "}
              {view.languages
                .map((l) => `${languageName(l.language)}${l.done < l.of ? ` (${l.done} of ${l.of} texts)` : ""}`)
                .join(", ")}
              .
            </Soft>
          </p>
          <Cluster>
            {view.state === "active" && <Link href={`/send?q=${view.id}`}>Send it to somebody</Link>}
            <Link href={`/library/${view.id}/rehearse`}>Rehearse as the client</Link>
            {mayChange && <Link href={`/library/${view.id}/map`}>Map</Link>}
            {mayChange && <Link href={`/library/${view.id}/languages`}>Languages</Link>}
            {view.sheet && <a href={`/api/questionnaires/${view.id}/sheet`}>The empty sheet</a>}
            <a href={`/api/questionnaires/${view.id}/blank`}>Print it blank</a>
            <a href={`/api/questionnaires/${view.id}/hand-off`}>Give it to another practice</a>
            {mayChange && view.state === "active" && (
              <ActionForm action={stateAction} submit="Retire" weight="quiet" hidden={{ ...hidden, do: "retire" }} />
            )}
            {mayChange && view.state === "retired" && !view.draft && (
              <ActionForm
                action={stateAction}
                submit="Put in use again"
                weight="plain"
                hidden={{ ...hidden, do: "use" }}
              />
            )}
            <ActionForm
              action={duplicateAction}
              submit="Copy it and change the copy"
              weight="quiet"
              hidden={{ ...hidden, requestId }}
            />
            {mayChange && view.versions.length === 0 && (
              <ActionForm action={removeDraftAction} submit="Delete the draft" weight="quiet" hidden={hidden} />
            )}
          </Cluster>
        </Stack>
      </MarginRow>
      {view.draft && (
        <MarginRow
          tone="attention"
          margin={
            <>
              Draft
              <br />
              <Moment at={view.draft.at} />, {view.draft.by}
            </>
          }
        >
          <Stack>
            {newest ? (
              <Changes changes={view.draftChanges} none="The draft changes nothing yet." />
            ) : (
              <p>Not sent to anybody until you put it in use.</p>
            )}
            {view.report.findings.some((f) => f.level === "error") && (
              <Notice tone="problem">Proof found errors. Mend them in the Composer first.</Notice>
            )}
            {mayChange && (
              <Cluster>
                <ActionForm
                  action={stateAction}
                  submit="Put in use"
                  hidden={{ ...hidden, do: "use" }}
                  disabled={view.report.findings.some((f) => f.level === "error")}
                />
                {newest && (
                  <ActionForm
                    action={stateAction}
                    submit="Throw the draft away"
                    weight="quiet"
                    hidden={{ ...hidden, do: "drop" }}
                  />
                )}
              </Cluster>
            )}
            {inUse && (
              <Soft>
                Version {inUse.number} is in use. Packets already sent stay on it; new ones get version{" "}
                {view.versions[0]!.number + 1}.
              </Soft>
            )}
          </Stack>
        </MarginRow>
      )}
      <SectionTitle>Proof</SectionTitle>
      <ProofPanel report={view.report} />
      <SectionTitle>What it contains</SectionTitle>
      {view.lines.map((line) => (
        <MarginRow
          key={line.linkId}
          margin={
            <>
              {line.shownWhen ? <div>when {line.shownWhen}</div> : null}
              {line.goesTo ? <Goes>to {line.goesTo}</Goes> : null}
            </>
          }
        >
          <Item $depth={line.depth} $section={line.type === "group"}>
            {line.text}
            {line.required ? <Soft> (required)</Soft> : null}
            <Kind>{[typeWords[line.type] ?? line.type, ...line.marks].join(" · ")}</Kind>
          </Item>
        </MarginRow>
      ))}
      {view.scores.map((step) => (
        <section key={step.title}>
          <SectionTitle>{step.title}</SectionTitle>
          {step.bands.map((second) => (
            <MarginRow
              key={second.low}
              margin={
                <span className="figures">
                  {second.low} to {second.high}
                </span>
              }
            >
              {second.label}
            </MarginRow>
          ))}
          {step.bands[0] && <MarginRow margin="Source">{step.bands[0].source}</MarginRow>}
        </section>
      ))}
      <Sharing id={view.id} sharing={view.sharing} />
      {view.copyright && (
        <MarginRow margin="Licence">
          <Soft>{view.copyright}</Soft>
        </MarginRow>
      )}
      {view.versions.length > 0 && <SectionTitle>Versions</SectionTitle>}
      {view.versions.map((value, index) => (
        <MarginRow
          key={value.versionId}
          margin={
            <>
              Version {value.number}
              {value.inUse && view.state === "active" ? (
                <>
                  <br />
                  <State $on>in use</State>
                </>
              ) : null}
              <br />
              <Moment at={value.at} />, {value.by}
            </>
          }
        >
          <Stack $gap="0.5rem">
            {index === view.versions.length - 1 ? (
              <p>The first version.</p>
            ) : (
              <Changes changes={value.changes} none="Nothing changed." />
            )}
            <div>
              <a href={`/api/versions/${value.versionId}`}>Export version {value.number} as FHIR</a>
            </div>
          </Stack>
        </MarginRow>
      ))}
    </Page>
  );
}
function Changes({ changes, none }: { readonly changes: readonly Difference[]; readonly none: string }) {
  return changes.length === 0 ? (
    <p>{none}</p>
  ) : (
    <List>
      {changes.map((c, i) => (
        <li key={i}>{c.words}</li>
      ))}
    </List>
  );
}
const State = styled.span<{ $on: boolean }>`
  font-weight: 600;
  color: ${({ $on }) => ($on ? "var(--fern)" : "var(--clay)")};
`;
const Goes = styled.div`
  color: var(--fern);
`;
const List = styled.ul`
  display: grid;
  gap: 0.35rem;
  list-style: disc;
  padding-inline-start: 1.1rem;
`;
const Item = styled.div<{ $depth: number; $section: boolean }>`
  padding-inline-start: ${({ $depth }) => $depth * 1.1}rem;
  ${({ $section }) => ($section ? "font-weight: 600;" : "")}
`;
const Kind = styled.span`
  display: block;
  font-weight: 400;
  font-size: var(--small);
  color: var(--soft);
`;
