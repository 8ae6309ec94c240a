import { mixed, object, string } from "yup";
import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from "@simplewebauthn/server";
import { passwordSchema } from "../../core/forms";
import { fail, laterBy, ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError, type Context } from "../kit";
import { clearAccountLimit, withinLimits } from "./limits";
import { freshCodes, throughBoth, type RecoveryCodes } from "./second-factor";
import { idleLimit, type SignedIn, type SignInError } from "./sign-in";

const mostOfOne = 10;
const mostSigns = 20_000;
/** What a browser answers for a device: its form is the adapter's to judge. */
const responseInput = mixed<object>(
  (v): v is object => typeof v === "object" && v !== null && JSON.stringify(v).length <= mostSigns,
).required();
const tokenInput = object({ token: string().max(200).required() });

/** What a device needs to make a key for who is signed in. */
export const startPasskey = command({
  name: "start-passkey",
  access: "own-account",
  input: nothing,
  async run(
    ctx,
  ): Promise<Result<PublicKeyCredentialCreationOptionsJSON, CommonError | { readonly reason: "too-many-keys" }>> {
    const { repo, actor, practice } = ctx;
    const known = await repo.staff.passkeys(actor.id);
    if (known.length >= mostOfOne) return fail({ reason: "too-many-keys" });
    const offer = await ctx.passkeys.offer(actor, practice.name, known);
    await repo.sessions.setChallenge(actor.sessionDigest, offer.challenge);
    ctx.journal("passkey.start", `staff:${actor.id}`);
    return ok(offer);
  },
});
/** Keeps the key a device made. With the first second factor of all come recovery codes. */
export const addPasskey = command({
  name: "add-passkey",
  access: "own-account",
  input: object({
    name: string().trim().max(60, "That is long for a name.").required("Say which device it is on."),
    response: responseInput,
  }),
  async run(ctx, { name, response }): Promise<Result<RecoveryCodes | null, SignInError>> {
    const { repo, actor, now } = ctx;
    const staff = await repo.staff.byId(actor.id, true);
    const challenge = await repo.sessions.takeChallenge(actor.sessionDigest);
    const made = challenge === undefined ? undefined : await ctx.passkeys.made(response, challenge);
    if (!staff || !made) return fail({ reason: "wrong" });
    const { id, publicKey, counter, transports } = made;
    const row = { id, staffId: staff.id, publicKey, counter, transports, name, createdAt: now };
    if (!(await repo.staff.addPasskey(row))) return fail({ reason: "wrong" });
    ctx.journal("passkey.add", `staff:${staff.id}`);
    const hasCodes = (await repo.staff.countRecoveryCodes(staff.id)) > 0;
    return ok(hasCodes ? null : await freshCodes(ctx, staff.id));
  },
});
/** Takes the password again: a session left open must not be enough. */
export const removePasskey = command({
  name: "remove-passkey",
  access: "own-account",
  input: passwordSchema.concat(object({ passkeyId: string().max(2000).required() })),
  async run(ctx, { password, passkeyId }): Promise<Result<null, CommonError | SignInError>> {
    const { repo, actor } = ctx;
    if (!(await withinLimits(ctx, "password-again", actor.email))) return fail({ reason: "too-many" });
    const staff = await repo.staff.byId(actor.id, true);
    if (!staff || !(await ctx.passwords.verify(staff.passwordHash, password))) return fail({ reason: "wrong" });
    if (!(await repo.staff.removePasskey(staff.id, passkeyId))) return fail({ reason: "not-found" });
    const isLast = (await repo.staff.passkeys(staff.id)).length === 0;
    if (isLast && !staff.totpOn) await repo.staff.setRecoveryCodes(staff.id, []);
    ctx.journal("passkey.remove", `staff:${staff.id}`);
    return ok(null);
  },
});

/** Whose password was right already, by the token of their half-open session. */
async function halfway(ctx: Context, token: string) {
  const digest = ctx.sealer.keyedDigest("session", token);
  const session = await ctx.repo.sessions.byDigest(digest, ctx.now, laterBy(ctx.now, -idleLimit));
  return session && !session.complete ? { digest, staff: session.staff } : undefined;
}
export interface SecondWays {
  readonly app: boolean;
  readonly passkey: boolean;
}
/** By what somebody whose password was right can go on. */
export const secondWays = query({
  name: "second-ways",
  access: "anyone",
  input: tokenInput,
  async run(ctx, { token }): Promise<Result<SecondWays, { readonly reason: "wrong" }>> {
    const half = await halfway(ctx, token);
    return half ? ok({ app: half.staff.totpOn, passkey: half.staff.passkeyOn }) : fail({ reason: "wrong" });
  },
});
/** What a device has to sign. */
export const askPasskey = command({
  name: "ask-passkey",
  access: "anyone",
  input: tokenInput,
  async run(ctx, { token }): Promise<Result<PublicKeyCredentialRequestOptionsJSON, SignInError>> {
    const half = await halfway(ctx, token);
    if (!half || !(await withinLimits(ctx, "passkey", half.staff.email)))
      return fail({ reason: half ? "too-many" : "wrong" });
    const asked = await ctx.passkeys.ask(await ctx.repo.staff.passkeys(half.staff.id));
    await ctx.repo.sessions.setChallenge(half.digest, asked.challenge);
    ctx.journal("passkey.ask", `staff:${half.staff.id}`);
    return ok(asked);
  },
});
/** A device signed what it was asked to: once, and with a key of this person's. */
export const verifyPasskey = command({
  name: "verify-passkey",
  access: "anyone",
  input: tokenInput.concat(object({ response: responseInput })),
  async run(ctx, { token, response }): Promise<Result<Omit<SignedIn, "needsCode">, SignInError>> {
    const half = await halfway(ctx, token);
    if (!half) return fail({ reason: "wrong" });
    const staff = await ctx.repo.staff.byId(half.staff.id, true);
    const challenge = await ctx.repo.sessions.takeChallenge(half.digest);
    const id = "id" in response ? response.id : undefined;
    const passkey = (await ctx.repo.staff.passkeys(half.staff.id)).find((one) => one.id === id);
    const counter =
      challenge !== undefined && passkey ? await ctx.passkeys.used(response, challenge, passkey) : undefined;
    if (!staff || !passkey || counter === undefined) {
      ctx.journal("sign-in.refused", `staff:${half.staff.id}`, { why: "wrong passkey" });
      return fail({ reason: "wrong" });
    }
    await ctx.repo.staff.usePasskey(passkey.id, counter, ctx.now);
    await clearAccountLimit(ctx, "passkey", staff.email);
    return ok(await throughBoth(ctx, staff, half.digest, { passkey: true }));
  },
});
