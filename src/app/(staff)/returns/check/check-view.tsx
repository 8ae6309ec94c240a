"use client";
import styled from "styled-components";
import { consentWords } from "@/core/consent";
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
/** The one sentence that is asked for, before everything else. */
function outcomeOf(verdict: PaperVerdict): {
  readonly tone: "settled" | "attention" | "problem";
  readonly words: string;
} {
  const { seals, paper, addedTo } = verdict;
  if (seals.length === 0)
    return { tone: "attention", words: "There is no seal on this paper. It proves nothing by itself." };
  if (seals.some((s) => !s.intact)) return { tone: "problem", words: "This paper was changed after it was sealed." };
  if (!paper)
    return seals.some((s) => s.ours)
      ? { tone: "attention", words: "The seal is ours and intact, but this paper is not among those kept here." }
      : { tone: "attention", words: "The seal is intact, and it is not ours." };
  if (addedTo) return { tone: "attention", words: "This is our paper, unchanged, and something was added behind it." };
  return paper.newer
    ? { tone: "attention", words: "This is our paper, unchanged, and there is a newer one." }
    : { tone: "settled", words: "This is our paper, and nothing in it was changed." };
}
function Verdict({ verdict }: { readonly verdict: PaperVerdict }) {
  const outcome = outcomeOf(verdict);
  const { paper, seals } = verdict;
  return (
    <div role="status">
      <Notice tone={outcome.tone}>{outcome.words}</Notice>
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
