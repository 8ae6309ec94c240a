import { assertNever, type LibraryRight, type Role } from "../../core/shared";
import type { Actor, StaffActor } from "./actor";

/** What staff may do, by role. Office sends and books, and never sees answers, charts or notes. */
const permissions = {
  "day.read": ["owner", "office", "practitioner"],
  "people.read": ["owner", "office", "practitioner"],
  "packet.send": ["owner", "office", "practitioner"],
  "post-room.read": ["owner", "office", "practitioner"],
  "library.read": ["owner", "office", "practitioner"],
  "library.write": ["owner", "office", "practitioner"],
  "answers.read": ["owner", "practitioner"],
  "chart.read": ["owner", "practitioner"],
  "chart.post": ["owner", "practitioner"],
  "note.write": ["owner", "practitioner"],
  "office.write": ["owner", "office"],
  "journal.read": ["owner", "office"],
  "own-account": ["owner", "office", "practitioner"],
} as const satisfies Record<string, readonly Role[]>;
export type Permission = keyof typeof permissions;

/**
 * Who may call a use case: anyone, whoever passed a packet's door check, of those whoever fills it in, or staff with a
 * permission.
 */
export type Access = "anyone" | "client" | "client.fill" | Permission;

/** The one place that says yes or no. Every use case passes through it before it reads or writes. */
export function mayCall(access: Access, actor: Actor): boolean {
  if (access === "anyone") return true;
  if (access === "client") return actor.kind === "client";
  if (access === "client.fill") return actor.kind === "client" && actor.role === "fills";
  switch (actor.kind) {
    case "staff":
      return (permissions[access] as readonly Role[]).includes(actor.role);
    case "client":
    case "stranger":
      return false;
    default:
      return assertNever(actor);
  }
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
export const roleMay = (role: Role, permission: Permission): boolean =>
  (permissions[permission] as readonly Role[]).includes(role);
