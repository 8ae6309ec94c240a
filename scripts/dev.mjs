// `npm run dev`: the demo practice with hot reload.
import { spawn, spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { join } from "node:path";

const env = {
  ...process.env,
  KIND_LEDGER_DATA: process.env.KIND_LEDGER_DATA ?? ".data/dev",
  NEXT_TELEMETRY_DISABLED: "1",
};
if (!existsSync(join(env.KIND_LEDGER_DATA, "pg")))
  spawnSync("npm", ["run", "--silent", "seed", "--", "--fresh"], { stdio: "inherit", env });
spawn(process.execPath, ["server.mjs", "--dev"], { stdio: "inherit", env }).on("exit", (code) =>
  process.exit(code ?? 0),
);
