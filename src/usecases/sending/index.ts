export { packetJourney, type PacketJourney, type StepAction } from "./journey";
export { extend, giveLink, nudge, reissueLink, unlock, withdraw } from "./packet-care";
export {
  postMessage,
  postRoom,
  simulatePost,
  tryAgain,
  tryLetter,
  type PostLine,
  type PostMessage,
  type PostView,
} from "./post-room";
export { askOnceMore, sendOptions, sendPacket, type SendOptions } from "./send-packet";
export { previewLetter, sendTest } from "./try-letter";
export { languageOf, recipientFor } from "./recipient";
export { bareLink, endOf, targetOfPacket, usualExpiry } from "./target";
export {
  mailingOptions,
  mailingView,
  startMailing,
  stopMailing,
  writeNext,
  type MailingLine,
  type MailingOptions,
  type MailingView,
} from "./mailing";
export { mailingPeople, mailingRecipients, type MailingPeople, type MailingPerson } from "./mailing-people";
export { unreachedLines, waiting, type UnreachedLine, type Waiting } from "./unreached";
export { visitsAhead, wordingValues, type VisitAhead } from "./wording-values";
export {
  alertOpenLetterTo,
  anchorLetterTo,
  bouncedLetterTo,
  sendOpenedLetter,
  sendTicketLetter,
  sendTriedLetter,
} from "./letters";
export { linkHolders, peopleOf, writeTo, type PacketPerson } from "./people";
