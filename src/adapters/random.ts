import { randomBytes, randomInt, randomUUID } from "node:crypto";
import type { Id } from "../core/shared";

export interface Random {
  id<Name extends string>(): Id<Name>;
  /** 256 bits, URL-safe. */
  token(): string;
  /** Six digits, each of the million equally likely. */
  code(): string;
}
export const systemRandom: Random = {
  id: <Name extends string>() => randomUUID() as string as Id<Name>,
  token: () => randomBytes(32).toString("base64url"),
  code: () => String(randomInt(1_000_000)).padStart(6, "0"),
};
