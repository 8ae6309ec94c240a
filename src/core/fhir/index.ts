export { readDraft, readHandOff, readQuestionnaire, readQuestionnaireText, sheetsIn } from "./questionnaire-in";
export { writeQuestionnaire, withoutSheetId, withSheetData } from "./questionnaire-out";
export { writeResponse, type ResponseFrame } from "./response-out";
export type { ImportProblem, JsonObject } from "./json";
export { scoreExpression } from "./score-expression";
export { writeRecord, type RecordFrame } from "./record-out";
export { writeConsent, type ConsentFrame } from "./consent-out";
export { writeChart, type ChartFrame } from "./chart-out";
export { readChart, type BroughtChart } from "./chart-in";
