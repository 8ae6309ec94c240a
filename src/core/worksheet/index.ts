export { sheetItems, type SheetField } from "./sheet-items";
export { isDrawn, sheetValues, type SheetValue } from "./sheet-values";
export { linesOf, paperItem, readPaper, type PaperLine, type PrintedLine } from "./paper-lines";
export { pageLines, type PlacedText } from "./page-lines";
