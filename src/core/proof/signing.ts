import {
  allQuestions,
  isEmail,
  mostSignaturePlaces,
  type Display,
  type Item,
  type Question,
  type Questionnaire,
} from "../questionnaire";
import { placeBefore, placesOf } from "../signing";
import type { Paths } from "./paths";
import { short } from "./short";

export type SigningFinding =
  "too-many-places" | "nobody-signs" | "no-sheet" | "signer-unreached" | "signer-may-be-unreached" | "order-endless";
type Add = (level: "error" | "warning", code: SigningFinding, message: string, item?: Item) => void;

/** Places nobody can sign, signers nobody can reach, and an order that cannot end. */
export function checkSigning(questionnaire: Questionnaire, paths: Paths, add: Add): void {
  const places = placesOf(questionnaire);
  if (places.length > mostSignaturePlaces)
    add(
      "error",
      "too-many-places",
      `There are ${places.length} places to sign; at most ${mostSignaturePlaces} can be kept in order.`,
      places[mostSignaturePlaces],
    );
  for (const place of places) {
    checkAges(place, add);
    if (place.signing?.onSheet && !questionnaire.sheet)
      add("error", "no-sheet", `${short(place.text)} stands on a PDF, and this questionnaire has none.`, place);
    checkSource(questionnaire, place, paths, add);
    checkOrder(questionnaire, place, places, add);
  }
}
function checkAges(place: Display, add: Add): void {
  const { from = 0, below = Infinity } = place.signing?.ages ?? {};
  if (from >= below)
    add(
      "error",
      "nobody-signs",
      `Nobody can sign at ${short(place.text)}: no age is ${from} or more and below ${below}.`,
      place,
    );
}
function checkSource(questionnaire: Questionnaire, place: Display, paths: Paths, add: Add): void {
  const from = place.signing?.from;
  if (!from || place.signer === "client" || place.signer === "practitioner") return;
  const unreached = (why: string): void =>
    add("error", "signer-unreached", `Who signs at ${short(place.text)} cannot be written to: ${why}.`, place);
  if (from.kind === "fixed") {
    if (from.name.trim() === "") unreached("there is no name");
    if (!isEmail(from.email.trim())) unreached("there is no e-mail address");
    return;
  }
  const questions = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  const asked: readonly (readonly [string, Question | undefined])[] = [
    ["name", questions.get(from.name)],
    ["e-mail address", questions.get(from.email)],
  ];
  for (const [what, question] of asked) {
    if (question?.type !== "string") unreached(`no question asks for their ${what}`);
    else if (what !== "name" && question.keyboard !== "email")
      unreached(`${short(question.text)} does not ask for an e-mail address`);
    else if (!question.required) unreached(`${short(question.text)} may be left out`);
    else if (
      paths.canHide(question) !== false &&
      JSON.stringify(question.shownWhen) !== JSON.stringify(place.shownWhen)
    )
      add(
        "warning",
        "signer-may-be-unreached",
        `${short(question.text)} is not always asked where ${short(place.text)} is signed. Without it you choose the signer by hand.`,
        place,
      );
  }
}
function checkOrder(questionnaire: Questionnaire, place: Display, places: readonly Display[], add: Add): void {
  const after = place.signing?.after;
  if (after !== undefined && !places.some((other) => other.linkId === after))
    add("error", "order-endless", `${short(place.text)} waits for a place that is not there.`, place);
  const met = new Set<Display>();
  let before = placeBefore(questionnaire, place);
  while (before && before !== place && !met.has(before)) {
    met.add(before);
    before = placeBefore(questionnaire, before);
  }
  if (before === place)
    add("error", "order-endless", `${short(place.text)} waits for itself: the signing order goes in a circle.`, place);
}
