export {
  detailsMatch,
  detailsOnFile,
  doorFallbacks,
  doorFor,
  doorWays,
  startingDoor,
  type Door,
  type DoorPerson,
  type DoorPolicy,
  type DoorWay,
} from "./door";
export { isFinishAddress, namesNumber, startingPages, supportFor, type PagePolicy, type Support } from "./pages";
export { mailingStates, sendingOrder, type MailingState, type StandingLine } from "./standing";
export { changeName, copyRoles, linkRoles, mergeRows, type CopyRole, type KeptAnswer, type LinkRole } from "./together";
export { isOpenAgain, type SentBack, type SentBackLine } from "./sent-back";
export {
  after,
  asksAgain,
  isOpen,
  isUnreached,
  markAndWords,
  packetStates,
  packetStateWords,
  readinessOf,
  stateAt,
  unopened,
  type PacketGlance,
  type PacketMark,
  type PacketState,
  type Readiness,
} from "./state";
export {
  beginSending,
  placeKey,
  sendingOf,
  stepSending,
  type SendChoice,
  type SendDraft,
  type SendOffer,
  type SendStep,
  type SignerPick,
  type StandingOffer,
} from "./sending";
export { aboutSentence, clientNameIn, doorSentence } from "./letter-sentences";
