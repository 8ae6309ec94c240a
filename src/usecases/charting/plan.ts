import { array, boolean, mixed, number, object, string } from "yup";
import {
  emptyPlan,
  fieldByKey,
  planOf,
  remembered,
  usualRule,
  type ChartField,
  type PlanLine,
  type PlanReason,
  type PostingPlan,
} from "../../core/chart";
import { postingRules, type PostingRule, type PostingTarget, type Questionnaire } from "../../core/questionnaire";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { KeptPlan } from "../../db/repositories";
import {
  command,
  idInput,
  memoryOf,
  notFound,
  query,
  questionnaireFor,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

export interface PlanLineView {
  readonly linkId: string;
  readonly text: string;
  readonly kind: PlanLine["kind"];
  readonly target: PostingTarget | undefined;
  readonly why: PlanReason;
  readonly isNew: boolean;
  /** Keys of the fields it may go to. */
  readonly fits: readonly string[];
}
export interface PlanView {
  readonly questionnaireId: Id<"Questionnaire">;
  readonly title: string;
  /** Which of the two is shown. */
  readonly whose: "practice" | "own";
  /** It was kept at least once; before, it stands as it is proposed. */
  readonly kept: boolean;
  readonly revision: number;
  readonly updatedAt: Instant | undefined;
  readonly updatedBy: string | undefined;
  /** A variant of one's own. */
  readonly own: { readonly offered: boolean } | undefined;
  /** Variants that colleagues offer. */
  readonly offers: readonly { readonly id: Id<"PostingPlan">; readonly by: string; readonly at: Instant }[];
  readonly fields: readonly ChartField[];
  readonly lines: readonly PlanLineView[];
  readonly order: readonly string[];
  /** The practice's plan may be changed. */
  readonly mayChange: boolean;
}
export type PlanError = CommonError | { readonly reason: "no-version" | "plan-moved" | "wrong-field" };

interface Found {
  readonly definition: Questionnaire;
  readonly right: "use" | "edit";
  readonly fields: readonly ChartField[];
  /** Without the retired ones. */
  readonly offered: readonly ChartField[];
  readonly plans: readonly KeptPlan[];
  readonly all: readonly KeptPlan[];
}
async function find(ctx: Context<StaffActor>, id: Id<"Questionnaire">): Promise<Result<Found, PlanError>> {
  const row = await questionnaireFor(ctx, id, "use");
  if (!row.ok) return row;
  const versionId = row.value.inUse;
  if (!versionId) return fail({ reason: "no-version" });
  const all = await ctx.repo.chartFields.all(ctx.practice.id);
  return ok({
    definition: await ctx.repo.versions.definition(versionId),
    right: row.value.right === "edit" ? "edit" : "use",
    fields: all.map(({ field }) => field),
    offered: all.filter(({ retired }) => !retired).map(({ field }) => field),
    plans: await ctx.repo.postingPlans.of(id),
    all: await ctx.repo.postingPlans.all(ctx.practice.id, undefined),
  });
}
const ofPractice = (plans: readonly KeptPlan[]): KeptPlan | undefined => plans.find((plan) => plan.staffId === null);
const ofSelf = (plans: readonly KeptPlan[], { id }: StaffActor): KeptPlan | undefined =>
  plans.find((plan) => plan.staffId === id);

/** Where every line of a questionnaire goes in the chart, whole from the start. */
export const planView = query({
  name: "plan-view",
  access: "chart.post",
  input: object({ questionnaireId: idInput<"Questionnaire">(), whose: string().oneOf(["practice", "own"]).optional() }),
  async run(ctx, { questionnaireId, whose }): Promise<Result<PlanView, PlanError>> {
    const found = await find(ctx, questionnaireId);
    if (!found.ok) return found;
    const { definition, fields, offered, plans, all, right } = found.value;
    const own = ofSelf(plans, ctx.actor);
    const shown = whose ?? (own ? "own" : "practice");
    const kept = shown === "own" ? own : ofPractice(plans);
    // A variant begins as the practice's plan stands.
    const plan = kept?.plan ?? ofPractice(plans)?.plan ?? emptyPlan;
    const lines = planOf(definition, fields, plan, memoryOf(all), offered);
    const staff = await ctx.repo.staff.all(ctx.practice.id);
    return ok({
      questionnaireId,
      title: definition.title,
      whose: shown,
      kept: kept !== undefined,
      revision: kept?.revision ?? 0,
      updatedAt: kept?.updatedAt,
      updatedBy: kept?.updatedBy,
      own: own && { offered: own.offered },
      offers: plans
        .filter((one) => one.offered && one.staffId !== null && one.staffId !== ctx.actor.id)
        .map((one) => ({
          id: one.id,
          by: staff.find((member) => member.id === one.staffId)?.name ?? "",
          at: one.updatedAt,
        })),
      // A retired field stands where something still goes to it.
      fields: fields.filter(
        (field) => offered.includes(field) || lines.some((line) => line.target?.field === field.key),
      ),
      lines: lines.map(({ fits, ...line }) => ({ ...line, fits: offered.filter(fits).map((field) => field.key) })),
      order: plan.order,
      mayChange: right === "edit",
    });
  },
});

const lineInput = object({
  linkId: string().max(300).required(),
  /** Null: it stays in the return. */
  field: string().max(80).nullable().defined(),
  rule: mixed<PostingRule>()
    .oneOf([...postingRules])
    .optional(),
});
/**
 * Keeps what somebody moved, of the plan of the practice or of a variant of one's own; all else stays as it is proposed.
 */
export const keepPlan = command({
  name: "keep-plan",
  access: "chart.post",
  input: object({
    questionnaireId: idInput<"Questionnaire">(),
    whose: mixed<"practice" | "own">().oneOf(["practice", "own"]).required(),
    revision: number().integer().min(0).required(),
    lines: array(lineInput.required()).max(1000).required(),
    order: array(string().max(300).required()).max(1000).default([]),
  }),
  async run(ctx, { questionnaireId, whose, revision, lines, order }): Promise<Result<{ revision: number }, PlanError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const found = await find(ctx, questionnaireId);
    if (!found.ok) return found;
    const { definition, fields, offered, plans, all, right } = found.value;
    if (whose === "practice" && right !== "edit") return fail({ reason: "not-allowed" });
    const before = whose === "own" ? ofSelf(plans, ctx.actor) : ofPractice(plans);
    if ((before?.revision ?? 0) !== revision) return fail({ reason: "plan-moved" });
    const there = planOf(definition, fields, emptyPlan, {});
    const moved: Record<string, PostingTarget | null> = {};
    for (const { linkId, field: key, rule } of lines) {
      const line = there.find((one) => one.linkId === linkId);
      if (!line) continue;
      const field = key === null ? undefined : fieldByKey(key, fields);
      if (key !== null && (!field || !line.fits(field))) return fail({ reason: "wrong-field" });
      moved[linkId] = field ? { field: field.key, rule: rule ?? usualRule(field) } : null;
    }
    const plan: PostingPlan = { lines: moved, seen: there.map((line) => line.linkId), order };
    const row: KeptPlan = {
      id: before?.id ?? ctx.random.id<"PostingPlan">(),
      practiceId: ctx.practice.id,
      questionnaireId,
      staffId: whose === "own" ? ctx.actor.id : null,
      revision: revision + 1,
      plan,
      memory: remembered(planOf(definition, fields, plan, memoryOf(all), offered)),
      offered: before?.offered ?? false,
      updatedAt: ctx.now,
      updatedBy: ctx.actor.name,
    };
    await ctx.repo.postingPlans.put(row);
    ctx.journal("plan.keep", `questionnaire:${questionnaireId}`, { whose, moved: Object.keys(moved).length });
    return ok({ revision: row.revision });
  },
});

