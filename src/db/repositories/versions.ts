import { and, desc, eq } from "drizzle-orm";
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
