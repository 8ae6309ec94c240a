import { and, desc, eq } from 'drizzle-orm';
import { readQuestionnaire } from '../../core/fhir';
import type { Questionnaire } from '../../core/questionnaire';
import type { Id, Instant } from '../../core/shared';
import type { Db } from '../database';
import { questionnaire, questionnaireVersion } from '../schema';

export interface Version {
  readonly id: Id<'Version'>;
  readonly questionnaireId: Id<'Questionnaire'>;
  readonly number: number;
  readonly fhir: Record<string, unknown>;
  readonly createdAt: Instant;
  readonly createdBy: string;
}
export type QuestionnaireRow = typeof questionnaire.$inferSelect;

// Versions never change, so what was parsed once stays right for as long as the process lives.
const parsed = new Map<string, Questionnaire>();
const parsedMost = 500;

export const questionnaireRepository = (db: Db) => ({
  async all(practiceId: Id<'Practice'>): Promise<(QuestionnaireRow & { versions: number })[]> {
    const rows = await db.select().from(questionnaire).where(eq(questionnaire.practiceId, practiceId)).orderBy(questionnaire.title);
    const numbers = await db.select({ id: questionnaireVersion.questionnaireId, number: questionnaireVersion.number }).from(questionnaireVersion);
    return rows.map((r) => ({ ...r, versions: Math.max(0, ...numbers.filter((n) => n.id === r.id).map((n) => n.number)) }));
  },
  async byId(practiceId: Id<'Practice'>, id: Id<'Questionnaire'>): Promise<QuestionnaireRow | undefined> {
    return (await db.select().from(questionnaire).where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.id, id))))[0];
  },
  async byUrl(practiceId: Id<'Practice'>, url: string): Promise<QuestionnaireRow | undefined> {
    return (await db.select().from(questionnaire).where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.url, url))).for('update'))[0];
  },
  async add(row: QuestionnaireRow): Promise<void> {
    await db.insert(questionnaire).values(row);
  },
  async update(id: Id<'Questionnaire'>, set: Partial<Pick<QuestionnaireRow, 'state' | 'title' | 'kind' | 'inUse'>>): Promise<void> {
    await db.update(questionnaire).set(set).where(eq(questionnaire.id, id));
  },
  async addVersion(row: Version): Promise<void> {
    await db.insert(questionnaireVersion).values(row);
  },
  async versionsOf(id: Id<'Questionnaire'>): Promise<Version[]> {
    return db.select().from(questionnaireVersion).where(eq(questionnaireVersion.questionnaireId, id)).orderBy(desc(questionnaireVersion.number));
  },
  async version(practiceId: Id<'Practice'>, id: Id<'Version'>): Promise<Version | undefined> {
    const [row] = await db.select({ version: questionnaireVersion }).from(questionnaireVersion)
      .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId)).where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaireVersion.id, id)));
    return row?.version;
  },
  /** The parsed definition of a version. @throws Error when a stored version no longer reads: a bug, since only read ones are stored. */
  async definition(id: Id<'Version'>): Promise<Questionnaire> {
    const known = parsed.get(id);
    if (known) return known;
    const [row] = await db.select({ fhir: questionnaireVersion.fhir }).from(questionnaireVersion).where(eq(questionnaireVersion.id, id));
    const read = readQuestionnaire(row?.fhir);
    if (!read.ok) throw new Error(`Stored version ${id} does not read.`);
    if (parsed.size >= parsedMost) parsed.clear();
    parsed.set(id, read.value);
    return read.value;
  },
});
