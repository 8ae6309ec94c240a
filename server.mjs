// Starts Next in one process, so that one process holds the embedded database. `--dev` for development.
import { randomUUID } from "node:crypto";
import { createServer, STATUS_CODES } from "node:http";
import next from "next";
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
await globalThis.kindLedger.catch((error) => {
  console.error(`kind-ledger: ${error.message}`);
  process.exit(1);
});

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
  console.warn(
    `kind-ledger: a request came by a proxy at ${direct}, which is not named in KIND_LEDGER_TRUSTED_PROXIES: everybody behind it counts as one caller.`,
  );
}
/** Says no before the body was read, and reads none of it. */
function refuse(response, status) {
  response.writeHead(status, { connection: "close", "content-type": "text/plain; charset=utf-8" });
  response.end(STATUS_CODES[status]);
}
const server = createServer({ headersTimeout: 20_000, requestTimeout: 300_000 }, (request, response) => {
  const onwards = () => {
    if (!globalThis.kindLedgerSave(request, response)) void handle(request, response);
  };
  // The framework passes an action on to another page of its own by a request to this server, with what came in before.
  if (request.headers[innerHeader] === inner) return onwards();
  request.headers[innerHeader] = inner;
  warnOfProxy(request);
  if (!isOurHost(request.headers.host, origin)) return refuse(response, 421);
  if (!isReadable(request.url)) return refuse(response, 400);
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
server.listen(port, hostname, () => console.log(`kind-ledger: ready on http://${hostname}:${port}`));

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
