import { object } from "yup";
import type { NotePaper } from "../../adapters/note-paper";
import { nameOf } from "../../core/chart";
import { writeNote, type JsonObject } from "../../core/fhir";
import { layoutById, linesOf, markdown, type NoteLine, type Run } from "../../core/notes";
import { dayIn } from "../../core/scheduling";
import { dateFormat, instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, letterhead, type CommonError } from "../kit";
import { ownLayouts } from "./facts";
import { findNote } from "./open";

export interface NoteOut {
  /** As a file's name, without what it ends in. */
  readonly name: string;
  readonly paper: NotePaper;
  readonly markdown: string;
  readonly fhir: JsonObject;
}
/** A note for leaving the practice, in each of its forms. */
export const takeOutNote = command({
  name: "take-out-note",
  access: "export",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<NoteOut, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const { note, client } = found.value;
    const staff = await repo.staff.all(practice.id);
    const by = (id: Id<"Staff"> | null): string => staff.find((one) => one.id === id)?.name ?? "";
    const signed = note.signedAt ? { at: note.signedAt, by: by(note.signedBy) } : undefined;
    const cosigned = note.cosignedAt ? { at: note.cosignedAt, by: by(note.cosignBy) } : undefined;
    const addenda = (await repo.notes.addenda(noteId)).map((one) => ({ ...one, by: by(one.by) }));
    const visit = note.visitId ? await repo.visits.byId(practice.id, note.visitId) : undefined;
    const when = (at: Instant): string =>
      dateFormat(practice.locale, { dateStyle: "medium", timeStyle: "short", timeZone: practice.zone }).format(
        instantMs(at),
      );
    const person = nameOf(client);
    const layout = layoutById(note.layoutId, await ownLayouts(ctx))?.name;
    const title = `${layout ?? "Note"}: ${person}`;
    const facts = [
      ...(visit ? [`${when(visit.startsAt)}, ${visit.visitType}, ${visit.staffName}`] : []),
      signed ? `Signed off by ${signed.by}, ${when(signed.at)}` : `Not signed off; written by ${by(note.author)}`,
      ...(cosigned ? [`Signed beside by ${cosigned.by}, ${when(cosigned.at)}`] : []),
    ];
    const body = linesOf(note.content.body, note.content);
    const below = linesOf(note.content.takeHome);
    const plain = (text: string): NoteLine => ({ kind: "text", runs: [run(text)] });
    const added = addenda.flatMap((one): NoteLine[] => [
      { kind: "heading", level: 3, text: `Added by ${one.by}, ${when(one.at)}` },
      ...one.text.split("\n").map(plain),
    ]);
    const whole: NoteLine[] = [
      ...body,
      ...(added.length > 0 ? [{ kind: "heading", level: 2, text: "Addenda" } as const, ...added] : []),
      ...(below.length > 0 ? [{ kind: "heading", level: 2, text: "Take-home" } as const, ...below] : []),
    ];
    const text = markdown([{ kind: "heading", level: 2, text: title }, ...facts.map(plain), ...whole]);
    ctx.journal("note.export", `note:${noteId}`);
    return ok({
      name: `Note ${dayIn(note.createdAt, practice.zone)} ${person}`,
      markdown: text,
      paper: {
        ...(await letterhead(ctx)),
        title,
        person,
        facts,
        lines: whole,
        madeAt: now,
        madeBy: actor.name,
        zone: practice.zone,
        locale: practice.locale,
      },
      fhir: writeNote({
        id: note.id,
        clientId: client.id,
        clientName: person,
        practice: practice.name,
        title,
        author: by(note.author),
        at: note.createdAt,
        content: note.content,
        signed,
        cosigned,
        addenda,
        markdown: text,
      }),
    });
  },
});
const run = (text: string): Run => ({ text, bold: false, italic: false, href: undefined });
