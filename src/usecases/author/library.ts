import { object, string } from 'yup';
import { builtInFields, fieldByKey, postingProblems } from '../../core/chart';
import { readQuestionnaireText, writeQuestionnaire, type ImportProblem, type JsonObject } from '../../core/fhir';
import { allItems, forClient, isQuestion, sectionsOf, type Questionnaire, type QuestionnaireKind } from '../../core/questionnaire';
import { canonicalText } from '../../core/signing';
import { fail, ok, type Id, type Instant, type Result } from '../../core/shared';
import { command, idInput, notFound, nothing, query, type CommonError } from '../kit';

export interface LibraryLine {
  readonly id: Id<'Questionnaire'>;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  readonly state: 'draft' | 'active' | 'retired';
  readonly versions: number;
}
export const library = query({
  name: 'library', access: 'library.read', input: nothing,
  async run({ repo, practice }): Promise<Result<LibraryLine[], never>> {
    return ok((await repo.questionnaires.all(practice.id)).map(({ id, title, kind, state, versions }) => ({ id, title, kind, state, versions })));
  },
});

export type ImportError = CommonError | { readonly reason: 'bad-file'; readonly problems: readonly ImportProblem[] };

/**
 * Takes in a questionnaire file as a draft version, or says everything that is wrong with it and stores nothing.
 * The same content again changes nothing.
 */
export const importQuestionnaire = command({
  name: 'import-questionnaire', access: 'library.write', input: object({ text: string().defined() }),
  async run(ctx, { text }): Promise<Result<{ id: Id<'Questionnaire'>; already: boolean }, ImportError>> {
    const { repo, practice, now, random, actor } = ctx;
    const read = readQuestionnaireText(text);
    if (!read.ok) return fail({ reason: 'bad-file', problems: read.error });
    const lost = postingProblems(read.value, builtInFields);
    if (lost.length > 0) return fail({ reason: 'bad-file', problems: lost.map((p) => ({ path: 'item', linkId: p.linkId, problem: p.problem })) });
    const { url, title, kind } = read.value;
    const fhir = writeQuestionnaire(read.value);
    const existing = await repo.questionnaires.byUrl(practice.id, url);
    const versions = existing ? await repo.questionnaires.versionsOf(existing.id) : [];
    if (existing && versions.some((v) => canonicalText(v.fhir) === canonicalText(fhir))) {
      ctx.journal('questionnaire.import-repeated', `questionnaire:${existing.id}`);
      return ok({ id: existing.id, already: true });
    }
    const id = existing?.id ?? random.id<'Questionnaire'>();
    if (existing) await repo.questionnaires.update(id, { title, kind });
    else await repo.questionnaires.add({ id, practiceId: practice.id, url, title, kind, state: 'draft', inUse: null, createdAt: now });
    await repo.questionnaires.addVersion({ id: random.id<'Version'>(), questionnaireId: id, number: (versions[0]?.number ?? 0) + 1, fhir, createdAt: now, createdBy: actor.name });
    ctx.journal('questionnaire.import', `questionnaire:${id}`, { version: (versions[0]?.number ?? 0) + 1 });
    return ok({ id, already: false });
  },
});

