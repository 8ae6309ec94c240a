import { readFileSync, rmSync } from "node:fs";
import { setTimeout as pause } from "node:timers/promises";
import { join } from "node:path";
import { addKey, keyRingFromFile, keepFirstKey } from "../adapters/encryption";
import type { Lock } from "../adapters/backup-file";
import { createClock } from "../adapters/clock";
import { backupName, keptBackups, momentOf } from "../core/backup";
import { askHolder } from "../db/lock";
import { repositories } from "../db/repositories";
import { keysLeft, resealKeys } from "../jobs";
import { openApplication, type Application } from "./application";
import { backUp, BackupError, backupsIn, type Told } from "./backup";
import type { BackupLock, Environment } from "./environment";
import { checkPaperFile, type PaperSaid } from "./paper-check";

export const lockOf = (lock: BackupLock): Lock =>
  "recipient" in lock ? lock : { passphrase: readFileSync(lock.passphraseFile, "utf8").trim() };

/** The day's backup, into the folder that is set for them; those that are no longer kept go. Gives where it is. */
export async function makeDailyBackup(env: Environment, tell: Told = () => undefined): Promise<string> {
  if (!env.backups) throw new BackupError("Say where: KIND_LEDGER_BACKUPS, or a file.");
  const { folder, lock } = env.backups;
  const at = createClock(env.now).now();
  const path = join(folder, backupName(at));
  await backUp(env, path, lockOf(lock), { at, tell });
  const made = backupsIn(folder).flatMap((name) => {
    const moment = momentOf(name);
    return moment ? [{ name, moment }] : [];
  });
  const kept = keptBackups(made.map(({ moment }) => moment));
  for (const { name, moment } of made) if (!kept.has(moment)) rmSync(join(folder, name), { force: true });
  return path;
}

/** Runs on the application: asks it to, where it is running on an embedded database; else opens one for this. */
async function withApplication<T>(env: Environment, work: (app: Application) => Promise<T>): Promise<T> {
  const app = await openApplication(env);
  try {
    return await work(app);
  } finally {
    await app.database.close();
  }
}
const lookEvery = 250;
/**
 * Puts a fresh installation key in front and seals the small keys anew with it, while everybody goes on working. Gives
 * how many.
 */
export async function rotateKeys(env: Environment, tell: Told = () => undefined): Promise<number> {
  if (env.key !== undefined)
    throw new BackupError(
      "The keys come from KIND_LEDGER_KEY: put a new id:base64 pair in front of it there, and start again; the small keys are sealed anew by themselves.",
    );
  addKey(env.keyFile);
  if (env.databaseUrl === undefined) {
    const asked = askHolder(env.dataFolder, "keys").catch((error: unknown) => error as Error);
    let done = false;
    void asked.finally(() => (done = true));
    for (let most = 0; !done; await pause(lookEvery)) {
      const left = Number(await askHolder(env.dataFolder, "keys-left").catch(() => undefined));
      most = Math.max(most, left || 0);
      if (left >= 0) tell("Sealing keys anew", most - left, most);
    }
    const answer = await asked;
    if (answer instanceof Error) throw answer;
    if (answer !== undefined) return Number(answer);
  }
  return withApplication(env, async (app) => {
    await repositories(app.database.db, app.ports.sealer).journal.notify("keys", "");
    return resealKeys(app, (done, all) => tell("Sealing keys anew", done, all));
  });
}
/** Takes out what nothing in the database needs any more. @throws BackupError where something does */
export async function dropOldKeys(env: Environment): Promise<number> {
  if (env.key !== undefined)
    throw new BackupError("The keys come from KIND_LEDGER_KEY: take the older ones out there.");
  const older = (keyRingFromFile(env.keyFile)?.length ?? 1) - 1;
  if (older === 0) return 0;
  const left = env.databaseUrl === undefined ? await askHolder(env.dataFolder, "keys-left") : undefined;
  const many = left === undefined ? await withApplication(env, async (app) => keysLeft(app)) : Number(left);
  if (many > 0)
    throw new BackupError(`${many} keys are still sealed with an older one. Run: npm run kind -- keys rotate`);
  keepFirstKey(env.keyFile);
  return older;
}

/** Looks at a PDF: asks the application that runs on the embedded database, else opens one for this. @param path absolute */
export async function checkPaperAt(env: Environment, path: string): Promise<PaperSaid> {
  if (env.databaseUrl === undefined) {
    const said = await askHolder(env.dataFolder, `check-paper ${path}`);
    if (said !== undefined) return JSON.parse(said) as PaperSaid;
  }
  return withApplication(env, (app) => checkPaperFile(app, path));
}
