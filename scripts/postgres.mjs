// Starts Debian's PostgreSQL on a free port over an empty folder, for one run.
import { execFileSync, spawnSync } from "node:child_process";
import { chmodSync, chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

const root = process.getuid?.() === 0;

function programs() {
  const base = "/usr/lib/postgresql";
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((v) => join(base, v, "bin")).find((bin) => existsSync(join(bin, "initdb")));
  return found;
}
export const hasPostgres = () => programs() !== undefined;
function freePort() {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** Gives the address and how to stop it. PostgreSQL refuses to run as root, so root hands it to the postgres user. */
export async function startPostgres() {
  const bin = programs();
  if (bin === undefined) throw new Error("PostgreSQL is not installed; `npm test` does that.");
  const folder = mkdtempSync(join(tmpdir(), "kl-pg-"));
  const as = (command, args) => (root ? ["runuser", ["-u", "postgres", "--", command, ...args]] : [command, args]);
  const run = (command, ...args) =>
    execFileSync(...as(join(bin, command), args), { cwd: folder, stdio: ["ignore", "pipe", "pipe"] });
  if (root) {
    const id = (flag) => Number(execFileSync("id", [flag, "postgres"]));
    chownSync(folder, id("-u"), id("-g"));
  }
  chmodSync(folder, 0o700);
  const data = join(folder, "data");
  run("initdb", "-D", data, "-U", "kind", "--auth=trust", "-E", "UTF8", "--locale=C.UTF-8", "--no-sync");
  const port = await freePort();
  run(
    "pg_ctl",
    "-D",
    data,
    "-l",
    join(folder, "log"),
    "-w",
    "-o",
    `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=${folder} -c fsync=off`,
    "start",
  );
  return {
    url: `postgres://kind@127.0.0.1:${port}/postgres`,
    stop() {
      spawnSync(...as(join(bin, "pg_ctl"), ["-D", data, "-m", "immediate", "stop"]), { cwd: "/", stdio: "ignore" });
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
