// Starts Next in one process, so that one process holds the embedded database. `--dev` for development.
import { AsyncLocalStorage } from "node:async_hooks";
import { randomUUID } from "node:crypto";
import { createServer, STATUS_CODES } from "node:http";
import next from "next";
import { answersProbe, pathForLog } from "./probes.mjs";
import { addressOf, bodyVerdict, isOurHost, isReadable } from "./guards.mjs";

const dev = process.argv.includes("--dev");
// What is refused for real depends on it.
process.env.NODE_ENV ??= dev ? "development" : "production";
const hostname = process.env.HOST ?? "127.0.0.1";
const port = Number(process.env.PORT ?? 3000);
const trustedProxies = new Set(
  (process.env.KIND_LEDGER_TRUSTED_PROXIES ?? "")
    .split(",")
    .map((s) => s.trim())
    .filter(Boolean),
);

const app = next({ dev, hostname, port });
const handle = app.getRequestHandler();
await app.prepare();
// Next runs src/instrumentation.ts in its own time after prepare(); the first page must not come before it.
for (let waited = 0; globalThis.kindLedger === undefined; waited += 50) {
  if (waited > 30_000) throw new Error("The application did not open within 30 seconds.");
  await new Promise((resolve) => setTimeout(resolve, 50));
}
const opened = await globalThis.kindLedger.catch((error) => {
  console.error(`kind-ledger: ${error.message}`);
  process.exit(1);
});

const isJson = process.env.KIND_LEDGER_LOG === "json";
/** One line of the log, as src/server/log.ts writes them. */
function say(level, event, fields = {}) {
  if (isJson) process.stdout.write(`${JSON.stringify({ at: new Date().toISOString(), level, event, ...fields })}\n`);
  else (level === "info" ? console.log : console.warn)(`kind-ledger: ${event}`);
}
const origin = process.env.KIND_LEDGER_ORIGIN ?? `http://localhost:${port}`;
/** Only what came through here bears it: no caller can know it. */
const inner = randomUUID();
const innerHeader = "x-kind-ledger-inner";
let warned = false;
/** Behind a proxy that is not named, everybody would share its address, and its limits. */
function warnOfProxy(request) {
  if (warned || request.headers["x-forwarded-for"] === undefined) return;
  const direct = (request.socket.remoteAddress ?? "").replace(/^::ffff:/, "");
  if (trustedProxies.has(direct)) return;
  warned = true;
  say(
    "warn",
    `a request came by a proxy at ${direct}, which is not named in KIND_LEDGER_TRUSTED_PROXIES: everybody behind it counts as one caller.`,
  );
}
/** What is known of a request while it is answered: whether the database did not answer it. */
const requests = new AsyncLocalStorage();
globalThis.kindLedgerRequests = requests;
const retryAfter = 3;
const busyPage = `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="${retryAfter}"><title>One moment</title><p>The database does not answer just now. This page tries again by itself. Nothing is lost.</p></html>`;
/** A page that failed because the database does not answer says so to machines, too. */
function markBusy(response, request) {
  const write = response.writeHead;
  response.writeHead = function (status, ...rest) {
    if (status < 500 || !request.busy) return write.call(this, status, ...rest);
    this.statusCode = 503;
    this.setHeader("retry-after", String(retryAfter));
    return write.call(this, 503, ...rest);
  };
}
/** One line for a request, where logs are read by machines: nothing of who it was or what they asked about. */
function logRequest(request, response) {
  if (!isJson) return;
  const began = performance.now();
  response.on("close", () => {
    const ms = Math.round(performance.now() - began);
    const path = pathForLog(request.url);
    if (path.startsWith("/_next/")) return;
    say("info", "request", { method: request.method, path, status: response.statusCode, ms });
  });
}
/** Says no before the body was read, and reads none of it. */
function refuse(response, status) {
  response.writeHead(status, { connection: "close", "content-type": "text/plain; charset=utf-8" });
  response.end(STATUS_CODES[status]);
}
const server = createServer({ headersTimeout: 20_000, requestTimeout: 300_000 }, (request, response) => {
  if (answersProbe(request, response)) return;
  const onwards = () => {
    if (globalThis.kindLedgerSave(request, response)) return;
    const state = { busy: false };
    markBusy(response, state);
    requests.run(state, () => void handle(request, response));
  };
  // The framework passes an action on to another page of its own by a request to this server, with what came in before.
  if (request.headers[innerHeader] === inner) return onwards();
  request.headers[innerHeader] = inner;
  logRequest(request, response);
  warnOfProxy(request);
  if (!isOurHost(request.headers.host, origin)) return refuse(response, 421);
  if (!isReadable(request.url)) return refuse(response, 400);
  // Another version has the database by now: what this one does not know it does not touch.
  if (opened?.state.fits === false) {
    response.writeHead(503, { "retry-after": String(retryAfter), "content-type": "text/html; charset=utf-8" });
    return void response.end(busyPage);
  }
  request.headers["x-kind-ledger-address"] = addressOf(request, trustedProxies);
  for (const name of ["x-forwarded-for", "x-forwarded-host", "x-forwarded-proto", "forwarded"])
    delete request.headers[name];
  const verdict = bodyVerdict(request);
  if (verdict === "read") return onwards();
  if (verdict !== "if-known") return refuse(response, verdict);
  globalThis.kindLedgerKnows(request).then(
    (known) => (known ? onwards() : refuse(response, 413)),
    () => refuse(response, 503),
  );
});
server.listen(port, hostname, () => say("info", `ready on http://${hostname}:${port}`));

let closing = false;
async function close() {
  if (closing) return;
  closing = true;
  server.close();
  server.closeAllConnections();
  await (await globalThis.kindLedger)?.close();
  process.exit(0);
}
process.on("SIGTERM", close);
process.on("SIGINT", close);
