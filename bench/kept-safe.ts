import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { makeBackupIdentity } from "../src/adapters/backup-file";
import { addKey } from "../src/adapters/encryption";
import { openApplication, readEnvironment, resealKeys, run, useCases } from "../src/server";
import { backUp, restore } from "../src/server/backup";
import { staffAs } from "../demo/seed";
import { repositories } from "../src/db/repositories";
import { instant } from "../src/core/shared";
import { must } from "../demo/walk";
import { quantile } from "./support";

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
async function timed(work: () => Promise<unknown> | void): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}
/** What pg_dump and pg_restore took for the same rows on the server, once; the embedded database has no such programs. */
let programs: { readonly dump: number; readonly restore: number } | undefined;
const nameOf = (url: string, name: string): string => url.replace(/\/[^/]*$/, `/${name}`);

/**
 * Backing up and restoring the practice in `env`, and a change of its key while it is worked on. On PostgreSQL beside
 * what its own programs take.
 */
export async function keptSafe(
  kind: "PGlite" | "PostgreSQL",
  env: Readonly<Record<string, string>>,
  place: string,
): Promise<string[][]> {
  mkdirSync(place, { recursive: true });
  const trial = { ...env, KIND_LEDGER_TRIAL: "yes", KIND_LEDGER_NOW: "2026-11-25T08:10:00Z" };
  const from = readEnvironment(trial);
  const { identity, recipient } = await makeBackupIdentity();
  const file = join(place, "whole.tar.age");
  const backup = await timed(() => backUp(from, file, { recipient }, { at: instant("2026-11-25T08:10:00Z") }));
  copyFileSync(from.keyFile, join(place, "key"));
  const server = process.env["KL_BENCH_POSTGRES"];
  const admin = server ? new pg.Client({ connectionString: server }) : undefined;
  const target = { KIND_LEDGER_DATA: join(place, "data"), KIND_LEDGER_KEY_FILE: join(place, "key") };
  mkdirSync(target.KIND_LEDGER_DATA);
  const { databaseUrl: url } = from;
  if (url !== undefined) {
    await admin!.connect();
    await admin!.query("create database kl_again_ours");
    await admin!.query("create database kl_again_theirs");
    const dump = join(place, "theirs.dump");
    programs = {
      dump: await timed(() => void execFileSync("pg_dump", ["-Fc", "-f", dump, url])),
      restore: await timed(() => void execFileSync("pg_restore", ["-d", nameOf(url, "kl_again_theirs"), dump])),
    };
    writeFileSync(join(place, "sizes"), `${statSync(file).size} ${statSync(dump).size}`);
  }
  const to = readEnvironment({
    ...target,
    KIND_LEDGER_TRIAL: "yes",
    ...(url === undefined ? {} : { DATABASE_URL: nameOf(url, "kl_again_ours") }),
  });
  const back = await timed(() => restore(to, file, { identity }));
  await admin?.end().catch(() => undefined);

  addKey(from.keyFile);
  const app = await openApplication(from);
  const { staff } = repositories(app.database.db, app.ports.sealer);
  const maren = staffAs(
    app,
    (await staff.all((await app.practice())!.id)).find(({ role }) => role === "owner")!.id,
    "maren",
  );
  const page = () => timed(async () => void must(await run(app, useCases.daySheet, maren, {})));
  const alone: number[] = [];
  for (let round = 0; round < 20; round++) alone.push(await page());
  const beside: number[] = [];
  let over = false;
  let keys = 0;
  const rotating = timed(async () => {
    keys = await resealKeys(app);
    over = true;
  });
  while (!over) beside.push(await page());
  const rotation = await rotating;
  await app.close();
  const median = (took: number[]): number =>
    quantile(
      took.toSorted((one, other) => one - other),
      0.5,
    );
  const against = (ours: number, theirs: number | undefined): string => (theirs ? (ours / theirs).toFixed(2) : "");
  const theirs = (ms: number | undefined, program: string): string => (ms ? `${seconds(ms)} ${program}` : "");
  return [
    [
      `back up, read back, ${kind}`,
      `${seconds(backup)}, ${(statSync(file).size / 1e6).toFixed(0)} MB`,
      theirs(programs?.dump, "pg_dump"),
      against(backup, programs?.dump),
      "at most 3",
    ],
    [
      `restore and compare, ${kind}`,
      seconds(back),
      theirs(programs?.restore, "pg_restore"),
      against(back, programs?.restore),
      "at most 3",
    ],
    [
      `seal ${keys} keys anew in use, ${kind}`,
      seconds(rotation),
      `Day sheet ${median(alone).toFixed(0)} ms alone, ${median(beside).toFixed(0)} ms beside`,
      "",
      "under 30 s",
    ],
  ];
}
