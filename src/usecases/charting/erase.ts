import { object } from "yup";
import { nameOf } from "../../core/chart";
import { eraseSchema, holdSchema } from "../../core/forms";
import { fail, ok, plainLetters, type Id, type Instant, type Result } from "../../core/shared";
import type { ErasedCounts, Hold } from "../../db/repositories";
import { command, idInput, notFound, query, requestInput, type CommonError } from "../kit";

export interface EraseView {
  readonly clientId: Id<"Client">;
  readonly name: string;
  readonly counts: ErasedCounts;
  readonly visitsAhead: number;
  readonly holds: readonly Hold[];
}
/** What would go, and what stands against it, before anything is done. */
export const eraseView = query({
  name: "erase-view",
  access: "clients.erase",
  input: object({ clientId: idInput<"Client">() }),
  async run({ repo, practice, now }, { clientId }): Promise<Result<EraseView, CommonError>> {
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client || client.mergedInto) return notFound;
    const visits = await repo.visits.ofClient(practice.id, clientId);
    return ok({
      clientId,
      name: nameOf(client),
      counts: await repo.clientErasures.counts(clientId),
      visitsAhead: visits.filter(({ endsAt }) => endsAt > now).length,
      holds: await repo.clientErasures.holds(clientId),
    });
  },
});

export type EraseError = CommonError | { readonly reason: "held" } | { readonly reason: "other-name" };
/**
 * Destroys what is known of a client, for good. Ledgers and the journal keep their rows, which nobody can open any more;
 * when, by whom and why stays. Pressed again, it is the same.
 */
export const eraseClient = command({
  name: "erase-client",
  access: "clients.erase",
  input: eraseSchema.concat(object({ clientId: idInput<"Client">() })),
  async run(ctx, { clientId, name, reason }): Promise<Result<{ erasedAt: Instant }, EraseError>> {
    const { repo, practice, now, actor } = ctx;
    if (await repo.clientErasures.isErased(clientId)) {
      ctx.journal("client.erase-repeated", `client:${clientId}`);
      return ok({ erasedAt: now });
    }
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client || client.mergedInto) return notFound;
    if (plainLetters(nameOf(client)).trim() !== plainLetters(name).trim()) return fail({ reason: "other-name" });
    if ((await repo.clientErasures.holds(clientId)).length > 0) return fail({ reason: "held" });
    const counts = await repo.clientErasures.erase(clientId, { name: actor.name, staffId: actor.id, at: now, reason });
    ctx.journal("client.erase", `client:${clientId}`, { ...counts });
    ctx.tell("erased");
    ctx.tell("returns");
    return ok({ erasedAt: now });
  },
});

/** From now on nothing of this client may be erased, by nobody. The request's id becomes the hold's. */
export const holdClient = command({
  name: "hold-client",
  access: "clients.erase",
  input: holdSchema.concat(object({ clientId: idInput<"Client">(), requestId: requestInput })),
  async run(ctx, { clientId, requestId, reason }): Promise<Result<null, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    // Held first, so that who erases meanwhile is either through or sees it.
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const isNew = await repo.clientErasures.hold(clientId, {
      id: requestId as Id<"Hold">,
      at: now,
      by: actor.name,
      reason,
    });
    ctx.journal(isNew ? "client.hold" : "client.hold-repeated", `client:${clientId}`);
    return ok(null);
  },
});
export const endHold = command({
  name: "end-hold",
  access: "clients.erase",
  input: object({ holdId: idInput<"Hold">() }),
  async run(ctx, { holdId }): Promise<Result<null, CommonError>> {
    const clientId = await ctx.repo.clientErasures.endHold(holdId, ctx.actor.name, ctx.now);
    if (!clientId) return notFound;
    ctx.journal("client.hold-end", `client:${clientId}`);
    return ok(null);
  },
});
