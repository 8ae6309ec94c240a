import { foldChart, identityOf, type EntryChange } from "../../core/chart";
import type { Id } from "../../core/shared";
import type { StaffActor } from "./actor";
import type { Context } from "./use-case";

type Append = Context["repo"]["charts"]["append"];
/**
 * The one way into the ledger: appends, then writes the client's name and contacts anew from the chart, in the same
 * transaction. Where the client is reached otherwise from now on, codes that went the old way stop working.
 */
export async function appendToChart(
  ctx: Context<StaffActor>,
  row: Omit<Parameters<Append>[0], "at" | "by">,
  entries: Parameters<Append>[1],
): Promise<void> {
  const { repo, practice, now, actor } = ctx;
  const { clientId } = row;
  const digest = await repo.charts.append({ ...row, at: now, by: actor.name }, entries);
  ctx.journal("chart.append", `client:${clientId}`, { posting: row.id, entries: entries.length, digest });
  const before = await repo.clients.byId(practice.id, clientId);
  const identity = identityOf(foldChart(await repo.charts.entries(clientId)));
  await repo.clients.setIdentity(clientId, identity);
  if (before?.email !== identity.email || before?.phone !== identity.phone) await repo.links.dropCodes(clientId, null);
}

/** What staff were told, as a posting of its own. */
export async function chartByStaff(
  ctx: Context<StaffActor>,
  clientId: Id<"Client">,
  kind: "start" | "post",
  changes: readonly EntryChange[],
  reason: string,
): Promise<void> {
  const id = ctx.random.id<"Posting">();
  await appendToChart(
    ctx,
    { id, clientId, requestId: `${kind} ${id}`, kind, packetId: null, reverses: null },
    changes.map((change) => ({ change, source: { kind: "staff", reason } })),
  );
}
