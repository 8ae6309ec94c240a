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
import { replaceFile } from "../adapters/files-on-disk";
import type { Instant } from "../core/shared";
import type { Database } from "../db/database";
import { hasPracticeIn, installationRepository, isSettledIn } from "../db/repositories";
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
  const own = await installations.secrets();
  // Made anew beside what was sealed with others, they would hide that nothing of it opens.
  if (own === undefined && (await hasPracticeIn(database.db)))
    throw new Error(
      "The installation’s own secrets are gone from this database. Nothing was changed. Restore the newest backup.",
    );
  const there = own ?? (await installations.begin(wrap.seal(secretsPlace, makeSecrets()), now));
  try {
    return { wrap, secrets: wrap.open<Secrets>(secretsPlace, there) };
  } catch {
    throw new KeysError(
      `The keys in ${env.key === undefined ? env.keyFile : "KIND_LEDGER_KEY"} are not the ones this database was sealed with.`,
    );
  }
}
/**
 * Says whether a backup's secrets open with the keys of this installation, or, where it has none, with those that the
 * backup holds. Gives what puts these there.
 * @throws KeysError
 */
export function fitsKeys(env: Environment, secrets: Uint8Array, keys: string | undefined): () => void {
  const given = givenKeys(env);
  if (!given && keys === undefined)
    throw new KeysError(`There are no keys at ${env.keyFile}, and the backup holds none.`);
  try {
    createKeyWrap(given ?? parseKeyRing(keys!)).open(secretsPlace, secrets);
  } catch {
    throw new KeysError("The keys are not the ones that the backup was sealed with.");
  }
  return () => {
    if (!given) replaceFile(env.keyFile, keys!);
  };
}
type Opened = { readonly database: Database; readonly keys: Keys };
export async function secretsAreCurrent({ database, keys }: Opened): Promise<boolean> {
  const there = await installationRepository(database.db).secrets();
  return there === undefined || keys.wrap.isCurrent(there);
}
/** Seals the installation's own secrets with the first key of the ring; does nothing where they are. */
export async function resealSecrets({ database, keys }: Opened): Promise<void> {
  if (!(await secretsAreCurrent({ database, keys })))
    await installationRepository(database.db).reseal(keys.wrap.seal(secretsPlace, keys.secrets));
}
