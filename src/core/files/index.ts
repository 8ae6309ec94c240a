export {
  cleanTitle,
  fileProblemWords,
  fileTypes,
  mostBytes,
  mostFiles,
  sniff,
  type FileType,
  type FileProblem,
} from "./kinds-of-file";
export { surveyPdf, type PackedPart } from "./pdf-survey";
