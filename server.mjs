// Starts Next in one process, so that one process holds the embedded database. `--dev` for development.
import { createServer } from "node:http";
import next from "next";

const dev = process.argv.includes("--dev");
const hostname = process.env.HOST ?? "127.0.0.1";
const port = Number(process.env.PORT ?? 3000);
const trustedProxies = new Set(
  (process.env.KIND_LEDGER_TRUSTED_PROXIES ?? "")
    .split(",")
    .map((s) => s.trim())
    .filter(Boolean),
);

/** The caller's address: what a trusted proxy says, else the socket's. A stranger's own header never counts. */
function addressOf(request) {
  const socket = (request.socket.remoteAddress ?? "").replace(/^::ffff:/, "");
  if (!trustedProxies.has(socket)) return socket;
  const hops = String(request.headers["x-forwarded-for"] ?? "")
    .split(",")
    .map((s) => s.trim())
    .filter(Boolean);
  return hops.reverse().find((hop) => !trustedProxies.has(hop)) ?? socket;
}

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

const server = createServer((request, response) => {
  request.headers["x-kind-ledger-address"] = addressOf(request);
  delete request.headers["x-forwarded-for"];
  if (!globalThis.kindLedgerSave(request, response)) void handle(request, response);
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
