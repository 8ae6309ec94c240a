import { practiceDefaultsSchema } from "../../core/forms";
import { ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export interface PracticeDefaults {
  /** How long a link is open, unless another day is chosen. */
  readonly linkDays: number;
  readonly zone: string;
  /** As tags, in the order they are offered. */
  readonly languages: readonly string[];
}
export const practiceDefaults = query({
  name: "practice-defaults",
  access: "day.read",
  input: nothing,
  async run({ practice: { linkDays, zone, languages } }): Promise<Result<PracticeDefaults, never>> {
    return ok({ linkDays, zone, languages });
  },
});
/** Holds from now on; what is out keeps its day. */
export const savePracticeDefaults = command({
  name: "save-practice-defaults",
  access: "office.write",
  input: practiceDefaultsSchema,
  async run(ctx, defaults): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setDefaults(ctx.practice.id, defaults);
    ctx.journal("practice.defaults", "practice", {
      linkDays: defaults.linkDays,
      zone: defaults.zone,
      languages: defaults.languages.join(" "),
    });
    return ok(null);
  },
});
