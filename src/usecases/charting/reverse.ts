import { number, object, string } from "yup";
import { reversals } from "../../core/chart";
import { after } from "../../core/packet";
import { fail, ok, type Result } from "../../core/shared";
import { appendToChart, command, idInput, notFound, requestInput, type CommonError } from "../kit";
import { isReturned } from "../review";

/**
 * Undoes one posting by a new entry: as a whole, and the packet goes back to Returns, to be posted otherwise; or one
 * entry of it, and all else stays.
 */
export const reverse = command({
  name: "reverse",
  access: "chart.post",
  input: object({
    clientId: idInput<"Client">(),
    postingId: idInput<"Posting">(),
    requestId: requestInput,
    reason: string().trim().max(500, "Keep the reason under 500 characters.").default(""),
    /** The entry's number; the whole posting, where it is left out. */
    entry: number().integer().min(1).optional(),
  }),
  async run(
    ctx,
    { clientId, postingId, requestId, reason, entry },
  ): Promise<Result<null, CommonError | { readonly reason: "already-reversed" }>> {
    const { repo, practice, random } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const postings = await repo.charts.postings(clientId);
    const posting = postings.find((p) => p.id === postingId);
    if (posting?.kind !== "post") return notFound;
    if (postings.some((p) => p.kind === "reverse" && p.requestId === requestId)) {
      ctx.journal("chart.reverse-repeated", `client:${clientId}`);
      return ok(null);
    }
    const entries = await repo.charts.entries(clientId);
    const isReversed = reversals(entries);
    const own = entries.filter((one) => one.posting === postingId);
    const meant = entry === undefined ? own : own.filter((one) => one.seq === entry);
    if (entry !== undefined && meant.length === 0) return notFound;
    if (postings.some((p) => p.reverses === postingId) || (meant.length > 0 && meant.every(isReversed)))
      return fail({ reason: "already-reversed" });
    const id = random.id<"Posting">();
    const reverses = entry === undefined ? postingId : null;
    await appendToChart(ctx, { id, clientId, requestId, kind: "reverse", packetId: posting.packetId, reverses }, [
      {
        change: { kind: "reverse", posting: postingId, ...(entry === undefined ? {} : { entry }) },
        source: { kind: "staff", reason: reason === "" ? "reversed" : reason },
      },
    ]);
    const packet =
      entry === undefined && posting.packetId
        ? await repo.packets.byId(practice.id, posting.packetId, true)
        : undefined;
    if (packet && isReturned(packet)) {
      await repo.packets.update(packet.id, { state: after(packet.state, "reopen") ?? packet.state, settledAt: null });
      for (const part of await repo.packets.parts(packet.id)) await repo.packets.markPosted(part.id, null);
    }
    ctx.journal("chart.reverse", `client:${clientId}`, {
      posting: postingId,
      ...(entry === undefined ? {} : { entry }),
    });
    ctx.tell("returns");
    return ok(null);
  },
});
