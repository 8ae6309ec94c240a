"use client";
import type { Score } from "@/core/scoring";
import { Soft } from "@/ui/kit/page";

/** A score with what it is out of and what it means; where it cannot be given, what is missing. */
export function ScoreWords({ score }: { readonly score: Score }) {
  if (score.value === undefined)
    return (
      <span>
        {score.title} <strong>not given</strong>{" "}
        <Soft>
          ({score.answered} of {score.items} items answered)
        </Soft>
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
    </span>
  );
}
