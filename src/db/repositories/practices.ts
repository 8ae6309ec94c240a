import { eq } from "drizzle-orm";
import { startingDoor, startingPages, type DoorPolicy, type PagePolicy } from "../../core/packet";
import type { MeasurePolicy } from "../../core/measures";
import type { PostSimulation } from "../../core/messages";
import type { Id } from "../../core/shared";
import type { RetentionRules } from "../../core/retention";
import type { SigningPolicy } from "../../core/signing";
import type { RightSets } from "../../core/team";
import type { ChartLayout } from "../../core/chart";
import type { Db } from "../database";
import { practice } from "../schema";
export type Practice = typeof practice.$inferSelect;

export const practiceRepository = (db: Db) => ({
  /** An installation holds one practice. */
  async only(): Promise<Practice | undefined> {
    return (await db.select().from(practice).limit(1))[0];
  },
  /**
   * Until the transaction ends, others who ask for this wait: for making what may be there only once in a practice,
   * pressed twice or by two people.
   */
  async hold(practiceId: Id<"Practice">): Promise<void> {
    await db.select({ id: practice.id }).from(practice).where(eq(practice.id, practiceId)).for("no key update");
  },
  async add(row: Practice): Promise<void> {
    await db.insert(practice).values(row);
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
  async setFacts(
    practiceId: Id<"Practice">,
    set: Pick<Practice, "name" | "email" | "address" | "country" | "locale">,
  ): Promise<void> {
    await db.update(practice).set(set).where(eq(practice.id, practiceId));
  },
  async setLogo(practiceId: Id<"Practice">, logoId: Id<"File"> | null): Promise<void> {
    await db.update(practice).set({ logoId }).where(eq(practice.id, practiceId));
  },
  async setSigning(practiceId: Id<"Practice">, signing: SigningPolicy): Promise<void> {
    await db.update(practice).set({ signing }).where(eq(practice.id, practiceId));
  },
  async setChartLayout(practiceId: Id<"Practice">, chartLayout: ChartLayout): Promise<void> {
    await db.update(practice).set({ chartLayout }).where(eq(practice.id, practiceId));
  },
  async setMeasures(practiceId: Id<"Practice">, measures: MeasurePolicy): Promise<void> {
    await db.update(practice).set({ measures }).where(eq(practice.id, practiceId));
  },
  async setMailsAnchors(practiceId: Id<"Practice">, mailsAnchors: boolean): Promise<void> {
    await db.update(practice).set({ mailsAnchors }).where(eq(practice.id, practiceId));
  },
  async setRetention(practiceId: Id<"Practice">, retention: RetentionRules): Promise<void> {
    await db.update(practice).set({ retention }).where(eq(practice.id, practiceId));
  },
  async setRights(practiceId: Id<"Practice">, rights: RightSets): Promise<void> {
    await db.update(practice).set({ rights }).where(eq(practice.id, practiceId));
  },
  async setSecondFactorRequired(practiceId: Id<"Practice">, required: boolean): Promise<void> {
    await db.update(practice).set({ secondFactorRequired: required }).where(eq(practice.id, practiceId));
  },
  async setDefaults(
    practiceId: Id<"Practice">,
    set: { readonly linkDays: number; readonly zone: string; readonly languages: readonly string[] },
  ): Promise<void> {
    await db.update(practice).set(set).where(eq(practice.id, practiceId));
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
});
