"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import styled from "styled-components";
import { languageName } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { ButtonLink } from "@/ui/kit/button-link";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment } from "@/ui/kit/time";
import type { QuestionnaireView as View } from "@/usecases/authoring";
import { duplicateAction, removeDraftAction, stateAction } from "../actions";
import { ProofPanel } from "./compose/proof-panel";
import { QuestionnaireContents } from "./questionnaire-contents";
import { Sharing } from "./sharing";
import { VersionChanges } from "./version-changes";

const stateWords = { draft: "Draft", active: "In use", retired: "Retired" } as const;
export interface QuestionnaireViewProps {
  readonly already: boolean;
  readonly requestId: string;
  readonly view: View;
}
/** A questionnaire with everything about it: its draft, Proof, contents, who may use it, its versions. */
export function QuestionnaireView({ view, already, requestId }: QuestionnaireViewProps) {
  const sent = view.timesUsed === 1 ? "sent once" : `sent ${view.timesUsed} times`;
  return (
    <Page
      title={view.title}
      margin={
        <>
          {view.kind}
          <br />
          {view.timesUsed === 0 ? "never sent" : sent}
        </>
      }
      actions={
        view.sharing.mayChange && (
          <ButtonLink href={`/library/${view.id}/compose`} weight={view.draft ? "plain" : "primary"}>
            {view.draft ? "Continue in the Composer" : "Change in the Composer"}
          </ButtonLink>
        )
      }
    >
      {already && <Notice>This file is here already, word for word. Nothing was changed.</Notice>}
      <About view={view} requestId={requestId} />
      <DraftPart view={view} />
      <SectionTitle>Proof</SectionTitle>
      <ProofPanel report={view.report} />
      <QuestionnaireContents view={view} />
      <Sharing id={view.id} sharing={view.sharing} />
      {view.copyright && (
        <MarginRow margin="Licence">
          <Soft>{view.copyright}</Soft>
        </MarginRow>
      )}
      <Versions view={view} />
    </Page>
  );
}

function About({ view, requestId }: { readonly view: View; readonly requestId: string }) {
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
    <MarginRow margin={<State $on={view.state === "active"}>{stateWords[view.state]}</State>}>
      <Stack>
        <p>
          {view.description}{" "}
          <Soft>
            {view.questions} {view.questions === 1 ? "question" : "questions"} in {view.sections}{" "}
            {view.sections === 1 ? "section" : "sections"}
            {view.signed ? ", signed by the client" : ""}.{sheetWords()} In{" "}
            {view.languages
              .map((l) => `${languageName(l.language)}${l.done < l.of ? ` (${l.done} of ${l.of} texts)` : ""}`)
              .join(", ")}
            .
          </Soft>
        </p>
        <Cluster>
          {view.state === "active" && <Link href={`/send?q=${view.id}`}>Send</Link>}
          <Link href={`/library/${view.id}/rehearse`}>Rehearse</Link>
          {mayChange && <Link href={`/library/${view.id}/map`}>Map</Link>}
          {view.state === "active" && <Link href={`/library/${view.id}/plan`}>Posting plan</Link>}
          {mayChange && <Link href={`/library/${view.id}/languages`}>Languages</Link>}
          {view.sheet && <a href={`/api/questionnaires/${view.id}/sheet`}>Empty sheet</a>}
          <Link href={`/library/${view.id}/blank`}>Blank, as a page</Link>
          <a href={`/api/questionnaires/${view.id}/blank`}>Blank, as a PDF</a>
          <a href={`/api/questionnaires/${view.id}/hand-off`}>Export for another practice</a>
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
          <ActionForm action={duplicateAction} submit="Copy" weight="quiet" hidden={{ ...hidden, requestId }} />
          {mayChange && view.versions.length === 0 && (
            <ActionForm action={removeDraftAction} submit="Delete the draft" weight="quiet" hidden={hidden} />
          )}
        </Cluster>
      </Stack>
    </MarginRow>
  );
}

function DraftPart({ view }: { readonly view: View }) {
  const inUse = view.versions.find((version) => version.inUse);
  const newest = view.versions[0];
  const hidden = { id: view.id };
  const { mayChange } = view.sharing;
  if (!view.draft) return null;
  return (
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
          <VersionChanges changes={view.draftChanges} none="The draft changes nothing yet." />
        ) : (
          <p>Not sent to anybody until you put it in use.</p>
        )}
        {view.report.findings.some((f) => f.level === "error") && (
          <Notice tone="problem">Proof found errors. Correct them in the Composer first.</Notice>
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
                submit="Discard draft"
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
  );
}

/** Any version beside any other. */
function Compare({ view }: { readonly view: View }) {
  const router = useRouter();
  const [from, setFrom] = useState(view.compared?.from ?? view.versions.at(-1)!.number);
  const [to, setTo] = useState(view.compared?.to ?? view.versions[0]!.number);
  const options = view.versions.map(({ number }) => ({ value: String(number), label: `Version ${number}` }));
  return (
    <MarginRow margin="Compare">
      <Stack $gap="0.5rem">
        <Cluster $gap="0.8rem">
          <Pick small label="From" value={String(from)} options={options} onChange={(v) => setFrom(Number(v))} />
          <Pick small label="to" value={String(to)} options={options} onChange={(v) => setTo(Number(v))} />
          <Button onPress={() => router.push(`/library/${view.id}?from=${from}&to=${to}`, { scroll: false })}>
            Show what differs
          </Button>
        </Cluster>
        {view.compared && (
          <div role="status">
            <p>
              <strong>
                From version {view.compared.from} to version {view.compared.to}
              </strong>
            </p>
            <VersionChanges changes={view.compared.changes} none="Nothing differs." />
          </div>
        )}
      </Stack>
    </MarginRow>
  );
}
function Versions({ view }: { readonly view: View }) {
  return (
    <>
      {view.versions.length > 0 && <SectionTitle>Versions</SectionTitle>}
      {view.versions.length > 1 && <Compare view={view} />}
      {view.versions.map((version, index) => (
        <MarginRow
          key={version.versionId}
          margin={
            <>
              Version {version.number}
              {version.inUse && view.state === "active" ? (
                <>
                  <br />
                  <State $on>in use</State>
                </>
              ) : null}
              <br />
              <Moment at={version.at} />, {version.by}
            </>
          }
        >
          <Stack $gap="0.5rem">
            {index === view.versions.length - 1 ? (
              <p>The first version.</p>
            ) : (
              <VersionChanges changes={version.changes} none="Nothing changed." />
            )}
            <div>
              <a href={`/api/versions/${version.versionId}`}>Export version {version.number} as FHIR</a>
            </div>
          </Stack>
        </MarginRow>
      ))}
    </>
  );
}
const State = styled.span<{ $on: boolean }>`
  font-weight: 600;
  color: ${({ $on }) => ($on ? "var(--fern)" : "var(--clay)")};
`;
