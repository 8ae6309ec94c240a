import {
  certificatesApart,
  closeApart,
  handOffsApart,
  papersApart,
  pdfFormsApart,
  picturesApart,
} from "../adapters/apart";
import { log } from "./log";
import { createClock } from "../adapters/clock";
import { createSealer, sha1, sha256 } from "../adapters/encryption";
import { keptErasuresIn } from "../adapters/kept-erasures";
import { keptHeadsIn } from "../adapters/kept-heads";
import { passkeysFor } from "../adapters/passkeys";
import { argonPasswords } from "../adapters/passwords";
import { byChannel, simulatedPost } from "../adapters/post";
import { systemRandom } from "../adapters/random";
import { smtpPost } from "../adapters/smtp";
import { watchOver } from "../adapters/watch";
import { standInScanner } from "../adapters/scanner";
import { totpFactor } from "../adapters/second-factor";
import type { Database } from "../db/database";
import { openPglite } from "../db/client.pglite";
import { openPostgres } from "../db/client.postgres";
import { repositories, type Practice } from "../db/repositories";
import type { Ports } from "../usecases/kit";
import { Directories } from "./directories";
import { readEnvironment, type Environment } from "./environment";
import { openKeys, type Keys } from "./keys";
import { keepHead, stopJobs } from "../jobs";

/** The running application: an open database and everything outside. */
export interface Application {
  readonly database: Database;
  readonly ports: Ports;
  readonly keys: Keys;
  /** What was seen last by those who look now and then. */
  readonly state: { fits: boolean; warnings: number };
  readonly directories: Directories;
  /** The installation's practice; undefined before one was set up. */
  practice(): Promise<Practice | undefined>;
  /** Finishes what is under way, keeps the journal's head, and ends what is open. */
  close(): Promise<void>;
}

const warn = (message: string): void => log.warn(message);

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
    papers: papersApart,
    certificates: certificatesApart,
    handOffs: handOffsApart,
    keptHeads: keptHeadsIn(env.headsFile),
    keptErasures: keptErasuresIn(env.erasuresFile),
    watch: watchOver({
      isForReal: env.isForReal,
      dataFolder: env.dataFolder,
      backupFolder: env.backups?.folder,
      keyFile: env.key === undefined ? env.keyFile : undefined,
    }),
    scanner: standInScanner,
    sha1,
    sha256,
    origin: env.origin,
    ...(env.timeStampUrl === undefined ? {} : { timeStampUrl: env.timeStampUrl }),
    ...(env.demoPassword === undefined ? {} : { demoPassword: env.demoPassword }),
  };
}

export function createApplication(database: Database, ports: Ports, keys: Keys): Application {
  return {
    database,
    ports,
    keys,
    state: { fits: true, warnings: 0 },
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
