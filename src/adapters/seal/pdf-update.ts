import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNumber,
  PDFRef,
  PDFString,
  type PDFObject,
} from "pdf-lib";

const latin1 = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

/**
 * The same file with something added behind it (ISO 32000-1, 7.5.6): every byte that was there stays, so that whatever
 * was signed before stays valid. @param change gives what it changed besides what it made new
 */
export async function appendUpdate(
  original: Uint8Array,
  change: (document: PDFDocument) => Promise<readonly PDFRef[]>,
): Promise<Uint8Array> {
  const document = await PDFDocument.load(original, { updateMetadata: false });
  const { context } = document;
  const before = context.largestObjectNumber;
  const changed = new Set(await change(document));
  const objects = context
    .enumerateIndirectObjects()
    .filter(([ref]) => ref.objectNumber > before || changed.has(ref))
    .sort(([a], [b]) => a.objectNumber - b.objectNumber);
  const chunks: Uint8Array[] = [original, latin1("\n")];
  let at = original.length + 1;
  const put = (bytes: Uint8Array): void => {
    chunks.push(bytes);
    at += bytes.length;
  };
  const offsets: (readonly [number, number])[] = [];
  for (const [ref, object] of objects) {
    offsets.push([ref.objectNumber, at]);
    put(latin1(`${ref.objectNumber} ${ref.generationNumber} obj\n`));
    put(bytesOf(object));
    put(latin1("\nendobj\n"));
  }
  const start = at;
  put(latin1(`xref\n${subsections(offsets)}${trailerOf(document, original)}startxref\n${start}\n%%EOF\n`));
  return Buffer.concat(chunks);
}
function bytesOf(object: PDFObject): Uint8Array {
  const bytes = new Uint8Array(object.sizeInBytes());
  object.copyBytesInto(bytes, 0);
  return bytes;
}
/** Runs of numbers that follow each other, each with its head (ISO 32000-1, 7.5.4). */
function subsections(offsets: readonly (readonly [number, number])[]): string {
  const runs: [number, number][][] = [];
  for (const one of offsets) {
    const run = runs.at(-1);
    if (run && run.at(-1)![0] + 1 === one[0]) run.push([...one]);
    else runs.push([[...one]]);
  }
  return runs
    .map(
      (run) =>
        `${run[0]![0]} ${run.length}\n${run.map(([, offset]) => `${String(offset).padStart(10, "0")} 00000 n \n`).join("")}`,
    )
    .join("");
}
function trailerOf({ context }: PDFDocument, original: Uint8Array): string {
  const { Root, Info, ID } = context.trailerInfo;
  const tail = Buffer.from(original.subarray(Math.max(0, original.length - 1_024))).toString("latin1");
  const previous = /startxref\s+(\d+)\s+%%EOF\s*$/.exec(tail)?.[1];
  if (previous === undefined || !Root) throw new Error("This PDF has no end that something could be added to.");
  const entries = [
    `/Size ${context.largestObjectNumber + 1}`,
    `/Root ${Root.toString()}`,
    `/Prev ${previous}`,
    ...(Info ? [`/Info ${Info.toString()}`] : []),
    ...(ID ? [`/ID ${ID.toString()}`] : []),
  ];
  return `trailer\n<< ${entries.join(" ")} >>\n`;
}

/** What a signature field says of itself. */
export interface SignatureField {
  readonly name: string;
  readonly reason: string;
  /** As PDF dates are written: D:20261130061700Z. */
  readonly at: string;
  /** In bytes: most that the signature may take. */
  readonly room: number;
}
/** Puts an invisible signature field on the first page, whose place for the signature is still empty. */
export function addSignatureField(document: PDFDocument, field: SignatureField): PDFRef[] {
  const { context, catalog } = document;
  const page = document.getPage(0);
  const form = formOf(document);
  const fields = form.lookup(PDFName.of("Fields"), PDFArray);
  const hole = PDFName.of("**********");
  const byteRange = PDFArray.withContext(context);
  byteRange.push(PDFNumber.of(0));
  for (const empty of [hole, hole, hole]) byteRange.push(empty);
  const signature = context.register(
    context.obj({
      Type: "Sig",
      Filter: "Adobe.PPKLite",
      SubFilter: "ETSI.CAdES.detached",
      ByteRange: byteRange,
      Contents: PDFHexString.of("0".repeat(field.room * 2)),
      Name: PDFHexString.fromText(field.name),
      Reason: PDFHexString.fromText(field.reason),
      M: PDFString.of(field.at),
    }),
  );
  const widget = context.register(
    context.obj({
      Type: "Annot",
      Subtype: "Widget",
      FT: "Sig",
      T: PDFString.of(`Signature${fields.size() + 1}`),
      V: signature,
      Rect: [0, 0, 0, 0],
      // Printed, and locked (ISO 32000-1, 12.5.3).
      F: 132,
      P: page.ref,
    }),
  );
  fields.push(widget);
  form.set(PDFName.of("SigFlags"), PDFNumber.of(3));
  page.node.addAnnot(widget);
  const annotations = page.node.get(PDFName.of("Annots"));
  const changed = [page.ref, context.trailerInfo.Root as PDFRef, catalog.get(PDFName.of("AcroForm"))];
  return [...changed, annotations].filter((one): one is PDFRef => one instanceof PDFRef);
}
function formOf({ context, catalog }: PDFDocument): PDFDict {
  const there = catalog.lookup(PDFName.of("AcroForm"));
  if (there instanceof PDFDict) return there;
  const form = context.obj({ Fields: [] });
  catalog.set(PDFName.of("AcroForm"), context.register(form));
  return form;
}
