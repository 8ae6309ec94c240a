export { exportPart, isReturned, readParts, returnFrame, returns, returnView, type ReturnedPartView, type ReturnLine, type ReturnView } from './returns';
