import { boolean, object } from "yup";
import { readDraft, writeQuestionnaire } from "../../core/fhir";
import { proof, type Finding } from "../../core/proof";
import { fail, ok, type Id, type Result } from "../../core/shared";
import {
  command,
  fieldsOf,
  idInput,
  notFound,
  questionnaireFor,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

export type PutInUseError = CommonError | { readonly reason: "proof"; readonly findings: readonly Finding[] };

/**
 * Makes an immutable version of the draft and puts it in use. Whoever calls it has seen that it may be changed. @param
 * material who agreed to an earlier one is to agree anew
 *
 * @returns undefined where there is no draft
 */
export async function useDraft(
  ctx: Context<StaffActor>,
  id: Id<"Questionnaire">,
  material = false,
): Promise<Result<{ version: number }, PutInUseError> | undefined> {
  const { repo, now, random, actor } = ctx;
  const draft = await repo.drafts.of(id, true);
  if (!draft) return undefined;
  const versions = await repo.versions.ofQuestionnaire(id);
  const read = readDraft(draft.fhir);
  if (!read.ok) throw new Error(`The draft of ${id} does not read.`);
  const errors = proof(read.value, await fieldsOf(ctx)).findings.filter((f) => f.level === "error");
  if (errors.length > 0) return fail({ reason: "proof", findings: errors });
  const number = (versions[0]?.number ?? 0) + 1;
  const known = versions.some((v) => v.fhir["version"] === read.value.version);
  const questionnaire = {
    ...read.value,
    status: "active" as const,
    version: known ? String(number) : read.value.version,
  };
  const versionId = random.id<"Version">();
  await repo.versions.add({
    id: versionId,
    questionnaireId: id,
    number,
    fhir: writeQuestionnaire(questionnaire),
    createdAt: now,
    createdBy: actor.name,
    material,
  });
  await repo.drafts.drop(id);
  await repo.questionnaires.update(id, {
    state: "active",
    inUse: versionId,
    title: questionnaire.title,
    kind: questionnaire.kind,
  });
  ctx.journal("questionnaire.in-use", `questionnaire:${id}`, { version: number });
  return ok({ version: number });
}

/**
 * Makes an immutable version of the draft and puts it in use, once Proof finds no error. Packets already sent stay on
 * theirs. Pressed again, or for a retired one without a draft, it puts the newest version in use.
 */
export const putInUse = command({
  name: "put-in-use",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">(), material: boolean().default(false) }),
  async run(ctx, { id, material }): Promise<Result<{ version: number }, PutInUseError>> {
    const { repo } = ctx;
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    const made = await useDraft(ctx, id, material);
    if (made) return made;
    const newest = (await repo.versions.ofQuestionnaire(id))[0];
    if (!newest) return notFound;
    await repo.questionnaires.update(id, { state: "active", inUse: newest.id });
    ctx.journal("questionnaire.in-use", `questionnaire:${id}`, { version: newest.number });
    return ok({ version: newest.number });
  },
});

/** Not offered any more when sending. Packets under way, and what was returned, stay as they are. */
export const retire = command({
  name: "retire",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    if (reached.value.state === "draft") return notFound;
    await ctx.repo.questionnaires.update(id, { state: "retired" });
    ctx.journal("questionnaire.retire", `questionnaire:${id}`);
    return ok(null);
  },
});

/** Deletes a draft that never was in use. */
export const removeDraft = command({
  name: "remove-draft",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError | { readonly reason: "was-in-use" }>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    if (reached.value.state !== "draft" || (await ctx.repo.versions.ofQuestionnaire(id)).length > 0)
      return fail({ reason: "was-in-use" });
    await ctx.repo.questionnaires.remove(id);
    ctx.journal("questionnaire.remove", `questionnaire:${id}`);
    return ok(null);
  },
});
