/**
 * Encrypts what may not lie in the database in clear.
 * `place` names the row and column a value belongs to; a value moved to another place does not open.
 */
export interface Sealer {
  seal(place: string, value: unknown): Uint8Array;
  /** @throws Error when the bytes were changed, moved, or sealed with a key that is not in the ring. */
  open<T>(place: string, bytes: Uint8Array): T;
  /**
   * A keyed digest: the same text gives the same mark, and nobody without the key can try out short codes against it.
   */
  keyedDigest(place: string, text: string): string;
  /** A keyed digest with a key of its own: what it marks was written by somebody who has the key. */
  mark(text: string): string;
}
