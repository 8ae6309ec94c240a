import { constants, inflateSync } from "node:zlib";
import {
  concatTransformationMatrix,
  drawObject,
  PDFArray,
  PDFCheckBox,
  PDFDict,
  PDFDocument,
  PDFDropdown,
  PDFName,
  PDFNumber,
  PDFOptionList,
  PDFRadioGroup,
  PDFRef,
  PDFSignature,
  PDFTextField,
  PDFStream,
  PDFBool,
  PDFHexString,
  PDFString,
  type PDFField,
  type PDFFont,
  type PDFObject,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
} from "pdf-lib";
import { surveyPdf, type FileProblem, type PackedPart } from "../core/files";
import type { SheetBox } from "../core/questionnaire";
import { isDrawn, type SheetField, type SheetValue } from "../core/worksheet";
import { fail, ok, type Result } from "../core/shared";

export interface SheetFacts {
  readonly pages: number;
  /** What a client can fill in; empty for a PDF without a form. */
  readonly fields: readonly SheetField[];
}
/** Reads and fills PDF files that strangers made. */
export interface PdfForms {
  /** Whether it may be kept, and what can be filled in. */
  check(bytes: Uint8Array): Promise<Result<SheetFacts, FileProblem>>;
  /**
   * The same PDF with these values in its fields; the fields stay open for more. @throws Error for one that `check`
   * refuses.
   */
  fill(bytes: Uint8Array, values: readonly SheetValue[]): Promise<Result<Uint8Array, FileProblem>>;
  /**
   * A paper with this sheet before its pages: filled in, nothing open any more, and in each box the page of `marks` with
   * its number. @throws Error for a sheet that `check` refuses.
   */
  stamp(order: StampOrder): Promise<Result<Uint8Array, FileProblem>>;
}
export interface StampOrder {
  readonly sheet: Uint8Array;
  readonly values: readonly SheetValue[];
  /** A PDF of one page for each box, of its size. */
  readonly marks: Uint8Array;
  readonly boxes: readonly SheetBox[];
  readonly paper: Uint8Array;
}
const mostPages = 300;
const mostFields = 600;
const mostInflated = 40_000_000;

export const pdfForms: PdfForms = {
  async check(bytes) {
    if (!hasTable(bytes)) return fail("pdf-no-table");
    const packed = surveyPdf(bytes);
    if (!packed.ok) return packed;
    if (inflatesTooFar(bytes, packed.value)) return fail("too-costly");
    let pdf: PDFDocument;
    try {
      // Files without a trailer of objects that can be read are not mended here: who opens them elsewhere may see
      // something else.
      pdf = await PDFDocument.load(bytes, {
        updateMetadata: false,
        throwOnInvalidObject: true,
        ignoreEncryption: true,
      });
    } catch {
      // What is encrypted may not even parse.
      return fail(Buffer.from(bytes).includes("/Encrypt") ? "pdf-encrypted" : "pdf-broken");
    }
    if (pdf.isEncrypted) return fail("pdf-encrypted");
    try {
      const objects = pdf.context.enumerateIndirectObjects().map(([, o]) => o);
      if (objects.some((o) => doesSomething(o, 0)) || doesSomething(pdf.catalog, 0)) return fail("pdf-script");
      const pages = pdf.getPageCount();
      if (pages === 0) return fail("pdf-broken");
      if (pages > mostPages) return fail("pdf-too-many-pages");
      return ok({ pages, fields: fieldsOf(pdf) });
    } catch {
      return fail("pdf-broken");
    }
  },
  async fill(bytes, values) {
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    const form = pdf.getForm();
    const pen: Pen = { pdf };
    const byName = new Map(form.getFields().map((f) => [f.getName(), f]));
    for (const value of values) {
      const field = byName.get(value.field);
      if (field) await put(field, value, pen);
    }
    if (pen.lacking) form.acroForm.dict.set(PDFName.of("NeedAppearances"), PDFBool.True);
    if (pen.font) offer(form.acroForm.dict, pdf, pen.font);
    return ok(await pdf.save({ updateFieldAppearances: false }));
  },
  async stamp({ sheet, values, marks, boxes, paper }) {
    const filled = await pdfForms.fill(sheet, values);
    if (!filled.ok) return filled;
    const pdf = await PDFDocument.load(filled.value, { updateMetadata: false });
    closeForm(pdf);
    const pages = pdf.getPages();
    const drawn = boxes.length > 0 ? await pdf.embedPdf(marks, [...boxes.keys()]) : [];
    for (const [index, { page, left, bottom, width, height }] of boxes.entries())
      // A page that is not there: the last one, so that no signature is left out.
      pages[Math.min(page, pages.length) - 1]!.drawPage(drawn[index]!, { x: left, y: bottom, width, height });
    const whole = await PDFDocument.load(paper, { updateMetadata: false });
    for (const [index, page] of (await whole.copyPages(pdf, pdf.getPageIndices())).entries())
      whole.insertPage(index, page);
    return ok(await whole.save({ useObjectStreams: false, updateFieldAppearances: false }));
  },
};

