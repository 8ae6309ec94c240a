// `npm test`: installs what is missing, then lint, types, unit, build, both databases, faults, end to end.
// Ends with the line `tests: N passed, N failed`.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { hasPostgres, startPostgres } from "./postgres.mjs";

const started = Date.now();
const cache = ".cache";
const seeded = `${cache}/e2e-seeded`;
mkdirSync(cache, { recursive: true });
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1", FORCE_COLOR: "0" };
for (const name of Object.keys(env))
  if (name.startsWith("KIND_LEDGER_") || name === "DATABASE_URL" || name === "NODE_ENV") delete env[name];
/** Where this machine is one of several on a host: how much of its cores' time the host gave to others, in jiffies, beside all of it. */
const cores = () =>
  existsSync("/proc/stat")
    ? readFileSync("/proc/stat", "utf8").split("\n")[0].trim().split(/\s+/).slice(1, 9).map(Number)
    : [];
const atFirst = cores();
function stolen() {
  const since = cores().map((n, i) => n - atFirst[i]);
  const all = since.reduce((a, b) => a + b, 0);
  return all > 0 && since[7] > 0
    ? `, while the host kept ${Math.round((100 * since[7]) / all)} % of the cores for others`
    : "";
}
const seconds = () => `${Math.round((Date.now() - started) / 1000)} s`;

/** Debian packages that are missing are installed; elsewhere the missing program is named. */
async function install(packages) {
  const root = process.getuid?.() === 0;
  const apt = (...args) =>
    run("apt-get", root ? "apt-get" : "sudo", [...(root ? [] : ["-n", "apt-get"]), ...args], {
      DEBIAN_FRONTEND: "noninteractive",
    });
  console.log(`Installing ${packages.join(", ")} from Debian's packages…`);
  if (!(await apt("update", "-qq")) || !(await apt("install", "-y", "-qq", "--no-install-recommends", ...packages)))
    throw new Error(`Could not install ${packages.join(", ")}. Install them by hand, then run npm test again.`);
}
const has = (program) => spawnSync("which", [program], { stdio: "ignore" }).status === 0;

let passed = 0;
let failed = 0;
/** What failed, said once more at the very end: a log is often cut short, and its end is what is kept. */
const failures = [];
const fail = (what, why = "") => {
  failures.push(
    why
      ? `${what}\n${why
          .replace(/\x1b\[[\d;]*m/g, "")
          .split("\n")
          .slice(0, 30)
          .map((line) => `    ${line}`)
          .join("\n")}`
      : what,
  );
};
const count = (ok, what) => {
  if (ok) passed++;
  else {
    failed++;
    fail(what);
  }
};
/** Runs a command to its end, its output kept together, so that two at once do not mix. */
function run(name, command, args, extra = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { env: { ...env, ...extra }, stdio: ["ignore", "pipe", "pipe"] });
    let out = "";
    for (const stream of [child.stdout, child.stderr])
      stream.on("data", (d) => {
        out += d;
      });
    child.on("error", (error) => {
      out += String(error);
    });
    child.on("close", (status) => {
      console.log(
        `\n== ${name} (${seconds()})\n${out
          .split("\n")
          .filter((line) => !line.startsWith("npm warn"))
          .join("\n")
          .trimEnd()}`,
      );
      resolve(status === 0);
    });
  });
}
/** A program of a package, without npx, which takes a second to find it. */
const bin = (name) => `node_modules/.bin/${name}`;
async function vitest(project, extra = {}) {
  const file = `${cache}/${project}.json`;
  rmSync(file, { force: true });
  const ok = await run(
    project,
    bin("vitest"),
    ["run", "--project", project, "--maxWorkers=1", "--reporter=default", "--reporter=json", `--outputFile=${file}`],
    extra,
  );
  const result = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : undefined;
  passed += result?.numPassedTests ?? 0;
  failed += result?.numFailedTests ?? 0;
  for (const { name, message, assertionResults } of result?.testResults ?? []) {
    if (message) fail(`${project}: ${name}`, message);
    for (const test of assertionResults)
      if (test.status === "failed") fail(`${project}: ${test.fullName}`, test.failureMessages.join("\n"));
  }
  if (!ok && !result?.numFailedTests) count(false, `${project} did not run to its end`);
}
async function endToEnd(third) {
  const file = `${cache}/e2e-${third}.json`;
  rmSync(file, { force: true });
  const ok = await run(`end to end, ${third}`, bin("playwright"), ["test"], {
    KIND_LEDGER_JSON: file,
    KIND_LEDGER_E2E: third,
    KIND_LEDGER_SEEDED: seeded,
  });
  const report = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : { suites: [], stats: {} };
  const { expected = 0, unexpected = 0, flaky = 0 } = report.stats;
  for (const suite of report.suites)
    for (const spec of suite.specs)
      if (!spec.ok)
        fail(
          `end to end: ${spec.title}`,
          spec.tests
            .flatMap((t) => t.results)
            .map((r) => r.error?.message ?? "")
            .join("\n"),
        );
  passed += expected;
  failed += unexpected + flaky;
  if (!ok && unexpected + flaky === 0) count(false, `end to end, ${third}, did not run to its end`);
}

