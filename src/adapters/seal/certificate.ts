import { createHash, randomBytes, webcrypto } from "node:crypto";
import * as asn1js from "asn1js";
import {
  AttributeTypeAndValue,
  BasicConstraints,
  Certificate,
  ContentInfo,
  type AuthenticatedSafe,
  type CertBag,
  ExtKeyUsage,
  Extension,
  PFX,
  type PKCS8ShroudedKeyBag,
  type PrivateKeyInfo,
  type SafeBag,
} from "pkijs";
import { fail, instantMs, laterBy, ok, type Instant, type Result } from "../../core/shared";

/** What seals or time-stamps are made with. DER in base64; the own certificate first in the chain, the key as PKCS #8. */
export interface SealIdentity {
  readonly chain: readonly string[];
  readonly key: string;
}
/** What a certificate says of itself. */
export interface CertificateFacts {
  /** SHA-256 of the certificate, in hex. */
  readonly fingerprint: string;
  readonly subject: string;
  readonly issuer: string;
  readonly from: Instant;
  readonly until: Instant;
}
export type Pkcs12Problem = "not-pkcs12" | "wrong-password" | "old-encryption" | "no-key" | "ended";

const oid = {
  commonName: "2.5.4.3",
  organisation: "2.5.4.10",
  keyUsage: "2.5.29.15",
  extendedKeyUsage: "2.5.29.37",
  basicConstraints: "2.5.29.19",
  timeStamping: "1.3.6.1.5.5.7.3.8",
  keyBag: "1.2.840.113549.1.12.10.1.1",
  shroudedKeyBag: "1.2.840.113549.1.12.10.1.2",
  certBag: "1.2.840.113549.1.12.10.1.3",
} as const;
const yearMs = 366 * 86_400_000;
const ecdsa = { name: "ECDSA", namedCurve: "P-256" } as const;

export const toBase64 = (bytes: ArrayBuffer | Uint8Array): string =>
  Buffer.from(new Uint8Array(bytes)).toString("base64");
export const fromBase64 = (text: string): Uint8Array<ArrayBuffer> => new Uint8Array(Buffer.from(text, "base64"));
export const readCertificate = (der: string): Certificate => Certificate.fromBER(fromBase64(der));

/** A certificate of one's own, for twenty years: its key proves that papers come from here, not who runs the practice. */
export async function makeIdentity(name: string, use: "seal" | "time-stamp", at: Instant): Promise<SealIdentity> {
  const keys = await webcrypto.subtle.generateKey(ecdsa, true, ["sign", "verify"]);
  const certificate = new Certificate({
    version: 2,
    serialNumber: new asn1js.Integer({ valueHex: positive(randomBytes(16)) }),
  });
  const called = use === "seal" ? name : `${name}, time-stamps`;
  for (const side of [certificate.issuer, certificate.subject])
    for (const [type, value] of [
      [oid.commonName, called],
      [oid.organisation, name],
    ] as const)
      // 64 characters are the most a name may have (RFC 5280, ub-common-name).
      side.typesAndValues.push(
        new AttributeTypeAndValue({ type, value: new asn1js.Utf8String({ value: value.slice(0, 64) }) }),
      );
  // From the day before: a clock may have been wrong by hours.
  certificate.notBefore.value = new Date(instantMs(laterBy(at, -86_400_000)));
  certificate.notAfter.value = new Date(instantMs(laterBy(at, 20 * yearMs)));
  certificate.extensions = extensionsFor(use);
  await certificate.subjectPublicKeyInfo.importKey(keys.publicKey as CryptoKey);
  await certificate.sign(keys.privateKey as CryptoKey, "SHA-256");
  return {
    chain: [toBase64(certificate.toSchema(true).toBER())],
    key: toBase64(await webcrypto.subtle.exportKey("pkcs8", keys.privateKey)),
  };
}
function extensionsFor(use: "seal" | "time-stamp"): Extension[] {
  const extension = (extnID: string, critical: boolean, value: asn1js.BaseBlock): Extension =>
    new Extension({ extnID, critical, extnValue: value.toBER() });
  return [
    extension(oid.basicConstraints, true, new BasicConstraints({ cA: false }).toSchema()),
    // digitalSignature and nonRepudiation.
    extension(
      oid.keyUsage,
      true,
      new asn1js.BitString({ valueHex: new Uint8Array([0b1100_0000]).buffer, unusedBits: 6 }),
    ),
    ...(use === "time-stamp"
      ? [extension(oid.extendedKeyUsage, true, new ExtKeyUsage({ keyPurposes: [oid.timeStamping] }).toSchema())]
      : []),
  ];
}
const positive = (bytes: Buffer): ArrayBuffer => {
  bytes[0] = (bytes[0]! & 0x7f) | 0x40;
  return new Uint8Array(bytes).buffer;
};

export function factsOf(der: string): CertificateFacts {
  const certificate = readCertificate(der);
  const called = ({ typesAndValues }: Certificate["subject"]): string =>
    String(typesAndValues.find((one) => one.type === oid.commonName)?.value.valueBlock.value ?? "");
  return {
    fingerprint: fingerprintOf(der),
    subject: called(certificate.subject),
    issuer: called(certificate.issuer),
    from: certificate.notBefore.value.toISOString() as Instant,
    until: certificate.notAfter.value.toISOString() as Instant,
  };
}
export const fingerprintOf = (der: string): string => createHash("sha256").update(fromBase64(der)).digest("hex");

