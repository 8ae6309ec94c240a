import { chmodSync, mkdtempSync, readFileSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { inspect } from "node:util";
import { DrizzleQueryError } from "drizzle-orm/errors";
import { generate } from "otplib";
import { describe, expect, it } from "vitest";
import { readEnvironment } from "../../src/server/environment";
import { unpackWoff } from "../../src/adapters/fonts";
import {
  addKey,
  createKeyWrap,
  createSealer,
  keyRingFromFile,
  makeKeyFile,
  makeSecrets,
  parseKeyRing,
  type KeyRing,
} from "../../src/adapters/encryption";
import { argonPasswords } from "../../src/adapters/passwords";
import { systemRandom } from "../../src/adapters/random";
import { totpFactor } from "../../src/adapters/second-factor";
import { StorageError, withoutValues } from "../../src/db/errors";
import { instant } from "../../src/core/shared";

const key = (id: string, byte: number): string => `${id}:${Buffer.alloc(32, byte).toString("base64")}`;

describe("a packed font", () => {
  // OpenType 1.9, "Calculating checksums": the sum of a table's 32-bit words, the font header's own field counted as
  // nothing.
  it.each([
    "noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal",
    "newsreader/files/newsreader-latin-500-italic",
  ])("%s is unpacked whole: each table adds up to its checksum", (path) => {
    const woff = readFileSync(`node_modules/@fontsource/${path}.woff`);
    const font = unpackWoff(woff);
    const tables = font.readUInt16BE(4);
    expect(tables).toBe(woff.readUInt16BE(12));
    expect(font.length).toBe(woff.readUInt32BE(16));
    for (let index = 0; index < tables; index++) {
      const at = 12 + index * 16;
      const tag = font.toString("latin1", at, at + 4);
      const table = Buffer.from(
        font.subarray(
          font.readUInt32BE(at + 8),
          font.readUInt32BE(at + 8) + Math.ceil(font.readUInt32BE(at + 12) / 4) * 4,
        ),
      );
      if (tag === "head") table.writeUInt32BE(0, 8);
      let sum = 0;
      for (let word = 0; word < table.length; word += 4) sum = (sum + table.readUInt32BE(word)) >>> 0;
      expect(sum, tag).toBe(font.readUInt32BE(at + 4));
    }
  });
  it("is refused where it is something else", () => {
    expect(() => unpackWoff(Buffer.from("%PDF-1.7 and more"))).toThrow(RangeError);
  });
});

describe("sealing", () => {
  const secrets = makeSecrets();
  const sealerWith = (ring: KeyRing) => createSealer(createKeyWrap(ring), secrets);
  const sealer = sealerWith(parseKeyRing(key("k1", 1)));
  const own = sealer.clientKeys.make();
  const other = sealer.clientKeys.make();
  it.each([undefined, own.id])(
    "opens what it sealed, in its place only, and never the same bytes twice, %s",
    (whose) => {
      const sealed = sealer.seal("answer:1", { text: "a secret, ليلى" }, whose);
      expect(sealer.open("answer:1", sealed)).toEqual({ text: "a secret, ليلى" });
      expect(sealer.clientKeyOf(sealed)).toBe(whose);
      expect(() => sealer.open("answer:2", sealed)).toThrow();
      expect(Buffer.from(sealer.seal("answer:1", { text: "a secret, ليلى" }, whose))).not.toEqual(Buffer.from(sealed));
      expect(Buffer.from(sealed).includes("secret")).toBe(false);
    },
  );
  it.each([undefined, own.id])("opens nothing after any one byte changed, %s", (whose) => {
    const sealed = sealer.seal("p", "value", whose);
    for (let i = 0; i < sealed.length; i++) {
      const bent = Uint8Array.from(sealed);
      bent[i]! ^= 1;
      expect(() => sealer.open("p", bent)).toThrow();
    }
  });
  it("opens a client's with that client's key alone, and not once it is forgotten", () => {
    const sealed = sealer.seal("p", "theirs", own.id);
    const named = Buffer.from(sealed);
    Buffer.from(other.id.replaceAll("-", ""), "hex").copy(named, 1);
    expect(() => sealer.open("p", named)).toThrow();
    sealer.clientKeys.forget([own.id]);
    expect(() => sealer.open("p", sealed)).toThrow(/not known, or was destroyed/);
    expect(() => sealer.seal("p", "more", own.id)).toThrow(/not known, or was destroyed/);
    expect(() => sealer.clientKeys.learn(own.id, other.sealed)).toThrow();
    sealer.clientKeys.learn(own.id, own.sealed);
    expect(sealer.open("p", sealed)).toBe("theirs");
  });
  it("keeps opening everything after a key was added in front, and without the old one once the small keys are sealed anew", () => {
    const folder = mkdtempSync(join(tmpdir(), "kl-"));
    const path = join(folder, "key");
    expect(keyRingFromFile(path)).toBeUndefined();
    const before = sealerWith(makeKeyFile(path));
    expect(statSync(path).mode & 0o777).toBe(0o600);
    const made = before.clientKeys.make();
    const sealed = before.seal("p", "old", made.id);
    const mark = before.keyedDigest("link", "token");
    const old = keyRingFromFile(path)!;
    const id = addKey(path);
    const ring = keyRingFromFile(path)!;
    const after = sealerWith(ring);
    after.clientKeys.learn(made.id, made.sealed);
    expect([after.open("p", sealed), after.keyedDigest("link", "token")]).toEqual(["old", mark]);
    const anew = after.clientKeys.resealed(made.id, made.sealed)!;
    expect(Buffer.from(anew).includes(id)).toBe(true);
    expect(after.clientKeys.resealed(made.id, anew)).toBeUndefined();
    const alone = sealerWith(ring.slice(0, 1));
    expect(() => alone.clientKeys.learn(made.id, made.sealed)).toThrow(/not in the key ring/);
    alone.clientKeys.learn(made.id, anew);
    expect(alone.open("p", sealed)).toBe("old");
    // A process that began before asks for the ring once more.
    const running = createSealer(
      createKeyWrap(old, () => keyRingFromFile(path)),
      secrets,
    );
    running.clientKeys.learn(made.id, anew);
    expect(running.open("p", sealed)).toBe("old");
    chmodSync(path, 0o644);
    expect(() => keyRingFromFile(path)).toThrow(/can be read by others/);
  });
  it.each([
    ["", /empty/],
    ["k1", /id:base64/],
    ["k1:AAAA", /must be 32 bytes/],
  ])("refuses the ring %j", (text, problem) => {
    expect(() => parseKeyRing(text)).toThrow(problem);
  });
});

describe("the second factor", () => {
  // RFC 6238 appendix B, SHA-1: secret "12345678901234567890"; the last six of its eight digits.
  const secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ";
  it.each([
    [59, "287082"],
    [1111111109, "081804"],
    [1111111111, "050471"],
    [1234567890, "005924"],
    [2000000000, "279037"],
  ])("takes the code of second %i", async (second, code) => {
    expect(await totpFactor.stepOf(secret, code, instant(second * 1000), 0)).toBe(Math.floor(second / 30));
  });
  it("never takes a step that was used, and not one too far away", async () => {
    const now = instant(1_234_567_890_000);
    const step = Math.floor(1_234_567_890 / 30);
    expect(await totpFactor.stepOf(secret, "005924", now, step)).toBeUndefined();
    const early = await generate({ secret, epoch: 1_234_567_890 - 30 });
    const old = await generate({ secret, epoch: 1_234_567_890 - 90 });
    expect(await totpFactor.stepOf(secret, early, now, 0)).toBe(step - 1);
    expect(await totpFactor.stepOf(secret, early, now, step)).toBeUndefined();
    expect(await totpFactor.stepOf(secret, old, now, 0)).toBeUndefined();
    expect(await totpFactor.stepOf(secret, "abcdef", now, 0)).toBeUndefined();
  });
});

describe("outside things", () => {
  it("passwords: the right one, a wrong one, nobody's", async () => {
    const hash = await argonPasswords.hash("heron");
    expect(hash).toMatch(/^\$argon2id\$/);
    expect(
      await Promise.all([
        argonPasswords.verify(hash, "heron"),
        argonPasswords.verify(hash, "Heron"),
        argonPasswords.verify(undefined, "nobody has this password"),
      ]),
    ).toEqual([true, false, false]);
  });
  it("codes have six digits, tokens 256 bits", () => {
    for (let i = 0; i < 200; i++) expect(systemRandom.code()).toMatch(/^\d{6}$/);
    expect(Buffer.from(systemRandom.token(), "base64url")).toHaveLength(32);
  });
  it("a database failure carries no SQL and no values", async () => {
    const cause = Object.assign(new Error("duplicate key"), {
      code: "23505",
      constraint: "answer_key",
      detail: "Key (x)=(I feel low)",
    });
    const query = "insert into answer values ($1)";
    const thrown = [
      new DrizzleQueryError(query, ["I feel low"], cause),
      // As a bundler leaves it: a copy of the class, by another name.
      Object.assign(new Error(`Failed query: ${query} params: I feel low`), { query, params: ["I feel low"], cause }),
      Object.assign(new Error("value too long: I feel low"), { severity: "ERROR", code: "22001" }),
    ];
    for (const one of thrown) {
      const error = await withoutValues(() => Promise.reject(one)).catch((e: unknown) => e);
      expect(error).toBeInstanceOf(StorageError);
      expect(inspect(error)).not.toContain("feel low");
      expect(inspect(error)).not.toContain("insert into");
    }
  });
  it("the environment is refused with the name of what is wrong", () => {
    expect(() => readEnvironment({ KIND_LEDGER_NOW: "yesterday" })).toThrow(/KIND_LEDGER_NOW/);
    expect(() => readEnvironment({ DATABASE_URL: "mysql://x" })).toThrow(/DATABASE_URL/);
    expect(readEnvironment({ KIND_LEDGER_DATA: "/x", PORT: "4000" })).toMatchObject({
      origin: "http://localhost:4000",
      keyFile: "/x/key",
    });
  });
  it("the catalogue of versions is pinned", () => {
    const { dependencies, devDependencies } = JSON.parse(readFileSync("package.json", "utf8")) as Record<
      "dependencies" | "devDependencies",
      Record<string, string>
    >;
    for (const [name, version] of Object.entries({ ...dependencies, ...devDependencies }))
      expect(version, name).toMatch(/^(npm:[\w@/-]+@)?\d+\.\d+\.\d+$/);
  });
});
