// `npm run demo`: installs, builds, makes a fresh demo practice and starts it. Needs Node and npm, nothing else.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createHash } from "node:crypto";
import { join } from "node:path";
import { demoPassword, demoWords } from "./demo-words.mjs";

const data = process.env.KIND_LEDGER_DATA ?? ".data/demo";
const port = process.env.PORT ?? "3000";
const env = {
  ...process.env,
  KIND_LEDGER_DATA: data,
  PORT: port,
  NODE_ENV: "production",
  KIND_LEDGER_DEMO: demoPassword,
  NEXT_TELEMETRY_DISABLED: "1",
};
const run = (command, args, extra = {}) => {
  const { status } = spawnSync(command, args, { stdio: "inherit", env: { ...env, ...extra } });
  if (status !== 0) process.exit(status ?? 1);
};

/** A digest of what the build is made from, so that a restart skips it. */
function sourceDigest() {
  const hash = createHash("sha256");
  const walk = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory())
      readdirSync(path)
        .sort()
        .forEach((name) => walk(join(path, name)));
    else hash.update(path).update(readFileSync(path));
  };
  ["src", "public", "next.config.ts", "package-lock.json", "tsconfig.json"].forEach(walk);
  return hash.digest("hex");
}

if (!existsSync("node_modules/next")) run("npm", ["ci", "--no-fund", "--no-audit"], { NODE_ENV: "development" });
const stamp = ".next/kind-ledger-build";
const digest = sourceDigest();
if (!existsSync(stamp) || readFileSync(stamp, "utf8") !== digest) {
  run("npx", ["next", "build"], { KIND_LEDGER_BUILD_ONCE: "1" });
  mkdirSync(".next", { recursive: true });
  writeFileSync(stamp, digest);
}
if (process.argv.includes("--build-only")) process.exit(0);
if (!existsSync(join(data, "pg")) || process.argv.includes("--fresh"))
  run("npm", ["run", "--silent", "seed", "--", "--fresh", "--year"]);

console.log(`${demoWords(port)} \`npm run demo -- --fresh\` starts the practice anew.\n`);
const server = spawn(process.execPath, ["server.mjs"], { stdio: "inherit", env });
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
