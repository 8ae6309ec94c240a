export {
  chooseLanguage,
  clientPaper,
  fillView,
  changesSince,
  returnPacket,
  saveAnswers,
  type FillPart,
  type FillView,
  type PartProblems,
  type Returned,
  type ReturnError,
  type SaveError,
} from "./fill";
export { addFile, clientSheet, type AddFileError } from "./files";
export type { OwnPaper } from "../../adapters/own-paper";
