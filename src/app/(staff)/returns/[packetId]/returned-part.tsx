"use client";
import styled from "styled-components";
import type { QuotedAnswer } from "@/core/notes";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Soft } from "@/ui/kit/page";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { Moment } from "@/ui/kit/time";
import { signerWords } from "../../signer-words";
import type { ReturnedPartView } from "@/usecases/review";
import { ScoreWords } from "../score-words";

export interface ReturnedPartProps {
  readonly packetId: string;
  readonly part: ReturnedPartView;
  readonly underWay: boolean;
}
/** One questionnaire of a return: its scores, each question with its answer, its signatures. */
export function ReturnedPart({ packetId, part, underWay }: ReturnedPartProps) {
  const lines = part.lines.filter((line) => !part.scores.some((score) => score.linkId === line.key));
  return (
    <section aria-label={part.title}>
      <Head>
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
            {part.signatures.length + part.unsigned.length > 0 && (
              <Link href={`/returns/${packetId}/signing`}>Signatures</Link>
            )}
          </Cluster>
        )}
      </Head>
      {sectionsOf(lines).map((section) => (
        <MarginRow key={section.lines[0]!.key} margin={section.title === part.title ? "" : section.title}>
          <Lines>
            {section.lines.map((line) => (
              <OneAnswer key={line.key} line={line} part={part} underWay={underWay} />
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

function OneAnswer({ line, part, underWay }: Omit<ReturnedPartProps, "packetId"> & { readonly line: QuotedAnswer }) {
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
      <OnFile dir="auto">{onFile === undefined || onFile === line.answer ? null : `on file: ${onFile}`}</OnFile>
    </div>
  );
}
const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 1.25rem;
  align-items: baseline;
  padding-block: 0.7rem 0.25rem;
  border-block-end: 1px solid var(--rule-strong);
  & > h2 {
    flex: 1 1 auto;
  }
`;
const Lines = styled.dl`
  margin-block: calc(-0.6 * var(--row));
  & > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
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
      grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 0.8fr);
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
