// `npm run dev`: the demo practice with hot reload. Installs what is missing and prints the sign-ins.
// Pages reload by themselves; what runs under them, the save path too, begins anew when it changes.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, watch } from "node:fs";
import { join } from "node:path";
import { demoPassword, demoWords } from "./demo-words.mjs";

const port = process.env.PORT ?? "3000";
const env = {
  ...process.env,
  PORT: port,
  KIND_LEDGER_DATA: process.env.KIND_LEDGER_DATA ?? ".data/dev",
  KIND_LEDGER_DEMO: demoPassword,
  NEXT_TELEMETRY_DISABLED: "1",
};
const run = (command, ...args) => {
  const { status } = spawnSync(command, args, { stdio: "inherit", env });
  if (status !== 0) process.exit(status ?? 1);
};
if (!existsSync("node_modules/next")) run("npm", "ci", "--no-fund", "--no-audit");
if (!existsSync(join(env.KIND_LEDGER_DATA, "pg"))) run("npm", "run", "--silent", "seed", "--", "--fresh", "--year");
console.log(
  `${demoWords(port)}\nEvery part of the interface kit: http://localhost:${port}/kit\n\`npm run seed -- --fresh --year\` starts the practice anew while this is stopped.\n`,
);

let server;
let restarting = false;
function start() {
  restarting = false;
  server = spawn(process.execPath, ["server.mjs", "--dev"], { stdio: "inherit", env });
  server.on("exit", (code) => (restarting ? start() : process.exit(code ?? 0)));
}
start();
/** The server holds one application, made when it starts: Next reloads pages, never that. */
const underThePages = ["src/core", "src/usecases", "src/db", "src/adapters", "src/server", "src/app/_server"];
for (const folder of underThePages)
  watch(folder, { recursive: true }, () => {
    if (restarting) return;
    restarting = true;
    // One restart for a whole checkout's changes.
    setTimeout(() => server.kill("SIGTERM"), 300);
  });
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