/** Lets colleagues take over one's variant, or no longer. */
export const offerPlan = command({
  name: "offer-plan",
  access: "chart.post",
  input: object({ questionnaireId: idInput<"Questionnaire">(), offered: boolean().required() }),
  async run(ctx, { questionnaireId, offered }): Promise<Result<null, PlanError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const found = await find(ctx, questionnaireId);
    if (!found.ok) return found;
    const own = ofSelf(found.value.plans, ctx.actor);
    if (!own) return notFound;
    await ctx.repo.postingPlans.put({ ...own, offered });
    ctx.journal("plan.offer", `questionnaire:${questionnaireId}`, { offered });
    return ok(null);
  },
});
/** Takes over a colleague's variant as one's own. */
export const takePlan = command({
  name: "take-plan",
  access: "chart.post",
  input: object({ questionnaireId: idInput<"Questionnaire">(), planId: idInput<"PostingPlan">() }),
  async run(ctx, { questionnaireId, planId }): Promise<Result<null, PlanError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const found = await find(ctx, questionnaireId);
    if (!found.ok) return found;
    const offer = found.value.plans.find((plan) => plan.id === planId && plan.offered && plan.staffId !== null);
    if (!offer) return notFound;
    const own = ofSelf(found.value.plans, ctx.actor);
    await ctx.repo.postingPlans.put({
      ...offer,
      id: own?.id ?? ctx.random.id<"PostingPlan">(),
      staffId: ctx.actor.id,
      revision: (own?.revision ?? 0) + 1,
      offered: false,
      updatedAt: ctx.now,
      updatedBy: ctx.actor.name,
    });
    ctx.journal("plan.take", `questionnaire:${questionnaireId}`, { from: offer.staffId ?? "" });
    return ok(null);
  },
});
/** One's variant goes; the practice's plan holds again. */
export const dropPlan = command({
  name: "drop-plan",
  access: "chart.post",
  input: object({ questionnaireId: idInput<"Questionnaire">() }),
  async run(ctx, { questionnaireId }): Promise<Result<null, PlanError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const found = await find(ctx, questionnaireId);
    if (!found.ok) return found;
    const own = ofSelf(found.value.plans, ctx.actor);
    if (own) await ctx.repo.postingPlans.drop(own.id);
    ctx.journal("plan.drop", `questionnaire:${questionnaireId}`);
    return ok(null);
  },
});
