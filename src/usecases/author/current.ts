import { readDraft } from '../../core/fhir';
import type { Questionnaire } from '../../core/questionnaire';
import type { Id } from '../../core/shared';
import type { Draft, QuestionnaireRow, Version } from '../../db/repositories';
import type { Context } from '../kit';

export interface Current {
  readonly row: QuestionnaireRow;
  /** The draft where there is one, else the newest version. */
  readonly questionnaire: Questionnaire;
  readonly draft: Draft | undefined;
  /** Newest first. */
  readonly versions: readonly Version[];
}
/** What a questionnaire is now; undefined when it is not there. @throws Error when what is stored does not read: a bug, since only read ones are stored. */
export async function currentOf({ repo, practice }: Context, id: Id<'Questionnaire'>): Promise<Current | undefined> {
  const row = await repo.questionnaires.byId(practice.id, id);
  if (!row) return undefined;
  const draft = await repo.questionnaires.draft(id);
  const versions = await repo.questionnaires.versionsOf(id);
  if (!draft && versions[0]) return { row, draft, versions, questionnaire: await repo.questionnaires.definition(versions[0].id) };
  const read = readDraft(draft?.fhir);
  if (!read.ok) throw new Error(`The draft of ${id} does not read.`);
  return { row, draft, versions, questionnaire: read.value };
}
