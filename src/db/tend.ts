import { sql } from "drizzle-orm";
import type { Db } from "./database";

/** So many rows and such a share of them may change before the planner's numbers are taken anew: as autovacuum does. */
const [fewRows, share] = [50, 0.1];
/** Or so many pages and such a share may come: what a process that was killed had counted of changes is lost. */
const [fewPages, newPages] = [10, 0.2];

/**
 * What a PostgreSQL server does by itself and the embedded one has no process for: sweeps tables that changed much, and
 * counts what the planner goes by, small tables too, once. Without it a join of large tables is planned as one of empty
 * ones. One table at a time, outside a transaction; gives which.
 */
export async function tendTables(db: Db): Promise<string[]> {
  const { rows } = (await db.execute(sql`
    select c.relname as name from pg_class c
    join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
    left join pg_stat_user_tables s on s.relid = c.oid
    where c.relkind = 'r' and (
      (c.reltuples < 0 and pg_relation_size(c.oid) > 0) or
      coalesce(s.n_mod_since_analyze, 0) > ${fewRows}::int + ${share}::float * greatest(c.reltuples, 0)
      or pg_relation_size(c.oid) / current_setting('block_size')::int > ${fewPages}::int + ${1 + newPages}::float * c.relpages)
    order by c.relname`)) as unknown as { rows: { name: string }[] };
  for (const { name } of rows) {
    await db.execute(sql`vacuum (analyze) ${sql.identifier(name)}`);
    // The embedded database answers without ever letting the process turn to anything else: requests come in between.
    await new Promise((resolve) => {
      setImmediate(resolve);
    });
  }
  return rows.map(({ name }) => name);
}
