import { mixed, object, type InferType } from "yup";
import { namedSignerSchema } from "../../core/forms";
import type { Display, Questionnaire, Signer as SignerKind } from "../../core/questionnaire";
import { placesOf, signsAt, type FillerKind } from "../../core/signing";
import type { Client } from "../../db/repositories";
import { idInput, type Context } from "../kit";
import type { SignerIs } from "./people";

/** Somebody chosen by staff to sign at a place. */
export const signerChoiceInput = object({
  who: mixed<SignerIs["is"]>().oneOf(["client", "relation", "staff", "named"]).required("Say who signs."),
  relationId: idInput<"Relation">().optional(),
  staffId: idInput<"Staff">().optional(),
}).concat(namedSignerSchema);

/** Whom staff mean; undefined where that is nobody. */
export async function signerChosen(
  { repo, practice }: Context,
  client: Client,
  { who, relationId, staffId, name, email, title }: InferType<typeof signerChoiceInput>,
): Promise<SignerIs | undefined> {
  switch (who) {
    case "client":
      return { is: "client" };
    case "relation": {
      const relation = (await repo.relations.ofClient(client.id)).find((r) => r.id === relationId && !r.ended);
      return relation && { is: "relation", relationId: relation.id };
    }
    case "staff": {
      const member = (await repo.staff.all(practice.id)).find((s) => s.id === staffId && s.active);
      return member && { is: "staff", staffId: member.id };
    }
    case "named":
      return name === "" || email === "" ? undefined : { is: "named", person: { name, email, title } };
  }
}

/** A place of a questionnaire for which nobody is known beforehand. */
export interface PlaceToChoose {
  readonly place: string;
  readonly text: string;
  readonly kind: SignerKind;
  readonly title: string;
}
/** @param around of what kinds those are who are on file around the client */
export function placesToChoose(questionnaire: Questionnaire, around: readonly FillerKind[]): PlaceToChoose[] {
  const isOpen = ({ signer, signing }: Display): boolean => {
    if (signer === undefined || signer === "client" || signer === "practitioner" || signing?.from) return false;
    return signer === "named" || around.filter((kind) => signsAt({ signer }, kind)).length !== 1;
  };
  return placesOf(questionnaire)
    .filter(isOpen)
    .map(({ linkId, text, signer, signing }) => ({
      place: linkId,
      text,
      kind: signer!,
      title: signing?.title ?? "",
    }));
}
