import { readDraft } from "../../core/fhir";
import type { Questionnaire } from "../../core/questionnaire";
import { ok, type Id, type Result } from "../../core/shared";
import type { Draft, Version } from "../../db/repositories";
import { questionnaireFor, type CommonError, type Context, type Reached, type StaffActor } from "../kit";

export interface Current {
  readonly row: Reached;
  /** The draft where there is one, else the newest version. */
  readonly questionnaire: Questionnaire;
  readonly draft: Draft | undefined;
  /** Newest first. */
  readonly versions: readonly Version[];
}
/**
 * What a questionnaire is now, for somebody who wants to use or change it. @throws Error when what is stored does not
 * read: a bug, since only read ones are stored.
 */
export async function currentOf(
  ctx: Context<StaffActor>,
  id: Id<"Questionnaire">,
  wants: "use" | "edit" = "use",
): Promise<Result<Current, CommonError>> {
  const { repo } = ctx;
  const reached = await questionnaireFor(ctx, id, wants);
  if (!reached.ok) return reached;
  const row = reached.value;
  const draft = await repo.drafts.of(id);
  const versions = await repo.versions.ofQuestionnaire(id);
  if (!draft && versions[0])
    return ok({ row, draft, versions, questionnaire: await repo.versions.definition(versions[0].id) });
  const read = readDraft(draft?.fhir);
  if (!read.ok) throw new Error(`The draft of ${id} does not read.`);
  return ok({ row, draft, versions, questionnaire: read.value });
}
