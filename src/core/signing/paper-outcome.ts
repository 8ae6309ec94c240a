/** What of a seal matters for what is said of a paper. */
export interface SealOutcome {
  /** Nothing of what it covers was changed. */
  readonly intact: boolean;
  /** This practice's certificate made it. */
  readonly ours: boolean;
  /** What it covers is a paper of ours, byte by byte. */
  readonly known: boolean;
  /** It covers the file to its end. */
  readonly toEnd: boolean;
}
/** In one word, what became of a paper that somebody brings. */
export type PaperOutcome = "unchanged" | "newer" | "added" | "changed" | "not-kept" | "not-ours" | "no-seal";
export const paperOutcomeWords: Readonly<Record<PaperOutcome, string>> = {
  unchanged: "This is our paper, and nothing in it was changed.",
  newer: "This is our paper, unchanged, and there is a newer one.",
  added: "Something was put behind what was sealed: what this paper shows may not be what was signed.",
  changed: "This paper was changed after it was sealed.",
  "not-kept": "The seal is ours and intact, but this paper is not among those kept here.",
  "not-ours": "The seal is intact, and it is not ours.",
  "no-seal": "There is no seal on this paper. It proves nothing by itself.",
};
/**
 * A paper is ours and unchanged only where a revision kept here is the whole file: behind a seal that holds, anybody can
 * put pages of their own, and a seal of their own over both (ISO 32000-1, 7.5.6). @param newer another one came after it
 */
export function paperOutcome(seals: readonly SealOutcome[], newer: boolean): PaperOutcome {
  if (seals.length === 0) return "no-seal";
  if (seals.some((seal) => seal.known && seal.toEnd)) return newer ? "newer" : "unchanged";
  if (seals.some((seal) => !seal.intact)) return "changed";
  if (seals.some((seal) => seal.known) || !seals.some((seal) => seal.toEnd)) return "added";
  return seals.some((seal) => seal.ours) ? "not-kept" : "not-ours";
}
