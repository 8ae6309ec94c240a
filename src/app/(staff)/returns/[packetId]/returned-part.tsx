"use client";
import { useState } from "react";
import styled from "styled-components";
import type { QuotedAnswer } from "@/core/notes";
import { nthId } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { Fold, PartHead } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Soft } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { Moment } from "@/ui/kit/time";
import { signerWords } from "../../signer-words";
import type { ReturnedPartView } from "@/usecases/review";
import { ScoreWords } from "../score-words";
import { addRemarkAction, dropRemarkAction } from "./actions";

export interface ReturnedPartProps {
  readonly packetId: string;
  readonly part: ReturnedPartView;
  readonly underWay: boolean;
  readonly requestId: string;
  /** From which on the page's ids are this part's. */
  readonly number: number;
}
/** One questionnaire of a return: its scores, each question with its answer, its signatures. */
export function ReturnedPart({ packetId, part, underWay, requestId, number }: ReturnedPartProps) {
  // Asked for once for all answers: a place to write at each would be as many stops for the keyboard.
  const [remarking, setRemarking] = useState(false);
  const lines = part.lines.filter((line) => !part.scores.some((score) => score.linkId === line.key));
  return (
    <section aria-label={part.title}>
      <PartHead>
        <h2>{part.title}</h2>
        {part.scores.map((score) => (
          <ScoreWords key={score.linkId} score={score} />
        ))}
        {!underWay && (
          <Cluster>
            {part.sheet ? <a href={`/api/parts/${part.partId}/sheet`}>Filled sheet</a> : null}
            <Link href={`/returns/${packetId}/paper/${part.partId}`}>Page to print</Link>
            <a href={`/api/parts/${part.partId}/paper`}>PDF</a>
            <a href={`/api/parts/${part.partId}/response`}>FHIR</a>
            <Button weight="quiet" aria-pressed={remarking} onPress={() => setRemarking(!remarking)}>
              Remark
            </Button>
            {part.signatures.length + part.unsigned.length > 0 && (
              <Link href={`/returns/${packetId}/signing`}>Signatures</Link>
            )}
          </Cluster>
        )}
      </PartHead>
      {sectionsOf(lines).map((section) => (
        <MarginRow key={section.lines[0]!.key} margin={section.title === part.title ? "" : section.title}>
          <Lines>
            {section.lines.map((line) => (
              <OneAnswer
                key={line.key}
                line={line}
                part={part}
                underWay={underWay}
                requestId={nthId(requestId, number + lines.indexOf(line))}
                remarking={remarking}
              />
            ))}
          </Lines>
        </MarginRow>
      ))}
      {part.signatures.map((signature) => (
        <MarginRow
          key={signature.digest}
          margin={
            <>
              Signed <Moment at={signature.at} />
              {signature.placeOf ? `, the place of ${signerWords[signature.placeOf]}` : ""}
            </>
          }
        >
          <Cluster>
            <SignatureMark mark={signature.mark} />
            <Soft>
              <bdi>{signature.signer}</bdi> from {signature.address}. <bdi>{signature.intent}</bdi> Covers the text and
              answers above. SHA-256 {signature.digest.slice(0, 16)}…
            </Soft>
          </Cluster>
        </MarginRow>
      ))}
      {!underWay &&
        part.unsigned.map((place) => (
          <MarginRow key={place.text} margin="Not signed" tone="attention">
            <bdi>{place.text}</bdi> <Soft>{place.placeOf ? `This is for ${signerWords[place.placeOf]}.` : ""}</Soft>{" "}
            <Link href={`/returns/${packetId}/signing`}>Whose turn it is</Link>
          </MarginRow>
        ))}
    </section>
  );
}

/** Lines of one section that follow each other: its name is said once. */
function sectionsOf(lines: readonly QuotedAnswer[]): { title: string; lines: QuotedAnswer[] }[] {
  const sections: { title: string; lines: QuotedAnswer[] }[] = [];
  for (const line of lines) {
    const last = sections.at(-1);
    if (last?.title === line.section) last.lines.push(line);
    else sections.push({ title: line.section, lines: [line] });
  }
  return sections;
}

