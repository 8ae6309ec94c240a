import { boolean, object, string } from "yup";
import { codeSchema, passwordSchema, signInSchema } from "../../core/forms";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Staff } from "../../db/repositories";
import { command, nothing, query, type CommonError, type Context } from "../kit";
import { sendTriedLetter } from "../sending";
import { clearAccountLimit, freeTries, passwordTries, withinLimits } from "./limits";

const sessionHours = 10;
/** A session that nobody used for so long has ended, in ms: whoever finds the device finds a sign-in. */
export const idleLimit = 60 * 60_000;
const betweenFactors = 5 * 60_000;

/** A token for the cookie; only its digest is stored. */
export async function openSession(ctx: Context, staffId: Id<"Staff">, complete: boolean): Promise<string> {
  const token = ctx.random.token();
  await ctx.repo.sessions.add({
    digest: ctx.sealer.keyedDigest("session", token),
    staffId,
    complete,
    device: ctx.actor.device,
    createdAt: ctx.now,
    expiresAt: laterBy(ctx.now, complete ? sessionHours * 3_600_000 : betweenFactors),
  });
  return token;
}

export type SignInError = { readonly reason: "wrong" } | { readonly reason: "too-many"; readonly until?: Instant };

/**
 * What a device shows that was signed in on before: bound to the person and their password, so that a new one makes all
 * devices strangers.
 */
export const deviceMark = ({ sealer }: Context, staff: Pick<Staff, "id" | "passwordHash">, random: string): string =>
  `${random}.${sealer.keyedDigest("known device", `${staff.id} ${staff.passwordHash} ${random}`)}`;
const isKnown = (ctx: Context, staff: Staff | undefined, device: string | undefined): device is string =>
  staff !== undefined && device !== undefined && deviceMark(ctx, staff, device.split(".")[0] ?? "") === device;

/** Password first. With a second factor on, the session it gives opens nothing until the code is right. */
export const signIn = command({
  name: "sign-in",
  access: "anyone",
  input: signInSchema.concat(object({ device: string().max(200) })),
  async run(ctx, { email, password, device }): Promise<Result<SignedIn, SignInError>> {
    const staff = await ctx.repo.staff.byEmail(email);
    const tries = passwordTries(ctx, email, isKnown(ctx, staff, device) ? device : undefined);
    const until = await tries.waitsUntil();
    if (until) {
      await refused(ctx);
      return fail({ reason: "too-many", until });
    }
    if (!(await ctx.passwords.verify(staff?.passwordHash, password)) || !staff) {
      const wrong = await tries.wrong();
      // What is tried for nobody, or while one waits, is counted: a line for each would be anybody's to write.
      if (!staff) await refused(ctx);
      else ctx.journal("sign-in.refused", `staff:${staff.id}`, { why: "wrong password" });
      if (staff && wrong === freeTries.account) await sendTriedLetter(ctx, staff);
      return fail({ reason: "wrong" });
    }
    await ctx.repo.sessions.clearOld(ctx.now);
    await tries.right();
    ctx.journal(staff.totpOn ? "sign-in.password" : "sign-in", `staff:${staff.id}`);
    return ok({
      token: await openSession(ctx, staff.id, !staff.totpOn),
      needsCode: staff.totpOn,
      // With a second factor, the device is known once the code was right.
      device: staff.totpOn ? undefined : deviceMark(ctx, staff, ctx.random.token()),
    });
  },
});
export interface SignedIn {
  readonly token: string;
  readonly needsCode: boolean;
  /** For the device to keep. */
  readonly device: string | undefined;
}
const refused = ({ repo, practice, now, actor }: Context): Promise<void> =>
  repo.journal.countRefusal(practice.id, "sign-in", "stranger", now, actor.address);

