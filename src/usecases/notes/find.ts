import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { linesOf, plainText } from "../../core/notes";
import { holdsWords, ok, plainLetters, type Id, type Instant, type Result } from "../../core/shared";
import { command, instantInput, type CommonError } from "../kit";

export interface FoundNotes {
  readonly lines: readonly {
    readonly id: Id<"Note">;
    readonly clientName: string;
    readonly at: Instant;
    readonly by: string;
    /** The words around what was looked for. */
    readonly excerpt: string;
  }[];
  readonly looked: number;
  /** Where to go on from, where there are more notes than were looked at. */
  readonly before: Instant | undefined;
}
const atOnce = 400;
const mostFound = 50;
const around = 60;

/**
 * Notes that hold all of these words, the newest first. They are sealed, so each is opened to be looked at: so many at a
 * time, and from there on when one asks to go on.
 */
export const findNotes = command({
  name: "find-notes",
  access: "note.write",
  input: object({ words: string().trim().max(200).default(""), before: instantInput.optional() }),
  async run(ctx, { words, before }): Promise<Result<FoundNotes, CommonError>> {
    const { repo, practice } = ctx;
    const notes = words === "" ? [] : await repo.notes.page(practice.id, before, atOnce);
    const clients = await repo.clients.byIds(
      practice.id,
      notes.map((note) => note.clientId),
    );
    const staff = new Map((await repo.staff.all(practice.id)).map((one) => [one.id as string, one.name]));
    const lines = notes.flatMap((note) => {
      const client = clients.get(note.clientId);
      const text = `${plainText(linesOf(note.content.body, note.content))}\n${plainText(linesOf(note.content.takeHome))}`;
      if (!client || !holdsWords(text, words)) return [];
      const by = staff.get(note.author) ?? "";
      return [{ id: note.id, clientName: nameOf(client), at: note.createdAt, by, excerpt: excerptOf(text, words) }];
    });
    ctx.journal("note.find", "practice", { looked: notes.length });
    const more = notes.length === atOnce || lines.length > mostFound;
    return ok({
      lines: lines.slice(0, mostFound),
      looked: notes.length,
      before: more ? (lines[mostFound - 1]?.at ?? notes.at(-1)?.createdAt) : undefined,
    });
  },
});
function excerptOf(text: string, words: string): string {
  const [first = ""] = words.split(/\s+/);
  const at = Math.max(0, plainLetters(text).indexOf(plainLetters(first)));
  const from = Math.max(0, at - around);
  return `${from > 0 ? "…" : ""}${text.slice(from, at + first.length + around).replaceAll("\n", " ")}…`;
}
