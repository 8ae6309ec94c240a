import type { Id } from "../shared";

/** One questionnaire of a standing packet. */
export interface StandingLine {
  readonly id: Id<"Questionnaire">;
  /** Begun with what is on file. */
  readonly prefill: boolean;
}

/** Where one person of a mailing stands. */
export const mailingStates = ["waiting", "sent", "unreachable", "failed", "left-out"] as const;
export type MailingState = (typeof mailingStates)[number];

/**
 * What was chosen, in the order a standing packet has it; what was chosen besides comes after, as the whole list has
 * it.
 */
export function sendingOrder(chosen: readonly string[], standing: readonly string[], all: readonly string[]): string[] {
  return [...new Set([...standing, ...all])].filter((id) => chosen.includes(id));
}
