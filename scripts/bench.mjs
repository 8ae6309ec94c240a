// `npm run bench`: ratios to a baseline in the same run, what an attack costs, then many clients at once on both
// databases, and a practice of 10,000 clients; `-- ratios`, `-- hostile`, `-- load`, `-- large`, `-- seal` (signed papers), `-- charts` (a chart of ten years), `-- notes` (a note of many answers), `-- measures` (a caseload and a trend) or `-- kept` (backups and keys of that practice alone) for one of them. Where there is no PostgreSQL, that half is left
// out and said so.
import { spawnSync } from "node:child_process";
import { startPostgres } from "./postgres.mjs";

const run = (command, args, env = {}) => {
  const { status } = spawnSync(command, args, { stdio: "inherit", env: { ...process.env, ...env } });
  if (status !== 0) process.exit(status ?? 1);
};
const only = process.argv[2];
run("node", ["scripts/demo.mjs", "--build-only"]);
if (only === undefined || only === "ratios") run("npx", ["tsx", "bench/main.ts"]);
if (only === undefined || only === "charts") run("npx", ["tsx", "bench/charts.ts"]);
if (only === undefined || only === "notes") run("npx", ["tsx", "bench/notes.ts"]);
if (only === undefined || only === "measures") run("npx", ["tsx", "bench/measures.ts"]);
if (only === undefined || only === "seal") run("npx", ["tsx", "bench/seal.ts"]);
if (only === undefined || only === "hostile") run("npx", ["tsx", "bench/hostile.ts"]);
if (only === undefined || ["load", "large", "kept"].includes(only)) {
  const postgres = await startPostgres().catch((error) => {
    console.log(`Without PostgreSQL: ${error.message}`);
    return undefined;
  });
  const env = postgres ? { KL_BENCH_POSTGRES: postgres.url } : {};
  if (only === undefined || only === "load") run("npx", ["tsx", "bench/load.ts"], env);
  if (only !== "load") run("npx", ["tsx", "bench/large.ts", ...(only === "kept" ? ["kept"] : [])], env);
  postgres?.stop();
}
