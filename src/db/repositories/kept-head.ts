import type { KeptHead } from "../../core/audit";
import { canonicalText } from "../../core/signing";
import type { Sealer } from "../../core/shared";

/** What the first row follows on. */
export const firstHash = "0".repeat(64);

const textOf = ({ practiceId, seq, hash, at }: Omit<KeptHead, "mark">): string =>
  canonicalText({ practiceId, seq, hash, at });
export const markedHead = (sealer: Sealer, head: Omit<KeptHead, "mark">): KeptHead => ({
  ...head,
  mark: sealer.mark(textOf(head)),
});
/** Whether somebody with the key wrote it. */
export const isMarked = (sealer: Sealer, head: KeptHead): boolean => sealer.mark(textOf(head)) === head.mark;
