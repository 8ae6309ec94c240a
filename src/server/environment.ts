import { resolve } from "node:path";
import { object, string } from "yup";

/** What the environment may say, checked once at start. */
export interface Environment {
  readonly dataFolder: string;
  readonly databaseUrl: string | undefined;
  readonly key: string | undefined;
  readonly keyFile: string;
  readonly now: string | undefined;
  readonly origin: string;
  /** Where mail goes; without it, all of it stays in the Post room. */
  readonly smtpUrl: string | undefined;
  /** The password of everybody in the demo practice; set, the sign-in page offers them. */
  readonly demoPassword: string | undefined;
}
const schema = object({
  KIND_LEDGER_DATA: string().default(".data"),
  KIND_LEDGER_KEY: string().optional(),
  KIND_LEDGER_KEY_FILE: string().optional(),
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
  SMTP_URL: string()
    .optional()
    .matches(/^smtps?:\/\//, "SMTP_URL must begin with smtp:// or smtps://"),
  KIND_LEDGER_DEMO: string().optional(),
  DATABASE_URL: string()
    .optional()
    .matches(/^postgres(ql)?:\/\//, "DATABASE_URL must begin with postgres://"),
});

/** @throws ValidationError naming the variable and what it should look like. */
export function readEnvironment(from: Readonly<Record<string, string | undefined>>): Environment {
  const env = schema.validateSync(Object.fromEntries(Object.entries(from).filter(([, v]) => v !== "")), {
    abortEarly: false,
    stripUnknown: true,
  });
  const dataFolder = resolve(env.KIND_LEDGER_DATA);
  return {
    dataFolder,
    databaseUrl: env.DATABASE_URL,
    key: env.KIND_LEDGER_KEY,
    keyFile: env.KIND_LEDGER_KEY_FILE ?? resolve(dataFolder, "key"),
    smtpUrl: env.SMTP_URL,
    demoPassword: env.KIND_LEDGER_DEMO,
    now: env.KIND_LEDGER_NOW,
    origin: env.KIND_LEDGER_ORIGIN ?? `http://localhost:${env.PORT}`,
  };
}
