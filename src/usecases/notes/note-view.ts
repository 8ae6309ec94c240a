import { object } from "yup";
import { fieldByKey, foldChart, nameOf, quickIn, wordsIn, type Chart } from "../../core/chart";
import {
  linesOf,
  plainText,
  startingLayouts,
  underHeadings,
  type NoteContent,
  type NoteValues,
} from "../../core/notes";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Note, NoteHead, Visit } from "../../db/repositories";
import { fieldsOf, idInput, inOrder, may, query, type CommonError, type Context, type StaffActor } from "../kit";
import { isReturned, readersFor } from "../review";
import { recipientFor } from "../sending/recipient";
import { ownLayouts, valuesFor } from "./facts";
import { findNote } from "./open";

export interface VisitLine {
  readonly id: Id<"Visit">;
  readonly startsAt: Instant;
  readonly visitType: string;
  readonly practitioner: string;
}
export interface TakeHomeState {
  readonly version: number;
  readonly sharedAt: Instant;
  readonly withdrawn: boolean;
  /** What is below the line now is something else. */
  readonly changed: boolean;
}
export interface NoteView {
  readonly id: Id<"Note">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly calledBy: string;
  /** What they read in. */
  readonly language: string;
  readonly layoutId: string;
  readonly layouts: readonly { readonly id: string; readonly name: string }[];
  readonly author: string;
  /** Who saved it last, where that is somebody else. */
  readonly changedBy: string | undefined;
  readonly revision: number;
  readonly updatedAt: Instant;
  readonly visit: VisitLine | undefined;
  /** Others that it could be about. */
  readonly visits: readonly VisitLine[];
  readonly content: NoteContent;
  readonly values: NoteValues;
  readonly signed: { readonly at: Instant; readonly by: string } | undefined;
  readonly cosign: { readonly by: string; readonly mine: boolean; readonly at: Instant | undefined } | undefined;
  readonly addenda: readonly { readonly by: string; readonly at: Instant; readonly text: string }[];
  /** Who could be asked to sign beside. */
  readonly colleagues: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  readonly shared: TakeHomeState | undefined;
  /** Where the take-home goes, as far as it is shown, and to whom, where not to the client; undefined: to nobody. */
  readonly reach: string | undefined;
  readonly maySend: boolean;
  readonly beside: {
    readonly quick: readonly { readonly label: string; readonly value: string }[];
    /** What they asked for, in their words. */
    readonly goals: string;
    readonly last:
      { readonly id: Id<"Note">; readonly at: Instant; readonly by: string; readonly text: string } | undefined;
    /** Returns that are in no way in this note. */
    readonly returns: readonly {
      readonly packetId: Id<"Packet">;
      readonly at: Instant;
      readonly titles: readonly string[];
    }[];
  };
}
const lineOf = ({ id, startsAt, visitType, staffName }: Visit): VisitLine => ({
  id,
  startsAt,
  visitType,
  practitioner: staffName,
});
const mostVisits = 12;
const longestLast = 1200;

