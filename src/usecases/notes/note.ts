import { array, mixed, number, object, string } from "yup";
import { nameOf } from "../../core/chart";
import { draftNote as draftFrom, type NoteBlock, type NotePick } from "../../core/notes";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, notFound, query, requestInput, type CommonError } from "../kit";
import { readParts, returnFrame, staffWords } from "../review";

const draftSchema = object({
  packetId: idInput<"Packet">(),
  requestId: requestInput,
  layoutId: string().max(60).required(),
  pick: mixed<NotePick["kind"]>().oneOf(["all", "answered", "chosen"]).required(),
  keys: array(string().max(600).required()).max(500).default([]),
}).test("chosen", "Tick the answers you want in the note.", (v) => v.pick !== "chosen" || v.keys.length > 0);

/** Drafts a note from a return and links it to the packet's visit. */
export const draftNote = command({
  name: "draft-note",
  access: "note.write",
  input: draftSchema,
  async run(ctx, { packetId, requestId, layoutId, pick, keys }): Promise<Result<{ noteId: Id<"Note"> }, CommonError>> {
    const { repo, practice, now, random, actor } = ctx;
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    const earlier = await repo.notes.byRequest(requestId);
    if (earlier) {
      ctx.journal("note.draft-repeated", `note:${earlier.id}`);
      return ok({ noteId: earlier.id });
    }
    const layout = await repo.noteLayouts.byId(practice.id, layoutId);
    if (!layout) return notFound;
    const parts = (await readParts(ctx, packetId)).map((r) => ({
      partId: r.part.id as string,
      questionnaire: r.questionnaire,
      answers: r.answers,
    }));
    const noteId = random.id<"Note">();
    await repo.notes.add(
      {
        id: noteId,
        practiceId: practice.id,
        clientId: frame.value.client.id,
        visitId: frame.value.packet.visitId,
        requestId,
        layoutId,
        author: actor.id,
        createdAt: now,
        updatedAt: now,
      },
      draftFrom(
        layout,
        parts,
        pick === "chosen" ? { kind: "chosen", keys } : { kind: pick },
        staffWords(practice.locale),
      ),
    );
    ctx.journal("note.draft", `note:${noteId}`, { packet: packetId });
    return ok({ noteId });
  },
});

export interface NoteView {
  readonly id: Id<"Note">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly layout: string;
  readonly author: string;
  /** Who saved it last, where that is somebody else. */
  readonly changedBy: string | undefined;
  readonly revision: number;
  readonly updatedAt: Instant;
  readonly visit: { readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
  readonly blocks: readonly NoteBlock[];
}
export const noteView = query({
  name: "note-view",
  access: "note.write",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<NoteView, CommonError>> {
    const { repo, practice } = ctx;
    const note = await repo.notes.byId(practice.id, noteId);
    const client = note && (await repo.clients.byId(practice.id, note.clientId));
    if (!note || !client) return notFound;
    const visit = note.visitId ? await repo.visits.byId(practice.id, note.visitId) : undefined;
    ctx.journal("note.view", `note:${noteId}`);
    return ok({
      id: noteId,
      clientId: client.id,
      clientName: nameOf(client),
      layout: (await repo.noteLayouts.byId(practice.id, note.layoutId))?.name ?? "",
      author: (await repo.staff.byId(note.author))?.name ?? "",
      changedBy:
        note.updatedBy === null || note.updatedBy === note.author
          ? undefined
          : (await repo.staff.byId(note.updatedBy))?.name,
      revision: note.revision,
      updatedAt: note.updatedAt,
      visit: visit && { startsAt: visit.startsAt, visitType: visit.visitType, practitioner: visit.staffName },
      blocks: note.blocks,
    });
  },
});

/**
 * The practitioner's words by heading, and the quoted answers left in. The client's words themselves cannot be sent
 * back changed.
 */
const saveNoteSchema = object({
  noteId: idInput<"Note">(),
  revision: number().integer().min(1).required(),
  own: array(object({ id: string().max(60).required(), text: string().max(50_000).default("") }))
    .max(40)
    .required(),
  removed: array(string().max(600).required()).max(500).default([]),
});
export const saveNote = command({
  name: "save-note",
  access: "note.write",
  input: saveNoteSchema,
  async run(
    ctx,
    { noteId, revision, own, removed },
  ): Promise<Result<{ revision: number; savedAt: Instant }, CommonError | { readonly reason: "note-moved" }>> {
    const { repo, practice, now } = ctx;
    const note = await repo.notes.byId(practice.id, noteId);
    if (!note) return notFound;
    const texts = new Map(own.map((o) => [o.id, o.text]));
    const blocks = note.blocks.flatMap((b): NoteBlock[] => {
      if (b.kind === "own") return [{ ...b, text: texts.get(b.id) ?? b.text }];
      return removed.includes(`${b.partId} ${b.key}`) ? [] : [b];
    });
    if (!(await repo.notes.save(noteId, revision, blocks, ctx.actor.id, now))) return fail({ reason: "note-moved" });
    ctx.journal("note.save", `note:${noteId}`);
    return ok({ revision: revision + 1, savedAt: now });
  },
});
