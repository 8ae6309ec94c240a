"use client";
import { memo } from "react";
import { changeIn, isScored, judgedBy, measuringOf, pointsText, slopePerWeek, type Course } from "@/core/measures";
import type { Norm, Sourced } from "@/core/questionnaire";
import { Answers, Fold } from "@/ui/kit/ledger";

/** What the words about a change rest on: each number with where it is published. */
export const HowWorkedOut = memo(function HowWorkedOut({ course }: { readonly course: Course }) {
  const last = course.points.filter(isScored).at(-1);
  const rule = last && judgedBy(course, last)?.change;
  if (!rule)
    return (
      <Fold>
        <summary>How a change is judged</summary>
        <p>
          Nothing is held of this score that tells whether a change is more than chance. It can be written down in the
          questionnaire, at the score: which way is better, reliability, norms, cut-point, each with its source.
        </p>
      </Fold>
    );
  const { reliable, cutoff, cutoffs } = measuringOf(rule);
  const found = changeIn(course);
  const lines: (readonly [string, string])[] = [["Better is", rule.better]];
  const sourced = (label: string, said: Sourced | undefined): void => {
    if (said) lines.push([label, `${said.value} (${said.source})`]);
  };
  const norm = (label: string, said: Norm | undefined): void => {
    if (said) lines.push([label, `mean ${said.mean}, standard deviation ${said.sd} (${said.source})`]);
  };
  sourced(
    rule.reliability?.kind === "test-retest" ? "Reliability, test-retest" : "Reliability, alpha",
    rule.reliability,
  );
  norm("People who seek help", rule.clinical);
  norm("People in general", rule.general);
  if (reliable?.computed) {
    const { standardError, differenceError, least } = reliable.computed;
    lines.push([
      "Reliable change (Jacobson and Truax 1991)",
      `more than ${least.toFixed(2)}: 1.96 × ${differenceError.toFixed(2)}, the error of a difference, from ${standardError.toFixed(2)}, the error of one score`,
    ]);
  }
  sourced("Reliable change, as published", rule.reliableChange);
  for (const [key, words] of [
    ["a", "Criterion a: two standard deviations from people who seek help"],
    ["b", "Criterion b: within two standard deviations of people in general"],
    ["c", "Criterion c: nearer to people in general"],
  ] as const)
    if (cutoffs[key] !== undefined)
      lines.push([words, `${cutoffs[key].toFixed(2)}${cutoff?.by === key ? ", used here" : ""}`]);
  sourced("Cut-point, as published", rule.cutPoint);
  sourced("Smallest change that matters", rule.important);
  const weekly = slopePerWeek(course);
  if (weekly !== undefined)
    lines.push(["Slope, by least squares", `${weekly.toFixed(2).replace("-", "−")} points a week`]);
  if (found.known && found.change.index !== undefined)
    lines.push([
      "Index of the change shown",
      `${found.change.index.toFixed(2)} (beyond 1.96 either way is more than chance)`,
    ]);
  return (
    <Fold>
      <summary>
        How a change is judged
        {reliable
          ? `: ${reliable.from === "published" ? "" : "more than "}${pointsText(reliable.least)} is reliable`
          : ""}
        {cutoff ? `, clinical from ${pointsText(cutoff.value)}` : ""}
      </summary>
      <Answers>
        {lines.map(([label, words]) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </Answers>
    </Fold>
  );
});
