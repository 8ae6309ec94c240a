import { prefixOf, type AnswerChange } from "../questionnaire";

/** Why one answer was sent back. */
export interface SentBackLine {
  readonly partId: string;
  readonly key: string;
  readonly reason: string;
}
/** A packet that was sent back: only these answers are open again. */
export interface SentBack {
  readonly at: string;
  readonly by: string;
  readonly lines: readonly SentBackLine[];
}

/**
 * May this be changed while a packet is sent back? Its own answer, and within an open group its rows and what stands in
 * them.
 */
export const isOpenAgain = (sentBack: SentBack, partId: string, change: Pick<AnswerChange, "key">): boolean =>
  sentBack.lines.some(
    (l) => l.partId === partId && (l.key === change.key || prefixOf(change.key).startsWith(`${l.key}:`)),
  );