/** Makes what is seen of the fields part of the pages, and takes the form away (ISO 32000-1, 12.5.5 and 12.7). */
function closeForm(pdf: PDFDocument): void {
  for (const page of pdf.getPages()) {
    const notes = page.node.Annots();
    if (!notes) continue;
    const kept = notes.asArray().filter((ref) => {
      const widget = pdf.context.lookup(ref);
      if (!(widget instanceof PDFDict) || widget.lookup(PDFName.of("Subtype")) !== PDFName.of("Widget")) return true;
      drawWidget(pdf, page, widget);
      return false;
    });
    page.node.set(PDFName.of("Annots"), pdf.context.obj(kept));
  }
  pdf.catalog.delete(PDFName.of("AcroForm"));
}
const hidden = 2;
function drawWidget(pdf: PDFDocument, page: PDFPage, widget: PDFDict): void {
  const flags = widget.lookup(PDFName.of("F"));
  const looks = widget.lookup(PDFName.of("AP"));
  const states = looks instanceof PDFDict ? looks.lookup(PDFName.of("N")) : undefined;
  const now = widget.lookup(PDFName.of("AS"));
  const look = states instanceof PDFDict && now instanceof PDFName ? states.lookup(now) : states;
  const rectangle = numbersIn(widget, "Rect");
  const bounds = look instanceof PDFStream ? numbersIn(look.dict, "BBox") : undefined;
  if (
    !(look instanceof PDFStream) ||
    !rectangle ||
    !bounds ||
    (flags instanceof PDFNumber && flags.asNumber() & hidden)
  )
    return;
  const matrix = numbersIn(look.dict, "Matrix") ?? [1, 0, 0, 1, 0, 0];
  const [scaleX = 1, skewY = 0, skewX = 0, scaleY = 1, moveX = 0, moveY = 0] = matrix;
  const [x1, y1, x2, y2] = bounds as [number, number, number, number];
  const corners = [
    [x1, y1],
    [x1, y2],
    [x2, y1],
    [x2, y2],
  ].map(([x, y]) => [scaleX * x! + skewX * y! + moveX, skewY * x! + scaleY * y! + moveY] as const);
  const [west, south] = [0, 1].map((axis) => Math.min(...corners.map((corner) => corner[axis]!))) as [number, number];
  const [east, north] = [0, 1].map((axis) => Math.max(...corners.map((corner) => corner[axis]!))) as [number, number];
  if (east === west || north === south) return;
  const [left, right] = [rectangle[0]!, rectangle[2]!].sort((one, two) => one - two) as [number, number];
  const [foot, top] = [rectangle[1]!, rectangle[3]!].sort((one, two) => one - two) as [number, number];
  const across = (right - left) / (east - west);
  const up = (top - foot) / (north - south);
  const ref = pdf.context.getObjectRef(look) ?? pdf.context.register(look);
  page.pushOperators(
    pushGraphicsState(),
    concatTransformationMatrix(across, 0, 0, up, left - across * west, foot - up * south),
    drawObject(page.node.newXObject("Field", ref)),
    popGraphicsState(),
  );
}
function numbersIn(dict: PDFDict, key: string): readonly number[] | undefined {
  const list = dict.lookup(PDFName.of(key));
  const numbers =
    list instanceof PDFArray ? list.asArray().map((one) => (one instanceof PDFNumber ? one.asNumber() : 0)) : [];
  return numbers.length >= 4 ? numbers : undefined;
}

