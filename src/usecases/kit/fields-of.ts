import type { ChartField } from "../../core/chart";
import type { Context } from "./use-case";

/** Every chart field of the practice, retired ones too: what a chart can hold and a posting line can name. */
export const fieldsOf = async ({ repo, practice }: Pick<Context, "repo" | "practice">): Promise<ChartField[]> =>
  (await repo.chartFields.all(practice.id)).map((f) => f.field);
