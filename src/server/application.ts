import { handOffsApart, pdfFormsApart, picturesApart } from "../adapters/apart";
import { createClock } from "../adapters/clock";
import { createSealer, keyRingFromFile, parseKeyRing, sha1, sha256 } from "../adapters/encryption";
import { argonPasswords } from "../adapters/passwords";
import { byChannel, simulatedPost } from "../adapters/post";
import { systemRandom } from "../adapters/random";
import { smtpPost } from "../adapters/smtp";
import { standInScanner } from "../adapters/scanner";
import { totpFactor } from "../adapters/second-factor";
import type { Database } from "../db/database";
import { openPglite } from "../db/client.pglite";
import { openPostgres } from "../db/client.postgres";
import { repositories, type Practice } from "../db/repositories";
import type { Ports } from "../usecases/kit";
import { readEnvironment, type Environment } from "./environment";

/** The running application: an open database and everything outside. */
export interface Application {
  readonly database: Database;
  readonly ports: Ports;
  /** The installation's practice; undefined before one was set up. */
  practice(): Promise<Practice | undefined>;
}

const warn = (message: string): void => console.warn(`kind-ledger: ${message}`);

export function createPorts(env: Environment): Ports {
  const ring = env.key === undefined ? keyRingFromFile(env.keyFile) : parseKeyRing(env.key);
  return {
    clock: createClock(env.now),
    random: systemRandom,
    sealer: createSealer(ring),
    passwords: argonPasswords,
    secondFactor: totpFactor,
    post: env.smtpUrl === undefined ? simulatedPost : byChannel({ email: smtpPost(env.smtpUrl), text: simulatedPost }),
    pictures: picturesApart,
    pdf: pdfFormsApart,
    handOffs: handOffsApart,
    scanner: standInScanner,
    sha1,
    sha256,
    origin: env.origin,
    ...(env.demoPassword === undefined ? {} : { demoPassword: env.demoPassword }),
  };
}

export function createApplication(database: Database, ports: Ports): Application {
  return {
    database,
    ports,
    // Asked each time: what the office sets holds at once, on every process.
    practice: () => repositories(database.db, ports.sealer).practices.only(),
  };
}

export async function openApplication(env: Environment = readEnvironment(process.env)): Promise<Application> {
  const ports = createPorts(env);
  const database =
    env.databaseUrl === undefined ? await openPglite(env.dataFolder, warn) : await openPostgres(env.databaseUrl, warn);
  return createApplication(database, ports);
}

// One per process, through hot reloads and whichever bundle asks first: PGlite cannot be opened twice.
const holder = globalThis as { kindLedger?: Promise<Application> };
export const application = (): Promise<Application> => (holder.kindLedger ??= openApplication());
