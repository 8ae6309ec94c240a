import {
  allItems,
  isSignaturePlace,
  place,
  type Answers,
  type Display,
  type Placed,
  type Questionnaire,
  type Signer,
} from "../questionnaire";

/** What somebody who fills it in is to the client. */
export type FillerKind = "client" | "guardian" | "parent" | "partner" | "supervisor";
/** Whether a place is for them: one that names nobody is for whoever fills it in, and a guardian's for a parent too. */
export const signsAt = ({ signer }: { readonly signer?: Signer | undefined }, kind: FillerKind): boolean =>
  signer === undefined || signer === (kind === "parent" ? "guardian" : kind);

/** One place at which these answers are signed. */
export interface PlannedPlace {
  /** Its linkId; empty when the questionnaire is signed as a whole. */
  readonly place: string;
  /** Undefined: whoever fills it in. */
  readonly signer: Signer | undefined;
  readonly required: boolean;
  /**
   * The required places that have to be signed before, near and far. A place that stands in its own list waits for
   * ever.
   */
  readonly after: readonly string[];
}

const isPlace = (item: { readonly type: string }): item is Display => isSignaturePlace(item as Display);
/** Every place a questionnaire has, whatever is answered; a questionnaire signed as a whole has none. */
export const placesOf = (questionnaire: Questionnaire): readonly Display[] => allItems(questionnaire).filter(isPlace);

/** Whether a place is signed at this age of the client; where the age is not known, it is. */
export const fitsAge = ({ signing }: Pick<Display, "signing">, age: number | undefined): boolean =>
  age === undefined || (age >= (signing?.ages?.from ?? 0) && age < (signing?.ages?.below ?? Infinity));

/** The place that is signed before this one. */
export function placeBefore(questionnaire: Questionnaire, item: Display): Display | undefined {
  if (questionnaire.signing?.freeOrder) return undefined;
  const all = placesOf(questionnaire);
  if (item.signing?.after !== undefined) return all.find((p) => p.linkId === item.signing?.after);
  return all[all.indexOf(item) - 1];
}

/**
 * Where these answers are signed, by whom and in which order: the places that are shown and fit the client's age, in
 * reading order.
 *
 * @param age in whole years; undefined where the birth date is not known, so that nobody's signature is done without
 */
export function signingPlan(
  questionnaire: Questionnaire,
  answers: Answers,
  age: number | undefined,
): readonly PlannedPlace[] {
  const own = placesOf(questionnaire);
  if (own.length === 0)
    return questionnaire.signed ? [{ place: "", signer: undefined, required: true, after: [] }] : [];
  const shown = new Set<string>();
  const look = (placed: Placed): void => {
    if (!placed.shown) return;
    shown.add(placed.item.linkId);
    placed.children.forEach(look);
  };
  place(questionnaire, answers).forEach(look);
  const asked = own.filter((item) => shown.has(item.linkId) && fitsAge(item, age));
  const waitsFor = (item: Display): string[] => {
    const met = new Set<string>();
    let before = placeBefore(questionnaire, item);
    while (before && !met.has(before.linkId)) {
      met.add(before.linkId);
      before = placeBefore(questionnaire, before);
    }
    return [...met].filter((id) => asked.some((a) => a.linkId === id && !a.signing?.optional));
  };
  return asked.map((item) => ({
    place: item.linkId,
    signer: item.signer,
    required: !item.signing?.optional,
    after: waitsFor(item),
  }));
}

/**
 * The places that those who fill it in can sign before it goes back: theirs, where nobody else has to sign before.
 * @param fillers what each of them is to the client; whoever it may be, where it is not said
 */
export function placesBeforeReturn(
  plan: readonly PlannedPlace[],
  fillers: readonly FillerKind[] | undefined,
): readonly PlannedPlace[] {
  const theirs = (planned: PlannedPlace): boolean =>
    planned.signer !== "practitioner" &&
    planned.signer !== "named" &&
    (fillers === undefined || fillers.some((kind) => signsAt(planned, kind)));
  return plan.filter(
    (planned) =>
      theirs(planned) && planned.after.every((place) => plan.some((other) => other.place === place && theirs(other))),
  );
}

/**
 * Every place of a questionnaire that somebody who fills it in may come to, by linkId, whatever is answered. @param
 * fillers only the places that are for one of them.
 */
export function signaturePlaces(questionnaire: Questionnaire, fillers?: readonly FillerKind[]): string[] {
  const own = placesOf(questionnaire);
  if (own.length === 0) return questionnaire.signed ? [""] : [];
  return own
    .filter(
      (item) =>
        item.signer !== "practitioner" &&
        item.signer !== "named" &&
        (fillers === undefined || fillers.some((kind) => signsAt(item, kind))),
    )
    .map((i) => i.linkId);
}

/** Whether anything of it is ever signed. */
export const isSigned = (questionnaire: Questionnaire): boolean =>
  questionnaire.signed || placesOf(questionnaire).length > 0;

/** Who is asked to sign by name, each once. */
export const signersOf = (questionnaire: Questionnaire): Signer[] => [
  ...new Set(placesOf(questionnaire).flatMap((i) => i.signer ?? [])),
];
