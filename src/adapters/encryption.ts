import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes, randomUUID } from "node:crypto";
import { existsSync, readFileSync, statSync } from "node:fs";
import type { Id, Sealer } from "../core/shared";
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

/** Leaves the first key alone in the file. */
export function keepFirstKey(path: string): void {
  const [first] = readFileSync(path, "utf8")
    .split(/[,\n]/)
    .map((line) => line.trim())
    .filter(Boolean);
  replaceFile(path, `${first}\n`);
}

const nonceBytes = 12;
const tagBytes = 16;
const uuidBytes = 16;
/** The first byte says with what kind of key the rest was sealed. */
const byInstallation = 1;
const byClient = 2;
const byPractice = 3;

/** nonce (12) | ciphertext | tag (16), AES-256-GCM; the place is authenticated with it. */
function encrypt(key: Buffer, place: string, value: unknown): Buffer {
  const nonce = randomBytes(nonceBytes);
  const cipher = createCipheriv("aes-256-gcm", key, nonce).setAAD(Buffer.from(place));
  return Buffer.concat([nonce, cipher.update(JSON.stringify(value), "utf8"), cipher.final(), cipher.getAuthTag()]);
}
function decrypt<T>(key: Buffer, place: string, bytes: Buffer): T {
  const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(0, nonceBytes), { authTagLength: tagBytes })
    .setAAD(Buffer.from(place))
    .setAuthTag(bytes.subarray(-tagBytes));
  const text = Buffer.concat([decipher.update(bytes.subarray(nonceBytes, -tagBytes)), decipher.final()]);
  return JSON.parse(text.toString("utf8")) as T;
}

/** Seals small keys, and nothing else, with the installation's. */
export interface KeyWrap {
  seal(place: string, value: unknown): Uint8Array;
  /** @throws Error when the bytes were changed, moved, or sealed with a key that is not in the ring. */
  open<T>(place: string, bytes: Uint8Array): T;
  /** How everything begins that is sealed with the first key of the ring. */
  current(): Uint8Array;
  /** Whether these bytes are. */
  isCurrent(bytes: Uint8Array): boolean;
  /** Looks again which keys there are. */
  reread(): void;
}
/**
 * Layout: 1 | key id length (1) | key id | what `encrypt` gives.
 *
 * @param reread asks for the ring again where a key is met that is not in it: another process may have put it in front
 */
export function createKeyWrap(given: KeyRing, reread: () => KeyRing | undefined = () => undefined): KeyWrap {
  let ring = given;
  const lookAgain = (): void => {
    ring = reread() ?? ring;
  };
  const headOf = (id: string): Buffer => Buffer.concat([Buffer.from([byInstallation, id.length]), Buffer.from(id)]);
  const keyOf = (id: string): Buffer | undefined => ring.find((one) => one.id === id)?.key;
  return {
    seal: (place, value) => Buffer.concat([headOf(ring[0]!.id), encrypt(ring[0]!.key, place, value)]),
    open<T>(place: string, sealed: Uint8Array): T {
      const bytes = Buffer.from(sealed);
      if (bytes[0] !== byInstallation) throw new Error("Sealed with an unknown format.");
      const end = 2 + (bytes[1] ?? 0);
      const id = bytes.subarray(2, end).toString();
      if (!keyOf(id)) lookAgain();
      const key = keyOf(id);
      if (!key) throw new Error(`Sealed with key "${id}", which is not in the key ring.`);
      return decrypt<T>(key, place, bytes.subarray(end));
    },
    current: () => headOf(ring[0]!.id),
    isCurrent(bytes) {
      const head = headOf(ring[0]!.id);
      return head.equals(bytes.subarray(0, head.length));
    },
    reread: lookAgain,
  };
}

/** What belongs to the installation besides its ring, each 32 bytes in base64; lies in the database, sealed with it. */
export interface Secrets {
  /** Seals what is the practice's own. */
  readonly data: string;
  /** For keyed digests of links, codes and slots. */
  readonly digests: string;
  /** For the journal's marks. */
  readonly journal: string;
}
export function makeSecrets(): Secrets {
  const fresh = (): string => randomBytes(32).toString("base64");
  return { data: fresh(), digests: fresh(), journal: fresh() };
}

/**
 * Seals values with the key of whose they are. Layouts: 2 | client key id (16) | what `encrypt` gives, for what is a
 * client's; 3 | what `encrypt` gives, for what is the practice's own.
 */
export function createSealer(wrap: KeyWrap, secrets: Secrets): Sealer {
  const [practiceKey, digestKey, journalKey] = [secrets.data, secrets.digests, secrets.journal].map((one) =>
    Buffer.from(one, "base64"),
  ) as [Buffer, Buffer, Buffer];
  const known = new Map<string, Buffer>();
  const placeOf = (id: string): string => `client-key:${id}`;
  const clientKeyOf = (bytes: Uint8Array): Id<"ClientKey"> | undefined =>
    bytes[0] === byClient ? uuidOf(bytes.subarray(1, 1 + uuidBytes)) : undefined;
  const keyOfClient = (id: string): Buffer => {
    const key = known.get(id);
    if (!key) throw new Error(`The client's key ${id} is not known, or was destroyed.`);
    return key;
  };
  return {
    seal: (place, value, clientKey) =>
      clientKey === undefined
        ? Buffer.concat([Buffer.from([byPractice]), encrypt(practiceKey, place, value)])
        : Buffer.concat([
            Buffer.from([byClient]),
            Buffer.from(clientKey.replaceAll("-", ""), "hex"),
            encrypt(keyOfClient(clientKey), place, value),
          ]),
    open<T>(place: string, sealed: Uint8Array): T {
      const bytes = Buffer.from(sealed);
      if (bytes[0] === byPractice) return decrypt<T>(practiceKey, place, bytes.subarray(1));
      const client = clientKeyOf(bytes);
      if (client === undefined) throw new Error("Sealed with an unknown format.");
      return decrypt<T>(keyOfClient(client), place, bytes.subarray(1 + uuidBytes));
    },
    clientKeyOf,
    clientKeys: {
      has: (id) => known.has(id),
      make() {
        const id = randomUUID() as string as Id<"ClientKey">;
        const key = randomBytes(32);
        known.set(id, key);
        return { id, sealed: wrap.seal(placeOf(id), key.toString("base64")) };
      },
      learn: (id, sealed) => void known.set(id, Buffer.from(wrap.open<string>(placeOf(id), sealed), "base64")),
      forget(ids) {
        if (ids === undefined) known.clear();
        for (const id of ids ?? []) known.delete(id);
      },
      resealed: (id, sealed) =>
        wrap.isCurrent(sealed) ? undefined : wrap.seal(placeOf(id), wrap.open<string>(placeOf(id), sealed)),
      current: () => wrap.current(),
    },
    keyedDigest: (place, text) => createHmac("sha256", digestKey).update(`${place}\0${text}`).digest("base64url"),
    mark: (text) => createHmac("sha256", journalKey).update(text).digest("base64url"),
  };
}

function uuidOf(bytes: Uint8Array): Id<"ClientKey"> {
  const hex = Buffer.from(bytes).toString("hex");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join(
    "-",
  ) as Id<"ClientKey">;
}

export const sha1 = (bytes: Uint8Array): string => createHash("sha1").update(bytes).digest("base64");
export const sha256 = (data: string | Uint8Array): string => createHash("sha256").update(data).digest("hex");
