export {
  clientConsents,
  clientsToRenew,
  consentRegister,
  ownConsents,
  setConsentNeeded,
  withdrawConsent,
  withdrawOwnConsent,
  type ConsentEntry,
  type ConsentRegister,
  type ConsentView,
  type OwnConsent,
} from "./register";
export { consentResources, consentsTable, exportConsents } from "./take-out";
export { registerLines, type RegisterLine } from "./lines";
