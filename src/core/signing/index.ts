export { placesToSign, signaturePlaces, signersOf, signsAt, type FillerKind } from "./places";
export {
  canonicalText,
  intentSentence,
  isDrawnPath,
  signedStatement,
  type SignatureMark,
  type SignedStatement,
} from "./statement";
