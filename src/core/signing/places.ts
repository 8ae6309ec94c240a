import { allItems, isSignaturePlace, place, type Answers, type Placed, type Questionnaire } from "../questionnaire";

/** Every place a questionnaire can be signed at, by linkId; one that is signed and has no places of its own is signed once, as a whole: at ''. */
export function signaturePlaces(questionnaire: Questionnaire): string[] {
  const own = allItems(questionnaire)
    .filter(isSignaturePlace)
    .map((i) => i.linkId);
  if (own.length > 0) return own;
  if (questionnaire.signed) return [""];
  return [];
}

/** Where these answers have to be signed, in reading order: the signature places that are shown. */
export function placesToSign(questionnaire: Questionnaire, answers: Answers): string[] {
  const all = signaturePlaces(questionnaire);
  if (all.length === 0 || all[0] === "") return all;
  const found = (placed: Placed): string[] =>
    placed.shown
      ? [...(isSignaturePlace(placed.item) ? [placed.item.linkId] : []), ...placed.children.flatMap(found)]
      : [];
  return [...new Set(place(questionnaire, answers).flatMap(found))];
}
