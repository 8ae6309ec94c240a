export { placesToSign, signaturePlaces } from "./places";
export {
  canonicalText,
  intentSentence,
  isDrawnPath,
  signedStatement,
  type SignatureMark,
  type SignedStatement,
} from "./statement";
