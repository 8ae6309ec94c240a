import { changeNumbers, type ChangeRule, type Item } from "../questionnaire";
import type { ScoreRange } from "./score-range";
import { short } from "./short";

export type ChangeFinding = "change-unsourced" | "change-unjudged" | "change-outside";
type Add = (level: "error" | "warning", code: ChangeFinding, message: string, item?: Item) => void;
const words: Readonly<Record<(typeof changeNumbers)[number] | "reliability" | "clinical" | "general", string>> = {
  reliability: "the reliability",
  clinical: "the numbers of people who seek help",
  general: "the numbers of people in general",
  cutPoint: "the cut-point",
  reliableChange: "the reliable change",
  important: "the smallest change that matters",
};

/** What is said of a change that cannot be looked up, tells nothing, or cannot be. */
export function checkChange(scored: Item, rule: ChangeRule, range: ScoreRange | undefined, add: Add): void {
  const { reliability, clinical, general, cutPoint, reliableChange } = rule;
  const said = (["reliability", "clinical", "general", ...changeNumbers] as const).filter((name) => rule[name]);
  const unsourced = said.filter((name) => rule[name]!.source.trim() === "");
  if (unsourced.length > 0)
    add(
      "warning",
      "change-unsourced",
      `${short(scored.text)}: nobody can look up ${unsourced.map((name) => words[name]).join(", ")}, as no source is named.`,
      scored,
    );
  // Half of what it takes: whoever says nothing of it knows that.
  if (!reliableChange && (reliability !== undefined) !== ((clinical ?? general) !== undefined))
    add(
      "warning",
      "change-unjudged",
      `${short(scored.text)}: when a change is more than chance is not known. It takes a published reliable change, or a reliability and how a group of people scored.`,
      scored,
    );
  if (!range) return;
  const placed: readonly (readonly [string, number | undefined])[] = [
    [words.cutPoint, cutPoint?.value],
    ["the mean of people who seek help", clinical?.mean],
    ["the mean of people in general", general?.mean],
  ];
  for (const [what, value] of placed)
    if (value !== undefined && (value < range.low || value > range.high))
      add(
        "warning",
        "change-outside",
        `${short(scored.text)}: ${what} is ${value}, but the score can be ${Number(range.low.toFixed(2))} to ${Number(range.high.toFixed(2))}.`,
        scored,
      );
}
