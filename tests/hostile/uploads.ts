import { deflateSync } from "node:zlib";
import { rawPdf, sleepDiary } from "../support/pdf";

const latin = (text: string): Buffer => Buffer.from(text, "latin1");
const tableOf = (bytes: Uint8Array): number =>
  Number(/startxref\n(\d+)/.exec(Buffer.from(bytes).toString("latin1"))![1]);
/** A sheet that reads well, with one more object at its end. */
const withObject = (head: string, data: Uint8Array, sheet = sleepDiary()): Uint8Array =>
  new Uint8Array(
    Buffer.concat([
      sheet,
      latin(`99 0 obj\n${head.replace("LENGTH", String(data.length))}\nstream\n`),
      data,
      latin(`\nendstream\nendobj\nstartxref\n${tableOf(sheet)}\n%%EOF\n`),
    ]),
  );
const zeros = (count: number): Buffer => deflateSync(Buffer.alloc(count), { level: 9 });
const hex = (bytes: Uint8Array): Buffer => latin(`${Buffer.from(bytes).toString("hex")}>`);
/** A tree in which each of so many levels names the next one twice: twice as many ways at each level. */
const doubling = (levels: number, first: number, last: string, node: (next: number) => string): string[] =>
  Array.from({ length: levels }, (_, level) => (level === levels - 1 ? last : node(first + level + 1)));
const pagesDoubling = (): Uint8Array =>
  rawPdf([
    "<< /Type /Catalog /Pages 2 0 R >>",
    ...doubling(
      40,
      2,
      "<< /Type /Page /MediaBox [0 0 200 200] >>",
      (next) => `<< /Type /Pages /Count 2 /Kids [${next} 0 R ${next} 0 R] >>`,
    ),
  ]);
const fieldsDoubling = (): Uint8Array =>
  rawPdf([
    "<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [4 0 R] >> >>",
    "<< /Type /Pages /Count 1 /Kids [3 0 R] >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] >>",
    ...doubling(
      40,
      4,
      "<< /FT /Tx /T (a) /Rect [0 0 9 9] >>",
      (next) => `<< /T (a) /Kids [${next} 0 R ${next} 0 R] >>`,
    ),
  ]);
const png = (width: number, height: number): Uint8Array => {
  const chunk = (type: string, data: Uint8Array): Buffer => {
    const size = Buffer.alloc(4);
    size.writeUInt32BE(data.length);
    const body = Buffer.concat([latin(type), data]);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc(body));
    return Buffer.concat([size, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 8;
  head[9] = 2;
  return new Uint8Array(
    Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      chunk("IHDR", head),
      chunk("IDAT", zeros(30_000_000)),
      chunk("IEND", Buffer.alloc(0)),
    ]),
  );
};
/** CRC-32 as PNG asks for it (ISO/IEC 15948, annex D). */
function crc(bytes: Uint8Array): number {
  let sum = 0xffffffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = (sum >>> 1) ^ (sum & 1 ? 0xedb88320 : 0);
  }
  return (sum ^ 0xffffffff) >>> 0;
}

export interface HostileUpload {
  readonly what: string;
  readonly name: string;
  readonly make: () => Uint8Array;
  /** Why it is not taken. */
  readonly why: string;
}
const objects = "/N 1 /First 4";
/** Small files that ask for much work, and what must become of each. */
export const hostileUploads: readonly HostileUpload[] = [
  {
    what: "an object stream whose kind is spelled in hex, unpacking to 60 MB",
    make: () => withObject(`<< /Type /Obj#53tm ${objects} /Filter /FlateDecode /Length LENGTH >>`, zeros(60_000_000)),
    why: "too-costly",
  },
  {
    what: "an object stream packed twice: 819 bytes that become gigabytes",
    make: () =>
      withObject(
        `<< /Type /Obj#53tm ${objects} /Filter [/FlateDecode /FlateDecode] /Length LENGTH >>`,
        deflateSync(zeros(600_000_000)),
      ),
    why: "pdf-unusual",
  },
  {
    what: "an object stream in hex, then packed",
    make: () =>
      withObject(
        `<< /Type /ObjStm ${objects} /Filter [/ASCIIHexDecode /Fl#61teDecode] /Length LENGTH >>`,
        hex(zeros(20_000_000)),
      ),
    why: "pdf-unusual",
  },
  {
    what: "an object stream packed by LZW",
    make: () =>
      withObject(`<< /Type /ObjStm ${objects} /Filter /LZWDecode /Length LENGTH >>`, Buffer.alloc(4000, 0x80)),
    why: "pdf-unusual",
  },
  {
    what: "an object stream whose packing stands elsewhere",
    make: () => withObject(`<< /Type /ObjStm ${objects} /Filter 98 0 R /Length LENGTH >>`, zeros(60_000_000)),
    why: "pdf-unusual",
  },
  {
    what: "an object stream whose kind stands elsewhere",
    make: () =>
      withObject(
        `<< /Type 98 0 R ${objects} /Filter [/FlateDecode /FlateDecode] /Length LENGTH >>`,
        deflateSync(zeros(60_000_000)),
      ),
    why: "pdf-unusual",
  },
  {
    what: "an object stream that names its kind twice",
    make: () =>
      withObject(
        `<< /Type /XObject /Type /ObjStm ${objects} /Filter /FlateDecode /Length LENGTH >>`,
        zeros(60_000_000),
      ),
    why: "too-costly",
  },
  {
    what: "an object stream that says it holds a thousand million objects",
    make: () =>
      withObject("<< /Type /ObjStm /N 1000000000 /First 4 /Filter /FlateDecode /Length LENGTH >>", zeros(9_000)),
    why: "too-costly",
  },
  {
    what: "object streams in a row that together unpack to more than any of them",
    make: () => {
      let sheet = sleepDiary();
      for (let count = 0; count < 6; count++)
        sheet = withObject(
          `<< /Type /ObjStm ${objects} /Filter /FlateDecode /Length LENGTH >>`,
          zeros(8_000_000),
          sheet,
        );
      return sheet;
    },
    why: "too-costly",
  },
  { what: "a tree of pages with 2^39 ways", make: pagesDoubling, why: "too-costly" },
  { what: "a tree of fields with 2^39 ways", make: fieldsDoubling, why: "too-costly" },
  {
    what: "arrays within arrays, 20,000 deep",
    make: () => sleepDiary(`/Deep ${"[".repeat(20_000)}${"]".repeat(20_000)}`),
    why: "too-costly",
  },
  {
    what: "120,000 objects",
    make: () => rawPdf(["<< /Type /Catalog /Pages 2 0 R >>", ...Array.from({ length: 120_000 }, () => "1")]),
    why: "too-costly",
  },
  { what: "a picture that says it has 900 million points", make: () => png(30_000, 30_000), why: "broken-picture" },
].map((one) => ({ name: one.what.startsWith("a picture") ? "a.png" : "a.pdf", ...one }));
