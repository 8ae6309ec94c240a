import type { Id } from "../../core/shared";
import { rightsOf } from "../../core/team";
import type { Context } from "../kit";

/** Who can read what a client returned, and so be handed it: those who may read answers, and see this client. */
export async function readersFor(
  { repo, practice }: Context,
  clientId: Id<"Client">,
): Promise<readonly { readonly id: Id<"Staff">; readonly name: string }[]> {
  const theirs = new Set((await repo.careTeams.of(clientId)).map(({ id }) => id));
  return (await repo.staff.all(practice.id)).flatMap(({ id, name, active, role }) => {
    const rights = rightsOf(role, practice.rights);
    const reads = active && rights.includes("answers.read") && (rights.includes("clients.all") || theirs.has(id));
    return reads ? [{ id, name }] : [];
  });
}
