import { spawn, type ChildProcess } from "node:child_process";

/**
 * The built server. It lives for seconds: the embedded database's code is compiled once and quickly, not again and
 * better beside the tests.
 */
export const builtServer = ["--liftoff-only", "server.mjs"];
export interface BuiltFrame {
  readonly folder: string;
  readonly port: number;
  readonly now: string;
}
/** Starts it, for a trial: its clock stands. */
export async function startBuilt({ folder, port, now }: BuiltFrame): Promise<ChildProcess> {
  const child = spawn(process.execPath, builtServer, {
    env: {
      ...process.env,
      KIND_LEDGER_DATA: folder,
      KIND_LEDGER_NOW: now,
      KIND_LEDGER_TRIAL: "yes",
      PORT: String(port),
      NODE_ENV: "production",
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout!.on("data", (d: Buffer) => {
      if (d.toString().includes("ready on")) resolve();
    });
    child.once("exit", (code) => reject(new Error(`The server ended with ${code}.`)));
  });
  return child;
}
