import { closeSync, fsyncSync, mkdirSync, openSync, renameSync, writeSync } from "node:fs";
import { dirname } from "node:path";

/**
 * Puts a file there whole or not at all, readable by its owner alone, and on the disk when this returns: what was there
 * before stays until then.
 */
export function replaceFile(path: string, text: string): void {
  mkdirSync(dirname(path), { recursive: true, mode: 0o700 });
  const next = `${path}.${process.pid}.next`;
  const file = openSync(next, "w", 0o600);
  try {
    writeSync(file, text);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(next, path);
  // The name is on the disk only when its folder is; not every system lets a folder be opened for that.
  try {
    const folder = openSync(dirname(path), "r");
    fsyncSync(folder);
    closeSync(folder);
  } catch {
    return;
  }
}
