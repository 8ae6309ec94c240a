import { and, desc, eq, gt, inArray, lte } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { readQuestionnaire } from "../../core/fhir";
import type { Questionnaire } from "../../core/questionnaire";
import { type Id, type Instant } from "../../core/shared";
import type { Db } from "../database";
import { questionnaire, questionnaireVersion } from "../schema";

export interface Version {
  readonly id: Id<"Version">;
  readonly questionnaireId: Id<"Questionnaire">;
  readonly number: number;
  readonly fhir: Record<string, unknown>;
  readonly createdAt: Instant;
  readonly createdBy: string;
  /** Who agreed to an earlier one has to agree anew. */
  readonly material: boolean;
}

// Versions never change, so what was parsed once stays right for as long as the process lives.
const parsed = new Map<string, Questionnaire>();
const parsedMost = 500;
/** Versions that were put in use. None ever changes. */
export const versionRepository = (db: Db) => {
  return {
    async add(row: Version): Promise<void> {
      await db.insert(questionnaireVersion).values(row);
    },

    async ofQuestionnaire(id: Id<"Questionnaire">): Promise<Version[]> {
      return db
        .select()
        .from(questionnaireVersion)
        .where(eq(questionnaireVersion.questionnaireId, id))
        .orderBy(desc(questionnaireVersion.number));
    },

    /** A later version than this one is in use, and one of those since changed the text materially. */
    async changedMateriallySince(id: Id<"Version">): Promise<boolean> {
      return (await this.outdated()).has(id);
    },
    /** Every version whose text was changed materially since, up to the one in use. */
    async outdated(): Promise<Set<Id<"Version">>> {
      const later = alias(questionnaireVersion, "later");
      const used = alias(questionnaireVersion, "used");
      const rows = await db
        .selectDistinct({ id: questionnaireVersion.id })
        .from(questionnaireVersion)
        .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId))
        .innerJoin(used, eq(used.id, questionnaire.inUse))
        .innerJoin(
          later,
          and(
            eq(later.questionnaireId, questionnaireVersion.questionnaireId),
            eq(later.material, true),
            gt(later.number, questionnaireVersion.number),
            lte(later.number, used.number),
          ),
        );
      return new Set(rows.map((row) => row.id));
    },

    async byId(practiceId: Id<"Practice">, id: Id<"Version">): Promise<Version | undefined> {
      const [row] = await db
        .select({ version: questionnaireVersion })
        .from(questionnaireVersion)
        .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId))
        .where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaireVersion.id, id)));
      return row?.version;
    },

    async questionnaireOf(id: Id<"Version">): Promise<Id<"Questionnaire">> {
      return (
        await db
          .select({ id: questionnaireVersion.questionnaireId })
          .from(questionnaireVersion)
          .where(eq(questionnaireVersion.id, id))
      )[0]!.id;
    },

    /** Of each of these questionnaires the version in use, or the newest of one that was retired. */
    async current(ids: readonly Id<"Questionnaire">[]): Promise<ReadonlyMap<Id<"Questionnaire">, Id<"Version">>> {
      if (ids.length === 0) return new Map();
      const rows = await db
        .selectDistinctOn([questionnaireVersion.questionnaireId], {
          questionnaireId: questionnaireVersion.questionnaireId,
          id: questionnaireVersion.id,
          inUse: questionnaire.inUse,
        })
        .from(questionnaireVersion)
        .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId))
        .where(inArray(questionnaireVersion.questionnaireId, [...ids]))
        .orderBy(questionnaireVersion.questionnaireId, desc(questionnaireVersion.number));
      return new Map(rows.map(({ questionnaireId, id, inUse }) => [questionnaireId, inUse ?? id]));
    },

    /**
     * The parsed definition of a version. @throws Error when a stored version no longer reads: a bug, since only read
     * ones are stored.
     */
    async definition(id: Id<"Version">): Promise<Questionnaire> {
      const known = parsed.get(id);
      if (known) return known;
      const [row] = await db
        .select({ fhir: questionnaireVersion.fhir })
        .from(questionnaireVersion)
        .where(eq(questionnaireVersion.id, id));
      const read = readQuestionnaire(row?.fhir);
      if (!read.ok) throw new Error(`Stored version ${id} does not read.`);
      if (parsed.size >= parsedMost) parsed.clear();
      parsed.set(id, read.value);
      return read.value;
    },
  };
};
