import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes } from "node:crypto";
import { existsSync, readFileSync, statSync } from "node:fs";
import type { Sealer } from "../core/shared";
import { replaceFile } from "./files-on-disk";

/** Keys by id, the one to seal with first, the oldest last. */
export type KeyRing = readonly { readonly id: string; readonly key: Buffer }[];

/** Parses `id:base64` pairs separated by commas or lines. @throws Error naming what is wrong, never the key. */
export function parseKeyRing(text: string): KeyRing {
  const ring = text
    .split(/[,\n]/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const colon = line.indexOf(":");
      const id = line.slice(0, colon);
      const key = Buffer.from(line.slice(colon + 1), "base64");
      if (colon < 1 || !/^[\w-]{1,32}$/.test(id))
        throw new Error("A key must be written as id:base64, with an id of letters, digits, _ or -.");
      if (key.length !== 32) throw new Error(`Key "${id}" must be 32 bytes in base64; it is ${key.length}.`);
      return { id, key };
    });
  if (ring.length === 0) throw new Error("The key ring is empty.");
  return ring;
}

/** Reads the key file; undefined when there is none. @throws Error for a file that others can read. */
export function keyRingFromFile(path: string): KeyRing | undefined {
  if (!existsSync(path)) return undefined;
  if ((statSync(path).mode & 0o077) !== 0) throw new Error(`${path} can be read by others. Run: chmod 600 ${path}`);
  return parseKeyRing(readFileSync(path, "utf8"));
}

const newKeyLine = (): string => `k${randomBytes(4).toString("hex")}:${randomBytes(32).toString("base64")}`;

/** A key file with a fresh key. @throws Error when there is one already. */
export function makeKeyFile(path: string): KeyRing {
  if (existsSync(path)) throw new Error(`${path} is there already.`);
  replaceFile(path, `${newKeyLine()}\n`);
  return parseKeyRing(readFileSync(path, "utf8"));
}
/**
 * Puts a fresh key in front; what was sealed with the older ones still opens. The file is replaced whole: a crash
 * leaves the old one.
 */
export function addKey(path: string): string {
  if (!keyRingFromFile(path)) throw new Error(`There is no key file at ${path}.`);
  const line = newKeyLine();
  replaceFile(path, `${line}\n${readFileSync(path, "utf8")}`);
  return line.slice(0, line.indexOf(":"));
}

const version = 1;
const nonceBytes = 12;
const tagBytes = 16;

/**
 * AES-256-GCM. Sealed bytes: version (1) | key id length (1) | key id | nonce (12) | ciphertext | tag (16).
 * The place is authenticated with it, so a value copied to another row or column does not open.
 */
export function createSealer(ring: KeyRing): Sealer {
  const current = ring[0]!;
  const byId = new Map(ring.map((k) => [k.id, k.key]));
  // From the oldest key, so that marks stay the same when a new one is put in front.
  const markKey = Buffer.from(hkdfSync("sha256", ring.at(-1)!.key, "", "kind-ledger mark", 32));
  const journalKey = Buffer.from(hkdfSync("sha256", ring.at(-1)!.key, "", "kind-ledger journal", 32));
  return {
    seal(place, value) {
      const nonce = randomBytes(nonceBytes);
      const cipher = createCipheriv("aes-256-gcm", current.key, nonce).setAAD(Buffer.from(place));
      const body = Buffer.concat([cipher.update(JSON.stringify(value), "utf8"), cipher.final()]);
      return Buffer.concat([
        Buffer.from([version, current.id.length]),
        Buffer.from(current.id),
        nonce,
        body,
        cipher.getAuthTag(),
      ]);
    },
    open<T>(place: string, sealed: Uint8Array): T {
      const bytes = Buffer.from(sealed);
      if (bytes[0] !== version) throw new Error("Sealed with an unknown format.");
      const idEnd = 2 + (bytes[1] ?? 0);
      const id = bytes.subarray(2, idEnd).toString();
      const key = byId.get(id);
      if (!key) throw new Error(`Sealed with key "${id}", which is not in the key ring.`);
      const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(idEnd, idEnd + nonceBytes), {
        authTagLength: tagBytes,
      })
        .setAAD(Buffer.from(place))
        .setAuthTag(bytes.subarray(-tagBytes));
      const text = Buffer.concat([
        decipher.update(bytes.subarray(idEnd + nonceBytes, -tagBytes)),
        decipher.final(),
      ]).toString("utf8");
      return JSON.parse(text) as T;
    },
    keyedDigest: (place, text) => createHmac("sha256", markKey).update(`${place}\0${text}`).digest("base64url"),
    mark: (text) => createHmac("sha256", journalKey).update(text).digest("base64url"),
  };
}

export const sha1 = (bytes: Uint8Array): string => createHash("sha1").update(bytes).digest("base64");
export const sha256 = (text: string): string => createHash("sha256").update(text).digest("hex");
