import { randomBytes } from "node:crypto";
import { constants, existsSync, readdirSync, rmSync, statSync } from "node:fs";
import { cp } from "node:fs/promises";
import { join } from "node:path";

const name = /^(?:aside|restoring)-\d+-[\da-f]{8}$/;
/** A place beside the database, named after the process that works there. */
export const asidePath = (folder: string, what: "aside" | "restoring"): string =>
  join(folder, `${what}-${process.pid}-${randomBytes(4).toString("hex")}`);

/** Copies the database's files as they are now. Nobody may write meanwhile. Gives where they are. */
export async function copyAside(folder: string): Promise<string> {
  const to = asidePath(folder, "aside");
  try {
    await cp(join(folder, "pg"), join(to, "pg"), { recursive: true, mode: constants.COPYFILE_FICLONE });
  } catch (error) {
    rmSync(to, { recursive: true, force: true });
    throw new Error(`The copy could not be made (${(error as NodeJS.ErrnoException).code ?? "unknown"}).`);
  }
  return to;
}
/** Long enough for any backup of anything, in ms. */
const longestWork = 24 * 3_600_000;
/** Whether a process of that number is there. */
export const isRunning = (id: number): boolean => {
  try {
    process.kill(id, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
};
/** Takes away what processes that were killed left beside the database. */
export function sweepAside(folder: string): void {
  if (!existsSync(folder)) return;
  for (const one of readdirSync(folder)) {
    if (!name.test(one)) continue;
    const path = join(folder, one);
    // Gone meanwhile: whoever worked there is through, or another sweep was faster.
    const found = statSync(path, { throwIfNoEntry: false });
    if (!found) continue;
    const isOld = Date.now() - found.mtimeMs > longestWork;
    if (isOld || !isRunning(Number(one.split("-")[1]))) rmSync(path, { recursive: true, force: true });
  }
}
