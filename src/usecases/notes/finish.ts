import { boolean, number, object, string } from "yup";
import { habitOf } from "../../core/notes";
import { fail, ok, type Id, type Result } from "../../core/shared";
import type { Note } from "../../db/repositories";
import { command, idInput, may, notFound, requestInput, type CommonError, type Context, type StaffActor } from "../kit";
import { readersFor } from "../review";
import { linkOf } from "./facts";
import { findNote, openNote, type NoteError } from "./open";
import { shareNow, type ShareError } from "./take-home";

export type FinishError = NoteError | ShareError | { readonly reason: "no-such-colleague" };

/**
 * Signs a note off: from here on nobody writes in it, what comes later is added below with its day. Shares what stands
 * below the line, where that was wished; refused as a whole where it cannot be.
 */
export const finishNote = command({
  name: "finish-note",
  access: "note.write",
  input: object({
    noteId: idInput<"Note">(),
    revision: number().integer().min(1).required(),
    share: boolean().default(false),
    requestId: requestInput,
    cosignBy: idInput<"Staff">().optional(),
  }),
  async run(
    ctx,
    { noteId, revision, share, requestId, cosignBy },
  ): Promise<Result<{ readonly shared: boolean }, FinishError>> {
    const { repo, now, actor } = ctx;
    await repo.notes.hold(noteId);
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    if (note.revision !== revision) return fail({ reason: "note-moved" });
    if (cosignBy && (cosignBy === actor.id || !(await readersFor(ctx, client.id)).some(({ id }) => id === cosignBy)))
      return fail({ reason: "no-such-colleague" });
    if (share) {
      if (!may(ctx, "packet.send")) return fail({ reason: "not-allowed" });
      const shared = await shareNow(ctx, note, client, requestId);
      if (!shared.ok) return shared;
    }
    await repo.notes.sign(noteId, actor.id, now, cosignBy ?? null);
    await keepHabits(ctx, note);
    ctx.journal("note.finish", `note:${noteId}`, { share, ...(cosignBy ? { cosigner: cosignBy } : {}) });
    return ok({ shared: share });
  },
});
/** Where this practitioner had the answers, so that the next note of the kind is laid out so. */
async function keepHabits({ repo, actor, now, practice }: Context<StaffActor>, note: Note): Promise<void> {
  const placed = Object.entries(habitOf(note.content));
  const byPart = new Map<string, Record<string, string>>();
  for (const [quote, section] of placed) {
    const { partId } = note.content.quotes[quote]!;
    if (partId) byPart.set(partId, { ...byPart.get(partId), [linkOf(quote)]: section });
  }
  for (const [partId, habit] of byPart) {
    const found = await repo.packets.part(practice.id, partId as Id<"Part">);
    if (!found) continue;
    const questionnaireId = await repo.versions.questionnaireOf(found.part.versionId);
    await repo.notes.keepHabit({ staffId: actor.id, questionnaireId, layoutId: note.layoutId, habit, updatedAt: now });
  }
}

/** Signs beside the author, as they were asked to. */
export const cosignNote = command({
  name: "cosign-note",
  access: "note.write",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<null, CommonError>> {
    const { repo, now, actor } = ctx;
    await repo.notes.hold(noteId);
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const { note } = found.value;
    if (note.cosignBy !== actor.id || !note.signedAt) return notFound;
    if (!note.cosignedAt) await repo.notes.cosign(noteId, now);
    ctx.journal("note.cosign", `note:${noteId}`);
    return ok(null);
  },
});

/** Adds to a note that is signed off; the request's id becomes the addendum's. */
export const addToNote = command({
  name: "add-to-note",
  access: "note.write",
  input: object({
    noteId: idInput<"Note">(),
    requestId: requestInput,
    text: string().trim().max(20_000, "Keep it under 20,000 characters.").required("Write what is to be added."),
  }),
  async run(ctx, { noteId, requestId, text }): Promise<Result<null, CommonError | { readonly reason: "not-signed" }>> {
    const { repo, now, actor } = ctx;
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    if (!found.value.note.signedAt) return fail({ reason: "not-signed" });
    const fresh = await repo.notes.addAddendum(requestId as Id<"NoteAddendum">, noteId, {
      by: actor.id,
      at: now,
      text,
    });
    ctx.journal(fresh ? "note.addendum" : "note.addendum-repeated", `note:${noteId}`);
    return ok(null);
  },
});

/** Says which visit a note is about. */
export const linkNote = command({
  name: "link-note",
  access: "note.write",
  input: object({ noteId: idInput<"Note">(), visitId: idInput<"Visit">().nullable().defined() }),
  async run(ctx, { noteId, visitId }): Promise<Result<null, NoteError>> {
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const visit = visitId === null ? undefined : await ctx.repo.visits.byId(ctx.practice.id, visitId);
    if (visitId !== null && visit?.client.id !== found.value.client.id) return notFound;
    await ctx.repo.notes.linkVisit(noteId, visitId);
    ctx.journal("note.link-visit", `note:${noteId}`);
    return ok(null);
  },
});
