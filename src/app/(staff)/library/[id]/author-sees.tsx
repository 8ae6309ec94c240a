"use client";
import styled from "styled-components";
import { textOf, type Answers, type Questionnaire } from "@/core/questionnaire";
import { alertsOf, scoresOf } from "@/core/scoring";
import { Alarm } from "@/ui/kit/ledger";
import { ScoreWords } from "../../returns/score-words";

/**
 * What the practice would read of these answers in Returns: scores with their bands and what is missing, and alerts.
 */
export function AuthorSees({
  questionnaire,
  answers,
}: {
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
}) {
  const scores = scoresOf(questionnaire, answers);
  const alerts = alertsOf(questionnaire, answers);
  if (scores.length + alerts.length === 0) return null;
  return (
    <Box role="region" aria-label="What you would read in Returns">
      <strong>You would read</strong>
      {alerts.map((alert) => (
        <p key={alert.key}>
          <Alarm>{alert.message}:</Alarm> {alert.answer ? `“${textOf(alert.answer)}”` : "left open"}
        </p>
      ))}
      {scores.map((score) => (
        <p key={score.linkId}>
          <ScoreWords score={score} />
        </p>
      ))}
    </Box>
  );
}
const Box = styled.div`
  margin-block: 0.6rem;
  padding: 0.6rem 0.9rem;
  border-inline-start: 3px solid var(--fern);
  background: var(--fern-wash);
  border-radius: var(--corner);
  font-size: var(--small);
`;
