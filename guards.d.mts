import type { IncomingHttpHeaders } from "node:http";

export declare const largestOfStranger: number;
export declare const largestOfAnybody: number;
export declare function isOurHost(host: string | undefined, origin: string): boolean;
export declare function isReadable(url: string): boolean;
export declare function bodyVerdict(request: {
  readonly method: string;
  readonly headers: IncomingHttpHeaders;
}): "read" | "if-known" | 411 | 413;
export declare function addressOf(
  request: { readonly socket: { readonly remoteAddress?: string }; readonly headers: IncomingHttpHeaders },
  trustedProxies: ReadonlySet<string>,
): string;
