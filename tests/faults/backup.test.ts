import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { build } from "esbuild";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { makeBackupIdentity } from "../../src/adapters/backup-file";
import { heardErased, openApplication, readEnvironment, run, useCases, walkJournal } from "../../src/server";
import { staffAs } from "../../demo/seed";
import { must } from "../../demo/walk";
import { repositories } from "../../src/db/repositories";
import { startPostgres } from "../../scripts/postgres.mjs";

// Backups, restores, erasures and changes of the key by the commands as they are, killed and on full disks.
const base = mkdtempSync(join(tmpdir(), "kl-backup-"));
const start = join(base, "start");
const now = "2026-11-25T08:10:00Z";
const points = 20;
const settings = (folder: string, more: Readonly<Record<string, string>> = {}) => ({
  PATH: process.env["PATH"]!,
  HOME: process.env["HOME"]!,
  KIND_LEDGER_DATA: folder,
  KIND_LEDGER_NOW: now,
  ...more,
});
/** Scripts as one file each: they start many times, and reading the sources would take longer than what they do. */
const bundled = (script: string): string => join(".cache", `backup-test-${basename(script, ".ts")}.mjs`);
const bundle = (script: string) =>
  build({
    entryPoints: [script],
    outfile: bundled(script),
    bundle: true,
    platform: "node",
    format: "esm",
    packages: "external",
  });
interface Ended {
  readonly code: number | null;
  readonly said: string;
}
interface Running {
  readonly ended: Promise<Ended>;
  readonly kill: () => void;
  /** When it says so. */
  readonly begun: Promise<void>;
}
function runScript(script: string, args: readonly string[], env: Readonly<Record<string, string>>): Running {
  const child: ChildProcess = spawn(process.execPath, ["--liftoff-only", bundled(script), ...args], {
    env: { ...env, NODE_ENV: "test" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  let hasBegun: () => void;
  const begun = new Promise<void>((resolve) => (hasBegun = resolve));
  const hear = (part: Buffer): void => {
    said += part.toString();
    if (said.includes("begin")) hasBegun();
  };
  child.stdout!.on("data", hear);
  child.stderr!.on("data", hear);
  return {
    ended: new Promise((resolve) => child.on("close", (code) => resolve({ code, said }))),
    kill: () => child.kill("SIGKILL"),
    begun,
  };
}
const kind = (args: readonly string[], folder: string, more: Readonly<Record<string, string>> = {}): Running =>
  runScript("scripts/kind.ts", args, settings(folder, more));
const done = async (running: Running): Promise<string> => {
  const { code, said } = await running.ended;
  expect(code, said).toBe(0);
  return said;
};
const refused = async (running: Running): Promise<string> => {
  const { code, said } = await running.ended;
  expect(code, said).toBe(1);
  return said;
};
/** Two at a time: as many cores as there are. */
async function each(many: number, work: (point: number) => Promise<void>): Promise<void> {
  let next = 0;
  const one = async (): Promise<void> => {
    while (next < many) await work(next++);
  };
  await Promise.all([one(), one()]);
}
const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: "utf8" })
    .filter((name) => statSync(join(folder, name)).isFile() && !name.endsWith("held-by.txt"))
    .toSorted();
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

let identityFile: string;
let recipient: string;
/** A backup of the start, and how many people it has. */
let whole: string;
let clients: number;
let server: Awaited<ReturnType<typeof startPostgres>>;
beforeAll(async () => {
  await Promise.all(["scripts/kind.ts", "tests/support/one-change.ts"].map(bundle));
  execFileSync("npm", ["run", "--silent", "seed", "--", "--fresh"], { env: { ...process.env, ...settings(start) } });
  const made = await makeBackupIdentity();
  ({ recipient } = made);
  identityFile = join(base, "identity");
  writeFileSync(identityFile, `${made.identity}\n`);
  whole = join(base, "whole.tar.age");
  await done(kind(["backup", whole, "--to", recipient], start));
  clients = await countIn(start);
  server = await startPostgres();
});
afterAll(() => {
  server.stop();
  rmSync(base, { recursive: true, force: true });
});
const environment = (folder: string, more: Readonly<Record<string, string>> = {}) =>
  readEnvironment(settings(folder, more));
const keyFile = () => ({ KIND_LEDGER_KEY_FILE: join(start, "key") });
/** How many people open with its keys, and the journal holds. */
async function countIn(folder: string, more: Readonly<Record<string, string>> = {}): Promise<number> {
  const app = await openApplication(environment(folder, more));
  try {
    expect((await walkJournal(app)).broken).toBeUndefined();
    const { id } = (await app.practice())!;
    const changed = await repositories(app.database.db, app.ports.sealer).clients.changedSince(id, undefined);
    return changed.clients.filter(({ firstName }) => firstName !== "").length;
  } finally {
    await app.database.close();
  }
}
async function emptyDatabase(name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: server.url });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  return server.url.replace(/\/[^/]*$/, `/${name}`);
}

