export { exportPart, isReturned, readParts, returnFrame, returns, returnView, type PaperInput, type ReturnedPartView, type ReturnLine, type ReturnView } from './returns';
