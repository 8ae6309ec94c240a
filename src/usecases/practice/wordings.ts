import { mixed, object, string } from "yup";
import { checkWording, letterKinds, startingLetters, type LetterKind } from "../../core/messages";
import { fail, ok, type Instant, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export interface WordingLine {
  readonly kind: LetterKind;
  readonly way: "email" | "text";
  readonly language: string;
  readonly subject: string;
  readonly body: string;
  /** None for a starting wording. */
  readonly changed: { readonly at: Instant; readonly by: string } | undefined;
}
/** Every wording as it would be sent now. */
export const wordings = query({
  name: "wordings",
  access: "office.write",
  input: nothing,
  async run({ repo, practice }): Promise<Result<WordingLine[], never>> {
    const own = await repo.wordings.all(practice.id);
    return ok(
      letterKinds.flatMap((kind) =>
        Object.entries(startingLetters).flatMap(([language, letters]) =>
          (["email", "text"] as const).map((way): WordingLine => {
            const mine = own.find((w) => w.kind === kind && w.way === way && w.language === language);
            const { subject, body } = mine ?? letters[kind][way];
            return { kind, way, language, subject, body, changed: mine && { at: mine.updatedAt, by: mine.updatedBy } };
          }),
        ),
      ),
    );
  },
});

const which = object({
  kind: mixed<LetterKind>()
    .oneOf([...letterKinds])
    .required(),
  way: mixed<"email" | "text">().oneOf(["email", "text"]).required(),
  language: string().oneOf(Object.keys(startingLetters)).required(),
});
/** Keeps a practice's own wording, if it can be sent. Letters that are out stay as they are. */
export const saveWording = command({
  name: "save-wording",
  access: "office.write",
  input: which.concat(
    object({
      subject: string().max(200, "That is long for a subject.").default(""),
      body: string().max(5000).default(""),
    }),
  ),
  async run(ctx, { kind, way, language, subject, body }): Promise<Result<null, CommonError>> {
    const checked = checkWording(kind, way, { subject, body });
    if (!checked.ok) return fail({ reason: "invalid", fields: { [checked.error.field]: checked.error.message } });
    await ctx.repo.wordings.set({
      practiceId: ctx.practice.id,
      kind,
      way,
      language,
      subject: way === "email" ? subject : "",
      body,
      updatedAt: ctx.now,
      updatedBy: ctx.actor.name,
    });
    ctx.journal("wording.save", "practice", { kind, way, language });
    return ok(null);
  },
});
export const resetWording = command({
  name: "reset-wording",
  access: "office.write",
  input: which,
  async run(ctx, { kind, way, language }): Promise<Result<null, CommonError>> {
    await ctx.repo.wordings.drop(ctx.practice.id, kind, way, language);
    ctx.journal("wording.reset", "practice", { kind, way, language });
    return ok(null);
  },
});
