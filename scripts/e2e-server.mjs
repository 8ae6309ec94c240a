// A production server over a fresh demo practice, for the end-to-end tests and the screenshots.
import { spawnSync } from "node:child_process";
import { cpSync, rmSync } from "node:fs";

rmSync(process.env.KIND_LEDGER_DATA, { recursive: true, force: true });
// `npm test` makes one such practice for all thirds.
if (process.env.KIND_LEDGER_SEEDED)
  cpSync(process.env.KIND_LEDGER_SEEDED, process.env.KIND_LEDGER_DATA, { recursive: true });
else if (spawnSync("npm", ["run", "--silent", "seed", "--", "--fresh"], { stdio: "inherit" }).status !== 0)
  process.exit(1);
await import("../server.mjs");