/** Puts the newest version in use. Packets already sent stay on theirs. */
export const putInUse = command({
  name: 'put-in-use', access: 'library.write', input: object({ id: idInput<'Questionnaire'>() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    const { repo, practice } = ctx;
    if (!(await repo.questionnaires.byId(practice.id, id))) return notFound;
    const newest = (await repo.questionnaires.versionsOf(id))[0];
    if (!newest) return notFound;
    await repo.questionnaires.update(id, { state: 'active', inUse: newest.id });
    ctx.journal('questionnaire.in-use', `questionnaire:${id}`, { version: newest.number });
    return ok(null);
  },
});

export interface ContentLine {
  readonly linkId: string;
  readonly depth: number;
  readonly text: string;
  readonly type: string;
  readonly required: boolean;
  readonly shownWhen: string | undefined;
  readonly goesTo: string | undefined;
  readonly marks: readonly string[];
}
export interface QuestionnaireView {
  readonly id: Id<'Questionnaire'>;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  readonly state: 'draft' | 'active' | 'retired';
  readonly description: string;
  readonly copyright: string;
  readonly signed: boolean;
  readonly questions: number;
  readonly sections: number;
  readonly newest: { readonly versionId: Id<'Version'>; readonly number: number; readonly at: Instant; readonly by: string; readonly inUse: boolean };
  readonly inUseNumber: number | undefined;
  readonly lines: readonly ContentLine[];
  readonly scores: readonly { readonly title: string; readonly bands: readonly { readonly low: number; readonly high: number; readonly label: string; readonly source: string }[] }[];
}
/** What a questionnaire's newest version contains. */
export const questionnaireView = query({
  name: 'questionnaire-view', access: 'library.read', input: object({ id: idInput<'Questionnaire'>() }),
  async run({ repo, practice }, { id }): Promise<Result<QuestionnaireView, CommonError>> {
    const row = await repo.questionnaires.byId(practice.id, id);
    const versions = row ? await repo.questionnaires.versionsOf(id) : [];
    const newest = versions[0];
    if (!row || !newest) return notFound;
    const q = await repo.questionnaires.definition(newest.id);
    const questions = allItems(q).filter(isQuestion);
    return ok({
      id, title: q.title, kind: q.kind, state: row.state, description: q.description ?? '', copyright: q.copyright ?? '', signed: q.signed,
      questions: questions.filter((i) => !i.score).length, sections: sectionsOf(forClient(q)).length,
      newest: { versionId: newest.id, number: newest.number, at: newest.createdAt, by: newest.createdBy, inUse: row.inUse === newest.id },
      inUseNumber: versions.find((v) => v.id === row.inUse)?.number, lines: contentLines(q),
      scores: questions.flatMap((i) => (i.score ? [{ title: i.text, bands: i.score.bands }] : [])),
    });
  },
});

function contentLines(q: Questionnaire): ContentLine[] {
  const textOfQuestion = new Map(allItems(q).map((i) => [i.linkId, i.text]));
  const out: ContentLine[] = [];
  const visit = (items: Questionnaire['items'], depth: number): void => {
    for (const item of items) {
      const posting = item.type === 'display' ? undefined : item.posting;
      const marks = [
        ...(item.type === 'group' && item.repeats ? ['repeats'] : []), ...(isQuestion(item) && item.options.length > 0 ? [`${item.options.length} options`] : []),
        ...(isQuestion(item) && item.score ? ['score'] : []), ...(isQuestion(item) && item.alert ? ['alert'] : []),
        ...item.codes.flatMap((c) => (c.system === 'http://loinc.org' && c.code ? [`LOINC ${c.code}`] : [])),
      ];
      out.push({
        linkId: item.linkId, depth, text: item.text, type: item.type, required: item.type !== 'display' && item.required,
        shownWhen: item.shownWhen && item.shownWhen.conditions.map((c) =>
          `“${textOfQuestion.get(c.question) ?? c.question}” ${c.operator === 'exists' ? (c.answer.type === 'boolean' && c.answer.value ? 'is answered' : 'is not answered') : `${operatorWords[c.operator]} ${valueWords(c.answer)}`}`)
          .join(item.shownWhen.behavior === 'all' ? ' and ' : ' or '),
        goesTo: posting && (fieldByKey(posting.field)?.label ?? posting.field), marks,
      });
      if (item.type !== 'display') visit(item.items, depth + 1);
    }
  };
  visit(q.items, 0);
  return out;
}
const operatorWords = { '=': 'is', '!=': 'is not', '>': 'is more than', '<': 'is less than', '>=': 'is at least', '<=': 'is at most' } as const;
const valueWords = (v: { type: string; value: unknown }): string =>
  typeof v.value === 'boolean' ? (v.value ? 'yes' : 'no') : typeof v.value === 'object' && v.value !== null && 'display' in v.value ? String(v.value.display) : String(v.value);

/** A questionnaire version as FHIR, equal in meaning to what was imported. */
export const exportQuestionnaire = command({
  name: 'export-questionnaire', access: 'library.read', input: object({ versionId: idInput<'Version'>() }),
  async run(ctx, { versionId }): Promise<Result<JsonObject, CommonError>> {
    if (!(await ctx.repo.questionnaires.version(ctx.practice.id, versionId))) return notFound;
    ctx.journal('questionnaire.export', `version:${versionId}`);
    return ok(writeQuestionnaire(await ctx.repo.questionnaires.definition(versionId)));
  },
});
