import { isInstant, type Instant } from "../shared";

/** Where the journal stood, as it can be written down and kept anywhere. */
export interface Anchor {
  readonly seq: number;
  /** Of that row, hex. */
  readonly hash: string;
  readonly at: Instant;
}
/** One line, to be kept in a letter or on paper. */
export const anchorText = ({ seq, hash, at }: Anchor): string => `journal ${seq} ${hash} ${at}`;
/** Reads such a line, wherever it stands in what was pasted; undefined where there is none. */
export function readAnchor(text: string): Anchor | undefined {
  const found = /journal (\d{1,15}) ([\da-f]{64}) (\S+)/.exec(text.replace(/\s+/g, " "));
  if (!found || !isInstant(found[3]!)) return undefined;
  return { seq: Number(found[1]), hash: found[2]!, at: found[3] };
}
