export {
  proofs,
  proofWords,
  talkWays,
  talkWords,
  type Evidence,
  type Proof,
  type SigningPolicy,
  type Talk,
} from "./evidence";
export { paperOutcome, paperOutcomeWords, type PaperOutcome, type SealOutcome } from "./paper-outcome";
export {
  fitsAge,
  isSigned,
  placeBefore,
  placesBeforeReturn,
  placesOf,
  signaturePlaces,
  signersOf,
  signingPlan,
  signsAt,
  type FillerKind,
  type PlannedPlace,
} from "./places";
export { readingOrder, type ReadBlock } from "./reading-order";
export {
  isComplete,
  signingStateWords,
  standingOf,
  type GivenSignature,
  type PlaceStanding,
  type SigningState,
} from "./standing";
export {
  canonicalDigest,
  canonicalText,
  intentSentence,
  isDrawnPath,
  isFresh,
  signedText,
  textDigest,
  waysAt,
  withoutLastStroke,
  type SignatureMark,
  type SignedStatement,
  type SignedText,
} from "./statement";
