import { object } from "yup";
import { openClientSchema } from "../../core/forms";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, notFound, type CommonError, type Context, type StaffActor } from "../kit";
import { sendOpenedLetter } from "../sending";

const shareInput = object({ clientId: idInput<"Client">(), staffId: idInput<"Staff">() });
/** From now on they are this colleague's client too. */
export const shareClient = command({
  name: "share-client",
  access: "people.write",
  input: shareInput,
  async run(ctx, { clientId, staffId }): Promise<Result<null, CommonError>> {
    const { repo, practice } = ctx;
    const staff = await repo.staff.byId(staffId);
    if (!(await repo.clients.hold(practice.id, clientId)) || staff?.practiceId !== practice.id) return notFound;
    await repo.careTeams.join(clientId, staffId);
    ctx.journal("client.share", `client:${clientId}`, { staff: staffId });
    return ok(null);
  },
});
/** No longer that colleague's client. Who sees only their own cannot take the last one off: nobody would be left. */
export const unshareClient = command({
  name: "unshare-client",
  access: "people.write",
  input: shareInput,
  async run(ctx, { clientId, staffId }): Promise<Result<null, CommonError | { readonly reason: "last" }>> {
    const { repo, practice } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const others = (await repo.careTeams.of(clientId)).filter(({ id }) => id !== staffId);
    if (others.length === 0 && ctx.sight !== "all") return fail({ reason: "last" });
    await repo.careTeams.leave(clientId, staffId);
    ctx.journal("client.unshare", `client:${clientId}`, { staff: staffId });
    return ok(null);
  },
});

const openForMs = 24 * 3_600_000;
const triesWithinMs = 3_600_000;
const mostTries = 10;
export type OpenClientError = CommonError | { readonly reason: "nobody" } | { readonly reason: "too-many" };
/**
 * Opens a colleague's client for a day, by the whole name and the birth date: who does not know both does not learn
 * whether there is somebody. Owners and whose client it is are told; the reason stays with the client.
 */
export const openClient = command({
  name: "open-client",
  access: "people.read",
  input: openClientSchema,
  async run(ctx, { reason, ...name }): Promise<Result<{ id: Id<"Client">; until: Instant }, OpenClientError>> {
    const { repo, actor, now, practice, random } = ctx;
    const directory = await ctx.directory();
    const tries = await repo.limits.count(`open-client ${actor.id}`, now, laterBy(now, -triesWithinMs));
    if (tries > mostTries) return fail({ reason: "too-many" });
    const [found, ...more] = directory.beyond(name);
    // Two of one name and day: which is meant, only somebody who sees both can say.
    if (!found || more.length > 0) {
      ctx.journal("client.open-refused", "practice");
      return fail({ reason: "nobody" });
    }
    const until = laterBy(now, openForMs);
    const id = random.id<"Opening">();
    await repo.careTeams.open(found.id, { id, staffId: actor.id, at: now, until, reason });
    const told = new Map((await repo.careTeams.of(found.id)).map((staff) => [staff.id, staff]));
    for (const staff of await repo.staff.all(practice.id))
      if (staff.role === "owner" && staff.active && staff.joinedAt !== null) told.set(staff.id, staff);
    for (const staff of told.values()) await sendOpenedLetter(ctx, staff, found.id);
    ctx.journal("client.open", `client:${found.id}`, { opening: id, told: told.size });
    return ok({ id: found.id, until });
  },
});

export interface CareTeam {
  readonly whose: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  /** Colleagues whose client they could be as well. */
  readonly others: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  readonly openings: readonly { readonly name: string; readonly at: Instant; readonly reason: string }[];
}
const mostOpenings = 10;
export async function careTeamOf({ repo, practice }: Context<StaffActor>, clientId: Id<"Client">): Promise<CareTeam> {
  const whose = (await repo.careTeams.of(clientId)).map(({ id, name }) => ({ id, name }));
  const staff = await repo.staff.all(practice.id);
  return {
    whose,
    others: staff
      .filter(({ id, active, role }) => active && role !== "office" && !whose.some((one) => one.id === id))
      .map(({ id, name }) => ({ id, name })),
    openings: (await repo.careTeams.openings(clientId, mostOpenings)).map(({ staffId, at, reason }) => ({
      name: staff.find(({ id }) => id === staffId)?.name ?? "",
      at,
      reason,
    })),
  };
}