/**
 * Whether the file ends in where its cross-reference table or stream is, and one is there (ISO 32000-1, 7.5.4 to
 * 7.5.8). Without one a reader makes up its own idea of what is in the file, and two readers may not agree.
 */
function hasTable(bytes: Uint8Array): boolean {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = file.subarray(Math.max(0, file.length - 2048)).toString("latin1");
  const said = /startxref\s+(\d{1,12})\s+%%EOF(?![^]*startxref)/.exec(end)?.[1];
  if (said === undefined) return false;
  const there = file.subarray(Number(said), Number(said) + 400).toString("latin1");
  return /^\s*xref\b/.test(there) || /^\s*\d+\s+\d+\s+obj\b[^]*\/XRef\b/.test(there);
}

/** Parts that blow up when unpacked: told before the reader that would unpack them all at once. */
function inflatesTooFar(bytes: Uint8Array, packed: readonly PackedPart[]): boolean {
  let left = mostInflated;
  for (const { begin, end, deflated } of packed) {
    if (!deflated) continue;
    try {
      const options = { maxOutputLength: Math.max(1, left), finishFlush: constants.Z_SYNC_FLUSH };
      left -= inflateSync(bytes.subarray(begin, end), options).length;
    } catch (error) {
      if ((error as { code?: string }).code === "ERR_BUFFER_TOO_LARGE") return true;
    }
    if (left <= 0) return true;
  }
  return false;
}

const actions = new Set([
  "JavaScript",
  "Launch",
  "SubmitForm",
  "ImportData",
  "Rendition",
  "Movie",
  "Sound",
  "GoToE",
  "RichMediaExecute",
]);
const carriers = ["JS", "JavaScript", "AA", "EmbeddedFiles", "XFA", "RichMediaContent"];
/**
 * Anything in it that runs, opens or sends something, or carries other files. ISO 32000-1, 12.6 (actions) and 7.11.4
 * (embedded files).
 */
function doesSomething(object: PDFObject, depth: number): boolean {
  if (depth > 60) return true;
  const dictionaryOf = () => {
    if (object instanceof PDFDict) return object;
    if (object instanceof PDFStream) return object.dict;
    return undefined;
  };
  const dict = dictionaryOf();
  if (dict) {
    const step = dict.get(PDFName.of("S"));
    if (step instanceof PDFName && actions.has(step.decodeText())) return true;
    if (carriers.some((name) => dict.get(PDFName.of(name)) !== undefined)) return true;
    return dict.values().some((v) => !(v instanceof PDFRef) && doesSomething(v, depth + 1));
  }
  return (
    object instanceof PDFArray && object.asArray().some((v) => !(v instanceof PDFRef) && doesSomething(v, depth + 1))
  );
}

