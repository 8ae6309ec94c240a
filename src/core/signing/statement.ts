import { mainLanguage } from "../shared";
import canonicalize from "canonicalize";
import { allItems, type Answers, type Questionnaire } from "../questionnaire";
import type { Instant } from "../shared";

/**
 * How the mark was made. A drawn one is an SVG path over a 600 x 200 field: digits, spaces and the letters M and L
 * only.
 */
export type SignatureMark =
  | { readonly kind: "typed"; readonly name: string }
  | { readonly kind: "drawn"; readonly name: string; readonly path: string };

/** What a signer agreed to. Every word shown is in it, so that a later change of text cannot change what was signed. */
export interface SignedStatement {
  readonly questionnaire: { readonly url: string; readonly version: string; readonly title: string };
  readonly texts: readonly { readonly linkId: string; readonly text: string }[];
  readonly answers: Answers;
  readonly intent: string;
  /** The signature place it stands at; none when the questionnaire is signed as a whole. */
  readonly place?: string;
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

export function signedStatement(
  questionnaire: Questionnaire,
  answers: Answers,
  given: Pick<SignedStatement, "intent" | "signer" | "mark" | "at" | "place">,
): SignedStatement {
  return {
    questionnaire: { url: questionnaire.url, version: questionnaire.version, title: questionnaire.title },
    texts: allItems(questionnaire).map(({ linkId, text }) => ({ linkId, text })),
    answers,
    ...given,
  };
}

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
