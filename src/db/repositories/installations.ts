import type { Instant } from "../../core/shared";
import type { Db } from "../database";
import { installation, practice } from "../schema";

/** What the installation's own secrets lie in, sealed with its key. */
export const installationRepository = (db: Db) => ({
  async secrets(): Promise<Uint8Array | undefined> {
    return (await db.select().from(installation))[0]?.secrets;
  },
  /** Until the transaction ends, others who ask for this wait: there is one practice to an installation. */
  async hold(): Promise<void> {
    await db.select({ id: installation.id }).from(installation).for("update");
  },
  /** Gives those that lie there: another process may have been first. */
  async begin(secrets: Uint8Array, createdAt: Instant): Promise<Uint8Array> {
    await db.insert(installation).values({ secrets, createdAt }).onConflictDoNothing();
    return (await db.select().from(installation))[0]!.secrets;
  },
  async reseal(secrets: Uint8Array): Promise<void> {
    await db.update(installation).set({ secrets });
  },
});
/** Whether somebody has set up a practice, and so something is sealed. */
export const hasPracticeIn = async (db: Db): Promise<boolean> =>
  (await db.select({ id: practice.id }).from(practice).limit(1)).length > 0;
/** Whether something may have been sealed in this database: from then on its keys cannot be made anew. */
export const isSettledIn = async (db: Db): Promise<boolean> =>
  (await db.select().from(installation)).length > 0 || (await hasPracticeIn(db));
