import { pdfFormsApart } from "../adapters/apart";
import type { BlankPaper } from "../adapters/blank-paper";
import type { NotePaper } from "../adapters/note-paper";
import type { OwnPaper } from "../adapters/own-paper";
import type { RecordPaper } from "../adapters/record-paper";
import type { Paper } from "../adapters/paper";
import type { FilledSheet } from "../usecases/review";

// What draws PDF files is loaded when the first one is asked for: it is a good part of all code, and the server is to
// be there at once.
export const renderPaper = async (paper: Paper) => (await import("../adapters/paper")).renderPaper(paper);
export const renderOwnPaper = async (paper: OwnPaper) => (await import("../adapters/own-paper")).renderOwnPaper(paper);
export const renderNotePaper = async (paper: NotePaper) =>
  (await import("../adapters/note-paper")).renderNotePaper(paper);
export const renderRecordPaper = async (paper: RecordPaper) =>
  (await import("../adapters/record-paper")).renderRecordPaper(paper);
export const renderBlankPaper = async (paper: BlankPaper) =>
  (await import("../adapters/blank-paper")).renderBlankPaper(paper);
/** The same PDF with these answers in its fields; undefined when that is not to be had. */
export async function fillSheet({ blank, values }: FilledSheet): Promise<Uint8Array | undefined> {
  const filled = await pdfFormsApart.fill(blank, values);
  return filled.ok ? filled.value : undefined;
}
