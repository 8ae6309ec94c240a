"use client";
import type { ReactNode } from "react";
import { Facts, Sheet } from "@/ui/kit/paper-sheet";
import { Page, SectionTitle, Soft } from "@/ui/kit/page";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { Moment } from "@/ui/kit/time";
import { ScoreWords } from "../../../score-words";
import type { Paper } from "@/usecases/review";

/** The same as on the PDF, as a page: with headings, lists and the reading order that a PDF of ours does not carry. */
export function PaperPage({ paper, pdf }: { readonly paper: Paper; readonly pdf: string }) {
  const lines = paper.lines.filter((line) => !paper.scores.some((score) => score.linkId === line.key));
  const sections = [...new Set(lines.map((line) => line.section))];
  const facts: readonly (readonly [string, ReactNode])[] = [
    ["Client", paper.birthDate ? `${paper.client}, born ${paper.birthDate}` : paper.client],
    ["Filled in by", paper.filledBy],
    ...(paper.visit
      ? [
          [
            "For the visit",
            <>
              <Moment at={paper.visit.at} as="full" />, {paper.visit.type}, {paper.visit.practitioner}
            </>,
          ] as const,
        ]
      : []),
    [
      "Returned",
      <>
        <Moment at={paper.returnedAt} as="full" />, from {paper.returnedFrom || "an address not kept"}
      </>,
    ],
    ["Version", paper.version],
    [
      "Made",
      <>
        <Moment at={paper.madeAt} as="full" /> by {paper.madeBy}, {paper.practice}
      </>,
    ],
  ];
  return (
    <Page title={<bdi>{paper.title}</bdi>} margin={paper.practice} actions={<a href={pdf}>PDF</a>}>
      <Sheet>
        <Facts facts={facts} />
        {paper.texts.map((text) => (
          <p key={text} dir="auto">
            {text}
          </p>
        ))}
        {paper.scores.map((score) => (
          <p key={score.linkId}>
            <ScoreWords score={score} />
          </p>
        ))}
        {sections.map((section) => (
          <section key={section}>
            {section !== paper.title && section !== "" && <SectionTitle dir="auto">{section}</SectionTitle>}
            <Facts
              facts={lines
                .filter((line) => line.section === section)
                .map((line) => [line.question, line.answer === "" ? "–" : line.answer])}
            />
          </section>
        ))}
        {paper.signedWords.length > 0 && (
          <section>
            <SectionTitle>As it was read and signed</SectionTitle>
            {paper.signedWords.map((text, index) => (
              <p key={index} dir="auto">
                {text}
              </p>
            ))}
          </section>
        )}
        {paper.signatures.map(({ statement, digest, at, address, device }) => (
          <section key={digest}>
            <SectionTitle>Signature</SectionTitle>
            <p dir="auto">{statement.intent}</p>
            <SignatureMark mark={statement.mark} />
            <p>
              Signed by <bdi>{statement.signer}</bdi>, <Moment at={at} as="full" />{" "}
              <Soft>
                {statement.mark.kind}, from {address}, {device}
              </Soft>
            </p>
            <p>
              <Soft>SHA-256 of what was signed: {digest}</Soft>
            </p>
          </section>
        ))}
      </Sheet>
    </Page>
  );
}
