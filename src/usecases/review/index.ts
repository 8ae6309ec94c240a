export {
  exportPart,
  isReturned,
  readParts,
  returnFrame,
  returns,
  returnView,
  staffWords,
  type Remark,
  type ReturnedPartView,
  type ReturnLine,
  type ReturnsView,
  type ReturnView,
} from "./returns";
export { filledSheet, openFile, type FilledSheet } from "./files";
export { addMarginNote, dropMarginNote } from "./margin-notes";
export { handReturn } from "./hand-to";
export { readersFor } from "./readers";
export { sendBack } from "./send-back";
export type { Paper } from "../../adapters/paper";
export { everything, everythingFile, type Everything } from "./everything";
