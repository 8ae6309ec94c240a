import { mixed, object, string } from 'yup';
import { builtInFields, postingProblems } from '../../core/chart';
import { readHandOff, writeQuestionnaire, type ImportProblem, type JsonObject } from '../../core/fhir';
import { canonicalText } from '../../core/signing';
import { fail, ok, type Id, type Result } from '../../core/shared';
import { command, inOrder, libraryRight, type CommonError } from '../kit';

export type ImportError = CommonError
  | { readonly reason: 'bad-file'; readonly problems: readonly ImportProblem[] }
  /** It is here already, otherwise: a new version of it, or a copy beside it? With a draft under way, a copy only. */
  | { readonly reason: 'here-already'; readonly id: Id<'Questionnaire'>; readonly title: string; readonly draftBy: string | undefined; readonly mayChange: boolean };

/** Equal in everything but the state and version number, which putting it in use sets. */
const sameContent = (a: JsonObject, b: JsonObject): boolean =>
  canonicalText({ ...a, status: '', version: '' }) === canonicalText({ ...b, status: '', version: '' });

/**
 * Takes in a questionnaire file as a draft, or says everything that is wrong with it and stores nothing. The same content
 * again changes nothing; other content under the same address is taken as said in `as`, and refused until
 * it is said. What somebody is writing is never written over.
 */
export const importQuestionnaire = command({
  name: 'import-questionnaire', access: 'library.write',
  input: object({ text: string().defined(), as: mixed<'new-version' | 'copy'>().oneOf(['new-version', 'copy']) }),
  async run(ctx, { text, as }): Promise<Result<{ id: Id<'Questionnaire'>; already: boolean }, ImportError>> {
    const { repo, practice, now, random, actor } = ctx;
    const read = readHandOff(text);
    if (!read.ok) return fail({ reason: 'bad-file', problems: read.error });
    const [given, ...older] = read.value;
    const lost = postingProblems(given, builtInFields);
    if (lost.length > 0) return fail({ reason: 'bad-file', problems: lost.map((p) => ({ path: 'item', linkId: p.linkId, problem: p.problem })) });
    const { title, kind } = given;
    const existing = await repo.questionnaires.byUrl(practice.id, given.url, actor.id);
    const right = existing ? libraryRight(actor, existing) : 'edit';
    const draft = existing && (await repo.questionnaires.draft(existing.id, true));
    if (existing) {
      const here = [...(draft ? [draft.fhir] : []), ...(await repo.questionnaires.versionsOf(existing.id)).map((v) => v.fhir)];
      if (right !== 'none' && here.some((fhir) => sameContent(fhir, writeQuestionnaire(given)))) {
        ctx.journal('questionnaire.import-repeated', `questionnaire:${existing.id}`);
        return ok({ id: existing.id, already: true });
      }
      if (as === undefined || (as === 'new-version' && (draft || right !== 'edit')))
        return fail({ reason: 'here-already', id: existing.id, title: right === 'none' ? title : existing.title, draftBy: right === 'none' ? undefined : draft?.updatedBy, mayChange: right === 'edit' });
    }
    const id = existing && as === 'new-version' ? existing.id : random.id<'Questionnaire'>();
    const url = existing && as === 'copy' ? `urn:uuid:${id}` : given.url;
    if (id !== existing?.id) {
      await repo.questionnaires.add({ id, practiceId: practice.id, url, title, kind, state: 'draft', inUse: null, createdAt: now });
      // Its past comes along; what is here already has a past of its own.
      await inOrder([...older].reverse().map((q, i) => ({ q, number: i + 1 })), ({ q, number }) =>
        repo.questionnaires.addVersion({ id: random.id<'Version'>(), questionnaireId: id, number, fhir: writeQuestionnaire({ ...q, url }), createdAt: now, createdBy: `${actor.name}, from a file` }));
    }
    const fhir = writeQuestionnaire({ ...given, url });
    await repo.questionnaires.startDraft({ questionnaireId: id, fhir, revision: random.id(), updatedAt: now, updatedBy: actor.name });
    ctx.journal('questionnaire.import', `questionnaire:${id}`, { as: as ?? 'new' });
    return ok({ id, already: false });
  },
});
