import { object } from "yup";
import type { RecordPaper } from "../../adapters/record-paper";
import { chartSectionTitles, nameOf, sectionsIn, standingIn, type Dated } from "../../core/chart";
import { dateWords } from "../../core/questionnaire";
import { dateFormat, instantMs, ok, type Result } from "../../core/shared";
import { command, fieldsOf, idInput, letterhead, notFound, type CommonError } from "../kit";
import { chartOn, onInput } from "./chart-on";

/** What stands in the chart, now or as it was on a day, as a paper to read. */
export const chartPaper = command({
  name: "chart-paper",
  access: "export",
  input: object({ clientId: idInput<"Client">(), on: onInput }),
  async run(ctx, { clientId, on }): Promise<Result<RecordPaper, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const { locale, zone } = practice;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    const chart = chartOn(await repo.charts.entries(clientId), on, zone);
    const fields = await fieldsOf(ctx);
    const day = dateFormat(locale, { dateStyle: "medium", timeZone: zone });
    const beside = ({ at, by, source }: Dated<unknown>): string =>
      `${day.format(instantMs(at))}, ${by}: ${source.kind === "answer" ? source.questionnaire : source.reason}`;
    ctx.journal("chart.export", `client:${clientId}`, { as: "pdf" });
    return ok({
      ...(await letterhead(ctx)),
      title: `Chart of ${nameOf(client)}${on === undefined ? "" : `, as it was on ${dateWords(on, locale)}`}`,
      person: nameOf(client),
      madeAt: now,
      madeBy: actor.name,
      zone,
      locale,
      sections: sectionsIn(practice.chartLayout).flatMap((section) => {
        const lines = fields
          .filter((field) => field.section === section)
          .flatMap((field) =>
            standingIn(chart, field).map(({ text, dated }) => ({ label: field.label, text, beside: beside(dated) })),
          );
        return lines.length === 0 ? [] : [{ title: chartSectionTitles[section], nothing: "", lines }];
      }),
    });
  },
});
