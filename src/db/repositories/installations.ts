import type { Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { installation, practice } from "../schema";

/** Whether the given keys are the ones that this database was sealed with. */
export const installationRepository = (db: Db, sealer: Sealer) => {
  const own = (): string => sealer.keyedDigest("installation", "key check");
  return {
    /** Undefined where nothing was noted yet. */
    async keysFit(): Promise<boolean | undefined> {
      const [row] = await db.select().from(installation);
      return row && row.keyCheck === own();
    },
    /** Until the transaction ends, others who ask for this wait: there is one practice to an installation. */
    async hold(): Promise<void> {
      await db.select({ id: installation.id }).from(installation).for("update");
    },
    async noteKeys(at: Instant): Promise<void> {
      await db.insert(installation).values({ keyCheck: own(), createdAt: at }).onConflictDoNothing();
    },
  };
};
/**
 * Whether something may have been sealed in this database: from then on its keys cannot be made anew. One from before
 * keys were noted has a practice.
 */
export const isSettledIn = async (db: Db): Promise<boolean> =>
  (await db.select().from(installation)).length > 0 || (await db.select().from(practice).limit(1)).length > 0;
