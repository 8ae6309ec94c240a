import { array, mixed, object, string } from "yup";
import {
  chartSections,
  mostQuick,
  sectionsIn,
  startingQuick,
  type ChartField,
  type ChartLayout,
  type ChartSection,
} from "../../core/chart";
import { ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export interface ChartLayoutView {
  readonly sections: readonly ChartSection[];
  readonly hidden: readonly string[];
  readonly quick: readonly string[];
  readonly fields: readonly ChartField[];
}
/** How the practice's charts are laid out. */
export const chartLayout = query({
  name: "chart-layout",
  access: "library.read",
  input: nothing,
  async run({ repo, practice }): Promise<Result<ChartLayoutView, never>> {
    const layout = practice.chartLayout;
    return ok({
      sections: sectionsIn(layout),
      hidden: layout.hidden ?? [],
      quick: layout.quick ?? startingQuick,
      fields: (await repo.chartFields.all(practice.id)).filter((f) => !f.retired).map((f) => f.field),
    });
  },
});

const key = string().max(80).required();
/** Sections in their order, what is shown only where it holds something, and the facts at a chart's head. */
export const setChartLayout = command({
  name: "set-chart-layout",
  access: "office.write",
  input: object({
    sections: array(
      mixed<ChartSection>()
        .oneOf([...chartSections])
        .required(),
    )
      .max(chartSections.length)
      .required(),
    hidden: array(key).max(300).required(),
    quick: array(key).max(mostQuick, `At most ${mostQuick} facts stand at the head of a chart.`).required(),
  }),
  async run(ctx, { sections, hidden, quick }): Promise<Result<null, CommonError>> {
    const layout: ChartLayout = { sections: [...new Set(sections)], hidden, quick };
    await ctx.repo.practices.setChartLayout(ctx.practice.id, layout);
    ctx.journal("chart.layout", "practice", { hidden: hidden.length, quick: quick.length });
    return ok(null);
  },
});
