import { createHash } from "node:crypto";
import * as asn1js from "asn1js";
import { Certificate, ContentInfo, SignedData, TSTInfo } from "pkijs";
import { fail, ok, type Instant, type Result } from "../core/shared";

/** One seal on a PDF, as the file itself proves it. */
export interface SealLook {
  /** SHA-256 of the certificate it was made with, in hex; empty where it does not read. */
  readonly fingerprint: string;
  /** Whose certificate that is, as it says itself. */
  readonly subject: string;
  /** Nothing of what it covers was changed, and it was made with that certificate's key. */
  readonly intact: boolean;
  /** It covers the file from its first byte to `end`, but for itself. */
  readonly end: number;
  /** Nothing but blanks stand behind that. */
  readonly toEnd: boolean;
  /** SHA-256 of the file up to `end`, in hex. */
  readonly sha256: string;
  /** When its time-stamp says it was there; none where there is none, or it is not right. */
  readonly stampedAt: Instant | undefined;
}
export interface PaperLook {
  readonly sha256: string;
  /** In bytes. */
  readonly size: number;
  /** In the order they lie in the file. */
  readonly seals: readonly SealLook[];
}
export type PaperProblem = "not-pdf" | "too-large" | "too-costly" | "busy";
/** Looks at PDFs that anybody may have made. */
export interface PaperChecks {
  look(bytes: Uint8Array): Promise<Result<PaperLook, PaperProblem>>;
}

/** In bytes. */
export const largestPaper = 20_000_000;
const mostSeals = 20;
const subFilters = /\/(?:ETSI\.CAdES\.detached|adbe\.pkcs7\.detached)\b/;
const timeStampToken = "1.2.840.113549.1.9.16.2.14";
const commonName = "2.5.4.3";

const hexOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

export const paperChecks: PaperChecks = {
  async look(bytes) {
    if (bytes.length > largestPaper) return fail("too-large");
    const text = Buffer.from(bytes).toString("latin1");
    if (!text.startsWith("%PDF-")) return fail("not-pdf");
    const blankFrom = text.trimEnd().length;
    const seals: SealLook[] = [];
    for (const found of text.matchAll(/\/ByteRange\s*\[\s*(\d{1,10})\s+(\d{1,10})\s+(\d{1,10})\s+(\d{1,10})\s*\]/g)) {
      if (seals.length >= mostSeals) break;
      const seal = await lookAt(bytes, text, found.index, rangeOf(found), blankFrom);
      if (seal) seals.push(seal);
    }
    return ok({ sha256: hexOf(bytes), size: bytes.length, seals });
  },
};
type Range = readonly [number, number, number, number];
const rangeOf = (found: RegExpMatchArray): Range => [
  Number(found[1]),
  Number(found[2]),
  Number(found[3]),
  Number(found[4]),
];

/** @returns undefined for what is no signature at all */
async function lookAt(
  bytes: Uint8Array,
  text: string,
  at: number,
  [start, first, second, length]: Range,
  blankFrom: number,
): Promise<SealLook | undefined> {
  // Its dictionary stands around it: a byte range written somewhere else is none.
  const around = text.slice(Math.max(0, at - 500), at + 500);
  if (!subFilters.test(around)) return undefined;
  const end = second + length;
  const toEnd = end >= blankFrom;
  const unreadable: SealLook = {
    fingerprint: "",
    subject: "",
    intact: false,
    end,
    toEnd,
    sha256: "",
    stampedAt: undefined,
  };
  // The hole is the signature in hex, with its brackets, and nothing else: else something could hide in it.
  const hole = text.slice(first, second);
  if (start !== 0 || first >= second || end > bytes.length || !/^<[0-9a-f]*>$/i.test(hole)) return unreadable;
  const covered = Buffer.concat([bytes.subarray(0, first), bytes.subarray(second, end)]);
  const sha256 = hexOf(bytes.subarray(0, end));
  try {
    const signed = signedDataIn(new Uint8Array(Buffer.from(hole.slice(1, -1), "hex")));
    const certificate = certificateOf(signed);
    const data = new Uint8Array(covered).buffer;
    const intact = await signed.verify({ signer: 0, data, checkChain: false }).catch(() => false);
    return {
      fingerprint: hexOf(new Uint8Array(certificate.toSchema().toBER())),
      subject: String(
        certificate.subject.typesAndValues.find((one) => one.type === commonName)?.value.valueBlock.value ?? "",
      ),
      intact,
      end,
      toEnd,
      sha256,
      stampedAt: await stampedAt(signed).catch(() => undefined),
    };
  } catch {
    return { ...unreadable, sha256 };
  }
}
function signedDataIn(der: Uint8Array): SignedData {
  const parsed = asn1js.fromBER(new Uint8Array(der).buffer);
  if (parsed.offset === -1) throw new Error("This is no signature.");
  return new SignedData({ schema: new ContentInfo({ schema: parsed.result }).content });
}
/** The certificate that the first signer names. */
function certificateOf(signed: SignedData): Certificate {
  const { sid } = signed.signerInfos[0]!;
  const found = (signed.certificates ?? []).find(
    (one): one is Certificate => one instanceof Certificate && one.serialNumber.isEqual(sid.serialNumber),
  );
  if (!found) throw new Error("Its certificate is not with it.");
  return found;
}
/** The time of the token over the signature, where the token is right. */
async function stampedAt(signed: SignedData): Promise<Instant | undefined> {
  const signer = signed.signerInfos[0]!;
  const attribute = signer.unsignedAttrs?.attributes.find((one) => one.type === timeStampToken);
  if (!attribute) return undefined;
  const token = new SignedData({ schema: new ContentInfo({ schema: attribute.values[0] }).content });
  const content = token.encapContentInfo.eContent;
  if (!content) return undefined;
  const info = TSTInfo.fromBER(content.getValue());
  // Whether the token is over this very signature is looked at there, too.
  const data = new Uint8Array(signer.signature.valueBlock.valueHexView).buffer;
  const right = await token.verify({ signer: 0, data, checkChain: false });
  return right ? (info.genTime.toISOString() as Instant) : undefined;
}
