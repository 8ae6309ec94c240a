import { readFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { journalFaultWords } from "../src/core/audit";
import { createClock } from "../src/adapters/clock";
import { makeBackupIdentity, type Unlock } from "../src/adapters/backup-file";
import { eraseAgain, openApplication, readEnvironment, walkJournal, type Environment } from "../src/server";
import { backUp, backupsIn, drill, restore, type Told } from "../src/server/backup";
import { checkPaperAt, dropOldKeys, lockOf, makeDailyBackup, rotateKeys } from "../src/server/maintenance";

const help = `There is, after npm run kind --:
  journal check                   walks the whole journal and says whether it holds
  check FILE.pdf                  says whose a signed paper is, whether it was changed, who signed, and what of it stands
  backup [FILE]                   writes an encrypted backup while everything goes on; without FILE, the day's
  restore FILE                    puts a backup into an empty installation
  drill [FILE]                    restores the newest backup, or FILE, aside, and compares
  backup-key                      makes a key pair for backups
  keys rotate                     puts a fresh installation key in front, and seals the small keys anew with it
  keys drop                       takes the older installation keys out, once nothing needs them
For whom a backup is, or what opens it:
  --to age1…  --identity FILE  --passphrase-file FILE   (or KIND_LEDGER_BACKUP_RECIPIENT, KIND_LEDGER_BACKUP_PASSPHRASE_FILE)
  --with-keys                     the installation's keys go into the backup, encrypted with it`;

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    to: { type: "string" },
    identity: { type: "string" },
    "passphrase-file": { type: "string" },
    "with-keys": { type: "boolean", default: false },
  },
});
/** A line that is written over, for who looks on; for a log, nothing. */
const tell: Told = (what, done, all) => {
  if (process.stderr.isTTY) process.stderr.write(`\r\x1b[K${what}: ${done} of ${all}`);
};
const say = (line: string): void => {
  if (process.stderr.isTTY) process.stderr.write("\r\x1b[K");
  console.log(line);
};
const passphraseIn = (path: string): string => readFileSync(path, "utf8").trim();

function unlockFrom(env: Environment): Unlock {
  if (values.identity !== undefined) {
    const line = readFileSync(values.identity, "utf8")
      .split("\n")
      .find((one) => one.startsWith("AGE-SECRET-KEY-"));
    if (line === undefined) throw new Error(`${values.identity} holds no identity.`);
    return { identity: line.trim() };
  }
  const file =
    values["passphrase-file"] ??
    (env.backups && "passphraseFile" in env.backups.lock ? env.backups.lock.passphraseFile : undefined);
  if (file !== undefined) return { passphrase: passphraseIn(file) };
  throw new Error("Say what opens the backup: --identity FILE or --passphrase-file FILE.");
}
function lockFrom(env: Environment) {
  if (values.to !== undefined) return { recipient: values.to };
  if (values["passphrase-file"] !== undefined) return { passphrase: passphraseIn(values["passphrase-file"]) };
  if (env.backups) return lockOf(env.backups.lock);
  throw new Error("Say for whom the backup is encrypted: --to age1… or --passphrase-file FILE.");
}
function newestOf(env: Environment): string {
  const newest = env.backups && backupsIn(env.backups.folder).at(-1);
  if (newest === undefined) throw new Error("There is no backup in KIND_LEDGER_BACKUPS; name a file.");
  return join(env.backups!.folder, newest);
}
const size = (tables: readonly { readonly rows: number }[]): string =>
  `${tables.length} tables, ${tables.reduce((sum, { rows }) => sum + rows, 0)} rows`;

async function checkJournal(env: Environment): Promise<number> {
  const app = await openApplication(env);
  const { rows, broken } = await walkJournal(app, (seq, head) => tell("Row", seq, head));
  const practice = await app.practice();
  const kept = app.ports.keptHeads.all().findLast((head) => head.practiceId === practice?.id);
  await app.database.close();
  if (broken) {
    console.error(`Broken at row ${broken.seq}: ${journalFaultWords[broken.fault]}.`);
    return 1;
  }
  const outside = kept
    ? `Kept outside the database last: row ${kept.seq}, ${kept.at}.`
    : "Nothing is kept outside the database yet.";
  say(`Unbroken: ${rows} rows. ${outside}`);
  return 0;
}
async function makeBackup(env: Environment, file: string | undefined): Promise<number> {
  const withKeys = values["with-keys"] ? { withKeys: env.key ?? readFileSync(env.keyFile, "utf8") } : {};
  if (file === undefined) {
    const path = await makeDailyBackup(env, tell);
    say(`Backed up to ${path}, and read back.`);
    return 0;
  }
  const { tables } = await backUp(env, file, lockFrom(env), {
    at: createClock(env.now).now(),
    tell,
    ...withKeys,
  });
  say(`Backed up to ${file}, and read back: ${size(tables)}.`);
  return 0;
}
const commands: Readonly<Record<string, (env: Environment, file: string | undefined) => Promise<number>>> = {
  "journal check": checkJournal,
  async check(env, file) {
    if (file === undefined) throw new Error("Say which file.");
    const { good, lines } = await checkPaperAt(env, resolve(file));
    for (const line of lines) say(line);
    return good ? 0 : 1;
  },
  backup: makeBackup,
  async restore(env, file) {
    if (file === undefined) throw new Error("Say which file.");
    const { tables, head } = await restore(env, file, unlockFrom(env), tell);
    const app = await openApplication(env);
    const again = await eraseAgain(app);
    await app.database.close();
    say(`Restored as it was on ${head.at}: ${size(tables)}.`);
    if (again > 0)
      say(
        `${again === 1 ? "One client" : `${again} clients`} had been erased since, and ${again === 1 ? "was" : "were"} again.`,
      );
    return 0;
  },
  async drill(env, given) {
    const file = given ?? newestOf(env);
    const { tables, head } = await drill(env, file, unlockFrom(env), tell);
    say(`${file} restores: as of ${head.at}, ${size(tables)}, each as it was.`);
    return 0;
  },
  async "backup-key"() {
    const { identity, recipient } = await makeBackupIdentity();
    console.error("Keep the next line where backups do not lie; it opens them:");
    console.log(identity);
    console.error(`For KIND_LEDGER_BACKUP_RECIPIENT, on the server:\n${recipient}`);
    return 0;
  },
  async "keys rotate"(env) {
    const many = await rotateKeys(env, tell);
    say(
      `New key in front of ${env.keyFile}; ${many} small keys were sealed anew with it. Backups made before still need the older ones: keep a copy, then npm run kind -- keys drop.`,
    );
    return 0;
  },
  async "keys drop"(env) {
    const many = await dropOldKeys(env);
    say(many === 0 ? "There is no older key." : `Took ${many === 1 ? "an older key" : `${many} older keys`} out.`);
    return 0;
  },
};
const [first, second, third] = positionals;
const name = [`${first} ${second}`, `${first}`].find((one) => one in commands);
if (name === undefined) {
  console.error(help);
  process.exit(2);
}
try {
  process.exit(await commands[name]!(readEnvironment(process.env), name.includes(" ") ? third : second));
} catch (error) {
  if (process.stderr.isTTY) process.stderr.write("\r\x1b[K");
  console.error(`kind-ledger: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
}
