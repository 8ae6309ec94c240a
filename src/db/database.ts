import type { ExtractTablesWithRelations } from "drizzle-orm";
import type { PgDatabase, PgQueryResultHKT } from "drizzle-orm/pg-core";
import type * as schema from "./schema";

/** Driver-neutral: PGlite and PostgreSQL both fit, and so does a transaction. */
export type Db = PgDatabase<PgQueryResultHKT, typeof schema, ExtractTablesWithRelations<typeof schema>>;

/** An open database. */
export interface Database {
  readonly db: Db;
  readonly kind: "pglite" | "postgres";
  /** Hears `NOTIFY channel` from any process on the same database. Returns how to stop. */
  listen(channel: string, heard: (payload: string) => void): Promise<() => Promise<void>>;
  /** What is done when another process on this machine asks for it; see `askHolder`. Of the embedded one alone. */
  readonly answers?: Map<string, (given: string) => Promise<string>>;
  /** Whether it answers within so many ms. */
  answersIn(ms: number): Promise<boolean>;
  /** Whether another version has brought it to tables this one does not know. */
  isOther(): Promise<boolean>;
  /** How many connections there are, where there are any. */
  pool?(): { readonly total: number; readonly idle: number; readonly waiting: number };
  close(): Promise<void>;
}
export const migrationsFolder = "src/db/migrations";
