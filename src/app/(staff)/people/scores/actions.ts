"use server";
import { useCases } from "@/server";
import type { CheckedScores } from "@/usecases/measures";
import { runAsStaff } from "../../../_server/run";

export interface ScoresAsked {
  readonly requestId: string;
  readonly questionnaireId: string;
  readonly linkId: string;
  readonly text: string;
  readonly monthFirst: boolean;
  readonly dry: boolean;
}
const unreadable: Readonly<Record<string, string>> = {
  empty: "There is no line below the headings.",
  "no-person":
    "No column says whose scores they are: give it the heading “E-mail” or “Name”, and “Birth date” beside it.",
  "no-date": "No column says when they answered: give it the heading “Date”.",
  "no-value": "No column holds the score: give it the heading “Score”.",
  "too-long": "These are more than 5000 lines: bring them in several files.",
};
/** What can be brought of a file, or what was; or why nothing was looked at. */
export async function bringScoresAction(asked: ScoresAsked): Promise<CheckedScores | string> {
  const result = await runAsStaff(useCases.bringScores, asked);
  if (result.ok) return result.value;
  const { error } = result;
  if (error.reason === "unreadable") return `${unreadable[error.why] ?? ""} Nothing was brought.`;
  if (error.reason === "invalid") return `${Object.values(error.fields)[0] ?? ""} Nothing was brought.`;
  return "That did not work. Nothing was brought.";
}
