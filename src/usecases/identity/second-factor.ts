import { object, string } from "yup";
import { codeSchema, passwordSchema, secondCodeSchema } from "../../core/forms";
import {
  fail,
  inFours,
  laterBy,
  ok,
  plainDigits,
  readableCode,
  type Id,
  type Instant,
  type Result,
} from "../../core/shared";
import { hasSecondFactor, type Staff } from "../../db/repositories";
import { command, nothing, query, type Context } from "../kit";
import { clearAccountLimit, withinLimits } from "./limits";
import { deviceMark, idleLimit, openSession, type SignedIn, type SignInError } from "./sign-in";

/** For who lost their authenticator; shown once, each works once. */
export interface RecoveryCodes {
  readonly codes: readonly string[];
}
const howMany = 8;
const digestOf = ({ sealer }: Context, staffId: Id<"Staff">, code: string): string =>
  sealer.keyedDigest("recovery", `${staffId} ${code}`);
export async function freshCodes(ctx: Context, staffId: Id<"Staff">): Promise<RecoveryCodes> {
  const codes = Array.from({ length: howMany }, () => readableCode(Buffer.from(ctx.random.token(), "base64url"), 12));
  await ctx.repo.staff.setRecoveryCodes(
    staffId,
    codes.map((code) => digestOf(ctx, staffId, code)),
  );
  return { codes: codes.map(inFours) };
}
/** The step of time a code belongs to, where it is right and was not used. */
const stepBehind = async (ctx: Context, staff: Staff, code: string): Promise<number | undefined> =>
  staff.totpSecret === undefined
    ? undefined
    : ctx.secondFactor.stepOf(staff.totpSecret, code, ctx.now, staff.totpLastStep);

/** Whether a code of their authenticator is right; used once, it does not work again. */
export async function takeCode(ctx: Context, staff: Staff, code: string): Promise<boolean> {
  const typed = plainDigits(code).replace(/\s/g, "");
  const step = staff.totpOn && /^\d{6}$/.test(typed) ? await stepBehind(ctx, staff, typed) : undefined;
  if (step === undefined) return false;
  await ctx.repo.staff.setTotp(staff.id, staff.totpSecret, true, step);
  return true;
}

/**
 * The authenticator's code, or a recovery code. The step a code belongs to is stored, and a recovery code is dropped, so
 * neither works again.
 */
export const verifySecondFactor = command({
  name: "verify-second-factor",
  access: "anyone",
  input: secondCodeSchema.concat(object({ token: string().required() })),
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
    const isRecovery = code.length > 6;
    const step = staff && !isRecovery ? await stepBehind(ctx, staff, code) : undefined;
    const recovered =
      isRecovery && (await ctx.repo.staff.takeRecoveryCode(session.staff.id, digestOf(ctx, session.staff.id, code)));
    if (!staff || !(step ?? recovered)) {
      ctx.journal("sign-in.refused", `staff:${session.staff.id}`, { why: "wrong code" });
      return fail({ reason: "wrong" });
    }
    if (step) await ctx.repo.staff.setTotp(staff.id, staff.totpSecret, true, step);
    await clearAccountLimit(ctx, "code", staff.email);
    return ok(await throughBoth(ctx, staff, digest, recovered ? { recoveryCode: true } : { secondFactor: true }));
  },
});
/** Password and second factor were right: a session that opens what the person may. */
export async function throughBoth(
  ctx: Context,
  staff: Staff,
  halfway: string,
  by: Readonly<Record<string, boolean>>,
): Promise<Omit<SignedIn, "needsCode">> {
  await ctx.repo.sessions.end(halfway);
  ctx.journal("sign-in", `staff:${staff.id}`, by);
  return {
    token: await openSession(ctx, staff.id, true),
    device: deviceMark(ctx, staff, ctx.random.token()),
  };
}

export interface SecondFactorState {
  readonly on: boolean;
  /** By an authenticator app. */
  readonly app: boolean;
  readonly passkeys: readonly {
    readonly id: string;
    readonly name: string;
    readonly createdAt: Instant;
    readonly usedAt: Instant | null;
  }[];
  readonly codesLeft: number;
  /** The practice asks everybody for one. */
  readonly required: boolean;
}
/** Whether the person's second factor is on, and by what. */
export const secondFactorState = query({
  name: "second-factor-state",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<SecondFactorState, never>> {
    const staff = await ctx.repo.staff.byId(ctx.actor.id);
    return ok({
      on: staff !== undefined && hasSecondFactor(staff),
      app: staff?.totpOn ?? false,
      passkeys: (await ctx.repo.staff.passkeys(ctx.actor.id)).map(({ id, name, createdAt, usedAt }) => ({
        id,
        name,
        createdAt,
        usedAt,
      })),
      codesLeft: await ctx.repo.staff.countRecoveryCodes(ctx.actor.id),
      required: ctx.practice.secondFactorRequired,
    });
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

export const confirmSecondFactor = command({
  name: "confirm-second-factor",
  access: "own-account",
  input: codeSchema,
  async run(ctx, { code }): Promise<Result<RecoveryCodes | null, SignInError>> {
    if (!(await withinLimits(ctx, "confirm", ctx.actor.email))) return fail({ reason: "too-many" });
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    const step = staff && !staff.totpOn ? await stepBehind(ctx, staff, code) : undefined;
    if (!staff || !step) return fail({ reason: "wrong" });
    await ctx.repo.staff.setTotp(staff.id, staff.totpSecret, true, step);
    ctx.journal("second-factor.on", `staff:${staff.id}`);
    // Who has a passkey already has codes already.
    return ok(staff.passkeyOn ? null : await freshCodes(ctx, staff.id));
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
    if (!staff.passkeyOn) await ctx.repo.staff.setRecoveryCodes(staff.id, []);
    ctx.journal("second-factor.off", `staff:${staff.id}`);
    return ok(null);
  },
});

/** New recovery codes in place of those that are left; takes the password again. */
export const renewRecoveryCodes = command({
  name: "renew-recovery-codes",
  access: "own-account",
  input: passwordSchema,
  async run(ctx, { password }): Promise<Result<RecoveryCodes, SignInError>> {
    if (!(await withinLimits(ctx, "password-again", ctx.actor.email))) return fail({ reason: "too-many" });
    const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
    if (!staff || !hasSecondFactor(staff) || !(await ctx.passwords.verify(staff.passwordHash, password)))
      return fail({ reason: "wrong" });
    ctx.journal("second-factor.codes", `staff:${staff.id}`);
    return ok(await freshCodes(ctx, staff.id));
  },
});
