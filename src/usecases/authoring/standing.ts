import { array, object, string } from "yup";
import type { StandingLine } from "../../core/packet";
import { ok, type Id, type Result } from "../../core/shared";
import {
  command,
  idInput,
  inOrder,
  libraryRight,
  notFound,
  nothing,
  query,
  questionnaireFor,
  requestInput,
  type CommonError,
} from "../kit";

export interface StandingPackets {
  readonly list: readonly {
    readonly id: Id<"StandingPacket">;
    readonly title: string;
    readonly questionnaires: readonly StandingLine[];
    readonly visitTypes: readonly Id<"VisitType">[];
    readonly leaflets: readonly Id<"Leaflet">[];
  }[];
  /** What can stand in one: what is in use and this person may send. */
  readonly questionnaires: readonly {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly kind: string;
  }[];
  readonly visitTypes: readonly { readonly id: Id<"VisitType">; readonly name: string }[];
  readonly leaflets: readonly { readonly id: Id<"Leaflet">; readonly title: string }[];
}
export const standingPackets = query({
  name: "standing-packets",
  access: "library.read",
  input: nothing,
  async run({ repo, practice, actor }): Promise<Result<StandingPackets, never>> {
    const inUse = (await repo.questionnaires.all(practice.id, actor.id)).filter(
      (q) => q.state === "active" && libraryRight(actor, q) !== "none",
    );
    return ok({
      list: (await repo.standing.all(practice.id)).map(({ id, title, questionnaires, visitTypes, leaflets }) => ({
        id,
        title,
        questionnaires,
        visitTypes,
        leaflets,
      })),
      questionnaires: inUse.map(({ id, title, kind }) => ({ id, title, kind })),
      visitTypes: await repo.visitTypes.all(practice.id),
      leaflets: (await repo.leaflets.all(practice.id))
        .filter((l) => !l.retiredAt)
        .map(({ id, title }) => ({ id, title })),
    });
  },
});

/** Makes a standing packet or changes one. The page makes its id, so that pressing twice makes one. */
export const putStanding = command({
  name: "put-standing",
  access: "library.write",
  input: object({
    id: requestInput,
    title: string().trim().max(200, "That is long for a title.").required("Type a title."),
    questionnaireIds: array(idInput<"Questionnaire">()).min(1, "Choose at least one questionnaire.").max(20).required(),
    prefillIds: array(idInput<"Questionnaire">()).max(20).default([]),
    visitTypeIds: array(idInput<"VisitType">()).max(100).default([]),
    leafletIds: array(idInput<"Leaflet">()).max(20).default([]),
  }),
  async run(
    ctx,
    { id, title, questionnaireIds, prefillIds, visitTypeIds, leafletIds },
  ): Promise<Result<null, CommonError>> {
    const { repo, practice, now } = ctx;
    const reached = await inOrder(questionnaireIds, (q) => questionnaireFor(ctx, q, "use"));
    const types = await repo.visitTypes.all(practice.id);
    const sheets = await repo.leaflets.all(practice.id);
    if (
      reached.some((r) => !r.ok) ||
      !visitTypeIds.every((v) => types.some((t) => t.id === v)) ||
      !leafletIds.every((l) => sheets.some((s) => s.id === l))
    )
      return notFound;
    await repo.standing.put({
      id: id as Id<"StandingPacket">,
      practiceId: practice.id,
      title,
      questionnaires: [...new Set(questionnaireIds)].map((q) => ({ id: q, prefill: prefillIds.includes(q) })),
      visitTypes: visitTypeIds,
      leaflets: leafletIds,
      updatedAt: now,
    });
    ctx.journal("standing.put", "practice", { standing: id, questionnaires: questionnaireIds.length });
    return ok(null);
  },
});
export const removeStanding = command({
  name: "remove-standing",
  access: "library.write",
  input: object({ id: idInput<"StandingPacket">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.standing.remove(ctx.practice.id, id))) return notFound;
    ctx.journal("standing.remove", "practice", { standing: id });
    return ok(null);
  },
});
