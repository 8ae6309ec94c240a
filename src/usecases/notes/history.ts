import { number, object } from "yup";
import { compareVersions, type ComparedLine } from "../../core/notes";
import { fail, ok, type Instant, type Result } from "../../core/shared";
import { command, idInput, notFound, type CommonError } from "../kit";
import { findNote, openNote, type NoteError } from "./open";

export interface NoteHistory {
  readonly clientName: string;
  /** The newest first; the first is how it stands now. */
  readonly versions: readonly {
    readonly revision: number;
    readonly by: string;
    readonly at: Instant;
    /** Against the version before. */
    readonly lines: readonly ComparedLine[];
  }[];
  readonly signed: boolean;
}
/** Who wrote what: every version that was kept, and what changed in it. */
export const noteHistory = command({
  name: "note-history",
  access: "note.write",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<NoteHistory, CommonError>> {
    const { repo, practice } = ctx;
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    const staff = await repo.staff.all(practice.id);
    const now = {
      revision: note.revision,
      by: note.updatedBy ?? note.author,
      at: note.updatedAt,
      content: note.content,
    };
    const all = [...(await repo.notes.versions(noteId)), now];
    ctx.journal("note.history", `note:${noteId}`);
    return ok({
      clientName: `${client.firstName} ${client.lastName}`.trim(),
      signed: note.signedAt !== null,
      versions: all
        .map(({ revision, by, at, content }, index) => ({
          revision,
          by: staff.find((one) => one.id === by)?.name ?? "",
          at,
          lines: compareVersions(all[index - 1]?.content, content),
        }))
        .reverse(),
    });
  },
});
/** Puts an earlier version in the place of what stands there now, which stays in the history. */
export const restoreNote = command({
  name: "restore-note",
  access: "note.write",
  input: object({
    noteId: idInput<"Note">(),
    revision: number().integer().min(1).required(),
    restore: number().integer().min(1).required(),
  }),
  async run(ctx, { noteId, revision, restore }): Promise<Result<null, NoteError>> {
    const { repo, actor, now } = ctx;
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const { note } = found.value;
    const version = (await repo.notes.versions(noteId)).find((one) => one.revision === restore);
    if (!version) return notFound;
    // What was brought in since can still be pulled in.
    const content = { ...version.content, quotes: { ...note.content.quotes, ...version.content.quotes } };
    if (!(await repo.notes.save(noteId, revision, content, actor.id, now, true))) return fail({ reason: "note-moved" });
    ctx.journal("note.restore", `note:${noteId}`, { revision: restore });
    return ok(null);
  },
});
