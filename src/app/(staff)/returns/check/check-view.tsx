"use client";
import styled from "styled-components";
import { consentWords } from "@/core/consent";
import { paperOutcomeWords, type PaperOutcome } from "@/core/signing";
import { FileForm } from "@/ui/kit/file-form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { PaperVerdict } from "@/usecases/signing";
import { checkPaperAction, type CheckState } from "./actions";

/** Takes any PDF and says whose it is, whether it is as it was, who signed, and whether the consent stands. */
export function CheckView() {
  return (
    <Page title="Check a paper" margin="Any PDF">
      <MarginRow margin="The file">
        <FileForm<CheckState>
          action={checkPaperAction}
          initial={{ kind: "idle" }}
          label="Choose a PDF"
          accept={["application/pdf"]}
        >
          {(state) => (
            <>
              {state.kind === "idle" && (
                <Soft>It is looked at here and thrown away. That you checked is in the journal.</Soft>
              )}
              {state.kind === "failed" && <Notice tone="problem">{state.words}</Notice>}
              {state.kind === "checked" && <Verdict verdict={state.verdict} />}
            </>
          )}
        </FileForm>
      </MarginRow>
    </Page>
  );
}
const tones: Readonly<Partial<Record<PaperOutcome, "settled" | "problem">>> = {
  unchanged: "settled",
  changed: "problem",
  added: "problem",
};
function Verdict({ verdict }: { readonly verdict: PaperVerdict }) {
  const { outcome, paper, seals } = verdict;
  return (
    <div role="status">
      <Notice tone={tones[outcome] ?? "attention"}>{paperOutcomeWords[outcome]}</Notice>
      {paper && (
        <Told>
          <dt>Paper</dt>
          <dd>
            <bdi>{paper.title}</bdi> <Link href={`/returns/${paper.packetId}/signing`}>Signatures</Link>
          </dd>
          <dt>Signed by</dt>
          {paper.signatures.map((one) => (
            <dd key={`${one.signer} ${one.at}`}>
              <bdi>{one.signer}</bdi>, <Moment at={one.at} as="full" />
              {one.stands ? "" : ": stands no longer, since what was signed changed"}
            </dd>
          ))}
          {paper.consent && (
            <>
              <dt>Consent</dt>
              <dd>{consentWords[paper.consent]}</dd>
            </>
          )}
        </Told>
      )}
      {seals.length > 0 && (
        <Told>
          <dt>{seals.length === 1 ? "Seal" : "Seals"}</dt>
          {seals.map((seal) => (
            <dd key={seal.end}>
              <bdi>{seal.subject || "unreadable"}</bdi>
              {seal.ours ? " (ours)" : ""}: {seal.intact ? "intact" : "broken"}
              {seal.stampedAt && (
                <>
                  , time-stamped <Moment at={seal.stampedAt} as="full" />
                </>
              )}
            </dd>
          ))}
        </Told>
      )}
      <Soft as="p">
        SHA-256 of the file: <bdi>{verdict.sha256}</bdi>
      </Soft>
    </div>
  );
}
const Told = styled.dl`
  display: grid;
  grid-template-columns: 8rem minmax(0, 1fr);
  gap: 0.15rem 1rem;
  padding-block: 0.6rem;
  border-block-end: 1px solid var(--rule);
  & > dt {
    grid-column: 1;
    color: var(--soft);
  }
  & > dd {
    grid-column: 2;
    overflow-wrap: anywhere;
  }
  @media (max-width: 30rem) {
    grid-template-columns: minmax(0, 1fr);
    & > dd {
      grid-column: 1;
    }
  }
`;
