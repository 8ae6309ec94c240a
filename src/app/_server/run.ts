import "server-only";
import { redirect } from "next/navigation";
import { application, isBusy, rightsFor, run, useCases, type UseCase, type Access, type CommonError } from "@/server";
import type { Result } from "@/core/shared";
import type { Right } from "@/core/team";
import { currentClient, currentStaff, dropCookie, requestFrom, staffCookie } from "./request";

type AnyUseCase<I, O, E> = UseCase<I, O, E, Access>;
const bind = <I, O, E, A extends Access>(u: UseCase<I, O, E, A>): AnyUseCase<I, O, E> =>
  u as unknown as AnyUseCase<I, O, E>;

/** Runs a use case for the signed-in member of staff; whoever is not signed in goes to the sign-in page. */
export async function runAsStaff<I, O, E, A extends Access>(
  useCase: UseCase<I, O, E, A>,
  input: unknown,
): Promise<Result<O, E | CommonError>> {
  return orBusy(useCase, async () => run(await application(), bind(useCase), await staff(), input));
}
const requests = globalThis as { kindLedgerRequests?: { getStore(): { busy: boolean } | undefined } };
/**
 * What was sent while the database does not answer is answered with that, so that what was typed stays; a page fails,
 * and server.mjs gives it the status that says so.
 */
async function orBusy<T>(
  { kind }: { readonly kind: "query" | "command" | "statement" },
  work: () => Promise<T>,
): Promise<T | { readonly ok: false; readonly error: { readonly reason: "busy" } }> {
  try {
    return await work();
  } catch (error) {
    if (kind !== "query" && isBusy(error)) return { ok: false, error: { reason: "busy" } };
    throw noted(error);
  }
}
/** The same error; the request it failed in is marked, where the database did not answer. */
function noted(error: unknown): unknown {
  const request = requests.kindLedgerRequests?.getStore();
  if (request && isBusy(error)) request.busy = true;
  return error;
}

/**
 * The same for what a page does by itself while somebody types: where the session ended meanwhile it says so, and the
 * page with what was typed on it stays. @param isAtWork false for what it asks whether or not anybody types
 */
export async function runWhileTyping<I, O, E, A extends Access>(
  useCase: UseCase<I, O, E, A>,
  input: unknown,
  isAtWork = true,
): Promise<Result<O, E | CommonError | { readonly reason: "signed-out" }>> {
  return orBusy(useCase, async () => {
    const actor = await currentStaff(isAtWork);
    return actor.kind === "staff"
      ? run(await application(), bind(useCase), actor, input)
      : { ok: false as const, error: { reason: "signed-out" as const } };
  });
}

/** The signed-in member of staff. */
export async function staff() {
  const actor = await currentStaff().catch((error: unknown) => {
    throw noted(error);
  });
  return actor.kind === "staff" ? actor : redirect("/sign-in");
}

/** What the signed-in member of staff may, for what a page offers; the use cases say for themselves. */
export async function staffRights(): Promise<readonly Right[]> {
  const actor = await staff();
  const practice = await (await application()).practice();
  return practice ? rightsFor(actor, practice) : [];
}

/** Whether nothing opens for them but their own account, where they set one up. */
async function owesSecondFactor(): Promise<boolean> {
  const { secondFactor } = await staff();
  const practice = await (await application()).practice();
  return practice?.secondFactorRequired === true && secondFactor === false;
}

/** Signs the member of staff out on this device and goes to `to`. */
export async function leaveStaff(to: string): Promise<never> {
  await runAsStaff(useCases.signOut, {});
  await dropCookie(staffCookie);
  redirect(to);
}

/**
 * For pages, and what is loaded into them later: what the use case gives, or the page that says nothing is there, or
 * for a role that may not see it, what stands there `instead`: by itself a page that says so.
 */
export async function load<I, O, E extends { readonly reason: string }, A extends Access>(
  useCase: UseCase<I, O, E, A>,
  input: unknown,
  instead = "/not-yours",
): Promise<O> {
  const result = await runAsStaff(useCase, input);
  if (result.ok) return result.value;
  // Not in the layout: it stays while pages change, and with it the redirect, without end.
  if (result.error.reason === "not-allowed") redirect((await owesSecondFactor()) ? "/office" : instead);
  // Not notFound(): Next begins such a page anew in the browser without the nonce, and the strict policy leaves it
  // blank.
  redirect("/nothing-here");
}

export async function runAsStranger<I, O, E, A extends Access>(
  useCase: UseCase<I, O, E, A>,
  input: unknown,
): Promise<Result<O, E | CommonError>> {
  return orBusy(useCase, async () =>
    run(await application(), bind(useCase), { kind: "stranger", ...(await requestFrom()) }, input),
  );
}

/** Runs a use case for the client behind this packet's door pass; a stranger is refused by the use case's access. */
export async function runAsClient<I, O, E, A extends Access>(
  packetId: string,
  useCase: UseCase<I, O, E, A>,
  input: unknown,
): Promise<Result<O, E | CommonError>> {
  return orBusy(useCase, async () => run(await application(), bind(useCase), await currentClient(packetId), input));
}
