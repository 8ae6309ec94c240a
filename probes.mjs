// What machines ask that look after this one. Answered before anything else, by whatever name they call it.
import { timingSafeEqual } from "node:crypto";

const plain = { "content-type": "text/plain; charset=utf-8", "cache-control": "no-store" };
const say = (response, status, text) => response.writeHead(status, plain).end(`${text}\n`);
/** Longest the database may take to answer before this process counts as not ready, in ms. */
const longestAnswer = 2_000;
const isSame = (one, other) => {
  const [left, right] = [Buffer.from(one), Buffer.from(other)];
  return left.length === right.length && timingSafeEqual(left, right);
};

/** Answers `/healthz`, `/readyz` and, with the token, `/metrics`; false for every other request. */
export function answersProbe(request, response) {
  const path = (request.url ?? "").split("?")[0];
  if (request.method !== "GET" && request.method !== "HEAD") return false;
  if (path === "/healthz") say(response, 200, "ok");
  else if (path === "/readyz") void ready(response);
  else if (path === "/metrics") void metrics(request, response);
  else return false;
  return true;
}
async function ready(response) {
  const app = await globalThis.kindLedger?.catch(() => undefined);
  if (!app) return say(response, 503, "not open");
  if (!app.state.fits) return say(response, 503, "the database is another version's");
  return (await app.database.answersIn(longestAnswer))
    ? say(response, 200, "ok")
    : say(response, 503, "the database does not answer");
}
async function metrics(request, response) {
  const { token, text } = globalThis.kindLedgerMetrics ?? {};
  const given = /^Bearer (.+)$/.exec(request.headers.authorization ?? "")?.[1];
  if (token === undefined) return say(response, 404, "not found");
  if (given === undefined || !isSame(given, token)) {
    response.setHeader("www-authenticate", "Bearer");
    return say(response, 401, "a token is asked for");
  }
  try {
    const all = await text(await globalThis.kindLedger);
    response.writeHead(200, { ...plain, "content-type": "text/plain; version=0.0.4; charset=utf-8" }).end(all);
  } catch {
    say(response, 503, "not just now");
  }
}
/** An address without what names somebody: ids, tokens, and whatever was asked with it. */
export const pathForLog = (url) =>
  (url ?? "")
    .split("?")[0]
    .split("/")
    .map((part) => (/^[a-z][a-z.-]{0,30}$/.test(part) || part === "" ? part : ":id"))
    .join("/");
