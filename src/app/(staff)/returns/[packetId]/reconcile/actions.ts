"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { Decision } from "@/core/chart";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

export interface PostOutcome {
  readonly message?: string;
  /** Lines the problem is about. */
  readonly lines?: readonly string[];
  readonly moved?: boolean;
}
const words = {
  undecided: "Some lines still need your decision. Nothing was posted.",
  "empty-edit": "A line is set to be edited, but is empty. Nothing was posted.",
  "choice-not-offered": "A line no longer offers that choice. Nothing was posted.",
  "unknown-line": "A line is gone. Load the page again. Nothing was posted.",
  "already-posted": "This packet was posted already, perhaps by a colleague. Nothing was posted again.",
  "chart-moved":
    "The chart changed while you were deciding. Nothing was posted; your decisions are kept below. Look at the lines again, then post.",
} as const;

export async function postAction(input: {
  packetId: string;
  requestId: string;
  revision: number;
  decisions: readonly Decision[];
  redirects: Readonly<Record<string, string>>;
}): Promise<PostOutcome> {
  const result = await runAsStaff(useCases.postToChart, input);
  if (result.ok) {
    const { clientId, postingId, next } = result.value;
    redirect(next ? `/returns/${next}/reconcile` : `/people/${clientId}?posted=${postingId}`);
  }
  const { error } = result;
  return {
    message: formFailure(error, words).message ?? "",
    ...("lines" in error ? { lines: error.lines } : {}),
    ...(error.reason === "chart-moved" || error.reason === "already-posted" ? { moved: true } : {}),
  };
}

/** Keeps what was decided so far; false where it could not be. */
export async function keepDecisionsAction(input: {
  packetId: string;
  decisions: readonly Decision[];
  redirects: Readonly<Record<string, string>>;
}): Promise<boolean> {
  return (await runAsStaff(useCases.keepDecisions, input)).ok;
}
