import { boolean, mixed, number, object, string } from "yup";
import { measuresIn, quotesIn, readNote, readTakeHome, type NoteContent } from "../../core/notes";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, query, type CommonError } from "../kit";
import { findNote, openNote, type NoteError } from "./open";

export type SaveError = NoteError | { readonly reason: "unreadable"; readonly problem: string };

/**
 * Saves both documents of a note over the revision the writer saw. The words they quote cannot be sent back changed:
 * a document names them, and what it names has to be there.
 */
export const saveNote = command({
  name: "save-note",
  access: "note.write",
  input: object({
    noteId: idInput<"Note">(),
    revision: number().integer().min(1).required(),
    body: mixed().required(),
    takeHome: mixed().required(),
    /** Saved over what somebody else saved, knowing it: that is kept as a version, whoever it was. */
    over: boolean().default(false),
  }),
  async run(
    ctx,
    { noteId, revision, body, takeHome, over },
  ): Promise<Result<{ revision: number; savedAt: Instant }, SaveError>> {
    const found = await openNote(ctx, noteId);
    if (!found.ok) return found;
    const { note } = found.value;
    const [own, theirs] = [readNote(body), readTakeHome(takeHome)];
    if (!own.ok) return fail({ reason: "unreadable", problem: own.error.problem });
    if (!theirs.ok) return fail({ reason: "unreadable", problem: theirs.error.problem });
    const unknown =
      quotesIn(own.value).some((quote) => !Object.hasOwn(note.content.quotes, quote)) ||
      measuresIn(own.value).some((measure) => !Object.hasOwn(note.content.measures, measure));
    if (unknown) return fail({ reason: "unreadable", problem: "It quotes what was not brought into it." });
    const content: NoteContent = { ...note.content, body: own.value, takeHome: theirs.value };
    if (!(await ctx.repo.notes.save(noteId, revision, content, ctx.actor.id, ctx.now, over)))
      return fail({ reason: "note-moved" });
    ctx.journal("note.save", `note:${noteId}`);
    return ok({ revision: revision + 1, savedAt: ctx.now });
  },
});

const forgottenAfter = 30_000;
const pageInput = string()
  .matches(/^[\w-]{8,64}$/)
  .required();
export interface NoteDesk {
  readonly revision: number;
  readonly savedBy: string;
  readonly signed: boolean;
  readonly others: readonly { readonly name: string; readonly own: boolean; readonly since: Instant }[];
}
/** Says that a page has a note open, and hears who else has, and whether somebody saved it. */
export const atNote = query({
  name: "at-note",
  access: "note.write",
  input: object({ noteId: idInput<"Note">(), page: pageInput, leaving: boolean().default(false) }),
  async run(ctx, { noteId, page, leaving }): Promise<Result<NoteDesk, CommonError>> {
    const { repo, now, actor, practice } = ctx;
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const { note } = found.value;
    const staff = await repo.staff.all(practice.id);
    const nameFor = (id: Id<"Staff"> | null): string => staff.find((one) => one.id === id)?.name ?? "";
    if (leaving) await repo.notes.leaveDesk(page);
    const others = leaving
      ? []
      : await repo.notes.atDesk(
          { page, noteId, staffId: actor.id, since: now, seenAt: now },
          laterBy(now, -forgottenAfter),
        );
    return ok({
      revision: note.revision,
      savedBy: nameFor(note.updatedBy ?? note.author),
      signed: note.signedAt !== null,
      others: others.map(({ staffId, since }) => ({ name: nameFor(staffId), own: staffId === actor.id, since })),
    });
  },
});
