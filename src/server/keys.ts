import {
  createKeyWrap,
  keyRingFromFile,
  makeKeyFile,
  makeSecrets,
  parseKeyRing,
  type KeyRing,
  type KeyWrap,
  type Secrets,
} from "../adapters/encryption";
import type { Instant } from "../core/shared";
import type { Database } from "../db/database";
import { installationRepository, isSettledIn } from "../db/repositories";
import type { Environment } from "./environment";

/** What seals the small keys, and what they seal: only this room hands it on. */
export interface Keys {
  readonly wrap: KeyWrap;
  readonly secrets: Secrets;
}
/** The keys are not those that the database was sealed with, or are not there at all. Nothing was changed. */
export class KeysError extends Error {
  constructor(what: string) {
    super(
      `${what} Nothing was changed. Put back the keys this database was made with, from where you keep them apart from its backups; without them nothing in it can be opened.`,
    );
    this.name = "KeysError";
  }
}
const givenKeys = (env: Environment): KeyRing | undefined =>
  env.key === undefined ? keyRingFromFile(env.keyFile) : parseKeyRing(env.key);
/** Where the installation's own secrets lie. */
const secretsPlace = "installation:secrets";
/** Opens what the database was sealed with. Only an empty installation gets a fresh key. @throws KeysError */
export async function openKeys(env: Environment, database: Database, now: Instant): Promise<Keys> {
  const given = givenKeys(env);
  if (!given && (await isSettledIn(database.db))) throw new KeysError(`There is no key file at ${env.keyFile}.`);
  const wrap = createKeyWrap(given ?? makeKeyFile(env.keyFile), () => givenKeys(env));
  const installations = installationRepository(database.db);
  const there =
    (await installations.secrets()) ?? (await installations.begin(wrap.seal(secretsPlace, makeSecrets()), now));
  try {
    return { wrap, secrets: wrap.open<Secrets>(secretsPlace, there) };
  } catch {
    throw new KeysError(
      `The keys in ${env.key === undefined ? env.keyFile : "KIND_LEDGER_KEY"} are not the ones this database was sealed with.`,
    );
  }
}
/** Seals the installation's own secrets with the first key of the ring; does nothing where they are. */
export async function resealSecrets({
  database,
  keys,
}: {
  readonly database: Database;
  readonly keys: Keys;
}): Promise<void> {
  const installations = installationRepository(database.db);
  const there = await installations.secrets();
  const head = Buffer.from(keys.wrap.current());
  if (there && !Buffer.from(there.subarray(0, head.length)).equals(head))
    await installations.reseal(keys.wrap.seal(secretsPlace, keys.secrets));
}
