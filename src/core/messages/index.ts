export { internationalPhone } from "./phone";
export { fillWording, placeholders, type Placeholder, type Wording, type WordingError } from "./wording";
export {
  alertLetter,
  alertOpenLetter,
  inviteLetter,
  resetLetter,
  ticketPurposes,
  anchorLetter,
  bouncedLetter,
  checkWording,
  letterKinds,
  linkPurposes,
  placeholdersFor,
  sampleValues,
  lettersFor,
  lockedLetter,
  signingLetter,
  contactLetter,
  withdrawnLetter,
  mustHave,
  startingLetters,
  triedLetter,
  openedLetter,
  tryOutLetter,
  type Letter,
  type LetterKind,
  type PostPurpose,
} from "./wordings";
export { htmlPart } from "./html-part";
export { maskContact } from "./mask";
export { textParts, type TextParts } from "./text-parts";
export {
  afterTry,
  letterTrouble,
  postSimulations,
  postStates,
  type Delivery,
  type LetterTrouble,
  type PostSet,
  type PostSimulation,
  type PostState,
} from "./delivery";
