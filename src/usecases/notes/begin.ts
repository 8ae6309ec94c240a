import { object, string } from "yup";
import { besidePage, draftNote, laidOutAnew, paragraph, type NoteContent, type NoteLayout } from "../../core/notes";
import { daysBetween, dayIn } from "../../core/scheduling";
import { fail, instantMs, isBefore, ok, type Id, type Result } from "../../core/shared";
import type { Client, Packet, Visit } from "../../db/repositories";
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
import { isReturned } from "../review";
import { factsFor, layoutFor, sourcesOf, type About } from "./facts";
import { openNote, type NoteError } from "./open";

const mostReturns = 6;
/** Days around today in which a visit is what a note is about, unless somebody says otherwise. */
const nearDays = 7;

/** The visit that is nearest, of those around today. */
function suggestedVisit({ now, practice }: Context, visits: readonly Visit[]): Visit | undefined {
  const away = (visit: Visit): number => Math.abs(instantMs(visit.startsAt) - instantMs(now));
  return visits
    .filter(
      (visit) =>
        visit.cancelledAt === null &&
        Math.abs(daysBetween(dayIn(visit.startsAt, practice.zone), dayIn(now, practice.zone))) <= nearDays,
    )
    .sort((one, other) => away(one) - away(other))[0];
}
/** Returns that a note is begun with: those that are not charted, and what came since the last note, and is not in it. */
async function packetsFor(ctx: Context<StaffActor>, client: Client, named: Packet | undefined): Promise<Packet[]> {
  const { repo, practice } = ctx;
  const [last] = await repo.notes.headsOf(practice.id, client.id);
  const told = last && (await repo.notes.byId(practice.id, last.id));
  const before = new Set(told?.content.brought.map(({ packetId }) => packetId));
  const all = (await repo.packets.ofClient(practice.id, client.id)).filter(
    (packet) =>
      isReturned(packet) &&
      packet.returnedAt !== null &&
      packet.id !== named?.id &&
      !before.has(packet.id) &&
      (packet.state === "returned" || !last || isBefore(last.createdAt, packet.returnedAt)),
  );
  const newest = all.sort((a, b) => instantMs(b.returnedAt!) - instantMs(a.returnedAt!)).slice(0, mostReturns - 1);
  return [...(named ? [named] : []), ...newest.reverse()];
}
/** As this practitioner laid out the last note with such a questionnaire, else by what it is about. */
async function usualLayout(ctx: Context<StaffActor>, packets: readonly Packet[]): Promise<NoteLayout | undefined> {
  const { repo, practice, actor } = ctx;
  const parts = [...(await repo.packets.partsOf(packets.map(({ id }) => id))).values()].flat();
  const all = await inOrder(parts, async ({ versionId }) => ({
    id: await repo.versions.questionnaireOf(versionId),
    kind: (await repo.versions.definition(versionId)).kind,
  }));
  const intakes = all.filter(({ kind }) => kind === "intake");
  // An intake says what a note is about, whatever else came with it.
  const asked = (intakes.length > 0 ? intakes : all).map(({ id }) => id);
  const habit = (await repo.notes.habits(actor.id)).find((one) => asked.includes(one.questionnaireId));
  const isFirst = intakes.length > 0;
  const before = (await repo.notes.unfinished(practice.id, actor.id))[0]?.layoutId;
  return (
    (habit && (await layoutFor(ctx, habit.layoutId))) ??
    (isFirst ? await layoutFor(ctx, "first-assessment") : undefined) ??
    (before === undefined || before === "first-assessment" ? undefined : await layoutFor(ctx, before)) ??
    (await layoutFor(ctx, "soap"))
  );
}
/** A note of one's own that is not signed off, of this very visit or return. */
async function unfinishedOf(
  { repo, practice, actor }: Context<StaffActor>,
  client: Client,
  { visitId, packetId }: { readonly visitId?: Id<"Visit"> | undefined; readonly packetId?: Id<"Packet"> | undefined },
): Promise<{ readonly id: Id<"Note"> } | undefined> {
  const open = (await repo.notes.headsOf(practice.id, client.id)).filter(
    (one) => one.author === actor.id && one.signedAt === null,
  );
  if (visitId) return open.find((one) => one.visitId === visitId);
  if (!packetId) return undefined;
  for (const { id } of open) {
    const note = await repo.notes.byId(practice.id, id);
    if (note?.content.brought.some((one) => one.packetId === packetId)) return note;
  }
  return undefined;
}
async function aboutOf(
  ctx: Context<StaffActor>,
  input: {
    readonly clientId?: Id<"Client"> | undefined;
    readonly visitId?: Id<"Visit"> | undefined;
    readonly packetId?: Id<"Packet"> | undefined;
  },
): Promise<About | undefined> {
  const { repo, practice } = ctx;
  const named = input.packetId && (await repo.packets.byId(practice.id, input.packetId));
  if (input.packetId && (!named || !isReturned(named))) return undefined;
  const said = input.visitId ?? named?.visitId ?? undefined;
  const visit = said && (await repo.visits.byId(practice.id, said));
  if (input.visitId && !visit) return undefined;
  const clientId = named?.clientId ?? (visit || undefined)?.client.id ?? input.clientId;
  const client = clientId && (await repo.clients.byId(practice.id, clientId));
  if (!client) return undefined;
  return {
    client,
    visit: visit || suggestedVisit(ctx, await repo.visits.ofClient(practice.id, client.id)),
    packets: await packetsFor(ctx, client, named || undefined),
  };
}

