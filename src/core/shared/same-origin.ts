/**
 * Whether a request that changes something came from our own pages. Browsers say so in Sec-Fetch-Site; an older one is
 * judged by its Origin. Without either, no.
 */
export function isSameOrigin(headers: { get(name: string): string | null }): boolean {
  const site = headers.get("sec-fetch-site");
  if (site !== null) return site === "same-origin";
  const host = /^https?:\/\/([^/]+)$/.exec(headers.get("origin") ?? "")?.[1];
  return host !== undefined && host === headers.get("host");
}
