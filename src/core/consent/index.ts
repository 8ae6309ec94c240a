export {
  consentState,
  consentStates,
  consentWords,
  isTrouble,
  registerOf,
  type ConsentLine,
  type ConsentState,
  type GivenConsent,
} from "./register";
