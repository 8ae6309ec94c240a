import {
  allItems,
  isSignaturePlace,
  place,
  type Answers,
  type Display,
  type Item,
  type Placed,
  type Questionnaire,
  type Signer,
} from "../questionnaire";

/** What somebody who fills it in is to the client. */
export type FillerKind = Signer | "parent";
/** Whether a place is for them: one that names nobody is for whoever fills it in, and a guardian's for a parent too. */
export const signsAt = ({ signer }: Pick<Display, "signer">, kind: FillerKind): boolean =>
  signer === undefined || signer === (kind === "parent" ? "guardian" : kind);

const isFor = (item: Item, fillers: readonly FillerKind[] | undefined): boolean =>
  item.type === "display" &&
  isSignaturePlace(item) &&
  (fillers === undefined || fillers.some((kind) => signsAt(item, kind)));

/**
 * Every place a questionnaire can be signed at, by linkId; one that is signed and has no places of its own is signed
 * once, as a whole: at ''. @param fillers only the places that are for one of them.
 */
export function signaturePlaces(questionnaire: Questionnaire, fillers?: readonly FillerKind[]): string[] {
  const own = allItems(questionnaire).filter(isSignaturePlace);
  if (own.length > 0) return own.filter((item) => isFor(item, fillers)).map((i) => i.linkId);
  return questionnaire.signed ? [""] : [];
}

/**
 * Where these answers have to be signed, in reading order: the signature places that are shown. @param fillers only the
 * places that are for one of them.
 */
export function placesToSign(
  questionnaire: Questionnaire,
  answers: Answers,
  fillers?: readonly FillerKind[],
): string[] {
  const all = signaturePlaces(questionnaire, fillers);
  if (all.length === 0 || all[0] === "") return all;
  const found = (placed: Placed): string[] =>
    placed.shown
      ? [...(all.includes(placed.item.linkId) ? [placed.item.linkId] : []), ...placed.children.flatMap(found)]
      : [];
  return [...new Set(place(questionnaire, answers).flatMap(found))];
}

/** Who is asked to sign by name, each once. */
export const signersOf = (questionnaire: Questionnaire): Signer[] => [
  ...new Set(
    allItems(questionnaire).flatMap((i) => (i.type === "display" && i.signature && i.signer ? [i.signer] : [])),
  ),
];
