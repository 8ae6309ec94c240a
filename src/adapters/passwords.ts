import { hash, verify } from "@node-rs/argon2";

export interface Passwords {
  hash(password: string): Promise<string>;
  /** With no stored hash it takes as long and says no, so that a stranger cannot tell which accounts exist. */
  verify(stored: string | undefined, password: string): Promise<boolean>;
}
// Argon2id with 19 MiB, two passes, one lane (OWASP Password Storage Cheat Sheet, from memory).
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
let decoy: Promise<string> | undefined;

export const argonPasswords: Passwords = {
  hash: (password) => hash(password, cost),
  async verify(stored, password) {
    const against = stored ?? (await (decoy ??= hash("nobody has this password", cost)));
    return (await verify(against, password)) && stored !== undefined;
  },
};
