/** Ids that stand for nothing, or for something else somewhere. Each goes into every address that takes one. */
export const hostileIds: readonly string[] = [
  "00000000-0000-4000-8000-000000000000",
  "x",
  "__proto__",
  "constructor",
  "%00",
  "..%2f..%2fetc%2fpasswd",
  "%2e%2e%2f%2e%2e",
  "1%27%20or%20%271%27%3d%271",
  "%F0%9F%8C%B1",
  "%C0%AF",
  "a".repeat(3000),
  "00000000-0000-4000-8000-000000000000%0d%0aset-cookie:%20x=y",
];
/** Addresses with a place for an id. */
export const clientPaths = ["", "/changes?since=0", "/paper", "/copy", "/sheet/ID", "/leaflet/ID"] as const;
export const staffPaths = [
  "/packets/ID",
  "/returns/ID",
  "/returns/ID/reconcile",
  "/people/ID",
  "/people/ID?visit=ID",
  "/library/ID",
  "/library/ID/compose",
  "/library/ID/map",
  "/library/ID/languages",
  "/library/ID/rehearse",
  "/notes/ID",
  "/visits/ID",
  "/visits/new?client=ID&on=ID",
  "/week?on=ID",
  "/join/ID",
  "/post-room/ID",
  "/send/many/ID",
  "/send?visit=ID",
  "/send?client=ID",
  "/api/files/ID",
  "/api/leaflets/ID",
  "/api/parts/ID/sheet",
  "/api/parts/ID/paper",
  "/api/parts/ID/response",
  "/api/versions/ID",
  "/api/questionnaires/ID/hand-off",
  "/api/questionnaires/ID/sheet",
  "/api/questionnaires/ID/blank",
  "/api/questionnaires/ID/xliff?language=ID",
] as const;
/** Bodies that are no request of ours. */
export const hostileBodies: readonly string[] = [
  "",
  "null",
  "7",
  '"text"',
  "[]",
  "{",
  `${"[".repeat(20_000)}${"]".repeat(20_000)}`,
  `{"a":`.repeat(5000),
  '{"__proto__":{"role":"owner"}}',
  '{"constructor":{"prototype":{"x":1}}}',
  '{"partId":{"$ne":null},"changes":[]}',
  '{"partId":"x","changes":{"length":1e9}}',
  `{"partId":"x","changes":[${"{},".repeat(300)}{}]}`,
  `{"comment":"${"x".repeat(19_000)}"}`,
  "\u0000",
  "\ufeff{}",
];
/**
 * Sent as they stand, byte for byte: what no client library would. The status each begins with, or none where the line
 * is cut.
 */
export const hostileWire: readonly (readonly [what: string, bytes: string, status: RegExp])[] = [
  ["another host's name", "GET /sign-in HTTP/1.1\r\nHost: evil.example\r\n\r\n", /^HTTP\/1\.1 421/],
  ["no host", "GET /sign-in HTTP/1.1\r\n\r\n", /^HTTP\/1\.1 400/],
  ["two hosts", "GET /sign-in HTTP/1.1\r\nHost: localhost\r\nHost: evil.example\r\n\r\n", /^HTTP\/1\.1 (400|421|200)/],
  [
    "an address with a host of its own",
    "GET http://evil.example/sign-in HTTP/1.1\r\nHost: evil.example\r\n\r\n",
    /^HTTP\/1\.1 421/,
  ],
  [
    "24 MB from nobody",
    "POST /sign-in HTTP/1.1\r\nHost: localhost\r\nContent-Length: 25165824\r\n\r\n",
    /^HTTP\/1\.1 413/,
  ],
  [
    "24 MB to a packet of somebody's",
    "PUT /f/00000000-0000-4000-8000-000000000000/files HTTP/1.1\r\nHost: localhost\r\nContent-Length: 25165824\r\n\r\n",
    /^HTTP\/1\.1 413/,
  ],
  [
    "a body without a length",
    "POST /sign-in HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\n",
    /^HTTP\/1\.1 411/,
  ],
  [
    "both a length and none",
    "POST /sign-in HTTP/1.1\r\nHost: localhost\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n",
    /^HTTP\/1\.1 4\d\d/,
  ],
  [
    "a length that is none",
    "POST /sign-in HTTP/1.1\r\nHost: localhost\r\nContent-Length: -1\r\n\r\n",
    /^HTTP\/1\.1 400/,
  ],
  [
    "headers of 100 KB",
    `GET /sign-in HTTP/1.1\r\nHost: localhost\r\nX: ${"x".repeat(100_000)}\r\n\r\n`,
    /^HTTP\/1\.1 431/,
  ],
  [
    "a cookie of 12 KB",
    `GET /day HTTP/1.1\r\nHost: localhost\r\nCookie: kl_staff=${"x".repeat(12_000)}\r\nConnection: close\r\n\r\n`,
    /^HTTP\/1\.1 307/,
  ],
  [
    "an encoded line end in a header's value",
    "GET /sign-in HTTP/1.1\r\nHost: localhost\r\nUser-Agent: a\u0001b\r\n\r\n",
    /^HTTP\/1\.1 400/,
  ],
];