export const noteView = query({
  name: "note-view",
  access: "note.write",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<NoteView, CommonError>> {
    const { repo, practice, actor } = ctx;
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    const staff = await repo.staff.all(practice.id);
    const nameFor = (id: Id<"Staff"> | null): string => staff.find((one) => one.id === id)?.name ?? "";
    const visit = note.visitId ? await repo.visits.byId(practice.id, note.visitId) : undefined;
    const chart = foldChart(await repo.charts.entries(client.id));
    const recipient = await recipientFor(ctx, client);
    ctx.journal("note.view", `note:${noteId}`);
    return ok({
      id: noteId,
      clientId: client.id,
      clientName: nameOf(client),
      calledBy: client.preferredName ?? client.firstName,
      language: client.language,
      layoutId: note.layoutId,
      layouts: [...startingLayouts, ...(await ownLayouts(ctx))].map(({ id, name }) => ({ id, name })),
      author: nameFor(note.author),
      changedBy: note.updatedBy === null || note.updatedBy === note.author ? undefined : nameFor(note.updatedBy),
      revision: note.revision,
      updatedAt: note.updatedAt,
      visit: visit && lineOf(visit),
      visits: [...(await repo.visits.ofClient(practice.id, client.id))].reverse().slice(0, mostVisits).map(lineOf),
      content: note.content,
      values: valuesFor(ctx, { client, visit }, chart, note.content.measures, practice.locale),
      signed: note.signedAt === null ? undefined : { at: note.signedAt, by: nameFor(note.signedBy) },
      cosign: note.cosignBy
        ? { by: nameFor(note.cosignBy), mine: note.cosignBy === actor.id, at: note.cosignedAt ?? undefined }
        : undefined,
      addenda: (await repo.notes.addenda(noteId)).map((one) => ({ ...one, by: nameFor(one.by) })),
      colleagues: note.signedAt ? [] : (await readersFor(ctx, client.id)).filter(({ id }) => id !== actor.id),
      shared: await takeHomeState(ctx, note),
      reach:
        recipient.contact &&
        [...(recipient.relation ? [recipient.name, recipient.relation] : []), recipient.contact.masked].join(", "),
      maySend: may(ctx, "packet.send"),
      beside: await besideOf(ctx, note, chart),
    });
  },
});
async function takeHomeState({ repo, practice }: Context, note: Note): Promise<TakeHomeState | undefined> {
  const last = (await repo.notes.shared(note.id)).at(-1);
  const packet = last && (await repo.packets.byId(practice.id, last.packetId));
  if (!last || !packet) return undefined;
  return {
    version: last.version,
    sharedAt: last.sharedAt,
    withdrawn: packet.state === "withdrawn",
    changed: JSON.stringify(last.document) !== JSON.stringify(note.content.takeHome),
  };
}
async function besideOf(ctx: Context<StaffActor>, note: Note, chart: Chart): Promise<NoteView["beside"]> {
  const { repo, practice } = ctx;
  const fields = await fieldsOf(ctx);
  const goals = fieldByKey("goals", fields);
  const heads = await repo.notes.headsOf(practice.id, note.clientId);
  const before = heads.find((head) => head.id !== note.id && head.createdAt <= note.createdAt);
  const brought = new Set(note.content.brought.map(({ packetId }) => packetId));
  const returns = (await repo.packets.ofClient(practice.id, note.clientId)).filter(
    (packet) => isReturned(packet) && packet.returnedAt !== null && !packet.isTakeHome && !brought.has(packet.id),
  );
  const newest = returns.sort((a, b) => (a.returnedAt! < b.returnedAt! ? 1 : -1)).slice(0, mostVisits);
  return {
    quick: quickIn(practice.chartLayout, fields).flatMap((field) => {
      const value = wordsIn(chart, field);
      return value === "" ? [] : [{ label: field.label, value }];
    }),
    goals: goals ? wordsIn(chart, goals) : "",
    last: before && (await lastOf(ctx, before)),
    returns: await inOrder(newest, async (packet) => ({
      packetId: packet.id,
      at: packet.returnedAt!,
      titles: await inOrder(
        await repo.packets.parts(packet.id),
        async (part) => (await repo.versions.definition(part.versionId)).title,
      ),
    })),
  };
}
async function lastOf(ctx: Context, head: NoteHead): Promise<NoteView["beside"]["last"]> {
  const note = await ctx.repo.notes.byId(ctx.practice.id, head.id);
  const by = await ctx.repo.staff.byId(head.author);
  if (!note) return undefined;
  const text = plainText(
    underHeadings(linesOf(note.content.body, note.content).filter((line) => line.kind !== "quoted")),
  );
  return { id: head.id, at: head.createdAt, by: by?.name ?? "", text: text.slice(0, longestLast) };
}
