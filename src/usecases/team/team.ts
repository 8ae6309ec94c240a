import { boolean, object, string } from "yup";
import { memberSchema, newMemberSchema, rightsSchema } from "../../core/forms";
import { fail, laterBy, ok, type Id, type Instant, type Result, type Role } from "../../core/shared";
import { mayStepBack, rightsOf, startingRights, wholeSet, type Right } from "../../core/team";
import { hasSecondFactor, type Staff } from "../../db/repositories";
import {
  command,
  idInput,
  nothing,
  notFound,
  query,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { sendTicketLetter } from "../sending";

export interface TeamLine {
  readonly id: Id<"Staff">;
  readonly name: string;
  readonly title: string;
  readonly email: string;
  readonly role: Role;
  readonly state: "here" | "invited" | "left";
  readonly secondFactor: boolean;
  /** What somebody else has to take on if they leave: visits still to come, packets under way, clients. */
  readonly visitsAhead: number;
  readonly openPackets: number;
  readonly clients: number;
}
export interface Team {
  readonly lines: readonly TeamLine[];
  readonly rights: Readonly<Record<Role, readonly Right[]>>;
  readonly secondFactorRequired: boolean;
  /** Whether who asks may make owners and change what roles may. */
  readonly owner: boolean;
}
const stateOf = ({ active, joinedAt }: Staff): TeamLine["state"] => {
  if (!active) return "left";
  return joinedAt === null ? "invited" : "here";
};
/** Everybody of the practice, with those who left at the end, and what each role may. */
export const team = query({
  name: "team",
  access: "staff.manage",
  input: nothing,
  async run({ repo, practice, actor, now }): Promise<Result<Team, never>> {
    const lines: TeamLine[] = [];
    for (const staff of await repo.staff.all(practice.id)) {
      const { id, name, title, email, role } = staff;
      lines.push({
        id,
        name,
        title,
        email,
        role,
        state: stateOf(staff),
        secondFactor: hasSecondFactor(staff),
        visitsAhead: (await repo.visits.aheadOf(id, now)).length,
        openPackets: await repo.packets.countOpenOf(id),
        clients: (await repo.careTeams.clientsOf(id)).length,
      });
    }
    const of = (role: Role): readonly Right[] => rightsOf(role, practice.rights);
    return ok({
      lines: [...lines.filter(({ state }) => state !== "left"), ...lines.filter(({ state }) => state === "left")],
      rights: {
        owner: of("owner"),
        office: of("office"),
        practitioner: of("practitioner"),
        supervisor: of("supervisor"),
      },
      secondFactorRequired: practice.secondFactorRequired,
      owner: actor.role === "owner",
    });
  },
});

/**
 * Only an owner makes owners, unmakes them, and says what a role may: else whoever manages staff could give themselves
 * everything.
 */
const isOwners = ({ actor }: Context<StaffActor>, ...concerned: readonly Role[]): boolean =>
  actor.role === "owner" || !concerned.includes("owner");
const notAllowed = fail({ reason: "not-allowed" } as const);

const invitedForMs = 7 * 24 * 3_600_000;
async function invite(ctx: Context, staff: Pick<Staff, "id" | "name" | "email">): Promise<void> {
  const token = ctx.random.token();
  const expiresAt: Instant = laterBy(ctx.now, invitedForMs);
  await ctx.repo.staff.giveTicket(
    { digest: ctx.sealer.keyedDigest("ticket", token), staffId: staff.id, kind: "invite", expiresAt },
    ctx.now,
  );
  await sendTicketLetter(ctx, "invite", staff, `/join/${token}`);
}

/** A colleague who sets their own password by the link that goes to them. The request's id becomes theirs. */
export const inviteColleague = command({
  name: "invite-colleague",
  access: "staff.manage",
  input: newMemberSchema.concat(object({ requestId: requestInput })),
  async run(
    ctx,
    { requestId, name, title, role, email },
  ): Promise<Result<{ id: Id<"Staff"> }, CommonError | { readonly reason: "known-address" }>> {
    const id = requestId as Id<"Staff">;
    if (!isOwners(ctx, role)) return notAllowed;
    if (await ctx.repo.staff.anyById(ctx.practice.id, id)) {
      ctx.journal("staff.invite-repeated", `staff:${id}`);
      return ok({ id });
    }
    // No password fits: what stands there is a digest of nothing anybody has.
    const passwordHash = await ctx.passwords.hash(ctx.random.token());
    const row = { id, practiceId: ctx.practice.id, name, title, role, email, passwordHash };
    if (!(await ctx.repo.staff.invite(row))) return fail({ reason: "known-address" });
    await invite(ctx, row);
    ctx.journal("staff.invite", `staff:${id}`, { role });
    return ok({ id });
  },
});

export const inviteAgain = command({
  name: "invite-again",
  access: "staff.manage",
  input: object({ staffId: idInput<"Staff">() }),
  async run(ctx, { staffId }): Promise<Result<null, CommonError>> {
    const staff = await ctx.repo.staff.byId(staffId, true);
    if (!staff || staff.joinedAt !== null) return notFound;
    if (!isOwners(ctx, staff.role)) return notAllowed;
    await invite(ctx, staff);
    ctx.journal("staff.invite", `staff:${staffId}`, { again: true });
    return ok(null);
  },
});

type LastOwner = { readonly reason: "last-owner" };
/** Whether it can be taken from the owners; holds the practice, so that two owners do not step back at once. */
async function ownerRemains(ctx: Context, staff: Staff): Promise<boolean> {
  if (staff.role !== "owner") return true;
  await ctx.repo.practices.hold(ctx.practice.id);
  const members = (await ctx.repo.staff.all(ctx.practice.id)).map(({ id, role, active, joinedAt }) => ({
    id,
    role,
    away: !active || joinedAt === null,
  }));
  return mayStepBack(members, staff.id);
}

/**
 * Name, title and role; and, while nobody has taken the invitation up, where it goes: one that was mistyped goes out
 * again to the right address, and the one before is worth nothing.
 */
export const changeColleague = command({
  name: "change-colleague",
  access: "staff.manage",
  input: memberSchema.concat(object({ staffId: idInput<"Staff">() })),
  async run(
    ctx,
    { staffId, name, title, role, email },
  ): Promise<Result<null, CommonError | LastOwner | { readonly reason: "known-address" }>> {
    const staff = await ctx.repo.staff.byId(staffId, true);
    if (!staff) return notFound;
    if (!isOwners(ctx, role, staff.role)) return notAllowed;
    if (role !== "owner" && !(await ownerRemains(ctx, staff))) return fail({ reason: "last-owner" });
    if (email !== undefined && email !== staff.email) {
      if (staff.joinedAt !== null) return notAllowed;
      if (!(await ctx.repo.staff.setEmail(staffId, email))) return fail({ reason: "known-address" });
      await invite(ctx, { id: staffId, name, email });
    }
    await ctx.repo.staff.setMember(staffId, { name, title, role });
    ctx.journal("staff.change", `staff:${staffId}`, { role, before: staff.role });
    return ok(null);
  },
});

/**
 * Somebody leaves: their sessions end at once and what they were sent to sign in with is worth nothing. Their visits to
 * come, the packets whose answers are for them, and their clients go to a colleague, all or none: a visit that colleague
 * has no time for stops it.
 */
export const leavePractice = command({
  name: "leave-practice",
  access: "staff.manage",
  input: object({ staffId: idInput<"Staff">(), toId: idInput<"Staff">().optional() }),
  async run(
    ctx,
    { staffId, toId },
  ): Promise<
    Result<null, CommonError | LastOwner | { readonly reason: "work-left" } | { readonly reason: "not-free" }>
  > {
    const { repo, practice, now } = ctx;
    const staff = await repo.staff.byId(staffId, true);
    if (!staff) return notFound;
    if (!isOwners(ctx, staff.role)) return notAllowed;
    if (!(await ownerRemains(ctx, staff))) return fail({ reason: "last-owner" });
    const ahead = await repo.visits.aheadOf(staffId, now);
    const clients = await repo.careTeams.clientsOf(staffId);
    const packets = await repo.packets.countOpenOf(staffId);
    if (ahead.length + clients.length + packets > 0) {
      const heir = toId && toId !== staffId ? await repo.staff.byId(toId) : undefined;
      if (!heir || heir.practiceId !== practice.id) return fail({ reason: "work-left" });
      if (!(await repo.visits.handTo(ahead, heir.id))) return fail({ reason: "not-free" });
      await repo.packets.handOpen(staffId, heir.id);
      await repo.careTeams.handTo(staffId, heir.id);
      await repo.measureSchedules.handTo(staffId, heir.id);
    }
    await repo.staff.setMember(staffId, { active: false, leftAt: now });
    await repo.staff.dropTickets(staffId);
    await repo.sessions.endAll(staffId);
    ctx.journal("staff.leave", `staff:${staffId}`, {
      visits: ahead.length,
      packets,
      clients: clients.length,
      ...(toId ? { to: toId } : {}),
    });
    return ok(null);
  },
});

/** Somebody who left comes back: with the password they had. */
export const comeBack = command({
  name: "come-back",
  access: "staff.manage",
  input: object({ staffId: idInput<"Staff">() }),
  async run(ctx, { staffId }): Promise<Result<null, CommonError>> {
    const staff = await ctx.repo.staff.anyById(ctx.practice.id, staffId);
    if (!staff || staff.active) return notFound;
    if (!isOwners(ctx, staff.role)) return notAllowed;
    await ctx.repo.staff.setMember(staffId, { active: true, leftAt: null });
    if (staff.joinedAt === null) await invite(ctx, staff);
    ctx.journal("staff.come-back", `staff:${staffId}`);
    return ok(null);
  },
});

/** What a role may from now on, for everybody who has it. */
export const setRights = command({
  name: "set-rights",
  access: "staff.manage",
  input: rightsSchema.concat(object({ anew: string().oneOf(["yes"]).optional() })),
  async run(ctx, { role, rights, anew }): Promise<Result<null, CommonError>> {
    const { repo, practice } = ctx;
    if (!isOwners(ctx, "owner")) return notAllowed;
    await repo.practices.hold(practice.id);
    const { [role]: _, ...others } = (await repo.practices.only())?.rights ?? {};
    const set = anew ? startingRights[role] : wholeSet(rights);
    await repo.practices.setRights(practice.id, anew ? others : { ...others, [role]: set });
    ctx.journal("staff.rights", "practice", { role, rights: set.join(" ") });
    return ok(null);
  },
});

/** Whether everybody needs a second factor. Who asks for it has one. */
export const requireSecondFactor = command({
  name: "require-second-factor",
  access: "staff.manage",
  input: object({ on: boolean().required() }),
  async run(ctx, { on }): Promise<Result<null, CommonError | { readonly reason: "own-first" }>> {
    if (!isOwners(ctx, "owner")) return notAllowed;
    const own = await ctx.repo.staff.byId(ctx.actor.id);
    if (on && (!own || !hasSecondFactor(own))) return fail({ reason: "own-first" });
    await ctx.repo.practices.setSecondFactorRequired(ctx.practice.id, on);
    ctx.journal("second-factor.required", "practice", { on });
    return ok(null);
  },
});
