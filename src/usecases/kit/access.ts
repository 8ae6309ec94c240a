import { assertNever, type LibraryRight } from "../../core/shared";
import { rightsOf, type Right, type RightSets } from "../../core/team";
import type { Instant } from "../../core/shared";
import type { Sight } from "../../db/repositories";
import type { Actor, StaffActor } from "./actor";

/**
 * Who may call a use case: anyone, whoever passed the door check of a packet that is filled in or read, of those
 * whoever fills it in, whoever came to sign what others filled in (`client.any`: any of them), or staff with a right.
 * `own-account`: staff, whatever their rights; `set-up`: anyone, while there is no practice yet.
 */
export type Access =
  "anyone" | "client" | "client.fill" | "client.sign" | "client.any" | "own-account" | "set-up" | Right;

/** What of the practice says who may what. */
type Ruling = { readonly rights: RightSets; readonly secondFactorRequired: boolean };
/** What this member of staff may now: nothing but their own account while they owe a second factor. */
export const rightsFor = (
  { role, secondFactor }: Pick<StaffActor, "role" | "secondFactor">,
  { rights, secondFactorRequired }: Ruling,
): readonly Right[] => (secondFactorRequired && secondFactor === false ? [] : rightsOf(role, rights));

/** The one place that says yes or no. Every use case passes through it before it reads or writes. */
export function mayCall(access: Access, actor: Actor, practice: Ruling | undefined): boolean {
  if (access === "set-up") return practice === undefined;
  if (practice === undefined) return false;
  if (access === "anyone") return true;
  if (access === "client") return actor.kind === "client" && actor.role !== "signs";
  if (access === "client.any") return actor.kind === "client";
  if (access === "client.sign") return actor.kind === "client" && actor.role === "signs";
  if (access === "client.fill") return actor.kind === "client" && actor.role === "fills";
  switch (actor.kind) {
    case "staff":
      return access === "own-account" || rightsFor(actor, practice).includes(access);
    case "client":
    case "stranger":
      return false;
    default:
      return assertNever(actor);
  }
}
/**
 * Whose clients somebody is given anything of, in every use case: those with the right to see all, everybody's; other
 * staff their own, and whom they opened with a reason. Who came through a packet's door has that packet alone.
 */
export function sightOf(actor: Actor, practice: Ruling, now: Instant): Sight {
  if (actor.kind !== "staff" || rightsFor(actor, practice).includes("clients.all")) return "all";
  return { of: actor.id, at: now };
}
/**
 * What this member of staff may do with a questionnaire: what everyone may, or what was shared with them; an owner may
 * always change it.
 */
export function libraryRight(
  actor: StaffActor,
  row: { readonly everyone: LibraryRight; readonly share: LibraryRight | null },
): LibraryRight {
  if (actor.role === "owner" || row.everyone === "edit" || row.share === "edit") return "edit";
  return row.everyone === "use" || row.share === "use" ? "use" : "none";
}
/** Whether this member of staff has a right besides the one the use case asks for. */
export const may = (
  { actor, practice }: { readonly actor: StaffActor; readonly practice: Ruling },
  right: Right,
): boolean => rightsFor(actor, practice).includes(right);
