export * from './definition';
export * from './answer-value';
export * from './answers';
export { conditionMet, createVisibility, place, prune, shownQuestions, type Placed } from './shown-when';
export { checkAnswer, checkAnswers, isDate, type AnswerProblem } from './validity';
export { readChange, type ChangeError } from './change-in';
export { forClient } from './client-view';
export { isEmail, isPhone } from './contact-formats';
export { allItems, allQuestions, sectionsOf, type Section } from './walk';
