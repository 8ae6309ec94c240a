// What is looked at before anything of a request is read.

/** Largest body of somebody who is not known yet, in bytes: a form, a code, answers that were typed. */
export const largestOfStranger = 128 * 1024;
/** Largest body of anybody: a questionnaire's file with its PDF. */
export const largestOfAnybody = 25 * 1024 * 1024;

const loopback = /^(?:localhost|127\.0\.0\.1|\[::1\])$/;
/**
 * Whether the request speaks to us by our own name: a page is never drawn, and no link ever made, for another. On a
 * machine of one's own any port will do, since a tunnel or a proxy may have its own.
 */
export function isOurHost(host, origin) {
  const ours = new URL(origin);
  if (typeof host !== "string") return false;
  if (!loopback.test(ours.hostname)) return host.toLowerCase() === ours.host;
  return loopback.test(host.toLowerCase().replace(/:\d{1,5}$/, ""));
}

/** Whether the address can be read: the framework fails on one whose escapes are no UTF-8. */
export function isReadable(url) {
  try {
    decodeURIComponent(url);
    return true;
  } catch {
    return false;
  }
}

/**
 * What becomes of a body, by its length as the header says: it is read, read if whoever sends it is known, or refused
 * with a status. Without a length nobody knows what would come.
 */
export function bodyVerdict({ method, headers }) {
  if (method === "GET" || method === "HEAD") return "read";
  if (headers["transfer-encoding"] !== undefined) return 411;
  const length = Number(headers["content-length"] ?? 0);
  if (!(length <= largestOfAnybody)) return 413;
  return length <= largestOfStranger ? "read" : "if-known";
}

/** The caller's address: what a trusted proxy says, else the socket's. A stranger's own header never counts. */
export function addressOf({ socket, headers }, trustedProxies) {
  const direct = (socket.remoteAddress ?? "").replace(/^::ffff:/, "");
  if (!trustedProxies.has(direct)) return direct;
  const hops = String(headers["x-forwarded-for"] ?? "")
    .split(",")
    .map((hop) => hop.trim())
    .filter(Boolean);
  return hops.reverse().find((hop) => !trustedProxies.has(hop)) ?? direct;
}
