export { sheetItems, type SheetField } from "./sheet-items";
export { sheetValues, type SheetValue } from "./sheet-values";
