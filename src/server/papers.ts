import type { BlankPaper } from "../adapters/blank-paper";
import type { OwnPaper } from "../adapters/own-paper";
import type { Paper } from "../adapters/paper";
import type { PdfForms } from "../adapters/pdf-forms";

// What draws and reads PDF files is loaded when the first one is asked for: it is a good part of all code, and the server is to be there at once.
export const renderPaper = async (paper: Paper) => (await import("../adapters/paper")).renderPaper(paper);
export const renderOwnPaper = async (paper: OwnPaper) => (await import("../adapters/own-paper")).renderOwnPaper(paper);
export const renderBlankPaper = async (paper: BlankPaper) =>
  (await import("../adapters/blank-paper")).renderBlankPaper(paper);
const forms = async (): Promise<PdfForms> => (await import("../adapters/pdf-forms")).pdfForms;
export const pdfForms: PdfForms = {
  check: async (bytes) => (await forms()).check(bytes),
  fill: async (bytes, values) => (await forms()).fill(bytes, values),
};
