import { spawn, type ChildProcess } from "node:child_process";
import { must } from "../demo/walk";
import { run, useCases, type Application } from "../src/server";
import { repositories } from "../src/db/repositories";
import type { Id } from "../src/core/shared";

export const quantile = (sorted: readonly number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))]!;
export const ms = (n: number): string => `${n.toFixed(2)} ms`;

/** The production server; needs a build. @param env where its data is. */
export async function startServer(port: number, env: Readonly<Record<string, string>>): Promise<ChildProcess> {
  const child = spawn(process.execPath, ["server.mjs"], {
    env: { ...process.env, ...env, PORT: String(port), NODE_ENV: "production" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout!.on("data", (d: Buffer) => {
      if (d.toString().includes("ready on")) resolve();
    });
    child.once("exit", () => reject(new Error("The server ended. Run `npm run build` first.")));
  });
  return child;
}

/** The token in the newest letter of a packet. */
export async function tokenOf(app: Application, packetId: Id<"Packet">): Promise<string> {
  const letter = (await repositories(app.database.db, app.ports.sealer).outbox.ofPacket(packetId))
    .filter((m) => m.purpose === "packet")
    .at(-1)!;
  return /\/p\/([\w-]+)/.exec(letter.body)![1]!;
}
/**
 * Passes the door of a packet; gives the pass for the cookie. @param address one's own: an address may ask for so many
 * codes an hour.
 */
export async function enter(app: Application, packetId: Id<"Packet">, address = ""): Promise<string> {
  const stranger = { kind: "stranger" as const, address, device: "" };
  const token = await tokenOf(app, packetId);
  must(await run(app, useCases.sendCode, stranger, { token }));
  const code = (await repositories(app.database.db, app.ports.sealer).outbox.ofPacket(packetId))
    .filter((m) => m.purpose === "code")
    .at(-1)!;
  return must(await run(app, useCases.checkCode, stranger, { token, code: /\b\d{6}\b/.exec(code.body)![0] })).passToken;
}

/** Columns as wide as what stands in them. */
export function printTable(rows: readonly (readonly string[])[]): void {
  const widths = rows[0]!.map((_, i) => Math.max(...rows.map((r) => r[i]!.length)));
  for (const row of rows) console.log(row.map((cell, i) => cell.padEnd(widths[i]!)).join("  "));
}
