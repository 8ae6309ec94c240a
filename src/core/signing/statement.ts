import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import canonicalize from "canonicalize";
import { allItems, isQuestion, prune, type Answers, type Questionnaire, type SignatureWay } from "../questionnaire";
import { mainLanguage, type Instant } from "../shared";

/**
 * How the mark was made. A drawn one is an SVG path over a 600 x 200 field: digits, spaces and the letters M and L
 * only; a picture a PNG in base64 whose ground is transparent; one on paper stands on a sheet the practice has.
 */
export type SignatureMark =
  | { readonly kind: "typed" | "ticked" | "paper"; readonly name: string }
  | { readonly kind: "drawn"; readonly name: string; readonly path: string }
  | { readonly kind: "picture"; readonly name: string; readonly png: string };

/** What somebody has before them when they sign: every word shown is in it. */
export interface SignedText {
  readonly questionnaire: { readonly url: string; readonly version: string; readonly title: string };
  /** What it was read in, as a language tag. */
  readonly language: string;
  readonly texts: readonly { readonly linkId: string; readonly text: string }[];
  readonly answers: Answers;
  readonly intent: string;
  /** The PDF it stands on as well: the SHA-256 of the empty sheet, or what it is known by where that was not kept. */
  readonly sheet?: { readonly title: string; readonly digest: string };
  /** The signature place it stands at; none when the questionnaire is signed as a whole. */
  readonly place?: string;
}
/** What a signer agreed to, who they are, and how and when they signed. */
export interface SignedStatement extends SignedText {
  /** SHA-256 of the canonical bytes of what was read, as it was shown before signing. */
  readonly textDigest: string;
  readonly signer: string;
  readonly mark: SignatureMark;
  readonly at: Instant;
}

const intents: Readonly<Record<string, string>> = {
  en: "By signing I agree to the text above.",
  es: "Al firmar acepto el texto de arriba.",
  fr: "En signant, j’accepte le texte ci-dessus.",
  ar: "بتوقيعي أوافق على النص أعلاه.",
};
/** The sentence beside the mark, for a reader of `language`; it is part of what is signed. */
export const intentSentence = (language: string): string => intents[mainLanguage(language)] ?? intents["en"]!;

/**
 * What is read at a place. @param questionnaire in the reader's language; what only adds up is not read by them
 *
 * @param place empty when it is signed as a whole
 */
export function signedText(
  questionnaire: Questionnaire,
  answers: Answers,
  place: string,
  language: string,
): SignedText {
  const items = allItems(questionnaire);
  const { sheet } = questionnaire;
  const at = items.find((i) => place !== "" && i.linkId === place);
  const onSheet = at?.type === "display" && at.signing?.onSheet !== undefined;
  return {
    questionnaire: { url: questionnaire.url, version: questionnaire.version, title: questionnaire.title },
    language,
    texts: items.filter((item) => !(isQuestion(item) && item.score)).map(({ linkId, text }) => ({ linkId, text })),
    answers: prune(questionnaire, answers),
    intent: at?.text ?? intentSentence(language),
    ...(sheet && onSheet ? { sheet: { title: sheet.title, digest: sheet.sha256 ?? sheet.hash } } : {}),
    ...(place === "" ? {} : { place }),
  };
}
/** SHA-256 (FIPS 180-4) of the canonical bytes (RFC 8785) of a JSON value, in hex. */
export const canonicalDigest = (value: unknown): string => bytesToHex(sha256(utf8ToBytes(canonicalText(value))));
export const textDigest = (text: SignedText): string => canonicalDigest(text);

/** Whether what was signed is what is there now: the digest of the one is that of the other. */
export const isFresh = (statement: SignedStatement, now: SignedText): boolean =>
  statement.textDigest === textDigest(now);

/**
 * The bytes a signature's digest is taken over: RFC 8785 (JCS) text. Equal statements give equal bytes, whatever the
 * key order.
 */
export function canonicalText(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new Error("Only JSON values have canonical bytes.");
  return text;
}

/** A drawn signature worth keeping: only pen moves inside the field, and enough of them to be one. */
export const isDrawnPath = (path: string): boolean =>
  path.length <= 60_000 &&
  /^(?:[ML]-?\d{1,4}(?:\.\d)? -?\d{1,4}(?:\.\d)? ?)+$/.test(path) &&
  (path.match(/L/g)?.length ?? 0) >= 5;
/** The same drawing without its last stroke. */
export const withoutLastStroke = (path: string): string => path.slice(0, Math.max(0, path.lastIndexOf("M")));

/** The ways a place may be signed; a name can be typed wherever one does not just tick, so that nobody needs a pointer. */
export function waysAt(rule: { readonly ways?: readonly SignatureWay[] } | undefined): readonly SignatureWay[] {
  const ways = rule?.ways ?? ["typed", "drawn", "picture"];
  return ways.includes("typed") || ways.every((way) => way === "ticked") ? ways : ["typed", ...ways];
}
