import { object, string } from "yup";
import { writeXliff } from "../../core/xliff";
import { isLanguageTag, ok, type Result } from "../../core/shared";
import { command, idInput, type CommonError } from "../kit";
import { currentOf } from "./current";

const languageInput = string()
  .max(35)
  .test("language", "Choose a language.", (tag) => tag === undefined || isLanguageTag(tag))
  .required();

/** Every text of the draft (or newest version) with its translation so far, for somebody who translates elsewhere. */
export const exportXliff = command({
  name: "export-xliff",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">(), language: languageInput }),
  async run(
    ctx,
    { id, language },
  ): Promise<Result<{ readonly xliff: string; readonly language: string }, CommonError>> {
    const now = await currentOf(ctx, id);
    if (!now.ok) return now;
    ctx.journal("questionnaire.xliff-export", `questionnaire:${id}`, { language });
    return ok({ xliff: writeXliff(now.value.questionnaire, language), language });
  },
});