/**
 * Begins a note from a return, a visit or a client, with nothing to choose first. Somebody's unfinished note of the same
 * visit or return is gone on with.
 */
export const beginNote = command({
  name: "begin-note",
  access: "note.write",
  input: object({
    requestId: requestInput,
    clientId: idInput<"Client">().optional(),
    visitId: idInput<"Visit">().optional(),
    packetId: idInput<"Packet">().optional(),
    layoutId: string().max(60).optional(),
  }),
  async run(ctx, { requestId, layoutId, ...input }): Promise<Result<{ noteId: Id<"Note"> }, CommonError>> {
    const { repo, practice, now, random, actor } = ctx;
    const about = await aboutOf(ctx, input);
    if (!about || !(await repo.clients.hold(practice.id, about.client.id))) return notFound;
    const there = (await repo.notes.byRequest(requestId)) ?? (await unfinishedOf(ctx, about.client, input));
    if (there) {
      ctx.journal("note.begin-repeated", `note:${there.id}`);
      return ok({ noteId: there.id });
    }
    const layout = layoutId === undefined ? await usualLayout(ctx, about.packets) : await layoutFor(ctx, layoutId);
    if (!layout) return notFound;
    const noteId = random.id<"Note">();
    await repo.notes.add(
      {
        id: noteId,
        practiceId: practice.id,
        clientId: about.client.id,
        visitId: about.visit?.id ?? null,
        requestId,
        layoutId: layout.id,
        author: actor.id,
        createdAt: now,
        updatedAt: now,
      },
      withChecks(draftNote(layout, await factsFor(ctx, about, layout)), about.visit?.checks?.ticked ?? []),
    );
    ctx.journal("note.begin", `note:${noteId}`, { returns: about.packets.length, layout: layout.id });
    return ok({ noteId });
  },
});

/** What was ticked off before a call began stands first. */
const withChecks = (drafted: NoteContent, ticked: readonly string[]): NoteContent =>
  ticked.length === 0
    ? drafted
    : {
        ...drafted,
        body: {
          ...drafted.body,
          content: [paragraph(`Before the call: ${ticked.join("; ")}.`), ...drafted.body.content],
        },
      };
/** Lays a note out otherwise, from the same returns. What was written goes along, and stands in its history as it was. */
export const layOutNote = command({
  name: "lay-out-note",
  access: "note.write",
  input: object({ noteId: idInput<"Note">(), layoutId: string().max(60).required() }),
  async run(ctx, { noteId, layoutId }): Promise<Result<{ revision: number }, NoteError>> {
    const { repo, practice, now, actor } = ctx;
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    const layout = await layoutFor(ctx, layoutId);
    if (!layout) return notFound;
    const visit = note.visitId ? await repo.visits.byId(practice.id, note.visitId) : undefined;
    const packets = (
      await inOrder(note.content.brought, async ({ packetId }) =>
        repo.packets.byId(practice.id, packetId as Id<"Packet">),
      )
    ).flatMap((packet) => (packet && isReturned(packet) ? [packet] : []));
    const drafted = draftNote(layout, await factsFor(ctx, { client, visit, packets }, layout));
    const content = laidOutAnew(note.content, drafted);
    if (!(await repo.notes.save(noteId, note.revision, content, actor.id, now, true)))
      return fail({ reason: "note-moved" });
    await repo.notes.setLayout(noteId, layout.id);
    ctx.journal("note.lay-out", `note:${noteId}`, { layout: layout.id });
    return ok({ revision: note.revision + 1 });
  },
});

/** Makes another return of theirs known to a note, so that its answers lie beside the page. */
export const bringIntoNote = command({
  name: "bring-into-note",
  access: "note.write",
  input: object({ noteId: idInput<"Note">(), packetId: idInput<"Packet">() }),
  async run(ctx, { noteId, packetId }): Promise<Result<{ revision: number }, NoteError>> {
    const { repo, practice, now, actor } = ctx;
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    const packet = await repo.packets.byId(practice.id, packetId);
    if (packet?.clientId !== client.id || !isReturned(packet)) return notFound;
    const sources = await sourcesOf(ctx, client, packet, {
      fields: await fieldsOf(ctx),
      habits: [],
      layoutId: note.layoutId,
    });
    const aside = besidePage(sources);
    const content = {
      ...note.content,
      quotes: { ...aside.quotes, ...note.content.quotes },
      brought: [...note.content.brought.filter((one) => one.packetId !== packetId), ...aside.brought],
    };
    if (!(await repo.notes.save(noteId, note.revision, content, actor.id, now))) return fail({ reason: "note-moved" });
    ctx.journal("note.bring", `note:${noteId}`, { packet: packetId });
    return ok({ revision: note.revision + 1 });
  },
});
