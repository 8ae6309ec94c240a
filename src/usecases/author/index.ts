export { exportQuestionnaire, importQuestionnaire, library, putInUse, questionnaireView, type ContentLine, type LibraryLine, type QuestionnaireView } from './library';
