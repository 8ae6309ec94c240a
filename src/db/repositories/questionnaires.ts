import { and, count, eq, max, sql, type SQL } from "drizzle-orm";
import { instant, type Id, type Instant, type LibraryRight } from "../../core/shared";
import type { Db } from "../database";
import { packetPart, questionnaire, questionnaireDraft, questionnaireShare, questionnaireVersion } from "../schema";
export type QuestionnaireRow = typeof questionnaire.$inferSelect;
/** With what was shared with one member of staff. */
export interface SharedRow extends QuestionnaireRow {
  readonly share: LibraryRight | null;
}
export interface QuestionnaireGlance extends SharedRow {
  readonly newest: number;
  readonly timesUsed: number;
  readonly draft: boolean;
  readonly changedAt: Instant;
  /** The one it is written in first, then those its title is translated into; of the draft where there is one. */
  readonly languages: readonly string[];
}

const titleLanguages =
  '$._title.extension[*] ? (@.url == "http://hl7.org/fhir/StructureDefinition/translation").extension[*] ? (@.url == "lang").valueCode';

const nobody = "00000000-0000-0000-0000-000000000000" as Id<"Staff">;
export const questionnaireRepository = (db: Db) => {
  const oneShared = async (
    where: SQL | undefined,
    staffId: Id<"Staff"> | undefined,
  ): Promise<SharedRow | undefined> => {
    const [found] = await db
      .select({ row: questionnaire, share: questionnaireShare.may })
      .from(questionnaire)
      .leftJoin(
        questionnaireShare,
        and(
          eq(questionnaireShare.questionnaireId, questionnaire.id),
          eq(questionnaireShare.staffId, staffId ?? nobody),
        ),
      )
      .where(where);
    return found && { ...found.row, share: found.share };
  };
  return {
    /**
     * Every questionnaire with its newest version's number, when it last changed, and in how many packets it went out.
     */
    async countInUse(practiceId: Id<"Practice">): Promise<number> {
      return db.$count(questionnaire, and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.state, "active")));
    },
    async all(practiceId: Id<"Practice">, staffId?: Id<"Staff">): Promise<QuestionnaireGlance[]> {
      const versions = db
        .select({
          id: questionnaireVersion.questionnaireId,
          newest: max(questionnaireVersion.number).as("newest"),
          at: max(questionnaireVersion.createdAt).as("at"),
        })
        .from(questionnaireVersion)
        .groupBy(questionnaireVersion.questionnaireId)
        .as("versions");
      const used = db
        .select({ id: questionnaireVersion.questionnaireId, times: count(packetPart.id).as("times") })
        .from(questionnaireVersion)
        .innerJoin(packetPart, eq(packetPart.versionId, questionnaireVersion.id))
        .groupBy(questionnaireVersion.questionnaireId)
        .as("used");
      const now = sql`coalesce(${questionnaireDraft.fhir}, ${questionnaireVersion.fhir})`;
      const rows = await db
        .select({
          row: questionnaire,
          newest: versions.newest,
          at: versions.at,
          times: used.times,
          draftAt: questionnaireDraft.updatedAt,
          share: questionnaireShare.may,
          language: sql<string | null>`${now}->>'language'`,
          others: sql<string[]>`jsonb_path_query_array(${now}, ${titleLanguages}::jsonpath)`,
        })
        .from(questionnaire)
        .leftJoin(versions, eq(versions.id, questionnaire.id))
        .leftJoin(used, eq(used.id, questionnaire.id))
        .leftJoin(questionnaireDraft, eq(questionnaireDraft.questionnaireId, questionnaire.id))
        .leftJoin(
          questionnaireVersion,
          and(
            eq(questionnaireVersion.questionnaireId, questionnaire.id),
            eq(questionnaireVersion.number, versions.newest),
          ),
        )
        .leftJoin(
          questionnaireShare,
          and(
            eq(questionnaireShare.questionnaireId, questionnaire.id),
            eq(questionnaireShare.staffId, staffId ?? nobody),
          ),
        )
        .where(eq(questionnaire.practiceId, practiceId))
        .orderBy(questionnaire.title);
      return rows.map(({ row, newest, at, times, draftAt, share, language, others }) => ({
        ...row,
        share,
        languages: [language ?? "en", ...[...others].sort()],
        newest: Number(newest ?? 0),
        timesUsed: Number(times ?? 0),
        draft: draftAt !== null,
        changedAt: draftAt ?? (at ? instant(at) : row.createdAt),
      }));
    },
    async timesUsed(id: Id<"Questionnaire">): Promise<number> {
      const [row] = await db
        .select({ n: count() })
        .from(packetPart)
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(eq(questionnaireVersion.questionnaireId, id));
      return row?.n ?? 0;
    },
    async byId(
      practiceId: Id<"Practice">,
      id: Id<"Questionnaire">,
      staffId?: Id<"Staff">,
    ): Promise<SharedRow | undefined> {
      return oneShared(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.id, id)), staffId);
    },
    async shares(id: Id<"Questionnaire">): Promise<ReadonlyMap<Id<"Staff">, LibraryRight>> {
      return new Map(
        (await db.select().from(questionnaireShare).where(eq(questionnaireShare.questionnaireId, id))).map((s) => [
          s.staffId,
          s.may,
        ]),
      );
    },
    async share(
      id: Id<"Questionnaire">,
      everyone: LibraryRight,
      shares: readonly { readonly staffId: Id<"Staff">; readonly may: LibraryRight }[],
    ): Promise<void> {
      await db.update(questionnaire).set({ everyone }).where(eq(questionnaire.id, id));
      await db.delete(questionnaireShare).where(eq(questionnaireShare.questionnaireId, id));
      if (shares.length > 0)
        await db.insert(questionnaireShare).values(shares.map((s) => ({ ...s, questionnaireId: id })));
    },
    async byUrl(practiceId: Id<"Practice">, url: string, staffId?: Id<"Staff">): Promise<SharedRow | undefined> {
      await db
        .select({ id: questionnaire.id })
        .from(questionnaire)
        .where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.url, url)))
        .for("update");
      return oneShared(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.url, url)), staffId);
    },
    /** Gives false when the same request already made it. */
    async add(row: typeof questionnaire.$inferInsert): Promise<boolean> {
      return (
        (
          await db
            .insert(questionnaire)
            .values(row)
            .onConflictDoNothing({ target: questionnaire.id })
            .returning({ id: questionnaire.id })
        ).length === 1
      );
    },
    async update(
      id: Id<"Questionnaire">,
      set: Partial<Pick<QuestionnaireRow, "state" | "title" | "kind" | "inUse">>,
    ): Promise<void> {
      await db.update(questionnaire).set(set).where(eq(questionnaire.id, id));
    },
    /** Only one without versions goes: a version is never deleted (a trigger refuses). */
    async remove(id: Id<"Questionnaire">): Promise<void> {
      await db.delete(questionnaireDraft).where(eq(questionnaireDraft.questionnaireId, id));
      await db.delete(questionnaire).where(eq(questionnaire.id, id));
    },
  };
};