/** Runs jobs a few at a time, the first that can begin first; `after` names those that must be over before. */
async function inLanes(count, jobs) {
  const waiting = [...jobs];
  const over = new Set();
  const asleep = [];
  const lane = async () => {
    while (waiting.length > 0) {
      const at = waiting.findIndex(({ after = [] }) => after.every((name) => over.has(name)));
      if (at < 0) {
        await new Promise((wake) => asleep.push(wake));
        continue;
      }
      const [job] = waiting.splice(at, 1);
      await job.run();
      over.add(job.name);
      for (const wake of asleep.splice(0)) wake();
    }
  };
  await Promise.all(Array.from({ length: count }, lane));
}

let postgres;
try {
  // Debian's packages come while npm's do, and while what needs none of them begins.
  const missing = [
    ...(existsSync(process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell") ? [] : ["chromium-headless-shell"]),
    ...(has("qpdf") ? [] : ["qpdf"]),
    ...(has("pdftotext") ? [] : ["poppler-utils"]),
    ...(existsSync("/usr/share/fonts/truetype/noto/NotoSansArabic-Regular.ttf") ? [] : ["fonts-noto-core"]),
    ...(hasPostgres() ? [] : ["postgresql"]),
  ];
  const debian = (missing.length > 0 ? install(missing) : Promise.resolve()).then(startPostgres).then((started) => {
    postgres = started;
  });
  // Reported by the job that waits for it, which may begin later than this fails.
  debian.catch(() => undefined);
  if (
    !existsSync("node_modules/next") &&
    !(await run("packages", "npm", ["ci", "--prefer-offline", "--no-fund", "--no-audit", "--loglevel=error"]))
  )
    throw new Error("npm ci failed.");

  // Four at a time on two cores: a browser's test waits now and then, and at the end no core should wait for the other. What takes longest goes first.
  let built = false;
  const whenBuilt = (name, start) => ({
    after: ["build", "debian"],
    run: async () => (built ? start() : count(false, `${name} needs the build and its practice`)),
  });
  const third = (name) => whenBuilt(`end to end, ${name},`, () => endToEnd(name));
  await inLanes(4, [
    { name: "debian", run: () => debian },
    {
      name: "build",
      run: async () => {
        built = await run("build", bin("next"), ["build"], {
          NODE_ENV: "production",
          ...(existsSync(".next/cache") ? {} : { KIND_LEDGER_BUILD_ONCE: "1" }),
        });
        count(built, "build");
        // One practice for all end-to-end tests to start from.
        rmSync(seeded, { recursive: true, force: true });
        built &&= await run("seed", "npm", ["run", "--silent", "seed", "--", "--fresh"], {
          KIND_LEDGER_DATA: seeded,
          KIND_LEDGER_NOW: "2026-11-25T08:10:00Z",
          NODE_ENV: "production",
        });
      },
    },
    { run: async () => count(await run("types", "npm", ["run", "--silent", "types"], { GOGC: "400" }), "types") },
    { after: ["debian"], run: async () => vitest("integration", { KIND_LEDGER_TEST_POSTGRES: postgres.url }) },
    third("b"),
    third("a"),
    third("c"),
    whenBuilt("faults", () => vitest("faults", { KIND_LEDGER_SEEDED: seeded })),
    {
      run: async () => {
        if (existsSync("../shared/tools/check-words.mjs"))
          count(await run("words", "node", ["../shared/tools/check-words.mjs"]), "words");
      },
    },
    { after: ["debian"], run: async () => vitest("unit") },
    { run: async () => count(await run("lint", "npm", ["run", "--silent", "lint"]), "lint") },
  ]);
} catch (error) {
  count(false, error instanceof Error ? error.message : String(error));
} finally {
  postgres?.stop();
}
if (failures.length > 0) console.log(`\n== failed\n${failures.join("\n")}`);
console.log(`\nAll of it took ${seconds()}${stolen()}.`);
console.log(`tests: ${passed} passed, ${failed} failed`);
process.exit(failed > 0 || passed === 0 ? 1 : 0);
