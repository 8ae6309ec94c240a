"use client";
import { Link } from "@/ui/link";
import { useState } from "react";
import styled from "styled-components";
import type { QuotedAnswer } from "@/core/notes";
import { textOf, type QuestionnaireKind } from "@/core/questionnaire";
import type { PacketState } from "@/core/packet";
import type { Alert, Score } from "@/core/scoring";
import type { Id, Instant } from "@/core/shared";
import { ButtonLink } from "@/ui/button";
import { Checkbox, RadioGroup, TextField } from "@/ui/fields";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Shortcuts } from "@/ui/shortcuts";
import { SignatureMark } from "@/ui/signature-mark";
import { StateWords } from "@/ui/state-mark";
import { Moment } from "@/ui/time";
import { useRouter } from "next/navigation";
import { ScoreWords } from "../returns-view";
import { askAgainAction, draftAction, sendBackAction } from "./actions";

export interface ReturnViewProps {
  readonly requestId: string;
  readonly view: {
    readonly packetId: Id<"Packet">;
    readonly clientId: Id<"Client">;
    readonly clientName: string;
    readonly filledBy: string;
    readonly reachable: boolean;
    readonly underWay: boolean;
    readonly state: PacketState;
    readonly stateWords: string;
    readonly returnedAt: Instant;
    readonly returnedFrom: string;
    readonly visit:
      { readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
    readonly comment: string | undefined;
    readonly layouts: readonly { readonly id: string; readonly name: string }[];
    readonly parts: readonly {
      readonly partId: Id<"Part">;
      readonly title: string;
      readonly kind: QuestionnaireKind;
      readonly sheet: boolean;
      readonly lines: readonly QuotedAnswer[];
      readonly by: Readonly<Record<string, string>>;
      readonly scores: readonly Score[];
      readonly alerts: readonly Alert[];
      readonly signatures: readonly {
        readonly signer: string;
        readonly at: Instant;
        readonly address: string;
        readonly device: string;
        readonly digest: string;
        readonly intent: string;
        readonly path: string | undefined;
      }[];
    }[];
  };
}
export function ReturnView({ view, requestId }: ReturnViewProps) {
  const router = useRouter();
  const alerts = view.parts.flatMap((p) => p.alerts);
  const reconcile = `/returns/${view.packetId}/reconcile`;
  const mainAction = () => {
    if (view.underWay) return <ButtonLink href={`/packets/${view.packetId}`}>Its journey</ButtonLink>;
    if (view.state === "returned")
      return (
        <ButtonLink href={reconcile} weight="primary">
          Lay beside the chart
        </ButtonLink>
      );
    return <ButtonLink href={`/people/${view.clientId}`}>Open chart</ButtonLink>;
  };
  return (
    <Page
      title={<bdi>{view.clientName}</bdi>}
      margin={
        <>
          <StateWords mark={view.state} words={view.stateWords} />
          <br />
          {view.underWay ? (
            "not returned yet"
          ) : (
            <>
              <Moment at={view.returnedAt} />
              <br />
              by <bdi>{view.filledBy}</bdi>
            </>
          )}
        </>
      }
      actions={mainAction()}
    >
      {view.underWay && (
        <MarginRow margin="Not back yet" tone="attention">
          <Notice tone="attention">
            <strong>They are still writing.</strong> What stands here may change until they send it. That you looked is
            in the journal.
          </Notice>
        </MarginRow>
      )}
      {!view.underWay && (
        <Shortcuts
          list={[
            { key: "r", does: "lay beside the chart", run: () => router.push(reconcile) },
            { key: "c", does: "open the chart", run: () => router.push(`/people/${view.clientId}`) },
            {
              key: "d",
              does: "draft a note",
              run: () => {
                document.getElementById("draft")?.scrollIntoView();
                document.querySelector<HTMLElement>("#draft input")?.focus();
              },
            },
          ]}
        />
      )}
      {view.visit && (
        <MarginRow margin="For the visit">
          <Moment at={view.visit.startsAt} />, {view.visit.visitType} <Soft>with {view.visit.practitioner}</Soft>
        </MarginRow>
      )}
      {alerts.map((a) => (
        <MarginRow key={a.key} margin="Read first" tone="attention">
          <Notice tone="problem">
            <strong>{a.message}.</strong> They answered “{textOf(a.answer)}” to: {a.question}
          </Notice>
        </MarginRow>
      ))}
      {view.comment && (
        <MarginRow margin="They added">
          <p dir="auto" style={{ whiteSpace: "pre-wrap" }}>
            {view.comment}
          </p>
        </MarginRow>
      )}
      {view.parts.map((part) => (
        <section key={part.partId} aria-label={part.title}>
          <PartHead>
            <h2>{part.title}</h2>
            <Cluster>
              {part.sheet && !view.underWay ? <a href={`/api/parts/${part.partId}/sheet`}>The filled sheet</a> : null}
              {view.underWay ? null : (
                <>
                  <a href={`/api/parts/${part.partId}/paper`}>PDF</a>
                  <a href={`/api/parts/${part.partId}/response`}>FHIR</a>
                </>
              )}
            </Cluster>
          </PartHead>
          {part.scores.map((s) => (
            <MarginRow key={s.linkId} margin="Score">
              <ScoreWords score={s} />
            </MarginRow>
          ))}
          {part.lines
            .filter((l) => !part.scores.some((s) => s.linkId === l.key))
            .map((line, index, all) => {
              const answerPart = () => {
                if (line.files && !view.underWay)
                  return line.files.map((f) => (
                    <div key={f.id}>
                      <a href={`/api/files/${f.id}`}>{f.title}</a>
                    </div>
                  ));
                if (line.answer === "") return <Soft>Not answered</Soft>;
                return line.answer;
              };
              return (
                <MarginRow
                  key={line.key}
                  margin={line.section !== all[index - 1]?.section && line.section !== part.title ? line.section : ""}
                >
                  <Line $alert={part.alerts.some((a) => a.key === line.key)}>
                    <dt>{line.question}</dt>
                    <dd dir="auto">
                      {answerPart()}
                      {part.by[line.key] ? (
                        <>
                          {" "}
                          <Soft>
                            by <bdi>{part.by[line.key]}</bdi>
                          </Soft>
                        </>
                      ) : null}
                    </dd>
                  </Line>
                </MarginRow>
              );
            })}
          {part.signatures.map((signature) => (
            <MarginRow
              key={signature.digest}
              margin={
                <>
                  Signed <Moment at={signature.at} />
                </>
              }
            >
              <Stack $gap="0.3rem">
                <Soft dir="auto">{signature.intent}</Soft>
                <SignatureMark name={signature.signer} path={signature.path} />
                <span>
                  <bdi>{signature.signer}</bdi> <Soft>from {signature.address}</Soft>
                </span>
                <Soft>Covers the text and answers above. SHA-256 {signature.digest.slice(0, 16)}…</Soft>
              </Stack>
            </MarginRow>
          ))}
        </section>
      ))}
      {!view.underWay && (
        <MarginRow margin="Still so?">
          <details>
            <summary>Ask again</summary>
            {view.reachable ? (
              <Stack $gap="0.6rem">
                <p>
                  They get a new packet with the same questions. Intakes and worksheets begin with these answers, to be
                  said right or changed; measures and consents are asked anew. What is here stays as it is.
                </p>
                <ActionForm
                  action={askAgainAction}
                  submit="Send it again"
                  weight="plain"
                  hidden={{ packetId: view.packetId, requestId }}
                />
              </Stack>
            ) : (
              <p>
                There is no way to reach them, so nothing can be sent.{" "}
                <Link href={`/people/${view.clientId}/send`}>Make it from the chart</Link>, where a contact can be added
                or a device handed over.
              </p>
            )}
          </details>
        </MarginRow>
      )}
      {view.state === "returned" && <SendingBack view={view} requestId={requestId} />}
      {!view.underWay && <Drafting view={view} requestId={requestId} />}
      <p style={{ paddingBlockStart: "1rem" }}>
        <Link href={`/packets/${view.packetId}`}>Its journey</Link>
      </p>
    </Page>
  );
}

/** Some answers go back to the client, each with a reason. */
function SendingBack({ view, requestId }: ReturnViewProps) {
  const [keys, setKeys] = useState<readonly string[]>([]);
  const lines = view.parts.flatMap((p) => p.lines.filter((l) => !p.scores.some((s) => s.linkId === l.key)));
  return (
    <MarginRow margin="Something unclear?">
      <details>
        <summary>Send it back</summary>
        <ActionForm
          action={sendBackAction}
          submit={`Send ${keys.length === 1 ? "this one" : `these ${keys.length}`} back`}
          weight="plain"
          disabled={keys.length === 0}
          hidden={{ packetId: view.packetId, requestId }}
        >
          <Stack $gap="0.6rem">
            <p>
              {view.reachable
                ? "They get a fresh link."
                : "There is no way to reach them, so no letter goes out: hand a device over from the packet’s page, which comes next."}{" "}
              Only what you tick is open again; the rest stays as it is.
            </p>
            {lines.map((line) => {
              const key = `${line.partId} ${line.key}`;
              const on = keys.includes(key);
              return (
                <Stack key={key} $gap="0.3rem">
                  <Checkbox
                    isSelected={on}
                    onChange={(now) => setKeys(now ? [...keys, key] : keys.filter((k) => k !== key))}
                    label={
                      <>
                        {line.question} <Soft dir="auto">{line.answer || "not answered"}</Soft>
                      </>
                    }
                  />
                  {on && <TextField name={`why ${key}`} label={`What should they look at in “${line.question}”?`} />}
                </Stack>
              );
            })}
          </Stack>
        </ActionForm>
      </details>
    </MarginRow>
  );
}

function Drafting({ view, requestId }: ReturnViewProps) {
  const [pick, setPick] = useState("answered");
  const [keys, setKeys] = useState<readonly string[]>([]);
  const lines = view.parts.flatMap((p) => p.lines.filter((l) => l.answer !== ""));
  return (
    <div id="draft">
      <SectionTitle>Draft a note from this</SectionTitle>
      <ActionForm
        action={draftAction}
        inPage
        submit="Draft the note"
        weight="plain"
        hidden={{ packetId: view.packetId, requestId }}
        disabled={pick === "chosen" && keys.length === 0}
      >
        <div>
          <MarginRow margin="Layout">
            <RadioGroup
              label="Note layout"
              name="layoutId"
              defaultValue={view.layouts[0]?.id ?? ""}
              options={view.layouts.map((l) => ({ value: l.id, label: l.name }))}
              inline
            />
          </MarginRow>
          <MarginRow margin="Whose words">
            <Stack>
              <RadioGroup
                label="Which answers to quote"
                name="pick"
                value={pick}
                onChange={setPick}
                inline
                options={[
                  { value: "answered", label: "Answered ones" },
                  { value: "all", label: "All" },
                  { value: "chosen", label: "The ones I tick" },
                ]}
              />
              {pick === "chosen" && (
                <Stack $gap="0.5rem">
                  {lines.map((line) => {
                    const key = `${line.partId} ${line.key}`;
                    return (
                      <Checkbox
                        key={key}
                        isSelected={keys.includes(key)}
                        onChange={(on) => setKeys(on ? [...keys, key] : keys.filter((k) => k !== key))}
                        label={
                          <>
                            {line.question} <Soft dir="auto">{line.answer}</Soft>
                          </>
                        }
                      />
                    );
                  })}
                </Stack>
              )}
              {pick === "chosen" && keys.map((k) => <input key={k} type="hidden" name="keys" value={k} />)}
            </Stack>
          </MarginRow>
        </div>
      </ActionForm>
    </div>
  );
}
const PartHead = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  justify-content: space-between;
  align-items: end;
  padding-block: 1.6rem 0.6rem;
  border-block-end: 1px solid var(--rule-strong);
`;
const Line = styled.dl<{ $alert: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.25rem 1.5rem;
  & > dt {
    color: var(--soft);
  }
  & > dd {
    font-weight: 600;
    white-space: pre-wrap;
    ${({ $alert }) => ($alert ? "color: var(--madder);" : "")}
  }
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
