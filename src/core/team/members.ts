import type { Id, Role } from "../shared";

export const roleWords: Readonly<Record<Role, string>> = {
  owner: "Owner",
  office: "Office",
  practitioner: "Practitioner",
  supervisor: "Supervisor",
};
export interface Member {
  readonly id: Id<"Staff">;
  readonly role: Role;
  /** Has left, or has not taken up the invitation yet: nobody who could sign in. */
  readonly away: boolean;
}
/** Whether this member may stop being an owner, or leave: there is always an owner who can sign in. */
export const mayStepBack = (members: readonly Member[], id: Id<"Staff">): boolean =>
  members.some((one) => one.id !== id && one.role === "owner" && !one.away);
