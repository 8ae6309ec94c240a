import { fail, ok, type Id, type LibraryRight, type Result } from "../../core/shared";
import type { SharedRow } from "../../db/repositories";
import { libraryRight } from "./access";
import type { StaffActor } from "./actor";
import { notFound, type CommonError, type Context } from "./use-case";

export interface Reached extends SharedRow {
  readonly right: LibraryRight;
}
/** A questionnaire for somebody who wants to use or change it. To who may not even use it, it is not there. */
export async function questionnaireFor(
  { repo, practice, actor }: Context<StaffActor>,
  id: Id<"Questionnaire">,
  wants: "use" | "edit",
): Promise<Result<Reached, CommonError>> {
  const row = await repo.questionnaires.byId(practice.id, id, actor.id);
  const right = row ? libraryRight(actor, row) : "none";
  if (!row || right === "none") return notFound;
  return wants === "edit" && right !== "edit" ? fail({ reason: "not-allowed" }) : ok({ ...row, right });
}
