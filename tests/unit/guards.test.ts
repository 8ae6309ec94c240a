import { describe, expect, it } from "vitest";
import { addressOf, bodyVerdict, isOurHost, largestOfAnybody, largestOfStranger } from "../../guards.mjs";
import { cookieIn, cookieName, doorCookie, staffCookie } from "../../src/app/_server/cookie-names";
import { readEnvironment } from "../../src/server/environment";

describe("before a request is read", () => {
  it.each<[string | undefined, string, boolean]>([
    ["rooms.example", "https://rooms.example", true],
    ["ROOMS.example", "https://rooms.example", true],
    ["rooms.example:8443", "https://rooms.example:8443", true],
    ["rooms.example.evil.example", "https://rooms.example", false],
    ["evil.example", "https://rooms.example", false],
    ["rooms.example:81", "https://rooms.example", false],
    ["localhost:3000", "https://rooms.example", false],
    [undefined, "https://rooms.example", false],
    ["", "http://localhost:3000", false],
    ["localhost:3000", "http://localhost:3000", true],
    ["127.0.0.1:8080", "http://localhost:3000", true],
    ["[::1]:3000", "http://localhost:3000", true],
    ["localhost.evil.example", "http://localhost:3000", false],
    ["localhost:3000@evil.example", "http://localhost:3000", false],
  ])("the host %s is ours at %s: %s", (host, origin, expected) => {
    expect(isOurHost(host, origin)).toBe(expected);
  });
  it("a large body is for who is known, one without a length for nobody", () => {
    const verdict = (method: string, headers: Record<string, string>) => bodyVerdict({ method, headers });
    expect(verdict("GET", {})).toBe("read");
    expect(verdict("POST", {})).toBe("read");
    expect(verdict("POST", { "content-length": String(largestOfStranger) })).toBe("read");
    expect(verdict("POST", { "content-length": String(largestOfStranger + 1) })).toBe("if-known");
    expect(verdict("PUT", { "content-length": String(largestOfAnybody + 1) })).toBe(413);
    expect(verdict("POST", { "content-length": "many" })).toBe(413);
    expect(verdict("POST", { "transfer-encoding": "chunked" })).toBe(411);
  });
  it("the caller is who the socket says, or whom a proxy that is named says", () => {
    const from = (remoteAddress: string, forwarded?: string) =>
      addressOf(
        { socket: { remoteAddress }, headers: forwarded === undefined ? {} : { "x-forwarded-for": forwarded } },
        new Set(["10.0.0.1"]),
      );
    expect(from("::ffff:198.51.100.7", "203.0.113.1")).toBe("198.51.100.7");
    expect(from("10.0.0.1", "203.0.113.9, 198.51.100.7")).toBe("198.51.100.7");
    expect(from("10.0.0.1")).toBe("10.0.0.1");
  });
});

describe("cookies", () => {
  it("over https belong to this host alone, and are found among others by their whole name", () => {
    const https = "https://rooms.example";
    expect(cookieName(staffCookie, https)).toBe("__Host-kl_staff");
    expect(cookieName(doorCookie, https)).toBe("__Secure-kl_door");
    expect(cookieName(staffCookie, "http://localhost:3000")).toBe("kl_staff");
    expect(cookieIn("kl_staff=planted; __Host-kl_staff=right; a=b", staffCookie, https)).toBe("right");
    expect(cookieIn("xkl_staff=planted", staffCookie, "http://localhost:3000")).toBeUndefined();
  });
});

describe("for real", () => {
  const real = { NODE_ENV: "production", KIND_LEDGER_DATA: "/nowhere" };
  it("a stopped clock or a plain http address is refused with what to do", () => {
    const stopped = { ...real, KIND_LEDGER_NOW: "2026-11-25T08:00:00Z" };
    expect(() => readEnvironment(stopped)).toThrow(/stops the clock/);
    expect(readEnvironment({ ...stopped, KIND_LEDGER_TRIAL: "yes" }).now).toBe(stopped.KIND_LEDGER_NOW);
    for (const origin of ["http://rooms.example", "http://localhost.rooms.example", "http://192.0.2.7:3000"])
      expect(() => readEnvironment({ ...real, KIND_LEDGER_ORIGIN: origin }), origin).toThrow(/Put TLS in front/);
    for (const origin of ["https://rooms.example", "http://localhost:3000", "http://127.0.0.1", "http://[::1]:3000"])
      expect(readEnvironment({ ...real, KIND_LEDGER_ORIGIN: origin }).origin).toBe(origin);
  });
});
