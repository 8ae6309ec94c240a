import { and, asc, eq } from "drizzle-orm";
import { builtInFields, type ChartField } from "../../core/chart";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { chartField } from "../schema";

export interface PracticeField {
  readonly field: ChartField;
  readonly own: boolean;
  readonly retired: boolean;
}
export const chartFieldRepository = (db: Db) => {
  return {
    /** The built-in chart fields, then the practice's own in the order they were added. */
    async all(practiceId: Id<"Practice">): Promise<PracticeField[]> {
      const own = await db
        .select()
        .from(chartField)
        .where(eq(chartField.practiceId, practiceId))
        .orderBy(asc(chartField.createdAt), asc(chartField.key));
      return [
        ...builtInFields.map((field) => ({ field, own: false, retired: false })),
        ...own.map((r) => ({ field: r.field, own: true, retired: r.retiredAt !== null })),
      ];
    },

    /** Gives false when this request already added one. */
    async add(row: typeof chartField.$inferInsert): Promise<boolean> {
      return (
        (
          await db
            .insert(chartField)
            .values(row)
            .onConflictDoNothing({ target: chartField.requestId })
            .returning({ key: chartField.key })
        ).length === 1
      );
    },

    /** Gives false when the practice has no field of its own with that key. */
    async update(
      practiceId: Id<"Practice">,
      key: string,
      set: { readonly field?: ChartField; readonly retiredAt?: Instant | null },
    ): Promise<boolean> {
      return (
        (
          await db
            .update(chartField)
            .set(set)
            .where(and(eq(chartField.practiceId, practiceId), eq(chartField.key, key)))
            .returning({ key: chartField.key })
        ).length === 1
      );
    },
  };
};
