import type { IncomingMessage, ServerResponse } from "node:http";
import { application, isBusy, log, nameOfError, savingActor, run, useCases } from "../../server";
import { isSameOrigin } from "../../core/shared";
import { cookieIn, doorCookie } from "./cookie-names";
import { jsonHeaders, jsonStatus, parseJson } from "./json";

const path = /^\/f\/([0-9a-f-]{36})\/answers$/;
const longest = 1_000_000;

/**
 * `PUT /f/<packet>/answers`: answered before Next sees it, since it comes with every pause in typing and the framework
 * alone takes longer than the save. The rest is as everywhere: same origin, the door pass, the use case through `run`.
 * Gives false for every other request. server.mjs calls it.
 */
export function saveListener(request: IncomingMessage, response: ServerResponse): boolean {
  const packetId = request.method === "PUT" ? path.exec(request.url ?? "")?.[1] : undefined;
  if (packetId === undefined) return false;
  save(request, response, packetId).catch((error: unknown) => {
    if (!isBusy(error)) log.error("A save failed.", { error: nameOfError(error) });
    if (!response.headersSent)
      answer(response, isBusy(error) ? 503 : 500, { reason: isBusy(error) ? "busy" : "failed" });
  });
  return true;
}

async function save(request: IncomingMessage, response: ServerResponse, packetId: string): Promise<void> {
  const header = (name: string): string | null => (request.headers[name] as string | undefined) ?? null;
  if (!isSameOrigin({ get: header })) return answer(response, 403, { error: "This request came from another site." });
  const app = await application();
  const pass = cookieIn(header("cookie"), doorCookie, app.ports.origin);
  const actor = await savingActor(app, packetId, pass, {
    address: header("x-kind-ledger-address") ?? "unknown",
    device: "",
  });
  const result = await run(app, useCases.saveAnswers, actor, parseJson(await body(request), longest));
  answer(response, jsonStatus(result), result.ok ? result.value : result.error);
}

function answer(response: ServerResponse, status: number, value: unknown): void {
  response.writeHead(status, { "content-type": "application/json", ...jsonHeaders }).end(JSON.stringify(value));
}

/** What was sent, or an empty text when it is too long. */
async function body(request: IncomingMessage): Promise<string> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes <= longest) pieces.push(piece);
  }
  return bytes > longest ? "" : Buffer.concat(pieces).toString("utf8");
}
