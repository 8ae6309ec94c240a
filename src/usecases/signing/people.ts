import { nameOf } from "../../core/chart";
import { maskContact } from "../../core/messages";
import {
  allQuestions,
  isEmail,
  textOf,
  type Answers,
  type Display,
  type Questionnaire,
} from "../../core/questionnaire";
import type { FillerKind } from "../../core/signing";
import type { Id } from "../../core/shared";
import type { Client, NamedPerson, Packet, Signer } from "../../db/repositories";
import type { Context } from "../kit";
import { languageOf, recipientFor, type Recipient } from "../sending/recipient";

/** Who somebody who signs is: the client, somebody around them, a member of staff, or anybody by name. */
export type SignerIs =
  | { readonly is: "client" }
  | { readonly is: "relation"; readonly relationId: Id<"Relation"> }
  | { readonly is: "staff"; readonly staffId: Id<"Staff"> }
  | { readonly is: "named"; readonly person: NamedPerson };

export function whoIs({ relationId, staffId, person }: Pick<Signer, "relationId" | "staffId" | "person">): SignerIs {
  if (relationId) return { is: "relation", relationId };
  if (staffId) return { is: "staff", staffId };
  return person ? { is: "named", person } : { is: "client" };
}
export function isSame(one: SignerIs, other: SignerIs): boolean {
  if (one.is === "relation") return other.is === "relation" && one.relationId === other.relationId;
  if (one.is === "staff") return other.is === "staff" && one.staffId === other.staffId;
  if (one.is === "client") return other.is === "client";
  const sign = ({ name, email }: NamedPerson): string => (email === "" ? name : email).toLowerCase();
  return other.is === "named" && sign(one.person) === sign(other.person);
}

/** One answer, as it was typed. */
function typed(questionnaire: Questionnaire, answers: Answers, linkId: string): string {
  const asked = allQuestions(questionnaire).find((q) => q.linkId === linkId);
  const [value] = asked ? (answers.values[linkId] ?? []) : [];
  return value ? textOf(value).trim() : "";
}
/**
 * Whom a place is for, as things stand; undefined where staff have to choose. @param item the place; undefined for a
 * questionnaire that is signed as a whole
 */
export async function signerFor(
  { repo }: Context,
  packet: Packet,
  client: Client,
  questionnaire: Questionnaire,
  answers: Answers,
  item: Display | undefined,
): Promise<SignerIs | undefined> {
  const from = item?.signing?.from;
  const kind = item?.signer;
  const who: SignerIs = packet.relationId ? { is: "relation", relationId: packet.relationId } : { is: "client" };
  if (kind === undefined) return who;
  if (kind === "client") return { is: "client" };
  if (kind === "practitioner") return { is: "staff", staffId: packet.staffId };
  if (from) {
    const person =
      from.kind === "fixed"
        ? { name: from.name.trim(), email: from.email.trim() }
        : { name: typed(questionnaire, answers, from.name), email: typed(questionnaire, answers, from.email) };
    if (person.name !== "" && isEmail(person.email))
      return { is: "named", person: { ...person, title: item?.signing?.title ?? "" } };
  }
  if (kind === "named") return undefined;
  const fits = (one: FillerKind): boolean => one === kind || (kind === "guardian" && one === "parent");
  const around = (await repo.relations.ofClient(client.id)).filter((r) => !r.ended && fits(r.kind));
  const withLink = (await repo.links.ofPacket(packet)).map((l) => l.relationId);
  const [first, ...more] = around.filter((r) => withLink.includes(r.id)).concat(around);
  // Of several of a kind nobody is taken for the other, unless one of them has been written to about it.
  return first && (more.every((r) => r.id === first.id) || withLink.includes(first.id))
    ? { is: "relation", relationId: first.id }
    : undefined;
}

/** How a signer is reached; undefined for staff, who sign here, and for who is not there any more. */
export async function reachSigner(
  ctx: Context,
  packet: Packet,
  client: Client,
  signer: Pick<Signer, "relationId" | "staffId" | "person">,
  language: string = languageOf(client, packet),
): Promise<Recipient | undefined> {
  if (signer.staffId) return undefined;
  if (!signer.person) return recipientFor(ctx, client, signer.relationId, language);
  const { name, email } = signer.person;
  return {
    relationId: undefined,
    firstName: name.split(/\s+/)[0] ?? name,
    name,
    ended: false,
    language,
    kind: "supervisor",
    relation: undefined,
    email: email || undefined,
    phone: undefined,
    contact: email === "" ? undefined : { channel: "email", to: email, masked: maskContact("email", email) },
  };
}
/** Their name, as the practice knows it. */
export async function signerName(ctx: Context, client: Client, signer: Signer): Promise<string> {
  if (signer.person) return signer.person.name;
  if (signer.staffId) return (await ctx.repo.staff.byId(signer.staffId))?.name ?? "";
  if (signer.relationId) {
    const relation = (await ctx.repo.relations.ofClient(client.id)).find((r) => r.id === signer.relationId);
    return relation ? nameOf(relation) : "";
  }
  return nameOf(client);
}
/** Whether one of the newest signatures of a part is theirs. */
export const hasSigned = async ({ repo }: Context, partId: Id<"Part">, signerId: Id<"Signer">): Promise<boolean> =>
  (await repo.signatures.ofPart(partId)).some((s) => s.evidence?.signerId === signerId);
