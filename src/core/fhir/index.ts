export { readDraft, readHandOff, readQuestionnaire, readQuestionnaireText } from './questionnaire-in';
export { writeQuestionnaire } from './questionnaire-out';
export { writeResponse, type ResponseFrame } from './response-out';
export type { ImportProblem, JsonObject } from './json';
export { scoreExpression } from './score-expression';
