import type { IncomingMessage } from "node:http";
import { application, clientActor, staffActor } from "../../server";
import { cookieIn, doorCookie, staffCookie } from "./cookie-names";

/**
 * Whether somebody of the practice, or a client at their own packet, sends this: asked before a large body is read.
 * server.mjs calls it.
 */
export async function knownCaller({ url, headers }: IncomingMessage): Promise<boolean> {
  const app = await application();
  const { origin } = app.ports;
  const from = { address: "", device: "" };
  const packetId = /^\/f\/([\da-f-]{36})\//.exec(url ?? "")?.[1];
  const actor =
    packetId === undefined
      ? await staffActor(app, cookieIn(headers.cookie, staffCookie, origin), from)
      : await clientActor(app, packetId, cookieIn(headers.cookie, doorCookie, origin), from);
  return actor.kind !== "stranger";
}