function OneAnswer({
  line,
  part,
  underWay,
  requestId,
  remarking,
}: Omit<ReturnedPartProps, "packetId" | "number"> & { readonly line: QuotedAnswer; readonly remarking: boolean }) {
  const answer = () => {
    if (line.files && !underWay)
      return line.files.map((file) => (
        <div key={file.id}>
          <a href={`/api/files/${file.id}`}>{file.title}</a>
        </div>
      ));
    return line.answer === "" ? <Soft>Not answered</Soft> : line.answer;
  };
  const onFile = part.onFile[line.key];
  const was = part.before?.answers[line.key];
  return (
    <div>
      <dt>{line.question}</dt>
      <dd dir="auto" data-alarm={part.alerts.some((alert) => alert.key === line.key) || undefined}>
        {answer()}
        {part.by[line.key] ? (
          <Soft>
            {" "}
            by <bdi>{part.by[line.key]}</bdi>
          </Soft>
        ) : null}
      </dd>
      {was === undefined ? null : (
        <Was dir="auto">
          <Moment at={part.before!.at} as="day" />: {was === "" ? "not answered" : was}
        </Was>
      )}
      {!underWay && <Remarks part={part} line={line} requestId={requestId} remarking={remarking} />}
      <OnFile dir="auto">{onFile === undefined || onFile === line.answer ? null : `on file: ${onFile}`}</OnFile>
    </div>
  );
}
/** Remarks of staff's beside an answer, which the client never sees. */
function Remarks({
  part,
  line,
  requestId,
  remarking,
}: {
  readonly part: ReturnedPartView;
  readonly line: QuotedAnswer;
  readonly requestId: string;
  readonly remarking: boolean;
}) {
  const remarks = part.remarks[line.key] ?? [];
  if (remarks.length === 0 && !remarking) return null;
  return (
    <Remarked data-said={remarks.length > 0 || undefined}>
      {remarks.map((remark) => (
        <Cluster key={remark.id}>
          <span>
            <bdi>{remark.text}</bdi>{" "}
            <Soft>
              <bdi>{remark.by}</bdi>, <Moment at={remark.at} />
            </Soft>
          </span>
          {remark.own && (
            <ActionForm
              action={dropRemarkAction}
              submit="Take away"
              weight="quiet"
              hidden={{ partId: part.partId, id: remark.id }}
            />
          )}
        </Cluster>
      ))}
      {remarking && (
        <Fold>
          <summary aria-label={`Remark on ${line.question}`}>remark</summary>
          <ActionForm
            action={addRemarkAction}
            submit="Keep the remark"
            weight="plain"
            hidden={{ partId: part.partId, key: line.key, requestId }}
          >
            <TextField name="text" label="For staff alone" long />
          </ActionForm>
        </Fold>
      )}
    </Remarked>
  );
}
/** Beside the answer. */
const Remarked = styled.dd`
  && {
    grid-column: 3;
    grid-row: 1;
    font-weight: 400;
    font-size: var(--small);
  }
  &&:has([open]),
  &&[data-said] {
    grid-column: 2 / -1;
    grid-row: auto;
  }
  @media (max-width: 44rem) {
    && {
      grid-column: 1;
      grid-row: auto;
    }
  }
`;
/** What they answered the last time. */
const Was = styled.dd`
  && {
    grid-column: 2;
    color: var(--clay);
    font-weight: 400;
    font-size: var(--small);
  }
  @media (max-width: 44rem) {
    && {
      grid-column: 1;
    }
  }
`;
const Lines = styled.dl`
  margin-block: calc(-0.6 * var(--row));
  & > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr) 5rem;
    column-gap: 1.1rem;
    align-items: baseline;
    padding-block: 0.12rem;
    border-block-end: 1px solid var(--rule);
  }
  & > div:last-child {
    border-block-end: 0;
  }
  & dt {
    color: var(--soft);
    font-size: var(--small);
  }
  & dd {
    font-weight: 500;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  & dd[data-alarm] {
    color: var(--madder);
    font-weight: 600;
  }
  @media (min-width: 90rem) {
    & > div {
      grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) 5rem minmax(0, 0.8fr);
    }
  }
  @media (max-width: 44rem) {
    & > div {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;
/** Where there is room, what the chart holds stands beside what was asked. */
const OnFile = styled.dd`
  && {
    display: none;
    color: var(--soft);
    font-weight: 400;
    font-size: var(--small);
  }
  @media (min-width: 90rem) {
    && {
      display: block;
    }
  }
`;
