import { randomBytes } from "node:crypto";
import * as asn1js from "asn1js";
import {
  AlgorithmIdentifier,
  type ContentInfo,
  MessageImprint,
  SignedData,
  TimeStampReq,
  TimeStampResp,
  TSTInfo,
} from "pkijs";
import type { Instant } from "../../core/shared";
import type { SealIdentity } from "./certificate";
import { oid, sha256, timeStampToken } from "./cms";

/** Says that some bytes were there at a time: gives an RFC 3161 token over them, in DER. */
export type TimeStamps = (bytes: Uint8Array) => Promise<Uint8Array>;

/** The stand-in that ships with the app: stamps by this machine's clock, with a key of its own. */
export const ownTimeStamps =
  (identity: SealIdentity, at: Instant): TimeStamps =>
  async (bytes) => {
    const serial = randomBytes(16);
    serial[0] = (serial[0]! & 0x7f) | 0x40;
    return timeStampToken(identity, sha256(bytes), at, serial);
  };

const longestReply = 100_000;
/** Somebody else's, over HTTP (RFC 3161, 3.4). @throws where no token came; the paper is sealed later then */
export const timeStampsFrom =
  (url: string): TimeStamps =>
  async (bytes) => {
    const request = new TimeStampReq({
      version: 1,
      messageImprint: new MessageImprint({
        hashAlgorithm: new AlgorithmIdentifier({ algorithmId: oid.sha256, algorithmParams: new asn1js.Null() }),
        hashedMessage: new asn1js.OctetString({ valueHex: sha256(bytes).buffer }),
      }),
      nonce: new asn1js.Integer({
        valueHex: new Uint8Array(randomBytes(8).map((b, i) => (i === 0 ? (b & 0x7f) | 1 : b))).buffer,
      }),
      certReq: true,
    });
    const reply = await fetch(url, {
      method: "POST",
      headers: { "content-type": "application/timestamp-query" },
      body: new Uint8Array(request.toSchema().toBER()),
      signal: AbortSignal.timeout(20_000),
      redirect: "error",
    });
    const body = new Uint8Array(await reply.arrayBuffer());
    if (!reply.ok || body.length > longestReply) throw new Error(`The time-stamp server answered ${reply.status}.`);
    const { timeStampToken: token } = TimeStampResp.fromBER(body);
    if (!token) throw new Error("The time-stamp server gave no token.");
    if (!isFor(token, request)) throw new Error("The time-stamp server's token is over something else.");
    return new Uint8Array(token.toSchema().toBER());
  };
/** Whether a token is over what was asked for, and an answer to this very question (RFC 3161, 2.2). */
function isFor(token: ContentInfo, { messageImprint, nonce }: TimeStampReq): boolean {
  const { eContent } = new SignedData({ schema: token.content }).encapContentInfo;
  if (!eContent) return false;
  const info = TSTInfo.fromBER(eContent.getValue());
  return (
    info.messageImprint.hashAlgorithm.algorithmId === oid.sha256 &&
    info.messageImprint.hashedMessage.isEqual(messageImprint.hashedMessage) &&
    info.nonce?.isEqual(nonce) === true
  );
}
