import { mixed, number, object } from 'yup';
import { newQuestionnaireSchema } from '../../core/forms';
import { readDraft, writeQuestionnaire, type ImportProblem } from '../../core/fhir';
import { emptyQuestionnaire, forClient, type Questionnaire } from '../../core/questionnaire';
import { starterLibrary } from '../../core/starter';
import { fail, ok, type Id, type Instant, type Result } from '../../core/shared';
import { command, idInput, notFound, nothing, query, type CommonError, type Context } from '../kit';

export interface ComposerView {
  readonly id: Id<'Questionnaire'>;
  readonly questionnaire: Questionnaire;
  /** 0 while nothing was changed since the version in use. */
  readonly revision: number;
  readonly savedAt: Instant | undefined;
  readonly savedBy: string | undefined;
  readonly inUseNumber: number | undefined;
}

/** The draft, or where there is none the newest version to start one from. */
async function current(ctx: Context, id: Id<'Questionnaire'>): Promise<ComposerView | undefined> {
  const { repo, practice } = ctx;
  const row = await repo.questionnaires.byId(practice.id, id);
  if (!row) return undefined;
  const draft = await repo.questionnaires.draft(id);
  const versions = await repo.questionnaires.versionsOf(id);
  const fhir = draft?.fhir ?? versions[0]?.fhir;
  const read = readDraft(fhir);
  if (!read.ok) throw new Error(`The draft of ${id} does not read.`);
  return { id, questionnaire: read.value, revision: draft?.revision ?? 0, savedAt: draft?.updatedAt, savedBy: draft?.updatedBy, inUseNumber: versions.find((v) => v.id === row.inUse)?.number };
}

export const composerView = query({
  name: 'composer-view', access: 'library.write', input: object({ id: idInput<'Questionnaire'>() }),
  async run(ctx, { id }): Promise<Result<ComposerView, CommonError>> {
    const view = await current(ctx, id);
    return view ? ok(view) : notFound;
  },
});

/** What a client would see of it: the draft where there is one. A look only; nothing of it is kept. */
export const rehearsal = query({
  name: 'rehearsal', access: 'library.read', input: object({ id: idInput<'Questionnaire'>() }),
  async run(ctx, { id }): Promise<Result<{ id: Id<'Questionnaire'>; title: string; questionnaire: Questionnaire }, CommonError>> {
    const view = await current(ctx, id);
    return view ? ok({ id, title: view.questionnaire.title, questionnaire: forClient(view.questionnaire) }) : notFound;
  },
});

export type SaveDraftError = CommonError
  | { readonly reason: 'malformed'; readonly problems: readonly ImportProblem[] }
  /** Somebody else saved in between; nothing of theirs was overwritten and nothing of this was stored. */
  | { readonly reason: 'changed'; readonly by: string; readonly at: Instant };

/** Saves a draft as a FHIR Questionnaire that may be unfinished. `revision` is the one it was made from. */
export const saveDraft = command({
  name: 'save-draft', access: 'library.write',
  input: object({ id: idInput<'Questionnaire'>(), revision: number().integer().min(0).required(), fhir: mixed<NonNullable<unknown>>().required() }),
  async run(ctx, { id, revision, fhir }): Promise<Result<{ revision: number; savedAt: Instant }, SaveDraftError>> {
    const { repo, practice, now, actor } = ctx;
    const row = await repo.questionnaires.byId(practice.id, id);
    if (!row) return notFound;
    const read = readDraft(fhir);
    if (!read.ok) return fail({ reason: 'malformed', problems: read.error });
    // Its address is what packets, exports and imports know it by: not for a browser to change.
    const saved = await repo.questionnaires.saveDraft(id, revision, { fhir: writeQuestionnaire({ ...read.value, url: row.url }), updatedAt: now, updatedBy: actor.name });
    if (!saved) {
      const theirs = await repo.questionnaires.draft(id);
      return fail({ reason: 'changed', by: theirs?.updatedBy ?? 'somebody', at: theirs?.updatedAt ?? now });
    }
    if (row.inUse === null) await repo.questionnaires.update(id, { title: read.value.title || 'Untitled', kind: read.value.kind });
    ctx.journal('questionnaire.draft-save', `questionnaire:${id}`, { revision: revision + 1 });
    return ok({ revision: revision + 1, savedAt: now });
  },
});

export const newQuestionnaire = command({
  name: 'new-questionnaire', access: 'library.write', input: newQuestionnaireSchema,
  async run(ctx, { title, kind }): Promise<Result<{ id: Id<'Questionnaire'> }, CommonError>> {
    const id = ctx.random.id<'Questionnaire'>();
    return addWithDraft(ctx, id, emptyQuestionnaire(`urn:uuid:${id}`, title, kind, ctx.random.id().slice(0, 8)), 'new');
  },
});

/** A copy with an address of its own: changing it never changes the other. */
export const duplicate = command({
  name: 'duplicate-questionnaire', access: 'library.write', input: object({ id: idInput<'Questionnaire'>() }),
  async run(ctx, { id: from }): Promise<Result<{ id: Id<'Questionnaire'> }, CommonError>> {
    const view = await current(ctx, from);
    if (!view) return notFound;
    const id = ctx.random.id<'Questionnaire'>();
    return addWithDraft(ctx, id, { ...view.questionnaire, url: `urn:uuid:${id}`, version: '1', title: `Copy of ${view.questionnaire.title}`, status: 'draft' }, 'copy');
  },
});

async function addWithDraft(ctx: Context & { readonly actor: { readonly name: string } }, id: Id<'Questionnaire'>, questionnaire: Questionnaire, how: string): Promise<Result<{ id: Id<'Questionnaire'> }, never>> {
  const { repo, practice, now, actor } = ctx;
  await repo.questionnaires.add({ id, practiceId: practice.id, url: questionnaire.url, title: questionnaire.title, kind: questionnaire.kind, state: 'draft', inUse: null, createdAt: now });
  await repo.questionnaires.saveDraft(id, 0, { fhir: writeQuestionnaire(questionnaire), updatedAt: now, updatedBy: actor.name });
  ctx.journal('questionnaire.make', `questionnaire:${id}`, { how });
  return ok({ id });
}

/** Brings in what is missing of the starter library, as drafts. Pressed again, it brings nothing twice. */
export const bringStarters = command({
  name: 'bring-starters', access: 'library.write', input: nothing,
  async run(ctx): Promise<Result<{ brought: number }, CommonError>> {
    const here = new Set((await ctx.repo.questionnaires.all(ctx.practice.id)).map((q) => q.url));
    const missing = starterLibrary.filter((q) => !here.has(q.url));
    for (const q of missing) await addWithDraft(ctx, ctx.random.id<'Questionnaire'>(), q, 'starter');
    if (missing.length === 0) ctx.journal('questionnaire.starters-repeated', 'practice');
    return ok({ brought: missing.length });
  },
});

/** Throws the draft away: back to the newest version. */
export const dropDraft = command({
  name: 'drop-draft', access: 'library.write', input: object({ id: idInput<'Questionnaire'>() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    const row = await ctx.repo.questionnaires.byId(ctx.practice.id, id);
    if (!row || row.inUse === null) return notFound;
    await ctx.repo.questionnaires.dropDraft(id);
    ctx.journal('questionnaire.draft-drop', `questionnaire:${id}`);
    return ok(null);
  },
});
