export {
  consentState,
  consentStates,
  consentWords,
  isTrouble,
  monthsLater,
  registerOf,
  soonDays,
  type ConsentLine,
  type ConsentState,
  type GivenConsent,
} from "./register";
