export { chooseLanguage, clientPaper, fillView, returnPacket, saveAnswers, type FillPart, type FillView, type PartProblems, type ReturnError, type SaveError } from './fill';
export { addFile, clientSheet, type AddFileError } from './files';