/** The authenticator's code. The step it belongs to is stored, so the same code never works again. */
export const verifySecondFactor = command({
  name: "verify-second-factor",
  access: "anyone",
  input: codeSchema.concat(object({ token: string().required() })),
  async run(ctx, { code, token }): Promise<Result<Omit<SignedIn, "needsCode">, SignInError>> {
    const digest = ctx.sealer.keyedDigest("session", token);
    const session = await ctx.repo.sessions.byDigest(digest, ctx.now, laterBy(ctx.now, -idleLimit));
    if (!session) return fail({ reason: "wrong" });
    if (!(await withinLimits(ctx, "code", session.staff.email))) {
      await ctx.repo.sessions.end(digest);
      ctx.journal("sign-in.refused", `staff:${session.staff.id}`, { why: "too many codes" });
      return fail({ reason: "too-many" });
    }
    const staff = await ctx.repo.staff.byId(session.staff.id, true);
    const step =
      staff?.totpSecret && (await ctx.secondFactor.stepOf(staff.totpSecret, code, ctx.now, staff.totpLastStep));
    if (!staff || !step) {
      ctx.journal("sign-in.refused", `staff:${session.staff.id}`, { why: "wrong code" });
      return fail({ reason: "wrong" });
    }
    await ctx.repo.staff.setTotp(staff.id, staff.totpSecret, true, step);
    await ctx.repo.sessions.end(digest);
    await clearAccountLimit(ctx, "code", staff.email);
    ctx.journal("sign-in", `staff:${staff.id}`, { secondFactor: true });
    return ok({
      token: await openSession(ctx, staff.id, true),
      device: deviceMark(ctx, staff, ctx.random.token()),
    });
  },
});

export const signOut = command({
  name: "sign-out",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<null, never>> {
    await ctx.repo.sessions.end(ctx.actor.sessionDigest);
    ctx.journal("sign-out", `staff:${ctx.actor.id}`);
    return ok(null);
  },
});

/** Whether the person's second factor is on; while it is not, a secret to set it up with. */
export const secondFactorState = query({
  name: "second-factor-state",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<{ on: boolean }, never>> {
    return ok({ on: (await ctx.repo.staff.byId(ctx.actor.id))?.totpOn ?? false });
  },
});

export const startSecondFactor = command({
  name: "start-second-factor",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<{ secret: string; uri: string; svg: string }, { reason: "already-on" }>> {
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    if (!staff || staff.totpOn) return fail({ reason: "already-on" });
    const secret = ctx.secondFactor.newSecret();
    await ctx.repo.staff.setTotp(staff.id, secret, false, 0);
    ctx.journal("second-factor.start", `staff:${staff.id}`);
    return ok({ secret, ...(await ctx.secondFactor.setUp(secret, staff.email, ctx.practice.name)) });
  },
});

/** The session goes on for as long again: whoever is in the middle of something need not begin anew. */
export const staySignedIn = command({
  name: "stay-signed-in",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<{ until: Instant }, never>> {
    const until = laterBy(ctx.now, sessionHours * 3_600_000);
    await ctx.repo.sessions.extend(ctx.actor.sessionDigest, until);
    ctx.journal("sign-in.extended", `staff:${ctx.actor.id}`);
    return ok({ until });
  },
});
/** Whether single keys do things on this person's pages (WCAG 2.2, 2.1.4). */
export const setSingleKeys = command({
  name: "set-single-keys",
  access: "own-account",
  input: object({ on: boolean().required() }),
  async run(ctx, { on }): Promise<Result<null, CommonError>> {
    await ctx.repo.staff.setSingleKeys(ctx.actor.id, on);
    ctx.journal("account.single-keys", `staff:${ctx.actor.id}`, { on });
    return ok(null);
  },
});

export const confirmSecondFactor = command({
  name: "confirm-second-factor",
  access: "own-account",
  input: codeSchema,
  async run(ctx, { code }): Promise<Result<null, SignInError>> {
    if (!(await withinLimits(ctx, "confirm", ctx.actor.email))) return fail({ reason: "too-many" });
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    const step =
      staff?.totpSecret && !staff.totpOn
        ? await ctx.secondFactor.stepOf(staff.totpSecret, code, ctx.now, staff.totpLastStep)
        : undefined;
    if (!staff || !step) return fail({ reason: "wrong" });
    await ctx.repo.staff.setTotp(staff.id, staff.totpSecret, true, step);
    ctx.journal("second-factor.on", `staff:${staff.id}`);
    return ok(null);
  },
});

/** Turning it off takes the password again: a session left open must not be enough. */
export const endSecondFactor = command({
  name: "end-second-factor",
  access: "own-account",
  input: passwordSchema,
  async run(ctx, { password }): Promise<Result<null, SignInError>> {
    if (!(await withinLimits(ctx, "password-again", ctx.actor.email))) return fail({ reason: "too-many" });
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    if (!staff || !(await ctx.passwords.verify(staff.passwordHash, password))) return fail({ reason: "wrong" });
    await ctx.repo.staff.setTotp(staff.id, undefined, false, staff.totpLastStep);
    ctx.journal("second-factor.off", `staff:${staff.id}`);
    return ok(null);
  },
});
