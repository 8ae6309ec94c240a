import { boolean, object, string } from "yup";
import {
  columnsOf,
  fieldLabelSchema,
  keyFor,
  newFieldSchema,
  ownField,
  type ChartSection,
  type OwnFieldKind,
} from "../../core/chart";
import { ok, type Result } from "../../core/shared";
import type { PracticeField } from "../../db/repositories";
import { command, notFound, nothing, query, requestInput, type CommonError } from "../kit";

/** The practice's own chart fields, in the order they were added. */
export const chartFields = query({
  name: "chart-fields",
  access: "library.read",
  input: nothing,
  async run({ repo, practice }): Promise<Result<PracticeField[], never>> {
    return ok((await repo.chartFields.all(practice.id)).filter((f) => f.own));
  },
});

export const addChartField = command({
  name: "add-chart-field",
  access: "office.write",
  input: newFieldSchema.concat(object({ requestId: requestInput })),
  async run(ctx, { requestId, label, section, kind, columns }): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const taken = new Set((await ctx.repo.chartFields.all(ctx.practice.id)).map((f) => f.field.key));
    const field = ownField(
      keyFor(label, taken),
      label,
      section as ChartSection,
      kind as OwnFieldKind,
      columnsOf(columns),
    );
    const fresh = await ctx.repo.chartFields.add({
      practiceId: ctx.practice.id,
      key: field.key,
      requestId,
      field,
      createdAt: ctx.now,
    });
    ctx.journal(fresh ? "chart-field.add" : "chart-field.add-repeated", "practice", { field: field.key });
    return ok(null);
  },
});

const own = object({ key: string().max(80).required() });
/** Calls it otherwise. What it holds, and the posting lines that lead to it, stay. */
export const renameChartField = command({
  name: "rename-chart-field",
  access: "office.write",
  input: own.concat(fieldLabelSchema),
  async run(ctx, { key, label }): Promise<Result<null, CommonError>> {
    const found = (await ctx.repo.chartFields.all(ctx.practice.id)).find((f) => f.own && f.field.key === key);
    if (!found) return notFound;
    await ctx.repo.chartFields.update(ctx.practice.id, key, { field: { ...found.field, label } });
    ctx.journal("chart-field.rename", "practice", { field: key });
    return ok(null);
  },
});
/**
 * Retired, it is not offered to new questions; those that post to it still do, and charts still show what they hold.
 */
export const retireChartField = command({
  name: "retire-chart-field",
  access: "office.write",
  input: own.concat(object({ retired: boolean().required() })),
  async run(ctx, { key, retired }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.chartFields.update(ctx.practice.id, key, { retiredAt: retired ? ctx.now : null })))
      return notFound;
    ctx.journal(retired ? "chart-field.retire" : "chart-field.bring-back", "practice", { field: key });
    return ok(null);
  },
});
