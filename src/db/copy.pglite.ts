import type { PGlite } from "@electric-sql/pglite";
import { columnsOf, plainSettings, quoted, type Copying, type Table } from "./dump";

const bytesAtOnce = 8_000_000;
/** What a row may take besides its sealed values. */
const bytesOfRow = 300;
interface Stretch {
  readonly first: string;
  readonly last: string;
}
/** A table in stretches of rows that are not too much at once: everything passes through this process's memory. */
async function stretchesOf(client: PGlite, { name }: Table): Promise<Stretch[]> {
  const { rows: sealed } = await client.query<{ column: string }>(
    "select column_name as column from information_schema.columns where table_schema = 'public' and table_name = $1 and data_type in ('bytea', 'jsonb', 'text')",
    [name],
  );
  // In letters of two to a byte.
  const size = [bytesOfRow, ...sealed.map(({ column }) => `2 * coalesce(octet_length(${quoted(column)}::text), 0)`)];
  const { rows } = await client.query<Stretch>(
    `select min(ctid)::text as first, max(ctid)::text as last from
      (select ctid, (sum(${size.join(" + ")}) over (order by ctid))::bigint / ${bytesAtOnce} as stretch from ${quoted(name)}) as rows
      group by stretch order by stretch`,
  );
  return rows;
}
export function copyingPglite(client: PGlite): Copying {
  return {
    rows: async <Row>(text: string, values: readonly unknown[] = []) =>
      (await client.query<Row>(text, [...values])).rows,
    async *out(table) {
      for (const { first, last } of await stretchesOf(client, table)) {
        const { blob } = await client.query(
          `copy (select ${columnsOf(table)} from ${quoted(table.name)} where ctid >= '${first}' and ctid <= '${last}') to '/dev/blob'`,
        );
        if (blob && blob.size > 0) yield new Uint8Array(await blob.arrayBuffer());
      }
    },
    async in(table, lines) {
      await client.query(`copy ${quoted(table.name)} (${columnsOf(table)}) from '/dev/blob'`, [], {
        blob: new Blob([lines as Uint8Array<ArrayBuffer>]),
      });
    },
  };
}
/** Makes everything written the same, whatever the machine's settings. */
export const settlePglite = (client: PGlite): Promise<unknown> => client.exec(plainSettings);
