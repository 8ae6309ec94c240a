import { array, mixed, object } from "yup";
import { libraryRights, ok, type LibraryRight, type Result } from "../../core/shared";
import { command, idInput, questionnaireFor, type CommonError } from "../kit";

const right = mixed<LibraryRight>().oneOf(libraryRights).required();
/**
 * Says who may use or change a questionnaire. Who says so never shuts themselves out. Packets under way are not
 * touched.
 */
export const shareQuestionnaire = command({
  name: "share-questionnaire",
  access: "library.write",
  input: object({
    id: idInput<"Questionnaire">(),
    everyone: right,
    shares: array(object({ staffId: idInput<"Staff">(), may: right }))
      .max(500)
      .required(),
  }),
  async run(ctx, { id, everyone, shares }): Promise<Result<null, CommonError>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    const staff = new Set((await ctx.repo.staff.all(ctx.practice.id)).map((s) => s.id));
    const wanted = new Map(
      shares.filter((s) => s.may !== "none" && staff.has(s.staffId)).map((s) => [s.staffId, s.may]),
    );
    if (ctx.actor.role !== "owner" && everyone !== "edit") wanted.set(ctx.actor.id, "edit");
    await ctx.repo.questionnaires.share(
      id,
      everyone,
      [...wanted].map(([staffId, may]) => ({ staffId, may })),
    );
    ctx.journal("questionnaire.share", `questionnaire:${id}`, { everyone, people: wanted.size });
    return ok(null);
  },
});
