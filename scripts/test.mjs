// `npm test`: installs what is missing, then runs every check, one after the other.
// Ends with the line `tests: N passed, N failed`.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { hasPostgres, startPostgres } from "./postgres.mjs";

const started = Date.now();
const cache = ".cache";
mkdirSync(cache, { recursive: true });
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1", FORCE_COLOR: "0" };
for (const name of Object.keys(env))
  if (name.startsWith("KIND_LEDGER_") || name === "DATABASE_URL" || name === "NODE_ENV") delete env[name];

let passed = 0;
/** What failed, said once more at the very end: a log is often cut short, and its end is what is kept. */
const failures = [];
const seconds = () => `${Math.round((Date.now() - started) / 1000)} s`;
const bin = (name) => `node_modules/.bin/${name}`;

function run(name, command, args, extra = {}) {
  console.log(`\n== ${name} (${seconds()})`);
  return spawnSync(command, args, { env: { ...env, ...extra }, stdio: ["ignore", "inherit", "inherit"] }).status === 0;
}
/** A check that passes or fails as a whole. */
function check(name, command, args, extra = {}) {
  const ok = run(name, command, args, extra);
  if (ok) passed++;
  else failures.push(name);
  return ok;
}
/** A report's file, emptied before the run, so that an old one is never read. */
function reportOf(name) {
  const file = `${cache}/${name}.json`;
  rmSync(file, { force: true });
  return { file, read: () => (existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : undefined) };
}
function vitest(project, extra = {}) {
  const report = reportOf(project);
  const reporters = ["--reporter=default", "--reporter=json", `--outputFile=${report.file}`];
  const ok = run(project, bin("vitest"), ["run", "--project", project, "--allowOnly=false", ...reporters], extra);
  const result = report.read();
  passed += result?.numPassedTests ?? 0;
  const before = failures.length;
  for (const { name, message, assertionResults } of result?.testResults ?? []) {
    if (message) failures.push(`${project}: ${name}\n${indented(message)}`);
    for (const test of assertionResults)
      if (test.status === "failed")
        failures.push(`${project}: ${test.fullName}\n${indented(test.failureMessages.join("\n"))}`);
  }
  if (!ok && failures.length === before) failures.push(`${project} did not run to its end`);
}
function endToEnd() {
  const report = reportOf("e2e");
  const ok = run("end to end", bin("playwright"), ["test"], { KIND_LEDGER_JSON: report.file });
  const result = report.read();
  passed += result?.stats.expected ?? 0;
  const before = failures.length;
  for (const spec of result?.suites.flatMap((suite) => suite.specs) ?? [])
    if (!spec.ok)
      failures.push(
        `end to end: ${spec.title}\n${indented(
          spec.tests
            .flatMap((test) => test.results)
            .map((tried) => tried.error?.message ?? "did not run")
            .join("\n"),
        )}`,
      );
  if (!ok && failures.length === before) failures.push("end to end did not run to its end");
}
const indented = (text) =>
  text
    .replace(/\x1b\[[\d;]*m/g, "")
    .split("\n")
    .slice(0, 30)
    .map((line) => `    ${line}`)
    .join("\n");

/**
 * Debian's packages where they are missing. Gives those that could not be installed: what needs none of them runs all
 * the same.
 */
function installPackages() {
  const has = (program) => spawnSync("which", [program], { stdio: "ignore" }).status === 0;
  const missing = [
    ...(existsSync(process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell") ? [] : ["chromium-headless-shell"]),
    ...(has("qpdf") ? [] : ["qpdf"]),
    ...(has("age") ? [] : ["age"]),
    ...(existsSync("/usr/lib/python3/dist-packages/prometheus_client") ? [] : ["python3-prometheus-client"]),
    ...(has("pdftotext") ? [] : ["poppler-utils"]),
    ...(existsSync("/usr/share/fonts/truetype/noto/NotoSansArabic-Regular.ttf") ? [] : ["fonts-noto-core"]),
    ...(hasPostgres() ? [] : ["postgresql"]),
    ...(existsSync(process.env.FIREFOX ?? "/usr/bin/firefox-esr") ? [] : ["firefox-esr"]),
    ...(has("WebKitWebDriver") ? [] : ["webkit2gtk-driver"]),
    ...(has("Xvfb") ? [] : ["xvfb"]),
  ];
  if (missing.length === 0) return [];
  const sudo = process.getuid?.() === 0 ? [] : ["sudo", "-n"];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, "apt-get", ...args];
    return run(command === "sudo" ? "sudo apt-get" : "apt-get", command, rest, { DEBIAN_FRONTEND: "noninteractive" });
  };
  return apt("update", "-qq") && apt("install", "-y", "-qq", "--no-install-recommends", ...missing) ? [] : missing;
}

let postgres;
try {
  if (
    !existsSync("node_modules/next") &&
    !run("packages", "npm", ["ci", "--prefer-offline", "--no-fund", "--no-audit", "--loglevel=error"])
  )
    throw new Error("npm ci failed.");
  const missing = installPackages();
  if (missing.length > 0)
    failures.push(
      `packages: this needs rights that are not here. Run it once as root, then npm test again:\n    apt-get update && apt-get install -y --no-install-recommends ${missing.join(" ")}`,
    );

  check("format", bin("prettier"), ["--check", "--log-level", "warn", "."]);
  check("lint", "npm", ["run", "--silent", "lint"]);
  check("types", "npm", ["run", "--silent", "types"]);
  if (existsSync("../shared/tools/check-words.mjs")) check("words", "node", ["../shared/tools/check-words.mjs"]);
  vitest("unit");
  if (hasPostgres()) postgres = await startPostgres();
  else failures.push("integration on PostgreSQL needs the package postgresql");
  vitest("integration", postgres ? { KIND_LEDGER_TEST_POSTGRES: postgres.url } : {});
  const built = check("build", bin("next"), ["build"], { NODE_ENV: "production", KIND_LEDGER_BUILD_ONCE: "1" });
  if (built) {
    vitest("faults");
    if (missing.includes("chromium-headless-shell"))
      failures.push("end to end needs the package chromium-headless-shell");
    else endToEnd();
  } else failures.push("faults and end to end need the build");
} catch (error) {
  failures.push(error instanceof Error ? error.message : String(error));
} finally {
  postgres?.stop();
}
if (failures.length > 0) console.log(`\n== failed\n${failures.join("\n")}`);
console.log(`\nAll of it took ${seconds()}.`);
console.log(`tests: ${passed} passed, ${failures.length} failed`);
process.exit(failures.length > 0 || passed === 0 ? 1 : 0);
