import { object, string } from "yup";
import { foldChart, identityOf, nameOf, writeTable, type ChartEntry, type EntryChange } from "../../core/chart";
import { readChart, writeChart, type BroughtChart, type JsonObject } from "../../core/fhir";
import { fail, ok, type Id, type Result } from "../../core/shared";
import type { Relation } from "../../db/repositories";
import { consentResources } from "../consent";
import {
  command,
  fieldsOf,
  idInput,
  inOrder,
  notFound,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { isReturned, partToTakeOut, readParts } from "../review/returns";

/** A chart with its whole past, as a FHIR R4 Bundle. */
export const exportChart = command({
  name: "export-chart",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<{ readonly name: string; readonly bundle: JsonObject }, CommonError>> {
    const { repo, practice, now } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    ctx.journal("chart.export", `client:${clientId}`, { as: "fhir" });
    const relations = await repo.relations.ofClient(clientId);
    const packets = (await repo.packets.ofClient(practice.id, clientId)).filter(isReturned);
    const responses = await inOrder(packets, async (packet) =>
      inOrder(await readParts(ctx, packet.id), async (part) => {
        const relation = relations.find(({ id }) => id === packet.relationId);
        return (await partToTakeOut(ctx, { packet, client, relation, visit: undefined }, part)).fhir;
      }),
    );
    const bundle = writeChart({
      at: now,
      practice: practice.name,
      client,
      relations,
      fields: await fieldsOf(ctx),
      entries: await repo.charts.entries(clientId),
      more: [...responses.flat(), ...(await consentResources(ctx, client))],
    });
    return ok({ name: nameOf(client), bundle });
  },
});
/** What stands in the chart now, as a table. */
export const chartTable = command({
  name: "chart-table",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<{ readonly name: string; readonly table: string }, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const chart = foldChart(await ctx.repo.charts.entries(clientId));
    const rows = (await fieldsOf(ctx)).flatMap((field): string[][] => {
      if (field.kind !== "rows") {
        const current = chart.fields[field.key]?.current;
        return current ? [[field.key, field.label, "", current.value, current.at, current.by]] : [];
      }
      return (chart.lists[field.key] ?? []).flatMap(({ row, current }) =>
        current
          ? field.columns.flatMap((column) =>
              current.value[column.key]
                ? [
                    [
                      field.key,
                      `${field.label}: ${column.label}`,
                      row,
                      current.value[column.key]!,
                      current.at,
                      current.by,
                    ],
                  ]
                : [],
            )
          : [],
      );
    });
    ctx.journal("chart.export", `client:${clientId}`, { as: "csv" });
    return ok({ name: nameOf(client), table: writeTable([["key", "field", "row", "value", "since", "by"], ...rows]) });
  },
});

export type ImportChartError = CommonError | { readonly reason: "unreadable"; readonly why: string };
const largest = 30_000_000;
const kinds: readonly Relation["kind"][] = ["guardian", "parent", "partner", "supervisor"];
/**
 * Makes a new client of a chart from another practice: every value with its source, who wrote it and when, and what was
 * taken back. Nothing is added to anybody who is here. The request's id becomes the client's.
 */
export const importChart = command({
  name: "import-chart",
  access: "people.write",
  input: object({ requestId: requestInput, text: string().max(largest, "That is large for a chart.").required() }),
  before: (_ports, { text }) => Promise.resolve(parsed(text)),
  async run(ctx, { requestId }, json): Promise<Result<{ id: Id<"Client"> }, ImportChartError>> {
    const { repo, practice, now } = ctx;
    const read = readChart(json, { at: now, by: ctx.actor.name });
    if (!read.ok) return fail({ reason: "unreadable", why: read.error });
    const { entries, relations, language, practice: from } = read.value;
    const id = requestId as Id<"Client">;
    const identity = identityOf(foldChart(entries));
    const fresh = await repo.clients.add({
      id,
      practiceId: practice.id,
      language: language ?? practice.languages[0] ?? "en",
      prefers: identity.email ? "email" : "text",
      createdAt: now,
      identity,
    });
    if (!fresh) {
      ctx.journal("client.add-repeated", `client:${id}`);
      return ok({ id });
    }
    if (ctx.sight !== "all" || ctx.actor.role === "practitioner") await repo.careTeams.join(id, ctx.actor.id);
    const unknown = await appendPast(ctx, id, entries);
    await addAround(ctx, id, relations);
    ctx.journal("chart.import", `client:${id}`, { entries: entries.length, unknown, from: from.slice(0, 100) });
    return ok({ id });
  },
});
/**
 * Writes the entries as they were written there: in their order, with who wrote them when. A field that is not here
 * keeps its entries, which show once the practice adds it. @returns how many those are
 */
async function appendPast(
  ctx: Context<StaffActor>,
  id: Id<"Client">,
  entries: BroughtChart["entries"],
): Promise<number> {
  const { repo, random } = ctx;
  const known = new Set((await fieldsOf(ctx)).map((field) => field.key));
  const postings = new Map<Id<"Posting">, ChartEntry[]>();
  for (const entry of entries) {
    const own = postings.get(entry.posting);
    if (own) own.push(entry);
    else postings.set(entry.posting, [entry]);
  }
  const ids = new Map([...postings.keys()].map((posting) => [posting, random.id<"Posting">()]));
  const rows = new Map<string, string>();
  const rowOf = (change: EntryChange): EntryChange => {
    if (change.kind === "set") return change;
    const key = `${change.field} ${change.row}`;
    const row = rows.get(key) ?? random.id<"Row">();
    rows.set(key, row);
    return { ...change, row };
  };
  let unknown = 0;
  let written = 0;
  const seqs = new Map<number, number>();
  for (const [posting, own] of postings) {
    const postingId = ids.get(posting)!;
    const [first] = own as [ChartEntry];
    unknown += own.filter(({ change }) => change.kind !== "reverse" && !known.has(change.field)).length;
    const isReversal = own.every(({ change }) => change.kind === "reverse");
    for (const entry of own) seqs.set(entry.seq, ++written);
    const row = {
      id: postingId,
      clientId: id,
      requestId: `chart ${postingId}`,
      kind: isReversal ? ("reverse" as const) : ("start" as const),
      packetId: null,
      reverses: null,
      at: first.at,
      by: first.by,
    };
    const digest = await repo.charts.append(
      row,
      own.map(({ change, source }) => ({
        source,
        change:
          change.kind === "reverse"
            ? {
                kind: "reverse" as const,
                posting: ids.get(change.posting) ?? change.posting,
                ...(change.entry === undefined ? {} : { entry: seqs.get(change.entry) ?? 0 }),
              }
            : rowOf(change),
      })),
    );
    ctx.journal("chart.append", `client:${id}`, { posting: postingId, entries: own.length, digest });
  }
  return unknown;
}
async function addAround(
  { repo, random, now }: Context,
  id: Id<"Client">,
  relations: BroughtChart["relations"],
): Promise<void> {
  await inOrder(relations, ({ kind, firstName, lastName, email, phone, ended }) => {
    const is = kinds.find((one) => one === kind);
    return is && !ended
      ? repo.relations.add({
          id: random.id<"Relation">(),
          clientId: id,
          kind: is,
          prefers: email ? "email" : "text",
          createdAt: now,
          person: { firstName, lastName, ...(email ? { email } : {}), ...(phone ? { phone } : {}) },
        })
      : Promise.resolve(false);
  });
}
function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}
