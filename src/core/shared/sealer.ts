import type { Id } from "./ids";

/**
 * Encrypts what may not lie in the database in clear: what is a client's with that client's own key, what is the
 * practice's with the installation's.
 * `place` names the row and column a value belongs to; a value moved to another place does not open.
 */
export interface Sealer {
  /** @param clientKey whose it is; it must be known by now. Without one, it is the practice's own. */
  seal(place: string, value: unknown, clientKey?: Id<"ClientKey">): Uint8Array;
  /** @throws Error when the bytes were changed, moved, or sealed with a key that is not known, or is destroyed. */
  open<T>(place: string, bytes: Uint8Array): T;
  /** With which client's key something was sealed; undefined for what is the practice's. */
  clientKeyOf(bytes: Uint8Array): Id<"ClientKey"> | undefined;
  readonly clientKeys: ClientKeys;
  /**
   * A keyed digest: the same text gives the same mark, and nobody without the key can try out short codes against it.
   */
  keyedDigest(place: string, text: string): string;
  /** A keyed digest with a key of its own: what it marks was written by somebody who has the key. */
  mark(text: string): string;
}

/** The clients' keys that this process knows. They lie in the database sealed with the installation's. */
export interface ClientKeys {
  has(id: Id<"ClientKey">): boolean;
  /** A fresh key, known from now on; gives it as it is to lie in the database. */
  make(): { readonly id: Id<"ClientKey">; readonly sealed: Uint8Array };
  /** @throws Error when it was sealed with an installation key that is not in the ring. */
  learn(id: Id<"ClientKey">, sealed: Uint8Array): void;
  /** Knows these no longer; without ids, none. */
  forget(ids?: readonly Id<"ClientKey">[]): void;
  /** The same key, sealed with the installation key that is first in the ring; undefined where it is already. */
  resealed(id: Id<"ClientKey">, sealed: Uint8Array): Uint8Array | undefined;
  /** How everything begins that is sealed with the installation key that is first in the ring. */
  current(): Uint8Array;
}
