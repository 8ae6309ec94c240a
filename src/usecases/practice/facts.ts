import { practiceFactsSchema } from "../../core/forms";
import { mainLanguage, ok, type Result } from "../../core/shared";
import { command, logoPath, nothing, query, type CommonError } from "../kit";
import { localeFor } from "./set-up";

/** What the practice is known by, on clients' pages, in letters and on papers. */
export interface PracticeFacts {
  readonly practiceName: string;
  readonly practiceEmail: string;
  readonly address: string;
  readonly country: string;
  readonly language: string;
  /** Where its own picture is; null where there is none. */
  readonly logo: string | null;
}
export const practiceFacts = query({
  name: "practice-facts",
  access: "own-account",
  input: nothing,
  async run({ practice }): Promise<Result<PracticeFacts, never>> {
    const { name, email, address, country, locale } = practice;
    return ok({
      practiceName: name,
      practiceEmail: email,
      address,
      country,
      language: mainLanguage(locale),
      logo: logoPath(practice),
    });
  },
});
/** Holds from the next page and the next letter on, on every process. */
export const savePracticeFacts = command({
  name: "save-practice-facts",
  access: "office.write",
  input: practiceFactsSchema,
  async run(ctx, facts): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setFacts(ctx.practice.id, {
      name: facts.practiceName,
      email: facts.practiceEmail,
      address: facts.address,
      country: facts.country,
      locale: localeFor(facts.language, facts.country),
    });
    ctx.journal("practice.facts", "practice", { country: facts.country, language: facts.language });
    return ok(null);
  },
});
