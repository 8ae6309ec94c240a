import type { FileType } from "../../core/files";
import { readHandOff, sheetsIn } from "../../core/fhir";
import { setPatternReader } from "../../core/questionnaire";
import { linearPatterns } from "../../core/questionnaire/linear-pattern";
import { ok, type Instant } from "../../core/shared";
import type { StampOrder } from "../pdf-forms";
import type { SheetValue } from "../../core/worksheet";

setPatternReader(linearPatterns);

/** What is done with strangers' bytes in a process apart. Each loads what it needs when it is first asked for. */
export const tasks = {
  checkPdf: async (bytes: Uint8Array) => (await import("../pdf-forms")).pdfForms.check(bytes),
  fillPdf: async (bytes: Uint8Array, values: readonly SheetValue[]) =>
    (await import("../pdf-forms")).pdfForms.fill(bytes, values),
  stampPdf: async (order: StampOrder) => (await import("../pdf-forms")).pdfForms.stamp(order),
  redraw: async (bytes: Uint8Array, type: FileType) => (await import("../pictures")).sharpPictures.redraw(bytes, type),
  signaturePicture: async (bytes: Uint8Array) => (await import("../pictures")).sharpPictures.signature(bytes),
  lookAtPaper: async (bytes: Uint8Array) => (await import("../paper-checks")).paperChecks.look(bytes),
  async readPkcs12(bytes: Uint8Array, password: string, now: Instant) {
    const { factsOf, readPkcs12 } = await import("../seal");
    const read = await readPkcs12(bytes, password, now);
    return read.ok ? ok({ identity: read.value, facts: factsOf(read.value.chain[0]!) }) : read;
  },
  async readHandOff(text: string) {
    const read = readHandOff(text);
    return read.ok ? ok({ versions: read.value, sheets: sheetsIn(text) }) : read;
  },
};
export type Tasks = typeof tasks;
/** What is asked of the process. */
export type Asked = readonly [task: keyof Tasks, given: readonly unknown[]];
/**
 * Its reply: what the task gave, or the name of the error it threw; and the memory the process holds then, in bytes.
 */
export type Reply = ({ readonly done: unknown } | { readonly threw: string }) & { readonly memory: number };
