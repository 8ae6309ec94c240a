export * from "./definition";
export * from "./answer-value";
export * from "./answers";
export { combine, contribution, numbersOf, scoreValue, weightOf } from "./score-value";
export {
  conditionMet,
  conditionsOf,
  offeredIn,
  createVisibility,
  place,
  prune,
  shownQuestions,
  type Placed,
} from "./shown-when";
export { checkAnswer, checkAnswers, isDate, type AnswerProblem } from "./validity";
export { readChange, type ChangeError } from "./change-in";
export { forClient } from "./client-view";
export { notHonoured } from "./not-honoured";
export { isEmail, isPhone } from "./contact-formats";
export { questionSeconds, readingSeconds } from "./pace";
export { twinsOf, type Twin } from "./twins";
export { allItems, allQuestions, canAlarm, sectionsOf, type Section } from "./walk";
export {
  duplicateItem,
  gridOptions,
  holds,
  insertAfter,
  insertBefore,
  isBareLine,
  moveItem,
  removeItem,
  setKind,
  updateItem,
  withGridOptions,
} from "./edit";
export {
  emptyQuestionnaire,
  hasOptions,
  meansNone,
  kindOf,
  lineKinds,
  markedKind,
  markOf,
  newLine,
  readOptions,
  withKind,
  writeOptions,
  type LineKind,
} from "./kinds";
export { formatOf, textFormats } from "./formats";
export { loadPatterns, patternProblem, setPatternReader } from "./pattern";
export * from "./translation";
export { comparisonWords, conditionWords, differences, questionsByKey, shownWhenWords, type Difference } from "./words";
