import { createHash } from "node:crypto";
import * as asn1js from "asn1js";
import {
  AlgorithmIdentifier,
  Attribute,
  ContentInfo,
  EncapsulatedContentInfo,
  IssuerAndSerialNumber,
  MessageImprint,
  SignedAndUnsignedAttributes,
  SignedData,
  SignerInfo,
  TSTInfo,
} from "pkijs";
import { instantMs, type Instant } from "../../core/shared";
import { fromBase64, readCertificate, signingKey, type SealIdentity } from "./certificate";

export const oid = {
  data: "1.2.840.113549.1.7.1",
  signedData: "1.2.840.113549.1.7.2",
  contentType: "1.2.840.113549.1.9.3",
  messageDigest: "1.2.840.113549.1.9.4",
  signingCertificateV2: "1.2.840.113549.1.9.16.2.47",
  timeStampToken: "1.2.840.113549.1.9.16.2.14",
  tstInfo: "1.2.840.113549.1.9.16.1.4",
  sha256: "2.16.840.1.101.3.4.2.1",
  /** The stand-in's own policy: a name under the UUID arc (ITU-T X.667), made for it. */
  policy: "2.25.287241632571839201147326503190",
} as const;

export const sha256 = (bytes: Uint8Array): Uint8Array<ArrayBuffer> =>
  new Uint8Array(createHash("sha256").update(bytes).digest());

/** The attributes of a CAdES baseline signature (ETSI EN 319 122-1, 5.1 and 5.2): type, digest, and which certificate. */
function signedAttributes(contentType: string, digest: Uint8Array, certificate: string): SignedAndUnsignedAttributes {
  const attribute = (type: string, value: asn1js.BaseBlock): Attribute => new Attribute({ type, values: [value] });
  // ESSCertIDv2 (RFC 5035, 4): SHA-256 is its default and so is left out.
  const certificateId = new asn1js.Sequence({
    value: [
      new asn1js.Sequence({
        value: [
          new asn1js.Sequence({
            value: [new asn1js.OctetString({ valueHex: sha256(fromBase64(certificate)).buffer })],
          }),
        ],
      }),
    ],
  });
  return new SignedAndUnsignedAttributes({
    type: 0,
    attributes: [
      attribute(oid.contentType, new asn1js.ObjectIdentifier({ value: contentType })),
      attribute(oid.messageDigest, new asn1js.OctetString({ valueHex: new Uint8Array(digest).buffer })),
      attribute(oid.signingCertificateV2, certificateId),
    ],
  });
}

/** A CMS signature (RFC 5652). @param content what lies in it; undefined for a detached one over `signedBytes` */
async function sign(
  identity: SealIdentity,
  contentType: string,
  signedBytes: Uint8Array,
  content: ArrayBuffer | undefined,
  stamp?: (signature: Uint8Array) => Promise<Uint8Array>,
): Promise<Uint8Array> {
  const own = readCertificate(identity.chain[0]!);
  const { privateKey } = await signingKey(identity);
  const signer = new SignerInfo({
    version: 1,
    sid: new IssuerAndSerialNumber({ issuer: own.issuer, serialNumber: own.serialNumber }),
    signedAttrs: signedAttributes(contentType, sha256(signedBytes), identity.chain[0]!),
  });
  const encapsulated = new EncapsulatedContentInfo({ eContentType: contentType });
  if (content) encapsulated.eContent = new asn1js.OctetString({ valueHex: content });
  const signed = new SignedData({
    version: content ? 3 : 1,
    encapContentInfo: encapsulated,
    signerInfos: [signer],
    certificates: identity.chain.map(readCertificate),
  });
  await signed.sign(privateKey as CryptoKey, 0, "SHA-256", new Uint8Array(signedBytes).buffer);
  if (stamp) {
    const token = await stamp(new Uint8Array(signer.signature.valueBlock.valueHexView));
    signer.unsignedAttrs = new SignedAndUnsignedAttributes({
      type: 1,
      attributes: [new Attribute({ type: oid.timeStampToken, values: [asn1js.fromBER(new Uint8Array(token)).result] })],
    });
  }
  const whole = new ContentInfo({ contentType: oid.signedData, content: signed.toSchema(true) });
  return new Uint8Array(whole.toSchema().toBER());
}

/** A detached signature over these bytes, with a time-stamp over itself (CAdES B-T). In DER. */
export const detachedSignature = (
  identity: SealIdentity,
  bytes: Uint8Array,
  stamp: (signature: Uint8Array) => Promise<Uint8Array>,
): Promise<Uint8Array> => sign(identity, oid.data, bytes, undefined, stamp);

/** A time-stamp token (RFC 3161, 2.4.2) over a SHA-256 digest, in DER. @param serial a number it never had before */
export async function timeStampToken(
  identity: SealIdentity,
  digest: Uint8Array,
  at: Instant,
  serial: Uint8Array,
): Promise<Uint8Array> {
  const info = new TSTInfo({
    version: 1,
    policy: oid.policy,
    messageImprint: new MessageImprint({
      hashAlgorithm: new AlgorithmIdentifier({ algorithmId: oid.sha256, algorithmParams: new asn1js.Null() }),
      hashedMessage: new asn1js.OctetString({ valueHex: new Uint8Array(digest).buffer }),
    }),
    serialNumber: new asn1js.Integer({ valueHex: new Uint8Array(serial).buffer }),
    genTime: new Date(instantMs(at)),
  });
  const content = info.toSchema().toBER();
  return sign(identity, oid.tstInfo, new Uint8Array(content), content);
}
