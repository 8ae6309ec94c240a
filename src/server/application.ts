import { closeApart, handOffsApart, pdfFormsApart, picturesApart } from "../adapters/apart";
import { createClock } from "../adapters/clock";
import {
  createKeyWrap,
  createSealer,
  keyRingFromFile,
  makeKeyFile,
  makeSecrets,
  parseKeyRing,
  sha1,
  sha256,
  type KeyRing,
  type KeyWrap,
  type Secrets,
} from "../adapters/encryption";
import { keptHeadsIn } from "../adapters/kept-heads";
import { passkeysFor } from "../adapters/passkeys";
import { argonPasswords } from "../adapters/passwords";
import { byChannel, simulatedPost } from "../adapters/post";
import { systemRandom } from "../adapters/random";
import { smtpPost } from "../adapters/smtp";
import { standInScanner } from "../adapters/scanner";
import { totpFactor } from "../adapters/second-factor";
import type { Database } from "../db/database";
import { openPglite } from "../db/client.pglite";
import { openPostgres } from "../db/client.postgres";
import { installationRepository, isSettledIn, repositories, type Practice } from "../db/repositories";
import type { Instant } from "../core/shared";
import type { Ports } from "../usecases/kit";
import { Directories } from "./directories";
import { readEnvironment, type Environment } from "./environment";
import { keepHead, stopJobs } from "../jobs";

/** What seals the small keys, and what they seal: only this room hands it on. */
export interface Keys {
  readonly wrap: KeyWrap;
  readonly secrets: Secrets;
}
/** The running application: an open database and everything outside. */
export interface Application {
  readonly database: Database;
  readonly ports: Ports;
  readonly keys: Keys;
  readonly directories: Directories;
  /** The installation's practice; undefined before one was set up. */
  practice(): Promise<Practice | undefined>;
  /** Finishes what is under way, keeps the journal's head, and ends what is open. */
  close(): Promise<void>;
}

const warn = (message: string): void => console.warn(`kind-ledger: ${message}`);

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
async function openKeys(env: Environment, database: Database, now: Instant): Promise<Keys> {
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
export async function resealSecrets({ database, keys }: Pick<Application, "database" | "keys">): Promise<void> {
  const installations = installationRepository(database.db);
  const there = await installations.secrets();
  const head = Buffer.from(keys.wrap.current());
  if (there && !Buffer.from(there.subarray(0, head.length)).equals(head))
    await installations.reseal(keys.wrap.seal(secretsPlace, keys.secrets));
}

export function createPorts(env: Environment, keys: Keys): Ports {
  return {
    clock: createClock(env.now),
    random: systemRandom,
    sealer: createSealer(keys.wrap, keys.secrets),
    passwords: argonPasswords,
    secondFactor: totpFactor,
    passkeys: passkeysFor(env.origin),
    post: env.smtpUrl === undefined ? simulatedPost : byChannel({ email: smtpPost(env.smtpUrl), text: simulatedPost }),
    pictures: picturesApart,
    pdf: pdfFormsApart,
    handOffs: handOffsApart,
    keptHeads: keptHeadsIn(env.headsFile),
    scanner: standInScanner,
    sha1,
    sha256,
    origin: env.origin,
    ...(env.demoPassword === undefined ? {} : { demoPassword: env.demoPassword }),
  };
}

export function createApplication(database: Database, ports: Ports, keys: Keys): Application {
  return {
    database,
    ports,
    keys,
    directories: new Directories(),
    // Asked each time: what the office sets holds at once, on every process.
    practice: () => repositories(database.db, ports.sealer).practices.only(),
    async close() {
      await stopJobs(this);
      await keepHead(this);
      closeApart();
      await database.close();
    },
  };
}

export async function openApplication(env: Environment = readEnvironment(process.env)): Promise<Application> {
  const database =
    env.databaseUrl === undefined
      ? await openPglite(env.dataFolder, warn)
      : await openPostgres(env.databaseUrl, warn, env.ownerUrl);
  try {
    const keys = await openKeys(env, database, createClock(env.now).now());
    return createApplication(database, createPorts(env, keys), keys);
  } catch (error) {
    await database.close();
    throw error;
  }
}

// One per process, through hot reloads and whichever bundle asks first: PGlite cannot be opened twice.
const holder = globalThis as { kindLedger?: Promise<Application> };
export const application = (): Promise<Application> => (holder.kindLedger ??= openApplication());
