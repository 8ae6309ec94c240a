import type { Id } from "../shared";
import type { DoorWay } from "./door";
import { sendingOrder, type StandingLine } from "./standing";
import type { CopyRole } from "./together";

/** What somebody may be sent. */
export interface SendOffer {
  readonly questionnaires: readonly { readonly id: string; readonly usual?: boolean }[];
  /** Those for this kind of visit first. */
  readonly standing: readonly StandingOffer[];
}
export interface StandingOffer {
  readonly id: string;
  readonly questionnaires: readonly StandingLine[];
  readonly leaflets: readonly Id<"Leaflet">[];
  readonly forThis?: boolean;
}

/** A packet as it is being put together: everything a sender decides. */
export interface SendDraft {
  /** Ids of questionnaires, in no order that matters. */
  readonly chosen: readonly string[];
  /** Those begun with what is on file. */
  readonly prefill: readonly string[];
  readonly leaflets: readonly string[];
  /** The standing packet it was begun with, which gives the order; empty for none. */
  readonly standing: string;
  /** Another order, by hand. */
  readonly order?: readonly string[];
  /** The same link asks again each session. */
  readonly repeats: boolean;
  /** Who gets a copy besides, by relation's id; the empty text is the client. */
  readonly people: Readonly<Record<string, CopyRole>>;
  /** Who signs where nobody is known beforehand, by `placeKey`. */
  readonly signers: Readonly<Record<string, SignerPick>>;
  /** Days as YYYY-MM-DD; the second may be empty. */
  readonly expiresOn: string;
  readonly dueOn: string;
  readonly language: string;
  /** A personal message. */
  readonly line: string;
  readonly door: DoorWay;
}
/** Somebody to sign: of what sort they are, which of them, and who they are where that is said by name. */
export interface SignerPick {
  readonly who: "relation" | "staff" | "named";
  /** Of a relation or a member of staff; empty for who is named. */
  readonly id: string;
  readonly name: string;
  readonly email: string;
}
/** How a place of a questionnaire is called among the picks. */
export const placeKey = (questionnaireId: string, place: string): string => `${questionnaireId} ${place}`;
type Given = Pick<SendDraft, "expiresOn" | "language" | "door">;

/** What a sender does to it. */
export type SendStep =
  | { readonly do: "take"; readonly standing: string }
  | { readonly do: "prefill"; readonly id: string; readonly on: boolean }
  | { readonly do: "person"; readonly id: string; readonly role: CopyRole | undefined }
  /** Nobody: chosen once it is back. */
  | { readonly do: "signer"; readonly key: string; readonly pick: SignerPick | undefined }
  | { readonly do: "move"; readonly id: string; readonly by: -1 | 1 }
  | { readonly do: "set"; readonly set: Partial<Omit<SendDraft, "standing" | "prefill" | "people" | "signers">> };

const blank = {
  chosen: [],
  prefill: [],
  leaflets: [],
  standing: "",
  repeats: false,
  people: {},
  signers: {},
  dueOn: "",
  line: "",
};

/**
 * As it is proposed: the standing packet for this kind of visit, else what is usual; with `asked`, the questionnaire
 * somebody came with and nothing else.
 */
export function beginSending(offer: SendOffer, given: Given, asked?: string): SendDraft {
  const draft: SendDraft = { ...blank, ...given };
  const standing = asked === undefined ? offer.standing.find((one) => one.forThis) : undefined;
  if (standing) return stepSending(offer, draft, { do: "take", standing: standing.id });
  const proposed = offer.questionnaires.filter((one) => (asked === undefined ? one.usual : one.id === asked));
  return { ...draft, chosen: proposed.map((one) => one.id) };
}

export function stepSending(offer: SendOffer, draft: SendDraft, step: SendStep): SendDraft {
  switch (step.do) {
    case "set":
      return { ...draft, ...step.set };
    case "take":
      return taken(offer, draft, step.standing);
    case "prefill": {
      const others = draft.prefill.filter((id) => id !== step.id);
      return { ...draft, prefill: step.on ? [...others, step.id] : others };
    }
    case "move": {
      const order = [...sendingOf(offer, draft).questionnaireIds];
      const from = order.indexOf(step.id);
      const other = order[from + step.by];
      if (from < 0 || other === undefined) return draft;
      order[from] = other;
      order[from + step.by] = step.id;
      return { ...draft, order };
    }
    case "person": {
      const { [step.id]: _, ...others } = draft.people;
      return { ...draft, people: step.role ? { ...others, [step.id]: step.role } : others };
    }
    case "signer": {
      const { [step.key]: _, ...others } = draft.signers;
      return { ...draft, signers: step.pick ? { ...others, [step.key]: step.pick } : others };
    }
  }
}
/**
 * Begins anew with a standing packet: what it asks, of what is there, what of it is begun from the chart, and its
 * leaflets.
 */
function taken(offer: SendOffer, draft: SendDraft, id: string): SendDraft {
  const standing = offer.standing.find((one) => one.id === id);
  const { order: _, ...fresh } = draft;
  if (!standing) return { ...fresh, standing: "" };
  const there = standing.questionnaires.filter((line) => offer.questionnaires.some((one) => one.id === line.id));
  return {
    ...fresh,
    standing: id,
    chosen: there.map((line) => line.id),
    prefill: there.filter((line) => line.prefill).map((line) => line.id),
    leaflets: standing.leaflets,
  };
}

/** What goes out: in order, and begun from the chart only where it is sent at all. */
export interface SendChoice {
  readonly questionnaireIds: readonly string[];
  readonly prefillIds: readonly string[];
  readonly leafletIds: readonly string[];
  readonly people: readonly { readonly relationId: string; readonly role: CopyRole }[];
  readonly signers: readonly (SignerPick & { readonly questionnaireId: string; readonly place: string })[];
}
export function sendingOf(
  offer: SendOffer,
  { chosen, prefill, leaflets, standing, people, signers, order: byHand }: SendDraft,
): SendChoice {
  const order = offer.standing.find((one) => one.id === standing)?.questionnaires.map((line) => line.id) ?? [];
  return {
    questionnaireIds: sendingOrder(
      chosen,
      byHand ?? order,
      offer.questionnaires.map((one) => one.id),
    ),
    prefillIds: prefill.filter((id) => chosen.includes(id)),
    leafletIds: leaflets,
    people: Object.entries(people).map(([relationId, role]) => ({ relationId, role })),
    signers: Object.entries(signers).flatMap(([key, pick]) => {
      const [questionnaireId = "", ...place] = key.split(" ");
      return chosen.includes(questionnaireId) ? [{ questionnaireId, place: place.join(" "), ...pick }] : [];
    }),
  };
}
