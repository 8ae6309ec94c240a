import { SignPdf } from "@signpdf/signpdf";
import { Signer } from "@signpdf/utils";
import { PDFDocument, PDFName, PDFRef } from "pdf-lib";
import type { Instant } from "../../core/shared";
import type { SealIdentity } from "./certificate";
import { detachedSignature } from "./cms";
import { addSignatureField, appendUpdate } from "./pdf-update";
import type { TimeStamps } from "./time-stamps";

/** In bytes: a chain of four with RSA keys and a time-stamp takes about ten thousand. */
const room = 20_000;

export interface SealOrder {
  readonly identity: SealIdentity;
  readonly stamp: TimeStamps;
  readonly name: string;
  readonly reason: string;
  readonly at: Instant;
  /** Pages put behind the others before it is sealed; an earlier seal on the file stays valid. */
  readonly pages?: Uint8Array;
}
/**
 * Seals a PDF: a PAdES signature (ETSI EN 319 142-1, B-T; sub-filter ETSI.CAdES.detached) that covers everything up to
 * itself, added behind what is there.
 */
export async function sealPdf(
  pdf: Uint8Array,
  { identity, stamp, name, reason, at, pages }: SealOrder,
): Promise<Uint8Array> {
  const withField = await appendUpdate(pdf, async (document) => {
    const more = pages ? await addPages(document, pages) : [];
    return [...more, ...addSignatureField(document, { name, reason, at: pdfDate(at), room })];
  });
  const signer = new (class extends Signer {
    override async sign(bytes: Buffer): Promise<Buffer> {
      return Buffer.from(await detachedSignature(identity, bytes, stamp));
    }
  })();
  return new Uint8Array(await new SignPdf().sign(Buffer.from(withField), signer));
}
async function addPages(document: PDFDocument, bytes: Uint8Array): Promise<PDFRef[]> {
  const from = await PDFDocument.load(bytes, { updateMetadata: false });
  for (const page of await document.copyPages(from, from.getPageIndices())) document.addPage(page);
  await document.flush();
  const pages = document.catalog.get(PDFName.of("Pages"));
  return pages instanceof PDFRef ? [pages] : [];
}
const pdfDate = (at: Instant): string => `D:${at.replace(/[-:T]/g, "").slice(0, 14)}Z`;
