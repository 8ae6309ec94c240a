import { planOf, withPlan, type ChartField, type PlanLine, type PlanMemory, type PostingPlan } from "../../core/chart";
import type { Questionnaire } from "../../core/questionnaire";
import type { Id } from "../../core/shared";
import type { KeptPlan } from "../../db/repositories";
import type { Context } from "./use-case";

/** A questionnaire whose lines go where the plan says. */
export interface Planned {
  readonly questionnaire: Questionnaire;
  readonly lines: readonly PlanLine[];
  /** LinkIds in the order in which answers that share a narrative are told. */
  readonly order: readonly string[];
}
export type Plans = (id: Id<"Questionnaire">, definition: Questionnaire) => Planned;

export const memoryOf = (plans: readonly KeptPlan[]): PlanMemory =>
  Object.assign({}, ...plans.filter((plan) => plan.staffId === null).map((plan) => plan.memory)) as PlanMemory;
/** The plan that holds for somebody: their variant, else the practice's. */
export const planHolding = (plans: readonly KeptPlan[], id: Id<"Questionnaire">): PostingPlan | undefined => {
  const own = plans.filter((plan) => plan.questionnaireId === id);
  return (own.find((plan) => plan.staffId !== null) ?? own[0])?.plan;
};
/** The plans as they hold for whoever acts; read once for many questionnaires. */
export async function plansOf(ctx: Pick<Context, "repo" | "practice" | "actor">): Promise<Plans> {
  const { repo, practice, actor } = ctx;
  const all = await repo.chartFields.all(practice.id);
  const fields: readonly ChartField[] = all.map(({ field }) => field);
  const offered = all.filter(({ retired }) => !retired).map(({ field }) => field);
  const plans = await repo.postingPlans.all(practice.id, actor.kind === "staff" ? actor.id : undefined);
  const memory = memoryOf(plans);
  return (id, definition) => {
    const plan = planHolding(plans, id);
    const lines = planOf(definition, fields, plan, memory, offered);
    return { questionnaire: withPlan(definition, lines, fields), lines, order: plan?.order ?? [] };
  };
}
