import { and, asc, eq } from 'drizzle-orm';
import type { NoteLayout } from '../../core/notes';
import type { Id } from '../../core/shared';
import type { Db } from '../database';
import { noteLayout, practice, visitType } from '../schema';

export type Practice = typeof practice.$inferSelect;

export const practiceRepository = (db: Db) => ({
  /** An installation holds one practice. */
  async only(): Promise<Practice | undefined> {
    return (await db.select().from(practice).limit(1))[0];
  },
  async add(row: Practice, layouts: readonly NoteLayout[]): Promise<void> {
    await db.insert(practice).values(row);
    await db.insert(noteLayout).values(layouts.map((layout, position) => ({ id: layout.id, practiceId: row.id, position, layout })));
  },
  async layouts(practiceId: Id<'Practice'>): Promise<NoteLayout[]> {
    const rows = await db.select().from(noteLayout).where(eq(noteLayout.practiceId, practiceId)).orderBy(asc(noteLayout.position));
    return rows.map((r) => r.layout as NoteLayout);
  },
  async layout(practiceId: Id<'Practice'>, id: string): Promise<NoteLayout | undefined> {
    const [row] = await db.select().from(noteLayout).where(and(eq(noteLayout.practiceId, practiceId), eq(noteLayout.id, id)));
    return row?.layout as NoteLayout | undefined;
  },
  async addVisitType(row: typeof visitType.$inferInsert): Promise<void> {
    await db.insert(visitType).values(row);
  },
});
