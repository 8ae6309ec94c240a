import type { MeasurePolicy } from "../../core/measures";
import { measurePolicySchema } from "../../core/forms";
import { ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export const measurePolicy = query({
  name: "measure-policy",
  access: "office.write",
  input: nothing,
  run: ({ practice }): Promise<Result<MeasurePolicy, CommonError>> => Promise.resolve(ok(practice.measures)),
});
export const setMeasurePolicy = command({
  name: "set-measure-policy",
  access: "office.write",
  input: measurePolicySchema,
  async run(ctx, { alertHours, checklist }): Promise<Result<null, CommonError>> {
    const lines = checklist
      .split("\n")
      .map((line) => line.trim())
      .filter((line) => line !== "");
    await ctx.repo.practices.setMeasures(ctx.practice.id, { alertHours, checklist: [...new Set(lines)] });
    ctx.journal("measures.policy", "practice");
    return ok(null);
  },
});
