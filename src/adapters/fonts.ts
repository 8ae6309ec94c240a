import { inflateSync } from "node:zlib";

/**
 * A WOFF 1.0 font (W3C Recommendation, 2012) as the plain sfnt file it was packed from: the PDF library unpacks a
 * packed table anew each time it looks into it, which takes most of a paper's time. Checksums come along from the WOFF.
 * @throws RangeError where the file is no WOFF.
 */
export function unpackWoff(woff: Buffer): Buffer {
  if (woff.readUInt32BE(0) !== 0x774f4646) throw new RangeError("Not a WOFF 1.0 font.");
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, index) => {
    const at = 44 + index * 20;
    const offset = woff.readUInt32BE(at + 4);
    const packed = woff.readUInt32BE(at + 8);
    const length = woff.readUInt32BE(at + 12);
    const bytes = woff.subarray(offset, offset + packed);
    return {
      tag: woff.readUInt32BE(at),
      bytes: packed < length ? inflateSync(bytes) : bytes,
      checksum: woff.readUInt32BE(at + 16),
    };
  });
  const log = Math.floor(Math.log2(count));
  const head = Buffer.alloc(12 + count * 16);
  head.writeUInt32BE(woff.readUInt32BE(4), 0);
  head.writeUInt16BE(count, 4);
  head.writeUInt16BE(2 ** log * 16, 6);
  head.writeUInt16BE(log, 8);
  head.writeUInt16BE((count - 2 ** log) * 16, 10);
  let offset = head.length;
  const parts = tables.map(({ tag, bytes, checksum }, n) => {
    [tag, checksum, offset, bytes.length].forEach((word, w) => head.writeUInt32BE(word, 12 + n * 16 + w * 4));
    const padded = Buffer.alloc(Math.ceil(bytes.length / 4) * 4);
    bytes.copy(padded);
    offset += padded.length;
    return padded;
  });
  return Buffer.concat([head, ...parts]);
}
