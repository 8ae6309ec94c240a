import { hash, verify } from "@node-rs/argon2";
import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import { adjacencyGraphs, dictionary } from "@zxcvbn-ts/language-common";

export interface Passwords {
  hash(password: string): Promise<string>;
  /** With no stored hash it takes as long and says no, so that a stranger cannot tell which accounts exist. */
  /**
   * Whether it would be guessed early: a well-known password, a row of keys, or hardly more than `about`, words around
   * the person it is for.
   */
  isCommon(password: string, about: readonly string[]): boolean;
  verify(stored: string | undefined, password: string): Promise<boolean>;
}
// Argon2id with 19 MiB, two passes, one lane (OWASP Password Storage Cheat Sheet, from memory).
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Powers of ten: what somebody with a list gets through in days against this cost. Our choice. */
const fewGuesses = 9;
/** Letters and digits there must be besides the words around the person. */
const leastOfOwn = 6;
let known: ZxcvbnFactory | undefined;
const guesser = (): ZxcvbnFactory => (known ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs }));
const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 2);
let decoy: Promise<string> | undefined;

export const argonPasswords: Passwords = {
  hash: (password) => hash(password, cost),
  isCommon(password, about) {
    const words = about.flatMap(wordsOf);
    const rest = words.reduce((left, word) => left.replaceAll(word, ""), password.toLowerCase());
    return (
      rest.replace(/[^\p{L}\p{N}]/gu, "").length < leastOfOwn ||
      guesser().check(password, words).guessesLog10 < fewGuesses
    );
  },
  async verify(stored, password) {
    const against = stored ?? (await (decoy ??= hash("nobody has this password", cost)));
    return (await verify(against, password)) && stored !== undefined;
  },
};