/**
 * The key and the certificates of a PKCS #12 file (RFC 7292). Only today's encryption is read (PBES2 with AES): what is
 * older is refused, since its protection is worth nothing any more.
 */
export async function readPkcs12(
  bytes: Uint8Array,
  password: string,
  now: Instant,
): Promise<Result<SealIdentity, Pkcs12Problem>> {
  const secret = new TextEncoder().encode(password).buffer;
  let bags: readonly SafeBag[];
  try {
    const pfx = PFX.fromBER(new Uint8Array(bytes));
    try {
      await pfx.parseInternalValues({ password: secret, checkIntegrity: true });
    } catch {
      return fail("wrong-password");
    }
    const safe = pfx.parsedValue?.authenticatedSafe as AuthenticatedSafe;
    const encrypted = safe.safeContents.map((one: ContentInfo) =>
      one.contentType === ContentInfo.DATA ? {} : { password: secret },
    );
    await safe.parseInternalValues({ safeContents: encrypted });
    bags = safe.parsedValue.safeContents.flatMap((one: { value: { safeBags: SafeBag[] } }) => one.value.safeBags);
  } catch (error) {
    return fail(isUnknownAlgorithm(error) ? "old-encryption" : "not-pkcs12");
  }
  try {
    const keys = await keysIn(bags, secret);
    const chain = bags.flatMap(({ bagId, bagValue }) => {
      const value = bagId === oid.certBag ? (bagValue as CertBag).parsedValue : undefined;
      return value instanceof Certificate ? [toBase64(value.toSchema().toBER())] : [];
    });
    return await identityFrom(keys, chain, now);
  } catch (error) {
    return fail(isUnknownAlgorithm(error) ? "old-encryption" : "not-pkcs12");
  }
}
const isUnknownAlgorithm = (error: unknown): boolean =>
  error instanceof Error && /algorithm|unsupported|PBES/iu.test(error.message);
async function keysIn(bags: readonly SafeBag[], password: ArrayBuffer): Promise<string[]> {
  const found: string[] = [];
  for (const { bagId, bagValue } of bags) {
    if (bagId === oid.keyBag) found.push(toBase64((bagValue as PrivateKeyInfo).toSchema().toBER()));
    if (bagId !== oid.shroudedKeyBag) continue;
    const shrouded = bagValue as PKCS8ShroudedKeyBag;
    // Its own method of the class; the types do not show it.
    await (
      shrouded as unknown as { parseInternalValues(given: { password: ArrayBuffer }): Promise<void> }
    ).parseInternalValues({ password });
    found.push(toBase64(shrouded.parsedValue!.toSchema().toBER()));
  }
  return found;
}
/** The one whose key is there first, then the others. */
async function identityFrom(
  keys: readonly string[],
  chain: readonly string[],
  now: Instant,
): Promise<Result<SealIdentity, Pkcs12Problem>> {
  for (const key of keys)
    for (const own of chain) {
      if (!(await belongsTo(key, own))) continue;
      const { from, until } = factsOf(own);
      if (instantMs(now) > Date.parse(until) || instantMs(now) < Date.parse(from)) return fail("ended");
      return ok({ chain: [own, ...chain.filter((one) => one !== own)], key });
    }
  return fail("no-key");
}
async function belongsTo(key: string, certificate: string): Promise<boolean> {
  try {
    const { privateKey, hash } = await signingKey({ key, chain: [certificate] });
    const sample = randomBytes(32);
    const parameters = hash.parameters;
    const signature = await webcrypto.subtle.sign(parameters, privateKey, sample);
    const publicKey = await readCertificate(certificate).getPublicKey({ algorithm: hash.publicKey });
    return await webcrypto.subtle.verify(parameters, publicKey as webcrypto.CryptoKey, signature, sample);
  } catch {
    return false;
  }
}
const ecOid = "1.2.840.10045.2.1";
/** The private key as WebCrypto takes it, by what its certificate says: ECDSA or RSA (PKCS #1 v1.5), with SHA-256. */
export async function signingKey({ key, chain }: SealIdentity) {
  const { algorithm } = readCertificate(chain[0]!).subjectPublicKeyInfo;
  const isEc = algorithm.algorithmId === ecOid;
  const curve = isEc ? curves[(algorithm.algorithmParams as asn1js.ObjectIdentifier).valueBlock.toString()] : undefined;
  if (isEc && curve === undefined) throw new Error("This curve is not known.");
  const imported = isEc
    ? { name: "ECDSA", namedCurve: curve! }
    : { name: "RSASSA-PKCS1-v1_5", hash: { name: "SHA-256" } };
  const parameters = isEc ? { name: "ECDSA", hash: { name: "SHA-256" } } : { name: "RSASSA-PKCS1-v1_5" };
  return {
    privateKey: await webcrypto.subtle.importKey("pkcs8", fromBase64(key), imported, true, ["sign"]),
    hash: { parameters, publicKey: { algorithm: imported, usages: ["verify" as const] } },
  };
}
const curves: Readonly<Record<string, string>> = {
  "1.2.840.10045.3.1.7": "P-256",
  "1.3.132.0.34": "P-384",
  "1.3.132.0.35": "P-521",
};
