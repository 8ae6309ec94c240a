"use client";
import styled from "styled-components";
import { missingWords, type Score } from "@/core/scoring";
import { Soft } from "@/ui/kit/page";

/** A score with what it is out of and what it means; where it cannot be given, what is missing. */
export function ScoreWords({ score }: { readonly score: Score }) {
  const missing = missingWords(score);
  if (score.value === undefined)
    return (
      <span>
        {score.title} <strong>not given</strong> <Soft>({missing})</Soft>
      </span>
    );
  return (
    <span>
      {score.title} <strong className="figures">{score.value}</strong> <Soft>of {score.range[1]}</Soft>
      {score.band ? (
        <>
          , <strong>{score.band.label}</strong>
        </>
      ) : null}
      {missing === "" ? null : (
        <>
          {" "}
          <Missing>({missing})</Missing>
        </>
      )}
    </span>
  );
}
const Missing = styled.em`
  font-style: normal;
  color: var(--clay);
`;
