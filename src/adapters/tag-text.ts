import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  type PDFContext,
  type PDFObject,
  type PDFPage,
} from "pdf-lib";

/** A piece of text as the library draws it. Its strings are in hex, so that neither word can stand in one. */
const textObject = /\bBT\b[\s\S]*?\bET\b/g;

/**
 * The same PDF with its text tagged (ISO 32000-1, 14.7 and 14.8): each piece of it belongs to the structure, in the
 * order it is read, so that what reads aloud or takes text out need not guess. For files this program drew.
 */
export async function tagText(pdf: Uint8Array): Promise<Uint8Array> {
  const document = await PDFDocument.load(pdf, { updateMetadata: false });
  const { context, catalog } = document;
  const root = context.nextRef();
  const whole = context.nextRef();
  const sections: PDFRef[] = [];
  const parents: PDFObject[] = [];
  for (const [index, page] of document.getPages().entries()) {
    const pieces = markText(context, page);
    const section = context.nextRef();
    const children = Array.from({ length: pieces }, (_, piece) =>
      context.register(context.obj({ Type: "StructElem", S: "P", P: section, Pg: page.ref, K: PDFNumber.of(piece) })),
    );
    context.assign(section, context.obj({ Type: "StructElem", S: "Sect", P: whole, K: children }));
    sections.push(section);
    page.node.set(PDFName.of("StructParents"), PDFNumber.of(index));
    page.node.set(PDFName.of("Tabs"), PDFName.of("S"));
    parents.push(PDFNumber.of(index), context.register(context.obj(children)));
  }
  context.assign(whole, context.obj({ Type: "StructElem", S: "Document", P: root, K: sections }));
  const tree = context.register(context.obj({ Nums: parents }));
  context.assign(
    root,
    context.obj({ Type: "StructTreeRoot", K: [whole], ParentTree: tree, ParentTreeNextKey: sections.length }),
  );
  catalog.set(PDFName.of("StructTreeRoot"), root);
  catalog.set(PDFName.of("MarkInfo"), context.obj({ Marked: true }));
  return document.save({ useObjectStreams: false, updateFieldAppearances: false });
}
/** Gives each piece of text on a page its number; says how many there are. */
function markText(context: PDFContext, page: PDFPage): number {
  const streams = streamsOf(context, page.node.get(PDFName.of("Contents")));
  let many = 0;
  const marked = streams
    .map((stream) => Buffer.from(decodePDFRawStream(stream).decode()).toString("latin1"))
    .join("\n")
    .replace(textObject, (piece) => `/P <</MCID ${many++}>> BDC\n${piece}\nEMC`);
  const bytes = Uint8Array.from(Buffer.from(marked, "latin1"));
  page.node.set(PDFName.of("Contents"), context.register(context.flateStream(bytes)));
  return many;
}
function streamsOf(context: PDFContext, contents: PDFObject | undefined): PDFRawStream[] {
  const found = contents instanceof PDFRef ? context.lookup(contents) : contents;
  if (found instanceof PDFRawStream) return [found];
  if (found instanceof PDFArray) return found.asArray().flatMap((one) => streamsOf(context, one));
  if (found instanceof PDFDict || found === undefined) return [];
  throw new Error("A page's content is no stream.");
}
