import { createReadStream, createWriteStream, openSync, closeSync, fsyncSync } from "node:fs";
import { once } from "node:events";
import { Readable } from "node:stream";
import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import { Decrypter, Encrypter, generateX25519Identity, identityToRecipient } from "age-encryption";
import { Header, Parser, type ReadEntry } from "tar";

/** For whom a backup is encrypted: whoever knows the passphrase, or whoever has the identity of a recipient. */
export type Lock = { readonly passphrase: string } | { readonly recipient: string };
export type Unlock = { readonly passphrase: string } | { readonly identity: string };
export interface Entry {
  readonly name: string;
  readonly bytes: Uint8Array;
}
/** It is no backup, is damaged, or is encrypted for somebody else. Nothing was changed. */
export class BackupFileError extends Error {
  override readonly name = "BackupFileError";
}

const block = 512;
const zip = promisify(gzip);
const unzip = promisify(gunzip);
export const packed = async (bytes: Uint8Array): Promise<Uint8Array> => zip(bytes, { level: 1 });
export const unpacked = async (bytes: Uint8Array): Promise<Uint8Array> => unzip(bytes);

async function* asTar(entries: AsyncIterable<Entry>): AsyncGenerator<Uint8Array> {
  for await (const { name, bytes } of entries) {
    const head = Buffer.alloc(block);
    new Header({ path: name, size: bytes.length, mode: 0o600, mtime: new Date(0), type: "File" }).encode(head);
    yield head;
    yield bytes;
    yield Buffer.alloc((block - (bytes.length % block)) % block);
  }
  yield Buffer.alloc(2 * block);
}
/** What a backup can be read back with, right after it was written. */
async function encrypterFor(lock: Lock): Promise<{ readonly encrypter: Encrypter; readonly back: Unlock }> {
  const encrypter = new Encrypter();
  if ("passphrase" in lock) {
    encrypter.setPassphrase(lock.passphrase);
    return { encrypter, back: lock };
  }
  // Whose identity is elsewhere cannot read it back here; somebody made up for this one file can, and is then forgotten.
  const identity = await generateX25519Identity();
  try {
    encrypter.addRecipient(lock.recipient);
  } catch {
    throw new BackupFileError("A recipient looks like age1…; see `npm run kind -- backup-key`.");
  }
  encrypter.addRecipient(await identityToRecipient(identity));
  return { encrypter, back: { identity } };
}
/**
 * Writes a tar file of the entries, encrypted as age does (age-encryption.org/v1), and forces it to the disk. Gives
 * what it can be read back with.
 * @throws Error of the system, where the disk is full
 */
export async function writeBackup(path: string, lock: Lock, entries: AsyncIterable<Entry>): Promise<Unlock> {
  const plain = Readable.toWeb(Readable.from(asTar(entries))) as ReadableStream<Uint8Array>;
  const { encrypter, back } = await encrypterFor(lock);
  const sealed = await encrypter.encrypt(plain);
  const file = createWriteStream(path, { mode: 0o600 });
  let broken: Error | undefined;
  file.on("error", (error) => (broken = error));
  const closed = new Promise<void>((resolve) => file.once("close", resolve));
  await once(file, "open");
  for await (const chunk of sealed as unknown as AsyncIterable<Uint8Array>) {
    if (broken) throw broken;
    if (!file.write(chunk))
      await Promise.race([new Promise<void>((resolve) => file.once("drain", () => resolve())), closed]);
  }
  file.end();
  await closed;
  if (broken) throw broken;
  const written = openSync(path, "r");
  fsyncSync(written);
  closeSync(written);
  return back;
}
/** What a backup holds, one entry after the other. @throws BackupFileError */
export async function* readBackup(path: string, unlock: Unlock): AsyncGenerator<Entry> {
  const decrypter = new Decrypter();
  if ("passphrase" in unlock) decrypter.addPassphrase(unlock.passphrase);
  else
    try {
      decrypter.addIdentity(unlock.identity);
    } catch {
      throw new BackupFileError("An identity looks like AGE-SECRET-KEY-1…; see `npm run kind -- backup-key`.");
    }
  const file = Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;
  const fail = (what: string): never => {
    throw new BackupFileError(`${path} ${what}`);
  };
  const plain = await decrypter
    .decrypt(file)
    .catch(() => fail("does not open: it is no backup, or the passphrase or identity is another one."));
  const ready: Entry[] = [];
  const parser = new Parser({
    strict: true,
    onReadEntry(entry: ReadEntry) {
      const parts: Buffer[] = [];
      entry.on("data", (part: Buffer) => parts.push(part));
      entry.on("end", () => ready.push({ name: entry.path, bytes: Buffer.concat(parts) }));
    },
  });
  let broken = false;
  parser.on("error", () => (broken = true));
  const chunks = (plain as unknown as AsyncIterable<Uint8Array>)[Symbol.asyncIterator]();
  try {
    for (;;) {
      const next = await chunks.next().catch(() => fail("is damaged, or was cut off."));
      if (next.done) break;
      parser.write(Buffer.from(next.value));
      if (broken) fail("is damaged.");
      yield* ready.splice(0);
    }
  } finally {
    // Whoever wanted the first entry alone is through.
    await chunks.return?.().catch(() => undefined);
  }
  parser.end();
  if (broken) fail("is damaged.");
  yield* ready.splice(0);
}
/** A key pair for backups: what encrypts them may lie on the server, what opens them elsewhere. */
export async function makeBackupIdentity(): Promise<{ readonly identity: string; readonly recipient: string }> {
  const identity = await generateX25519Identity();
  return { identity, recipient: await identityToRecipient(identity) };
}
