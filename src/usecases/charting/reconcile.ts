import { object } from "yup";
import {
  decide,
  fieldByKey,
  foldChart,
  incomingOf,
  mayRedirect,
  nameOf,
  reconcileLines,
  remarksLine,
  usualRule,
  type Chart,
  type ChartField,
  type EntryDraft,
  type Incoming,
  type ReconcileDraft,
  type ReconcileError,
  type ReconcileLine,
} from "../../core/chart";
import { after } from "../../core/packet";
import { dayIn } from "../../core/scheduling";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Packet } from "../../db/repositories";
import {
  appendToChart,
  command,
  fieldsOf,
  idInput,
  inOrder,
  notFound,
  plansOf,
  query,
  type CommonError,
  type Context,
} from "../kit";
import { sendContactChanged } from "../sending/letters";
import { readParts, returnFrame } from "../review";
import { postSchema, reconcileDraftSchema } from "./schemas";

/**
 * A reconcile line with the questionnaire it came from. Its id holds the part, so that two questionnaires cannot clash.
 */
export interface PartLine extends ReconcileLine {
  /** The line's own id within its part. */
  readonly lineId: string;
  readonly partId: Id<"Part">;
  readonly questionnaire: string;
}
export interface ReconcileView {
  readonly packetId: Id<"Packet">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly returnedAt: Instant;
  /** Who posted it, where that is known, and when: there is nothing left to decide. */
  readonly posted: { readonly by: string | undefined; readonly at: Instant } | undefined;
  /** The chart's revision these lines were laid out against. */
  readonly revision: number;
  readonly lines: readonly PartLine[];
  /** What one decided before and left. */
  readonly draft: ReconcileDraft | undefined;
  /** Colleagues who decide about the same return, and when they last did. */
  readonly others: readonly { readonly by: string; readonly at: Instant }[];
  /** Fields that a line can go to for this return alone. */
  readonly elsewhere: readonly ChartField[];
  /** Other returns of this client that are not charted, the oldest first. */
  readonly waiting: readonly { readonly packetId: Id<"Packet">; readonly returnedAt: Instant }[];
}

const idFor = (partId: string, lineId: string): string => `${partId}|${lineId}`;

/**
 * Everything that came in by the plan that holds for whoever acts.
 *
 * @param redirects by a line's id, for this return alone
 */
async function linesFor(
  ctx: Context,
  packet: Packet,
  chart: Chart,
  redirects: ReconcileDraft["redirects"],
): Promise<PartLine[]> {
  const fields = await fieldsOf(ctx);
  const plans = await plansOf(ctx);
  const on = saidOn(ctx, packet);
  const read = await readParts(ctx, packet.id);
  const notes = await ctx.repo.marginNotes.ofParts(read.map(({ part }) => part.id));
  const parts = await inOrder(read, async ({ part, questionnaire, answers }) => {
    const planned = plans(await ctx.repo.versions.questionnaireOf(part.versionId), questionnaire);
    const target = planned.lines.find(({ linkId }) => linkId === remarksLine)?.target;
    const incoming = incomingOf(planned.questionnaire, answers, fields, {
      on,
      order: planned.order,
      remarks: target && { target, notes: notes.filter(({ partId }) => partId === part.id) },
    });
    return reconcileLines(
      chart,
      incoming.map((one) => redirected(one, fields, redirects[idFor(part.id, one.key)])),
    ).map((line): PartLine => ({
      ...line,
      id: idFor(part.id, line.id),
      lineId: line.id,
      partId: part.id,
      questionnaire: questionnaire.title,
    }));
  });
  return parts.flat();
}
const saidOn = ({ practice }: Context, packet: Packet): string =>
  dayIn(packet.returnedAt ?? packet.createdAt, practice.zone);
function redirected(one: Incoming, fields: readonly ChartField[], to: string | undefined): Incoming {
  const field = to === undefined ? undefined : fieldByKey(to, fields);
  return one.kind === "value" && field && mayRedirect(one.field, field)
    ? { ...one, field, target: { field: field.key, rule: usualRule(field) } }
    : one;
}

export const reconcileView = query({
  name: "reconcile-view",
  access: "chart.post",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<ReconcileView, CommonError>> {
    const frame = await returnFrame(ctx, packetId);
    if (!frame.ok) return frame;
    const { packet, client } = frame.value;
    const chart = foldChart(await ctx.repo.charts.entries(client.id));
    const drafts = await ctx.repo.reconcileDrafts.of(packetId);
    const own = drafts.find((draft) => draft.staffId === ctx.actor.id)?.draft;
    const last = (await ctx.repo.charts.postings(client.id)).find((p) => p.kind === "post" && p.packetId === packetId);
    ctx.journal("reconcile.view", `packet:${packetId}`);
    return ok({
      packetId,
      clientId: client.id,
      clientName: nameOf(client),
      returnedAt: packet.returnedAt ?? packet.createdAt,
      posted:
        packet.state === "settled" ? { by: last?.by, at: last?.at ?? packet.settledAt ?? packet.createdAt } : undefined,
      revision: chart.revision,
      lines: await linesFor(ctx, packet, chart, own?.redirects ?? {}),
      draft: own,
      others: drafts
        .filter((draft) => draft.staffId !== ctx.actor.id)
        .map(({ by, updatedAt }) => ({ by, at: updatedAt })),
      elsewhere: (await ctx.repo.chartFields.all(ctx.practice.id))
        .filter(({ field, retired }) => !retired && field.kind !== "rows" && !field.identity)
        .map(({ field }) => field),
      waiting: await waitingBeside(ctx, packet),
    });
  },
});

