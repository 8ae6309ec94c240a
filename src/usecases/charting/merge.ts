import { mixed, object } from "yup";
import { foldChart, mergeChanges, mergeLines, nameOf, type MergeLine } from "../../core/chart";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Client, ClientMerge } from "../../db/repositories";
import {
  appendToChart,
  command,
  fieldsOf,
  idInput,
  may,
  notFound,
  query,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

export interface MergePreview {
  readonly kept: MergeSide;
  readonly gone: MergeSide;
  readonly lines: readonly MergeLine[];
  /** The charts these lines were laid out from. */
  readonly seen: string;
}
export interface MergeSide {
  readonly id: Id<"Client">;
  readonly name: string;
  readonly birthDate: string | undefined;
  readonly counts: { readonly packets: number; readonly visits: number; readonly notes: number };
}
const pairInput = object({ keptId: idInput<"Client">(), goneId: idInput<"Client">() });

async function layOut(ctx: Context<StaffActor>, kept: Client, gone: Client) {
  const [there, other] = [
    foldChart(await ctx.repo.charts.entries(kept.id)),
    foldChart(await ctx.repo.charts.entries(gone.id)),
  ];
  return {
    lines: mergeLines(there, other, await fieldsOf(ctx)),
    seen: `${there.revision} ${other.revision}`,
  };
}
async function sideOf({ repo }: Context, client: Client): Promise<MergeSide> {
  const { packet, visit, note } = await repo.clientMerges.counts(client.id);
  return {
    id: client.id,
    name: nameOf(client),
    birthDate: client.birthDate,
    counts: { packets: packet, visits: visit, notes: note },
  };
}
/** Two who are here, are not one and the same yet, and are no test client. */
async function pairOf({ repo, practice }: Context, keptId: Id<"Client">, goneId: Id<"Client">) {
  const [kept, gone] = [await repo.clients.byId(practice.id, keptId), await repo.clients.byId(practice.id, goneId)];
  const fit = kept && gone && kept.id !== gone.id && !kept.mergedInto && !gone.mergedInto;
  return fit && !kept.isTest && !gone.isTest ? { kept, gone } : undefined;
}

/** Everything in which two records of one person differ, before anything is done. */
export const mergePreview = query({
  name: "merge-preview",
  access: "chart.post",
  input: pairInput,
  async run(ctx, { keptId, goneId }): Promise<Result<MergePreview, CommonError>> {
    const pair = may(ctx, "people.write") ? await pairOf(ctx, keptId, goneId) : undefined;
    if (!pair) return notFound;
    ctx.journal("chart.view", `client:${keptId}`);
    ctx.journal("chart.view", `client:${goneId}`);
    return ok({
      kept: await sideOf(ctx, pair.kept),
      gone: await sideOf(ctx, pair.gone),
      ...(await layOut(ctx, pair.kept, pair.gone)),
    });
  },
});

export type MergeError = CommonError | { readonly reason: "changed" } | { readonly reason: "undecided" };
/**
 * Makes two records of one person one. Packets, visits, notes, relations and whose client they are go over; of the
 * chart, what is only there and what was decided so, as a posting of its own. The other record stays as it was and is
 * found nowhere. The request's id becomes the merge's.
 */
export const mergeClients = command({
  name: "merge-clients",
  access: "chart.post",
  input: pairInput.concat(
    object({
      requestId: requestInput,
      seen: mixed<string>((v): v is string => typeof v === "string").required(),
      decided: mixed<Record<string, "keep" | "take">>(
        (v): v is Record<string, "keep" | "take"> =>
          typeof v === "object" && v !== null && Object.values(v).every((one) => one === "keep" || one === "take"),
      ).required(),
    }),
  ),
  async run(ctx, { requestId, keptId, goneId, seen, decided }): Promise<Result<null, MergeError>> {
    const { repo, practice, now, random, actor } = ctx;
    if (!may(ctx, "people.write")) return fail({ reason: "not-allowed" });
    const id = requestId as Id<"Merge">;
    // In one order, whichever way round they are merged: two at once wait for each other instead of for ever.
    for (const one of [keptId, goneId].toSorted()) await repo.clients.hold(practice.id, one);
    if (await repo.clientMerges.byId(id)) {
      ctx.journal("client.merge", `client:${keptId}`, { repeated: true });
      return ok(null);
    }
    const pair = await pairOf(ctx, keptId, goneId);
    if (!pair) return notFound;
    const laid = await layOut(ctx, pair.kept, pair.gone);
    if (laid.seen !== seen) return fail({ reason: "changed" });
    const changes = mergeChanges(laid.lines, decided, () => random.id<"Row">());
    if (!changes) return fail({ reason: "undecided" });
    const postingId = changes.length > 0 ? random.id<"Posting">() : null;
    if (postingId)
      await appendToChart(
        ctx,
        { id: postingId, clientId: keptId, requestId: `merge ${id}`, kind: "post", packetId: null, reverses: null },
        changes.map((change) => ({
          change,
          source: { kind: "staff", reason: "From the record merged with this one" },
        })),
      );
    const moved = await repo.clientMerges.moveAll(goneId, keptId);
    await repo.clients.update(goneId, { mergedInto: keptId });
    await repo.clientMerges.add({ id, keptId, goneId, at: now, by: actor.name, moved, postingId, undoneAt: null });
    ctx.journal("client.merge", `client:${keptId}`, { gone: goneId, entries: changes.length });
    ctx.tell("returns");
    return ok(null);
  },
});

/** Reverses what the merge brought into the chart, unless somebody did so already, and gives each its own again. */
async function takeApart(
  ctx: Context<StaffActor>,
  { id, keptId, goneId, moved, postingId }: ClientMerge,
): Promise<void> {
  const { repo, random, now } = ctx;
  const postings = postingId ? await repo.charts.postings(keptId) : [];
  if (postingId && postings.every(({ reverses }) => reverses !== postingId))
    await appendToChart(
      ctx,
      {
        id: random.id<"Posting">(),
        clientId: keptId,
        requestId: `unmerge ${id}`,
        kind: "reverse",
        packetId: null,
        reverses: postingId,
      },
      [{ change: { kind: "reverse", posting: postingId }, source: { kind: "staff", reason: "reversed" } }],
    );
  await repo.clientMerges.moveBack({ moved, keptId, goneId });
  await repo.clients.update(goneId, { mergedInto: null });
  await repo.clientMerges.undo(id, now);
}
/** Each has its own again; what came since stays with the record that was kept. */
export const undoMerge = command({
  name: "undo-merge",
  access: "chart.post",
  input: object({ mergeId: idInput<"Merge">() }),
  async run(ctx, { mergeId }): Promise<Result<{ goneId: Id<"Client"> }, CommonError>> {
    const { repo, practice } = ctx;
    const merge = may(ctx, "people.write") ? await repo.clientMerges.byId(mergeId) : undefined;
    if (!merge) return notFound;
    const { keptId, goneId } = merge;
    for (const one of [keptId, goneId].toSorted()) await repo.clients.hold(practice.id, one);
    const [kept, fresh] = [await repo.clients.byId(practice.id, keptId), await repo.clientMerges.byId(mergeId)];
    // One that was merged on into a third is undone there first.
    if (!kept || kept.mergedInto || !fresh) return notFound;
    const isRepeated = fresh.undoneAt !== null;
    if (!isRepeated) await takeApart(ctx, fresh);
    ctx.journal("client.merge-undo", `client:${keptId}`, { gone: goneId, repeated: isRepeated });
    ctx.tell("returns");
    return ok({ goneId });
  },
});

export interface MergedRecord {
  readonly mergeId: Id<"Merge">;
  readonly at: Instant;
  readonly by: string;
  /** The record that was kept, seen from the one that is gone, and the other way round. */
  readonly other: { readonly id: Id<"Client">; readonly name: string };
  readonly gone: boolean;
}
/** What was made one with this record, or this one with. */
export async function mergedWith({ repo, practice }: Context, clientId: Id<"Client">): Promise<MergedRecord[]> {
  const merges = await repo.clientMerges.of(clientId);
  const others = await repo.clients.byIds(
    practice.id,
    merges.map(({ keptId, goneId }) => (keptId === clientId ? goneId : keptId)),
  );
  return merges.flatMap(({ id, at, by, keptId, goneId }) => {
    const gone = goneId === clientId;
    const other = others.get(gone ? keptId : goneId);
    return other ? [{ mergeId: id, at, by, gone, other: { id: other.id, name: nameOf(other) } }] : [];
  });
}
