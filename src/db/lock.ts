import { mkdirSync, readFileSync, realpathSync, writeFileSync } from "node:fs";
import { createServer, type Server } from "node:net";
import { join } from "node:path";

/** Someone else has the data folder open. */
export class FolderHeldError extends Error {
  constructor(folder: string, holder: string) {
    super(`${folder} is already open by ${holder}. Stop it first: two at once would lose what one of them saves.`);
    this.name = "FolderHeldError";
  }
}

/**
 * Takes the data folder for this process alone. On Linux the lock is an abstract socket, which the kernel frees even
 * after kill -9; elsewhere a socket file in the folder does. Two openers cannot both win: binding is atomic.
 */
export async function holdFolder(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const real = realpathSync(folder);
  const note = join(real, "held-by.txt");
  const server: Server = createServer((socket) => socket.end());
  const address = process.platform === "linux" ? `\0kind-ledger:${real}` : join(real, "held.sock");
  await new Promise<void>((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) => {
      reject(error.code === "EADDRINUSE" ? new FolderHeldError(real, holderOf(note)) : error);
    });
    server.listen(address, resolve);
  });
  server.unref();
  writeFileSync(note, `process ${process.pid} (${process.argv.slice(1, 3).join(" ")})`, { mode: 0o600 });
  return () => new Promise((resolve) => server.close(() => resolve()));
}

function holderOf(note: string): string {
  try {
    return readFileSync(note, "utf8");
  } catch {
    return "another process";
  }
}
