"use client";
import styled from "styled-components";
import { MarginRow, SectionTitle, Soft } from "@/ui/kit/page";
import type { QuestionnaireView } from "@/usecases/authoring";

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

/** Every line with what decides about it and where its answer goes, then what its scores mean. */
export function QuestionnaireContents({ view }: { readonly view: QuestionnaireView }) {
  return (
    <>
      <SectionTitle>Contents</SectionTitle>
      <Lines>
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
              {line.required ? <Soft> (required)</Soft> : null}{" "}
              <Kind>{[typeWords[line.type] ?? line.type, ...line.marks].join(" · ")}</Kind>
            </Item>
          </MarginRow>
        ))}
      </Lines>
      {view.scores.map((score) => (
        <section key={score.title}>
          <SectionTitle>{score.title}</SectionTitle>
          {score.bands.map((band) => (
            <MarginRow
              key={band.low}
              margin={
                <span className="figures">
                  {band.low} to {band.high}
                </span>
              }
            >
              {band.label}
            </MarginRow>
          ))}
          {score.bands[0] && <MarginRow margin="Source">{score.bands[0].source}</MarginRow>}
        </section>
      ))}
    </>
  );
}
const Lines = styled.div`
  --row: 0.2rem;
`;
const Goes = styled.div`
  color: var(--fern);
`;
const Item = styled.div<{ $depth: number; $section: boolean }>`
  padding-inline-start: ${({ $depth }) => $depth * 1.1}rem;
  ${({ $section }) => ($section ? "font-weight: 600;" : "")}
`;
const Kind = styled.span`
  font-weight: 400;
  font-size: var(--small);
  color: var(--soft);
`;
