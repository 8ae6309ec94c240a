import { foldChart, prefillFrom } from "../../core/chart";
import type { Id } from "../../core/shared";
import { fieldsOf, plansOf, type Context } from "../kit";

interface Begun {
  readonly id: Id<"Part">;
  readonly versionId: Id<"Version">;
  readonly prefill: boolean;
}
/** Begins those parts that ask for it with what is on file. */
export async function beginWithChart(ctx: Context, clientId: Id<"Client">, parts: readonly Begun[]): Promise<void> {
  const { repo, now } = ctx;
  const begun = parts.filter((p) => p.prefill);
  if (begun.length === 0) return;
  const chart = foldChart(await repo.charts.entries(clientId));
  const fields = await fieldsOf(ctx);
  const plans = await plansOf(ctx);
  for (const { id, versionId } of begun) {
    const definition = await repo.versions.definition(versionId);
    const planned = plans(await repo.versions.questionnaireOf(versionId), definition);
    await repo.answers.prefill(id, prefillFrom(planned.questionnaire, chart, fields), now);
  }
}
