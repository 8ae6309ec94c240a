// `npm run integration -- [names of files]`: on both databases where PostgreSQL is at hand, else on the embedded one.
import { spawnSync } from "node:child_process";
import { hasPostgres, startPostgres } from "./postgres.mjs";

const postgres = hasPostgres() ? await startPostgres() : undefined;
const env = { ...process.env, ...(postgres ? { KIND_LEDGER_TEST_POSTGRES: postgres.url } : {}) };
const { status } = spawnSync(
  "node_modules/.bin/vitest",
  ["run", "--project", "integration", ...process.argv.slice(2)],
  {
    env,
    stdio: "inherit",
  },
);
postgres?.stop();
process.exit(status ?? 1);
