export { askForPaperHere, signPart, type SignError } from "./sign-part";
export { cutOwnPicture, cutPicture } from "./cut-picture";
export {
  askForPaper,
  declineToSign,
  signAsSigner,
  signerView,
  type SignerError,
  type SignerPlaceView,
  type SignerView,
} from "./signer-page";
export {
  nudgeSigner,
  packetSigning,
  recordPaperSignature,
  recordTalk,
  replaceSigner,
  type PacketSigningError,
  type PacketSigningView,
  type SigningLine,
  type SigningPartView,
} from "./packet-signing";
export {
  confirmSigning,
  countToSign,
  dropMark,
  forYouToSign,
  keepMark,
  releaseMark,
  signAsStaff,
  type ForYouToSign,
  type OwnSignatureError,
  type ToSign,
} from "./own-signature";
export { goOnSigning, signingParts, type SigningPart } from "./go-on";
export { paperToSeal, type SheetToSign, type ToSeal } from "./sealing";
export { checkPaper, openPaper, signedCopy, tellSigned, verdictOn, type PaperVerdict } from "./papers";
export { bringCertificate, setMailsPapers, signingOffice, type BringError, type SigningOffice } from "./office";
