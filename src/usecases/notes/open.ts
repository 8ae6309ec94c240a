import { fail, ok, type Id, type Result } from "../../core/shared";
import type { Client, Note } from "../../db/repositories";
import { notFound, type CommonError, type Context } from "../kit";

export type NoteError =
  | CommonError
  /** Somebody saved it meanwhile. */
  | { readonly reason: "note-moved" }
  /** It is signed off: it is added to, and not changed. */
  | { readonly reason: "signed" };
export interface FoundNote {
  readonly note: Note;
  readonly client: Client;
}
/** A note, signed or not, of a client in sight. */
export async function findNote({ repo, practice }: Context, id: Id<"Note">): Promise<Result<FoundNote, CommonError>> {
  const note = await repo.notes.byId(practice.id, id);
  const client = note && (await repo.clients.byId(practice.id, note.clientId));
  return note && client ? ok({ note, client }) : notFound;
}
/** A note that is still written in. */
export async function openNote(ctx: Context, id: Id<"Note">): Promise<Result<FoundNote, NoteError>> {
  const found = await findNote(ctx, id);
  if (!found.ok) return found;
  return found.value.note.signedAt ? fail({ reason: "signed" }) : found;
}
