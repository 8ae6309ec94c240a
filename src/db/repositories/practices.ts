import { and, asc, eq } from "drizzle-orm";
import { builtInFields, type ChartField } from "../../core/chart";
import { startingDoor, startingPages, type DoorPolicy, type PagePolicy } from "../../core/packet";
import type { LetterKind, PostSimulation } from "../../core/messages";
import type { NoteLayout } from "../../core/notes";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { chartField, noteLayout, practice, visitType, wording } from "../schema";

export type OwnWording = typeof wording.$inferSelect;
export interface PracticeField {
  readonly field: ChartField;
  readonly own: boolean;
  readonly retired: boolean;
}
export type Practice = typeof practice.$inferSelect;

export const practiceRepository = (db: Db) => ({
  /** An installation holds one practice. */
  async only(): Promise<Practice | undefined> {
    return (await db.select().from(practice).limit(1))[0];
  },
  /** Until the transaction ends, others who ask for this wait: for making what may be there only once in a practice, pressed twice or by two people. */
  async hold(practiceId: Id<"Practice">): Promise<void> {
    await db.select({ id: practice.id }).from(practice).where(eq(practice.id, practiceId)).for("no key update");
  },
  async add(row: Practice, layouts: readonly NoteLayout[]): Promise<void> {
    await db.insert(practice).values(row);
    await db
      .insert(noteLayout)
      .values(layouts.map((layout, position) => ({ id: layout.id, practiceId: row.id, position, layout })));
  },
  async layouts(practiceId: Id<"Practice">): Promise<NoteLayout[]> {
    const rows = await db
      .select()
      .from(noteLayout)
      .where(eq(noteLayout.practiceId, practiceId))
      .orderBy(asc(noteLayout.position));
    return rows.map((r) => r.layout as NoteLayout);
  },
  async layout(practiceId: Id<"Practice">, id: string): Promise<NoteLayout | undefined> {
    const [row] = await db
      .select()
      .from(noteLayout)
      .where(and(eq(noteLayout.practiceId, practiceId), eq(noteLayout.id, id)));
    return row?.layout as NoteLayout | undefined;
  },
  /** The built-in chart fields, then the practice's own in the order they were added. */
  async fields(practiceId: Id<"Practice">): Promise<PracticeField[]> {
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
  async addField(row: typeof chartField.$inferInsert): Promise<boolean> {
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
  async updateField(
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
  async wordings(practiceId: Id<"Practice">): Promise<OwnWording[]> {
    return db.select().from(wording).where(eq(wording.practiceId, practiceId));
  },
  async setWording(row: OwnWording): Promise<void> {
    const { subject, body, updatedAt, updatedBy } = row;
    await db
      .insert(wording)
      .values(row)
      .onConflictDoUpdate({
        target: [wording.practiceId, wording.kind, wording.way, wording.language],
        set: { subject, body, updatedAt, updatedBy },
      });
  },
  /** Back to the starting wording. */
  async dropWording(
    practiceId: Id<"Practice">,
    kind: LetterKind,
    way: "email" | "text",
    language: string,
  ): Promise<void> {
    await db
      .delete(wording)
      .where(
        and(
          eq(wording.practiceId, practiceId),
          eq(wording.kind, kind),
          eq(wording.way, way),
          eq(wording.language, language),
        ),
      );
  },
  /** Read where it is needed: it may change while the app runs. */
  async door(practiceId: Id<"Practice">): Promise<DoorPolicy> {
    return (
      (await db.select({ door: practice.door }).from(practice).where(eq(practice.id, practiceId)))[0]?.door ??
      startingDoor
    );
  },
  async setDoor(practiceId: Id<"Practice">, door: DoorPolicy): Promise<void> {
    await db.update(practice).set({ door }).where(eq(practice.id, practiceId));
  },
  async pages(practiceId: Id<"Practice">): Promise<PagePolicy> {
    return (
      (await db.select({ pages: practice.pages }).from(practice).where(eq(practice.id, practiceId)))[0]?.pages ??
      startingPages
    );
  },
  async setPages(practiceId: Id<"Practice">, pages: PagePolicy): Promise<void> {
    await db.update(practice).set({ pages }).where(eq(practice.id, practiceId));
  },
  async simulation(practiceId: Id<"Practice">): Promise<PostSimulation> {
    return (
      (await db.select({ simulation: practice.simulation }).from(practice).where(eq(practice.id, practiceId)))[0]
        ?.simulation ?? "deliver"
    );
  },
  async setSimulation(practiceId: Id<"Practice">, simulation: PostSimulation): Promise<void> {
    await db.update(practice).set({ simulation }).where(eq(practice.id, practiceId));
  },
  async addVisitType(row: typeof visitType.$inferInsert): Promise<void> {
    await db.insert(visitType).values(row);
  },
});
