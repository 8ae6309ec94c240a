import { existsSync } from "node:fs";
import { homedir } from "node:os";
import { join, resolve } from "node:path";
import { object, string } from "yup";

/** What the environment may say, checked once at start. */
export interface Environment {
  /** Neither the demo, nor a trial, nor while developing. */
  readonly isForReal: boolean;
  readonly dataFolder: string;
  readonly databaseUrl: string | undefined;
  /** Of the role that owns the tables; without it, `databaseUrl`'s does. */
  readonly ownerUrl: string | undefined;
  readonly key: string | undefined;
  readonly keyFile: string;
  /** Where the journal's head is kept, outside the database. */
  readonly headsFile: string;
  /** Where it is kept who was erased, so that no backup brings them back. */
  readonly erasuresFile: string;
  readonly now: string | undefined;
  readonly origin: string;
  /** Where backups are made each day, and for whom they are encrypted; none without. */
  readonly backups: { readonly folder: string; readonly lock: BackupLock } | undefined;
  /** Whoever bears it may read the metrics; nobody without. */
  readonly metricsToken: string | undefined;
  /** Where mail goes; without it, all of it stays in the Post room. */
  readonly smtpUrl: string | undefined;
  readonly timeStampUrl: string | undefined;
  /** The password of everybody in the demo practice; set, the sign-in page offers them. */
  readonly demoPassword: string | undefined;
}
/** Whose backups are: of a recipient (age1…), or of whoever knows what stands in a file. */
export type BackupLock = { readonly recipient: string } | { readonly passphraseFile: string };
const schema = object({
  KIND_LEDGER_DATA: string().default(".data"),
  KIND_LEDGER_KEY: string().optional(),
  KIND_LEDGER_KEY_FILE: string().optional(),
  KIND_LEDGER_HEADS_FILE: string().optional(),
  KIND_LEDGER_ERASURES_FILE: string().optional(),
  NODE_ENV: string().optional(),
  KIND_LEDGER_NOW: string()
    .optional()
    .test(
      "moment",
      "KIND_LEDGER_NOW must be a moment such as 2026-11-25T08:30:00Z.",
      (v) => v === undefined || !Number.isNaN(Date.parse(v)),
    ),
  KIND_LEDGER_ORIGIN: string()
    .optional()
    .matches(
      /^https?:\/\/[^/\s]+$/,
      "KIND_LEDGER_ORIGIN must be like https://rooms.example, without a slash at the end.",
    ),
  PORT: string()
    .default("3000")
    .matches(/^\d{1,5}$/, "PORT must be a number."),
  KIND_LEDGER_BACKUPS: string().optional(),
  KIND_LEDGER_BACKUP_RECIPIENT: string()
    .optional()
    .matches(/^age1[a-z0-9]+$/, "KIND_LEDGER_BACKUP_RECIPIENT must look like age1…; see `npm run kind -- backup-key`."),
  KIND_LEDGER_BACKUP_PASSPHRASE_FILE: string().optional(),
  KIND_LEDGER_METRICS_TOKEN: string().optional().min(16, "KIND_LEDGER_METRICS_TOKEN must have at least 16 letters."),
  SMTP_URL: string()
    .optional()
    .matches(/^smtps?:\/\//, "SMTP_URL must begin with smtp:// or smtps://"),
  TIME_STAMP_URL: string()
    .optional()
    .matches(/^https?:\/\//, "TIME_STAMP_URL must begin with https:// or http://"),
  KIND_LEDGER_DEMO: string().optional(),
  KIND_LEDGER_TRIAL: string().optional(),
  DATABASE_URL: string()
    .optional()
    .matches(/^postgres(ql)?:\/\//, "DATABASE_URL must begin with postgres://"),
  DATABASE_OWNER_URL: string()
    .optional()
    .matches(/^postgres(ql)?:\/\//, "DATABASE_OWNER_URL must begin with postgres://"),
});

const isOpenToOthers = (origin: string | undefined): boolean =>
  origin !== undefined && /^http:\/\/(?!localhost(?:[:/]|$)|127\.0\.0\.1(?:[:/]|$)|\[::1\])/.test(origin);

/**
 * Beside the data for the demo and while developing; for real it lies apart, so that no copy of the folder holds both.
 * One that is there already stays where it is.
 */
function keyFileFor(dataFolder: string, forReal: boolean): string {
  const beside = join(dataFolder, "key");
  const home = process.env["XDG_CONFIG_HOME"] ?? join(homedir(), ".config");
  const apart = join(home, "kind-ledger", `${dataFolder.replace(/[^\w-]+/g, "_").replace(/^_/, "")}.key`);
  if (existsSync(beside)) return beside;
  return forReal || existsSync(apart) ? apart : beside;
}

function backupsFrom(env: {
  readonly KIND_LEDGER_BACKUPS?: string | undefined;
  readonly KIND_LEDGER_BACKUP_RECIPIENT?: string | undefined;
  readonly KIND_LEDGER_BACKUP_PASSPHRASE_FILE?: string | undefined;
}): Environment["backups"] {
  if (env.KIND_LEDGER_BACKUPS === undefined) return undefined;
  const folder = resolve(env.KIND_LEDGER_BACKUPS);
  if (env.KIND_LEDGER_BACKUP_RECIPIENT !== undefined)
    return { folder, lock: { recipient: env.KIND_LEDGER_BACKUP_RECIPIENT } };
  if (env.KIND_LEDGER_BACKUP_PASSPHRASE_FILE !== undefined)
    return { folder, lock: { passphraseFile: env.KIND_LEDGER_BACKUP_PASSPHRASE_FILE } };
  throw new Error(
    "KIND_LEDGER_BACKUPS needs for whom they are encrypted: KIND_LEDGER_BACKUP_RECIPIENT or KIND_LEDGER_BACKUP_PASSPHRASE_FILE.",
  );
}
/** @throws ValidationError naming the variable and what it should look like. */
export function readEnvironment(from: Readonly<Record<string, string | undefined>>): Environment {
  const env = schema.validateSync(Object.fromEntries(Object.entries(from).filter(([, v]) => v !== "")), {
    abortEarly: false,
    stripUnknown: true,
  });
  const dataFolder = resolve(env.KIND_LEDGER_DATA);
  const forReal = env.NODE_ENV === "production" && !env.KIND_LEDGER_DEMO && !env.KIND_LEDGER_TRIAL;
  if (forReal && env.KIND_LEDGER_NOW !== undefined)
    throw new Error(
      "KIND_LEDGER_NOW stops the clock, so that no link, code or session would ever end. Take it out; for a trial run set KIND_LEDGER_TRIAL=yes.",
    );
  if (forReal && isOpenToOthers(env.KIND_LEDGER_ORIGIN))
    throw new Error(
      "KIND_LEDGER_ORIGIN is http: whoever is on the line could read answers and sign-ins. Put TLS in front and give its https address; for a trial run set KIND_LEDGER_TRIAL=yes.",
    );
  return {
    isForReal: forReal,
    dataFolder,
    databaseUrl: env.DATABASE_URL,
    ownerUrl: env.DATABASE_OWNER_URL,
    key: env.KIND_LEDGER_KEY,
    keyFile: env.KIND_LEDGER_KEY_FILE ?? keyFileFor(dataFolder, forReal),
    headsFile: env.KIND_LEDGER_HEADS_FILE ?? resolve(dataFolder, "journal-heads"),
    backups: backupsFrom(env),
    metricsToken: env.KIND_LEDGER_METRICS_TOKEN,
    erasuresFile: env.KIND_LEDGER_ERASURES_FILE ?? resolve(dataFolder, "erased-clients"),
    smtpUrl: env.SMTP_URL,
    timeStampUrl: env.TIME_STAMP_URL,
    demoPassword: env.KIND_LEDGER_DEMO,
    now: env.KIND_LEDGER_NOW,
    origin: env.KIND_LEDGER_ORIGIN ?? `http://localhost:${env.PORT}`,
  };
}