describe("a backup", () => {
  it("goes from embedded to PostgreSQL and back while they run, and pg_dump sees no difference", async () => {
    const [first, second, third] = ["1", "2", "3"].map((name) => join(base, `${name}.tar.age`)) as [
      string,
      string,
      string,
    ];
    const app = await openApplication(environment(start));
    // Whoever has the folder open is asked for a copy, and goes on.
    await done(kind(["backup", first, "--to", recipient], start));
    expect(await app.practice()).toBeDefined();
    await app.database.close();
    const open = ["--identity", identityFile];
    const one = await emptyDatabase("one");
    const onOne = { DATABASE_URL: one, ...keyFile() };
    await done(kind(["restore", first, ...open], join(base, "none"), onOne));
    const serving = await openApplication(environment(join(base, "none"), onOne));
    await done(kind(["backup", second, "--to", recipient], join(base, "none"), onOne));
    await serving.database.close();
    const back = join(base, "back");
    mkdirSync(back);
    await done(kind(["restore", second, ...open], back, keyFile()));
    expect(await countIn(back, keyFile())).toBe(clients);
    await done(kind(["backup", third, "--to", recipient], back, keyFile()));
    const two = await emptyDatabase("two");
    await done(kind(["restore", third, ...open], join(base, "none"), { ...onOne, DATABASE_URL: two }));
    // Numbers of transactions are each database's own.
    const dump = (url: string): string[] =>
      execFileSync("pg_dump", ["--data-only", "--inserts", "--rows-per-insert=1", "--no-owner", `--dbname=${url}`], {
        maxBuffer: 1e9,
      })
        .toString()
        .split("\n")
        .filter((line) => line.startsWith("INSERT") || line.startsWith("SELECT pg_catalog.setval"))
        .filter((line) => !/drizzle\.|INSERT INTO public\.client /.test(line))
        .toSorted();
    const names = (url: string): string =>
      execFileSync("psql", [url, "-Atc", "select to_jsonb(c) - 'changed_in' from client c order by id"]).toString();
    expect(dump(one).length).toBeGreaterThan(400);
    expect(dump(two)).toEqual(dump(one));
    expect(names(two)).toBe(names(one));
    expect(await countIn(join(base, "none"), { ...onOne, DATABASE_URL: two })).toBe(clients);
    // What comes after is counted on from what was there, not from one.
    expect(dump(one).filter((line) => line.includes("setval")).length).toBeGreaterThan(2);
  });

  it("opens with age and tar, and holds neither a key nor a name in clear", async () => {
    const plain = join(base, "plain.tar");
    execFileSync("age", ["--decrypt", "--identity", identityFile, "--output", plain, whole]);
    const listed = execFileSync("tar", ["--list", "--file", plain]).toString().split("\n");
    expect(listed).toEqual(expect.arrayContaining(["kind-ledger.json", "manifest.json"]));
    expect(listed.filter((name) => /^data\/\d{3}-client\//.test(name))).toHaveLength(1);
    const key = readFileSync(join(start, "key"), "utf8").split(":")[1]!.trim();
    for (const file of [whole, plain])
      for (const secret of [Buffer.from(key), Buffer.from(key, "base64"), Buffer.from("Halvorsen")])
        expect(readFileSync(file).includes(secret)).toBe(false);
    // With the keys in it, they are as closed as all else.
    const withKeys = join(base, "with-keys.tar.age");
    await done(kind(["backup", withKeys, "--to", recipient, "--with-keys"], start));
    expect(readFileSync(withKeys).includes(Buffer.from(key))).toBe(false);
    const fresh = join(base, "fresh");
    mkdirSync(fresh);
    await done(kind(["restore", withKeys, "--identity", identityFile], fresh));
    expect(await countIn(fresh)).toBe(clients);
  });

  it("is proved by a drill, which leaves nothing behind, and not where it is damaged", async () => {
    const before = filesIn(base);
    expect(await done(kind(["drill", whole, "--identity", identityFile], start))).toContain("each as it was");
    const bytes = readFileSync(whole);
    const bent = join(base, "bent.tar.age");
    for (const [name, content] of [
      [
        "a byte is another",
        Buffer.concat([bytes.subarray(0, 40_000), Buffer.from([bytes[40_000]! ^ 1]), bytes.subarray(40_001)]),
      ],
      ["its end is gone", bytes.subarray(0, bytes.length - 30_000)],
    ] as const) {
      writeFileSync(bent, content);
      expect(await refused(kind(["drill", bent, "--identity", identityFile], start)), name).toMatch(
        /damaged|cut off|end/,
      );
    }
    rmSync(bent);
    expect(filesIn(base)).toEqual(before);
  });

  it("is refused by the wrong passphrase, the wrong keys, and an installation that is not empty", async () => {
    const phrase = join(base, "phrase");
    writeFileSync(phrase, "four words nobody knows\n");
    const other = join(base, "other-phrase");
    writeFileSync(other, "four words nobody said\n");
    const file = join(base, "phrase.tar.age");
    await done(kind(["backup", file, "--passphrase-file", phrase], start));
    const target = join(base, "target");
    mkdirSync(target);
    const strange = join(base, "strange-key");
    writeFileSync(strange, `other:${Buffer.alloc(32, 3).toString("base64")}\n`, { mode: 0o600 });
    expect(await refused(kind(["restore", file, "--passphrase-file", other], target, keyFile()))).toContain(
      "does not open",
    );
    expect(
      await refused(kind(["restore", file, "--passphrase-file", phrase], target, { KIND_LEDGER_KEY_FILE: strange })),
    ).toContain("not the ones that the backup was sealed with");
    expect(await refused(kind(["restore", file, "--passphrase-file", phrase], target))).toContain("holds none");
    expect(filesIn(target)).toEqual([]);
    expect(await refused(kind(["restore", whole, "--identity", identityFile], start))).toContain("not empty");
    expect(await refused(kind(["backup", file, "--passphrase-file", phrase], start))).toContain("is there already");
    expect(await countIn(start)).toBe(clients);
  });

  it("from before somebody was erased does not bring them back", async () => {
    const folder = join(base, "erased");
    cpSync(start, folder, { recursive: true });
    const app = await openApplication(environment(folder));
    const { id, name } = await somebody();
    const owner = (await repositories(app.database.db, app.ports.sealer).staff.all((await app.practice())!.id)).find(
      ({ role }) => role === "owner",
    )!;
    must(
      await run(app, useCases.eraseClient, staffAs(app, owner.id, "maren"), {
        clientId: id,
        name,
        reason: "Asked for it",
      }),
    );
    await heardErased(app);
    await app.database.close();
    const kept = join(folder, "erased-clients");
    // What somebody wrote into the file without the key erases nobody.
    const [line] = readFileSync(kept, "utf8").split("\n");
    const other = { ...(JSON.parse(line!) as object), clientId: (await somebody("Ines")).id };
    writeFileSync(kept, `${line}\n${JSON.stringify(other)}\n`);
    const back = join(base, "erased-back");
    mkdirSync(back);
    const more = { ...keyFile(), KIND_LEDGER_ERASURES_FILE: kept };
    expect(await done(kind(["restore", whole, "--identity", identityFile], back, more))).toContain(
      "One client had been erased since, and was again",
    );
    expect(await countIn(back, more)).toBe(clients - 1);
  });

  it("of each day goes into its folder, and those that are no longer kept go", async () => {
    const folder = join(base, "daily");
    const daily = (at: string) =>
      kind(["backup"], start, {
        KIND_LEDGER_BACKUPS: folder,
        KIND_LEDGER_BACKUP_RECIPIENT: recipient,
        KIND_LEDGER_NOW: at,
      });
    await done(daily("2026-11-25T02:00:00Z"));
    // Others that were made before stand in for a year of them.
    const [made] = readdirSync(folder);
    for (let day = 1; day < 60; day++) {
      const at = new Date(Date.parse("2026-11-25T02:00:00Z") - day * 86_400_000).toISOString().replace(/\.\d+Z/, "Z");
      copyFileSync(join(folder, made!), join(folder, `kind-ledger-${at.replaceAll(":", "")}.tar.age`));
    }
    writeFileSync(join(folder, "notes.txt"), "not ours");
    await done(daily("2026-11-26T02:00:00Z"));
    const kept = readdirSync(folder).toSorted();
    expect(kept).toContain("notes.txt");
    expect(kept.length).toBeLessThan(16);
    expect(kept.filter((name) => name >= "kind-ledger-2026-11-20").length).toBeGreaterThanOrEqual(7);
    await done(
      kind(["drill", "--identity", identityFile], start, {
        KIND_LEDGER_BACKUPS: folder,
        KIND_LEDGER_BACKUP_RECIPIENT: recipient,
      }),
    );
  });
});

/** Kills what runs at as many moments as there are points, spread over as long as it takes. */
async function killed(
  begin: (point: number) => Running,
  check: (point: number, through: boolean) => Promise<void>,
  fromItsWord: boolean,
): Promise<void> {
  const first = Date.now();
  const unharmed = begin(points);
  if (fromItsWord) await unharmed.begun;
  const began = fromItsWord ? Date.now() : first;
  expect((await unharmed.ended).code).toBe(0);
  const took = Date.now() - began;
  await check(points, true);
  await each(points, async (point) => {
    const running = begin(point);
    if (fromItsWord) await running.begun;
    await pause((took * point) / points);
    running.kill();
    await check(point, (await running.ended).code === 0);
  });
}
describe("killed at twenty moments", () => {
  it("a backup leaves no file or a whole one, and the installation as it was", async () => {
    const folder = join(base, "kill-backup");
    cpSync(start, folder, { recursive: true });
    const file = (point: number): string => join(base, `kill-${point}.tar.age`);
    await killed(
      (point) => kind(["backup", file(point), "--to", recipient], folder),
      async (point) => {
        if (existsSync(file(point))) await done(kind(["drill", file(point), "--identity", identityFile], folder));
      },
      false,
    );
    // What was left half written goes with the next backup, and what was left beside the data with the next start.
    writeFileSync(join(base, "left.tar.age.99999999.part"), "half");
    await done(kind(["backup", join(base, "after.tar.age"), "--to", recipient], folder));
    expect(readdirSync(base).filter((name) => name.endsWith(".part"))).toEqual([]);
    expect(await countIn(folder)).toBe(clients);
    expect(readdirSync(folder).filter((name) => name.startsWith("aside-"))).toEqual([]);
  });

  it("a restore leaves an empty installation or the whole", async () => {
    const folder = (point: number): string => join(base, `kill-restore-${point}`);
    await killed(
      (point) => {
        mkdirSync(folder(point));
        return kind(["restore", whole, "--identity", identityFile], folder(point), keyFile());
      },
      async (point, through) => {
        const isThere = existsSync(join(folder(point), "pg"));
        expect(isThere || !through).toBe(true);
        if (isThere) expect(await countIn(folder(point), keyFile())).toBe(clients);
        // Where it was killed, it can be done again.
        else if (point % 5 === 0)
          await done(kind(["restore", whole, "--identity", identityFile], folder(point), keyFile()));
        if (isThere || point % 5 === 0)
          expect(readdirSync(folder(point)).filter((name) => name.startsWith("restoring-"))).toEqual([]);
        rmSync(folder(point), { recursive: true });
      },
      false,
    );
  });

  it("erasing somebody leaves them as they were or gone", async () => {
    const { id, name } = await somebody();
    const folder = (point: number): string => join(base, `kill-erase-${point}`);
    await killed(
      (point) => {
        cpSync(start, folder(point), { recursive: true });
        return runScript("tests/support/one-change.ts", ["erase", id, name], settings(folder(point)));
      },
      async (point, through) => {
        const left = await countIn(folder(point));
        expect(through ? [clients - 1] : [clients, clients - 1]).toContain(left);
        rmSync(folder(point), { recursive: true });
      },
      true,
    );
  });

  it("a change of the key leaves everything to be opened", async () => {
    const folder = (point: number): string => join(base, `kill-rotate-${point}`);
    await killed(
      (point) => {
        cpSync(start, folder(point), { recursive: true });
        return runScript("tests/support/one-change.ts", ["rotate"], settings(folder(point)));
      },
      async (point) => {
        expect(await countIn(folder(point))).toBe(clients);
        rmSync(folder(point), { recursive: true });
      },
      true,
    );
  });
});
async function somebody(called = "Hugo"): Promise<{ readonly id: string; readonly name: string }> {
  const app = await openApplication(environment(start));
  const { id } = (await app.practice())!;
  const { clients: all } = await repositories(app.database.db, app.ports.sealer).clients.changedSince(id, undefined);
  await app.database.close();
  const one = all.find(({ firstName }) => firstName === called)!;
  return { id: one.id, name: `${one.firstName} ${one.lastName}` };
}

// A file system of its own, which is small: that takes root.
describe("on a disk that is full after so much", () => {
  const megabyte = 1024 * 1024;
  async function onSmallDisk(bytes: number, point: string, work: (folder: string) => Promise<void>): Promise<void> {
    const disk = join(base, `disk-${point}`);
    mkdirSync(disk);
    execFileSync("mount", ["-t", "tmpfs", "-o", `size=${Math.ceil(bytes / 4096) * 4096}`, "tmpfs", disk]);
    try {
      await work(disk);
    } finally {
      execFileSync("umount", ["--lazy", disk]);
      rmSync(disk, { recursive: true, force: true });
    }
  }
  const sizeOf = (folder: string): number =>
    filesIn(folder).reduce((sum, name) => sum + Math.ceil(statSync(join(folder, name)).size / 4096) * 4096 + 4096, 0);

  it("a backup leaves nothing, and says so", async () => {
    const { size } = statSync(whole);
    const sources = [start, join(base, "second")] as const;
    cpSync(start, sources[1], { recursive: true });
    await each(points, (point) =>
      onSmallDisk(Math.max(4096, (size * point) / points), `backup-${point}`, async (disk) => {
        const said = await refused(
          kind(["backup", join(disk, "b.tar.age"), "--to", recipient], sources[point % 2]!, keyFile()),
        );
        expect(said).toMatch(/ENOSPC|no space/i);
        expect(filesIn(disk)).toEqual([]);
      }),
    );
    expect(await countIn(start)).toBe(clients);
  });

  it("a restore leaves an empty installation", async () => {
    const size = sizeOf(join(start, "pg"));
    await each(points, (point) =>
      onSmallDisk(megabyte + (size * 0.9 * point) / points, `restore-${point}`, async (disk) => {
        const { code } = await kind(["restore", whole, "--identity", identityFile], disk, keyFile()).ended;
        expect(code).not.toBe(0);
        expect(existsSync(join(disk, "pg"))).toBe(false);
      }),
    );
  });

  it.each([
    ["erasing somebody", "erase"],
    ["a change of the key", "rotate"],
  ])("%s is through or was not begun", async (_, what) => {
    const { id, name } = await somebody();
    const size = sizeOf(start);
    await each(points, (point) =>
      // What is free once room is made again holds the next segment of the log (16 MB, PostgreSQL's usual size), which
      // the start after it may have to begin.
      onSmallDisk(size + 20 * megabyte, `${what}-${point}`, async (disk) => {
        cpSync(start, disk, { recursive: true });
        // Little is left: from nothing to about as much as it needs.
        const filler = join(disk, "filler");
        execFileSync("sh", ["-c", `dd if=/dev/zero of=${filler} bs=4096 2>/dev/null || true`]);
        execFileSync("truncate", ["--size", `-${point * 64}K`, filler]);
        const { code } = await runScript("tests/support/one-change.ts", [what, id, name], settings(disk)).ended;
        rmSync(filler);
        const there = await countIn(disk);
        const all = what === "rotate" ? clients : clients - 1;
        expect(code === 0 ? [all] : [clients, all]).toContain(there);
      }),
    );
  });
});
