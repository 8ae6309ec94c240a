import { object } from "yup";
import {
  decide,
  foldChart,
  incomingOf,
  nameOf,
  reconcileLines,
  type Chart,
  type EntryDraft,
  type ReconcileError,
  type ReconcileLine,
} from "../../core/chart";
import { after } from "../../core/packet";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import {
  appendToChart,
  command,
  fieldsOf,
  idInput,
  notFound,
  query,
  requestInput,
  type CommonError,
  type Context,
} from "../kit";
import { isReturned, readParts, returnFrame } from "../review";
import { postSchema } from "./schemas";

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
  readonly settled: boolean;
  /** The chart's revision these lines were laid out against. */
  readonly revision: number;
  readonly lines: readonly PartLine[];
}

const idFor = (partId: string, lineId: string): string => `${partId}|${lineId}`;

async function linesFor(ctx: Context, packetId: Id<"Packet">, chart: Chart): Promise<PartLine[]> {
  const fields = await fieldsOf(ctx);
  return (await readParts(ctx, packetId)).flatMap((r) =>
    reconcileLines(chart, incomingOf(r.questionnaire, r.answers, fields)).map((line) => ({
      ...line,
      id: idFor(r.part.id, line.id),
      lineId: line.id,
      partId: r.part.id,
      questionnaire: r.questionnaire.title,
    })),
  );
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
    ctx.journal("reconcile.view", `packet:${packetId}`);
    return ok({
      packetId,
      clientId: client.id,
      clientName: nameOf(client),
      returnedAt: packet.returnedAt ?? packet.createdAt,
      settled: packet.state === "settled",
      revision: chart.revision,
      lines: await linesFor(ctx, packetId, chart),
    });
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
  async run(
    ctx,
    { packetId, requestId, revision, decisions },
  ): Promise<Result<{ postingId: Id<"Posting">; clientId: Id<"Client">; entries: number }, PostError>> {
    const { repo, practice, now, random } = ctx;
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    const { packet, client } = frame.value;
    await repo.clients.hold(practice.id, client.id);
    const earlier = await repo.charts.postingByRequest(requestId);
    if (earlier) {
      ctx.journal("chart.post-repeated", `packet:${packetId}`);
      return ok({ postingId: earlier.id, clientId: client.id, entries: 0 });
    }
    if (packet.state === "settled") return fail({ reason: "already-posted" });
    const chart = foldChart(await repo.charts.entries(client.id));
    if (chart.revision !== revision) return fail({ reason: "chart-moved" });
    const lines = await linesFor(ctx, packetId, chart);
    const drafts = decideAll(lines, decisions, () => random.id<"Row">());
    if (!drafts.ok) return drafts;
    const postingId = random.id<"Posting">();
    await appendToChart(
      ctx,
      { id: postingId, clientId: client.id, requestId, kind: "post", packetId, reverses: null },
      drafts.value,
    );
    for (const part of await repo.packets.parts(packetId)) await repo.packets.markPosted(part.id, now);
    await repo.packets.update(packetId, { state: after(packet.state, "settle") ?? packet.state, settledAt: now });
    ctx.journal("chart.post", `client:${client.id}`, {
      packet: packetId,
      posting: postingId,
      entries: drafts.value.length,
    });
    ctx.tell("returns");
    return ok({ postingId, clientId: client.id, entries: drafts.value.length });
  },
});

function decideAll(
  lines: readonly PartLine[],
  given: Parameters<typeof decide>[1],
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
      { partId, questionnaire: own[0]?.questionnaire ?? "" },
      newRow,
    );
    return result.ok ? result : fail({ ...result.error, lines: result.error.lines.map((id) => idFor(partId, id)) });
  });
  const wrong = results.flatMap((r) => (r.ok ? [] : [r.error]));
  const first = wrong[0];
  if (first) return fail({ ...first, lines: wrong.filter((w) => w.reason === first.reason).flatMap((w) => w.lines) });
  return ok(results.flatMap((r) => (r.ok ? r.value : [])));
}

/** Undoes one posting as a whole by a new entry. The packet goes back to Returns, to be posted otherwise. */
export const reverse = command({
  name: "reverse",
  access: "chart.post",
  input: object({ clientId: idInput<"Client">(), postingId: idInput<"Posting">(), requestId: requestInput }),
  async run(
    ctx,
    { clientId, postingId, requestId },
  ): Promise<Result<null, CommonError | { readonly reason: "already-reversed" }>> {
    const { repo, practice, random } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const postings = await repo.charts.postings(clientId);
    const posting = postings.find((p) => p.id === postingId);
    if (posting?.kind !== "post") return notFound;
    const reversal = postings.find((p) => p.reverses === postingId);
    if (reversal) {
      if (reversal.requestId !== requestId) return fail({ reason: "already-reversed" });
      ctx.journal("chart.reverse-repeated", `client:${clientId}`);
      return ok(null);
    }
    const id = random.id<"Posting">();
    await appendToChart(
      ctx,
      { id, clientId, requestId, kind: "reverse", packetId: posting.packetId, reverses: postingId },
      [{ change: { kind: "reverse", posting: postingId }, source: { kind: "staff", reason: "reversed" } }],
    );
    const packet = posting.packetId ? await repo.packets.byId(practice.id, posting.packetId, true) : undefined;
    if (packet && isReturned(packet)) {
      await repo.packets.update(packet.id, { state: after(packet.state, "reopen") ?? packet.state, settledAt: null });
      for (const part of await repo.packets.parts(packet.id)) await repo.packets.markPosted(part.id, null);
    }
    ctx.journal("chart.reverse", `client:${clientId}`, { posting: postingId });
    ctx.tell("returns");
    return ok(null);
  },
});
