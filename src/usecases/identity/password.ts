import { object, string } from "yup";
import { emailSchema, newPasswordSchema, passwordSchema } from "../../core/forms";
import { fail, laterBy, ok, type Instant, type Result } from "../../core/shared";
import { hasSecondFactor, type Staff } from "../../db/repositories";
import { command, nothing, query, type CommonError, type Context } from "../kit";
import { sendTicketLetter } from "../sending";
import { withinLimits } from "./limits";
import { deviceMark, idleLimit, openSession, type SignInError } from "./sign-in";

type TooCommon = { readonly reason: "common" };
const isCommon = ({ passwords, practice }: Context, staff: Pick<Staff, "name" | "email">, password: string): boolean =>
  passwords.isCommon(password, [practice.name, staff.name, staff.email]);

/** Everywhere else they are signed out: whoever had the old password has nothing any more. */
export const changePassword = command({
  name: "change-password",
  access: "own-account",
  input: passwordSchema.concat(newPasswordSchema),
  async run(ctx, { password, newPassword }): Promise<Result<null, SignInError | TooCommon>> {
    if (!(await withinLimits(ctx, "password-again", ctx.actor.email))) return fail({ reason: "too-many" });
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    if (!staff || !(await ctx.passwords.verify(staff.passwordHash, password))) return fail({ reason: "wrong" });
    if (isCommon(ctx, staff, newPassword)) return fail({ reason: "common" });
    await ctx.repo.staff.setPassword(staff.id, await ctx.passwords.hash(newPassword));
    await ctx.repo.staff.dropTickets(staff.id);
    const ended = await ctx.repo.sessions.endAll(staff.id, ctx.actor.sessionDigest);
    ctx.journal("password.change", `staff:${staff.id}`, { sessionsEnded: ended });
    return ok(null);
  },
});

const resetForMs = 60 * 60_000;
/**
 * A letter with a link, to whoever has an account by that address. Whether there is one is not for whoever asks: they
 * are answered before this runs. What is asked again and again for one address or from one place sends nothing more.
 */
export const forgotPassword = command({
  name: "forgot-password",
  access: "anyone",
  input: emailSchema,
  async run(ctx, { email }): Promise<Result<null, CommonError | { readonly reason: "nobody" }>> {
    const staff = (await withinLimits(ctx, "forgot", email)) ? await ctx.repo.staff.byEmail(email) : undefined;
    if (!staff || staff.joinedAt === null) {
      await ctx.repo.journal.countRefusal(ctx.practice.id, "forgot-password", "stranger", ctx.now, ctx.actor.address);
      return fail({ reason: "nobody" });
    }
    const token = ctx.random.token();
    const expiresAt = laterBy(ctx.now, resetForMs);
    await ctx.repo.staff.giveTicket(
      { digest: ctx.sealer.keyedDigest("ticket", token), staffId: staff.id, kind: "reset", expiresAt },
      ctx.now,
    );
    await sendTicketLetter(ctx, "reset", staff, `/join/${token}`);
    ctx.journal("password.forgot", `staff:${staff.id}`);
    return ok(null);
  },
});

export interface TicketView {
  readonly kind: "invite" | "reset";
  readonly name: string;
  readonly practice: string;
}
const tokenInput = object({ token: string().max(100).required() });
/** Whom a link to set a password is for. */
export const openTicket = query({
  name: "open-ticket",
  access: "anyone",
  input: tokenInput,
  async run(ctx, { token }): Promise<Result<TicketView, CommonError>> {
    const found = await ctx.repo.staff.byTicket(ctx.sealer.keyedDigest("ticket", token), ctx.now);
    if (!found) return fail({ reason: "not-found" });
    return ok({ kind: found.kind, name: found.staff.name, practice: ctx.practice.name });
  },
});

/**
 * Sets the password a link was sent for, and signs in; with a second factor on, its code is asked as ever. The link is
 * worth nothing afterwards, and neither is any session from before.
 */
export const takeTicket = command({
  name: "take-ticket",
  access: "anyone",
  input: newPasswordSchema.concat(tokenInput),
  async run(
    ctx,
    { token, newPassword },
  ): Promise<Result<{ token: string; needsCode: boolean; device: string | undefined }, CommonError | TooCommon>> {
    const digest = ctx.sealer.keyedDigest("ticket", token);
    const found = await ctx.repo.staff.byTicket(digest, ctx.now);
    if (!found) return fail({ reason: "not-found" });
    if (isCommon(ctx, found.staff, newPassword)) return fail({ reason: "common" });
    if (!(await ctx.repo.staff.takeTicket(digest))) return fail({ reason: "not-found" });
    const passwordHash = await ctx.passwords.hash(newPassword);
    await ctx.repo.staff.setPassword(found.staff.id, passwordHash);
    await ctx.repo.sessions.endAll(found.staff.id);
    if (found.staff.joinedAt === null) await ctx.repo.staff.join(found.staff.id, ctx.now);
    const second = hasSecondFactor(found.staff);
    ctx.journal(found.kind === "invite" ? "staff.join" : "password.reset", `staff:${found.staff.id}`);
    return ok({
      token: await openSession(ctx, found.staff.id, !second),
      needsCode: second,
      device: second ? undefined : deviceMark(ctx, { id: found.staff.id, passwordHash }, ctx.random.token()),
    });
  },
});

export interface OwnSession {
  /** What the browser says it is. */
  readonly device: string;
  readonly since: Instant;
  readonly usedAt: Instant;
  readonly here: boolean;
}
export const ownSessions = query({
  name: "own-sessions",
  access: "own-account",
  input: nothing,
  async run({ repo, actor, now }): Promise<Result<readonly OwnSession[], never>> {
    const all = await repo.sessions.ofStaff(actor.id, now, laterBy(now, -idleLimit));
    return ok(
      all.map(({ digest, device, createdAt, usedAt }) => ({
        device,
        since: createdAt,
        usedAt,
        here: digest === actor.sessionDigest,
      })),
    );
  },
});
/** Everywhere but here. */
export const signOutElsewhere = command({
  name: "sign-out-elsewhere",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<{ ended: number }, never>> {
    const ended = await ctx.repo.sessions.endAll(ctx.actor.id, ctx.actor.sessionDigest);
    ctx.journal("sign-out.elsewhere", `staff:${ctx.actor.id}`, { sessionsEnded: ended });
    return ok({ ended });
  },
});