function fieldsOf(pdf: PDFDocument): SheetField[] {
  if (!pdf.catalog.get(PDFName.of("AcroForm"))) return [];
  const pages = pdf.getPages();
  const pageOf = (widget: PDFDict): number => {
    const ref = widget.get(PDFName.of("P"));
    const named = pages.findIndex((p) => p.ref === ref);
    if (named >= 0) return named;
    const own = pdf.context.getObjectRef(widget);
    return pages.findIndex((p) => own !== undefined && p.node.Annots()?.asArray().includes(own));
  };
  return pdf
    .getForm()
    .getFields()
    .slice(0, mostFields)
    .flatMap((field): SheetField[] => {
      const widget = field.acroField.getWidgets()[0];
      const kind = kindOf(field);
      const options =
        field instanceof PDFRadioGroup || field instanceof PDFDropdown || field instanceof PDFOptionList
          ? [...new Set(field.getOptions())].filter((o) => o.trim() !== "")
          : [];
      if (
        !widget ||
        !kind ||
        field.isReadOnly() ||
        (options.length === 0 && ["one-of", "drop-down", "several-of"].includes(kind))
      )
        return [];
      const { x: across, y: down, width, height } = widget.getRectangle();
      const tip = field.acroField.dict.lookup(PDFName.of("TU"));
      return [
        {
          name: field.getName(),
          label: tip instanceof PDFString || tip instanceof PDFHexString ? tip.decodeText() : undefined,
          kind,
          required: field.isRequired(),
          maxLength: field instanceof PDFTextField ? field.getMaxLength() : undefined,
          options,
          page: Math.max(0, pageOf(widget.dict)),
          left: across,
          top: down + height,
          width,
          height,
        },
      ];
    });
}
function kindOf(field: PDFField): SheetField["kind"] | undefined {
  if (field instanceof PDFTextField) {
    if (field.isPassword() || field.isFileSelector()) return undefined;
    if (field.isMultiline()) return "long-text";
    return "text";
  }
  if (field instanceof PDFCheckBox) return "check";
  if (field instanceof PDFRadioGroup) return "one-of";
  if (field instanceof PDFDropdown) return "drop-down";
  if (field instanceof PDFSignature) return isOpenPlace(field) ? "signature" : undefined;
  if (field instanceof PDFOptionList) return field.isMultiselect() ? "several-of" : "drop-down";
  return undefined;
}

/** A signature field that is seen on the page, and in which nobody has signed yet. */
function isOpenPlace({ acroField }: PDFSignature): boolean {
  const [widget] = acroField.getWidgets();
  const { width = 0, height = 0 } = widget?.getRectangle() ?? {};
  return width > 8 && height > 4 && acroField.dict.get(PDFName.of("V")) === undefined;
}

async function put(field: PDFField, value: SheetValue, pen: Pen): Promise<void> {
  if (field instanceof PDFTextField && value.kind === "text") {
    const most = field.getMaxLength();
    field.setText(most === undefined ? value.text : [...value.text].slice(0, most).join(""));
    await draw(field, value.text, pen);
  } else if (field instanceof PDFCheckBox && value.kind === "check") {
    if (value.on) field.check();
    else field.uncheck();
  } else if (
    value.kind === "options" &&
    (field instanceof PDFRadioGroup || field instanceof PDFDropdown || field instanceof PDFOptionList)
  ) {
    const known = value.options.filter((o) => field.getOptions().includes(o));
    if (known.length === 0) return;
    if (field instanceof PDFRadioGroup) field.select(known[0]!);
    else {
      field.select(field instanceof PDFOptionList ? known : known[0]!);
      await draw(field, known.join(""), pen);
    }
  }
}

/**
 * Draws a field's text, or leaves it to the program that shows it: the PDF's own fonts hold the letters of Western
 * Europe only, and the library sets one sign after another, which is wrong where letters join or stack.
 */
async function draw(field: PDFTextField | PDFDropdown | PDFOptionList, text: string, pen: Pen): Promise<void> {
  if (isDrawn(text)) field.updateAppearances((pen.font ??= await pen.pdf.embedFont("Helvetica")));
  else {
    pen.lacking = true;
    for (const widget of field.acroField.getWidgets()) widget.dict.delete(PDFName.of("AP"));
  }
}
interface Pen {
  readonly pdf: PDFDocument;
  font?: PDFFont;
  lacking?: boolean;
}
/** Names the font in the form's own resources, where a program looks for what a field asks for. */
function offer(form: PDFDict, pdf: PDFDocument, font: PDFFont): void {
  const made = (of: PDFDict, key: string): PDFDict => {
    const there = of.lookup(PDFName.of(key));
    if (there instanceof PDFDict) return there;
    const fresh = pdf.context.obj({});
    of.set(PDFName.of(key), fresh);
    return fresh;
  };
  made(made(form, "DR"), "Font").set(PDFName.of(font.name), font.ref);
}
