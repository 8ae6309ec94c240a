import { boolean, object, string } from "yup";
import { signInSchema } from "../../core/forms";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { hasSecondFactor, type Staff } from "../../db/repositories";
import { command, nothing, type CommonError, type Context } from "../kit";
import { sendTriedLetter } from "../sending";
import { freeTries, passwordTries } from "./limits";

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
    ctx.journal(hasSecondFactor(staff) ? "sign-in.password" : "sign-in", `staff:${staff.id}`);
    return ok({
      token: await openSession(ctx, staff.id, !hasSecondFactor(staff)),
      needsCode: hasSecondFactor(staff),
      // With a second factor, the device is known once the code was right.
      device: hasSecondFactor(staff) ? undefined : deviceMark(ctx, staff, ctx.random.token()),
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
