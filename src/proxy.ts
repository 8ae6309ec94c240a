import { isSameOrigin } from "@/core/shared";
import { NextResponse, type NextRequest } from "next/server";

/** Every request passes here: a fresh nonce for its page, and no mutation from another site. */
export function proxy(request: NextRequest): NextResponse {
  if (request.method !== "GET" && request.method !== "HEAD" && !isSameOrigin(request.headers))
    return NextResponse.json({ error: "This request came from another site." }, { status: 403 });

  const nonce = btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(16))));
  const dev = process.env.NODE_ENV === "development";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ""}`,
    `style-src 'self' ${dev ? "'unsafe-inline'" : `'nonce-${nonce}'`}`,
    // React Aria positions and hides parts by style attributes; attributes cannot carry a nonce.
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${dev ? " ws:" : ""}`,
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");

  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  // The document's language follows the page's, which the root layout cannot see otherwise.
  headers.set("x-kind-ledger-path", request.nextUrl.pathname);
  const language = request.nextUrl.searchParams.get("in");
  if (language !== null && /^[\w-]{2,35}$/.test(language)) headers.set("x-kind-ledger-language", language);
  else headers.delete("x-kind-ledger-language");
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("x-content-type-options", "nosniff");
  // Not no-referrer: with it a form sent without script carries no origin, and is taken for another site's.
  response.headers.set("referrer-policy", "same-origin");
  response.headers.set("x-frame-options", "DENY");
  response.headers.set("cross-origin-opener-policy", "same-origin");
  response.headers.set("permissions-policy", "camera=(), microphone=(), geolocation=()");
  response.headers.set("strict-transport-security", "max-age=31536000; includeSubDomains");
  response.headers.set("cache-control", "no-store");
  return response;
}

export const config = { matcher: ["/((?!_next/static|favicon.svg).*)"] };
