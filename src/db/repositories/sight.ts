import { and, eq, exists, gt, notExists, or, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import type { Id, Instant } from "../../core/shared";
import type { Db } from "../database";
import { client, clientOpening, clientStaff } from "../schema";

/**
 * Whose rows repositories give: everybody's, or those of one member of staff's own clients, and of clients whom they
 * opened with a reason for a while.
 */
export type Sight = "all" | { readonly of: Id<"Staff">; readonly at: Instant };

/** Leaves out the made-up client to try things on, by the column that names the client: for what is counted. */
export const ofReal = (db: Db, clientId: AnyPgColumn): SQL =>
  notExists(
    db
      .select({ id: client.id })
      .from(client)
      .where(and(eq(client.id, clientId), client.isTest)),
  );

/**
 * What narrows a query to clients in sight, by the column that names the client; nothing where all are. Every read of
 * what belongs to a client goes through it.
 */
export const inSight =
  (db: Db, sight: Sight) =>
  (clientId: AnyPgColumn): SQL | undefined =>
    sight === "all"
      ? undefined
      : or(
          exists(
            db
              .select({ id: clientStaff.staffId })
              .from(clientStaff)
              .where(and(eq(clientStaff.clientId, clientId), eq(clientStaff.staffId, sight.of))),
          ),
          exists(
            db
              .select({ id: clientOpening.id })
              .from(clientOpening)
              .where(
                and(
                  eq(clientOpening.clientId, clientId),
                  eq(clientOpening.staffId, sight.of),
                  gt(clientOpening.until, sight.at),
                ),
              ),
          ),
        );