/** Returns of the same client that are not charted, the oldest first. */
async function waitingBeside({ repo, practice }: Context, packet: Packet): Promise<ReconcileView["waiting"]> {
  return (await repo.packets.uncharted(practice.id, [packet.clientId])).flatMap(({ id, returnedAt }) =>
    id === packet.id || returnedAt === null ? [] : [{ packetId: id, returnedAt }],
  );
}

/** Keeps what was decided so far, for oneself; colleagues who come to the same return are told. */
export const keepDecisions = command({
  name: "keep-decisions",
  access: "chart.post",
  input: reconcileDraftSchema,
  async run(ctx, { packetId, decisions, redirects }): Promise<Result<null, CommonError>> {
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    // Posted meanwhile: there is nothing left to decide.
    if (frame.value.packet.state === "settled") return notFound;
    const isFirst = !(await ctx.repo.reconcileDrafts.of(packetId)).some((draft) => draft.staffId === ctx.actor.id);
    await ctx.repo.reconcileDrafts.put(packetId, ctx.actor.id, { decisions, redirects }, ctx.now);
    ctx.journal("reconcile.keep", `packet:${packetId}`);
    // Whoever has it open as well is told once, and not at each key.
    if (isFirst) ctx.tell("returns");
    return ok(null);
  },
});

export type PostError =
  CommonError | ReconcileError | { readonly reason: "chart-moved" } | { readonly reason: "already-posted" };

/**
 * Posts the decided lines in one act. Refused when the chart has moved on since the lines were laid out: a decision is
 * about what was on file when it was made. The same request again finds its posting.
 */
export const postToChart = command({
  name: "post",
  access: "chart.post",
  input: postSchema,
  async run(ctx, { packetId, requestId, revision, decisions, redirects }): Promise<Result<Posted, PostError>> {
    const { repo, practice, now, random } = ctx;
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    const { packet, client } = frame.value;
    await repo.clients.hold(practice.id, client.id);
    const earlier = await repo.charts.postingByRequest(requestId);
    if (earlier) {
      ctx.journal("chart.post-repeated", `packet:${packetId}`);
      return ok({ postingId: earlier.id, clientId: client.id, entries: 0, next: undefined });
    }
    if (packet.state === "settled") return fail({ reason: "already-posted" });
    const chart = foldChart(await repo.charts.entries(client.id));
    if (chart.revision !== revision) return fail({ reason: "chart-moved" });
    const lines = await linesFor(ctx, packet, chart, redirects);
    const drafts = decideAll(lines, decisions, saidOn(ctx, packet), () => random.id<"Row">());
    if (!drafts.ok) return drafts;
    const postingId = random.id<"Posting">();
    await appendToChart(
      ctx,
      { id: postingId, clientId: client.id, requestId, kind: "post", packetId, reverses: null },
      drafts.value,
    );
    const reached = await repo.clients.byId(practice.id, client.id);
    if (reached) await sendContactChanged(ctx, client, reached, nameOf(reached));
    for (const part of await repo.packets.parts(packetId)) await repo.packets.markPosted(part.id, now);
    await repo.packets.update(packetId, { state: after(packet.state, "settle") ?? packet.state, settledAt: now });
    await repo.reconcileDrafts.drop(packetId);
    ctx.journal("chart.post", `client:${client.id}`, {
      packet: packetId,
      posting: postingId,
      entries: drafts.value.length,
    });
    ctx.tell("returns");
    return ok({
      postingId,
      clientId: client.id,
      entries: drafts.value.length,
      next: (await waitingBeside(ctx, packet))[0]?.packetId,
    });
  },
});
export interface Posted {
  readonly postingId: Id<"Posting">;
  readonly clientId: Id<"Client">;
  readonly entries: number;
  /** The oldest return of this client that is still not charted. */
  readonly next: Id<"Packet"> | undefined;
}

function decideAll(
  lines: readonly PartLine[],
  given: Parameters<typeof decide>[1],
  on: string,
  newRow: () => string,
): Result<EntryDraft[], ReconcileError> {
  const parts = [...new Set(lines.map((l) => l.partId))];
  const stray = given.filter((d) => !lines.some((l) => l.id === d.line)).map((d) => d.line);
  if (stray.length > 0) return fail({ reason: "unknown-line", lines: stray });
  const results = parts.map((partId) => {
    const own = lines.filter((l) => l.partId === partId);
    const decisions = given.flatMap((d) => {
      const line = own.find((l) => l.id === d.line);
      return line ? [{ ...d, line: line.lineId }] : [];
    });
    const result = decide(
      own.map((l) => ({ ...l, id: l.lineId })),
      decisions,
      { partId, questionnaire: own[0]?.questionnaire ?? "", on },
      newRow,
    );
    return result.ok ? result : fail({ ...result.error, lines: result.error.lines.map((id) => idFor(partId, id)) });
  });
  const wrong = results.flatMap((r) => (r.ok ? [] : [r.error]));
  const first = wrong[0];
  if (first) return fail({ ...first, lines: wrong.filter((w) => w.reason === first.reason).flatMap((w) => w.lines) });
  return ok(results.flatMap((r) => (r.ok ? r.value : [])));
}
