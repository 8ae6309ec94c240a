import { createHash } from "node:crypto";
import type { TableRecord } from "../core/backup";

/** The little of a connection that taking tables out and putting them in needs. */
export interface Copying {
  rows<Row>(text: string, values?: readonly unknown[]): Promise<Row[]>;
  /** Rows of a table as PostgreSQL's COPY writes them in text, some megabytes of whole lines at a time. */
  out(table: Table): AsyncIterable<Uint8Array>;
  in(table: Table, lines: Uint8Array): Promise<void>;
}
export interface Table {
  readonly name: string;
  readonly columns: readonly string[];
}
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
export const columnsOf = ({ columns }: Table): string => columns.map(quoted).join(", ");
/** Numbers of transactions mean nothing in another database. */
const left = new Set(["client.changed_in"]);
/** So that the same row is written the same everywhere. */
export const plainSettings = "set timezone = 'UTC'; set datestyle = 'ISO, YMD'; set bytea_output = 'hex'";

/** Every table there is, those first that others refer to. */
export async function tablesOf(copying: Copying): Promise<Table[]> {
  const columns = await copying.rows<{ name: string; column: string }>(
    `select c.table_name as name, c.column_name as column from information_schema.columns c
      join information_schema.tables t on t.table_schema = c.table_schema and t.table_name = c.table_name
      where c.table_schema = 'public' and t.table_type = 'BASE TABLE' order by c.table_name, c.ordinal_position`,
  );
  const references = await copying.rows<{ from: string; to: string }>(
    `select conrelid::regclass::text as from, confrelid::regclass::text as to from pg_constraint
      where contype = 'f' and connamespace = 'public'::regnamespace and conrelid <> confrelid`,
  );
  const waiting = [...new Set(columns.map(({ name }) => name))];
  const ordered: string[] = [];
  while (waiting.length > 0) {
    const next = waiting.findIndex((name) =>
      references.every(({ from, to }) => from.replaceAll('"', "") !== name || ordered.includes(to.replaceAll('"', ""))),
    );
    if (next < 0) throw new Error("Tables refer to one another in a circle.");
    ordered.push(...waiting.splice(next, 1));
  }
  return ordered.map((name) => ({
    name,
    columns: columns.filter((one) => one.name === name && !left.has(`${name}.${one.column}`)).map((one) => one.column),
  }));
}

const newline = 10;
/** Adds up the digests of rows, whatever order they come in. */
export class RowSum {
  rows = 0;
  private readonly lanes = new Uint32Array(8);
  /** @param lines whole lines, each with its end */
  add(lines: Uint8Array): void {
    for (let from = 0; from < lines.length;) {
      const end = lines.indexOf(newline, from);
      const digest = createHash("sha256").update(lines.subarray(from, end)).digest();
      for (let lane = 0; lane < 8; lane++) this.lanes[lane]! += digest.readUInt32BE(lane * 4);
      this.rows++;
      from = end + 1;
    }
  }
  digest = (): string => [...this.lanes].map((lane) => lane.toString(16).padStart(8, "0")).join("");
}
export const recordOf = ({ name, columns }: Table, sum: RowSum): TableRecord => ({
  name,
  columns,
  rows: sum.rows,
  digest: sum.digest(),
});
/** What every table holds now, as a backup would say. */
export async function recordsOf(copying: Copying): Promise<TableRecord[]> {
  const records: TableRecord[] = [];
  for (const table of await tablesOf(copying)) {
    const sum = new RowSum();
    for await (const lines of copying.out(table)) sum.add(lines);
    records.push(recordOf(table, sum));
  }
  return records;
}
/**
 * Takes away what makes putting many rows in slow: references, exclusions and indexes that no key needs. In a
 * transaction; gives the statements that bring them back, and check then that every row keeps to them.
 */
export async function setRulesAside(copying: Copying): Promise<string[]> {
  const indexes = await copying.rows<{ name: string; made: string }>(
    `select i.indexrelid::regclass::text as name, pg_get_indexdef(i.indexrelid) as made from pg_index i
      join pg_class c on c.oid = i.indexrelid
      where c.relnamespace = 'public'::regnamespace and not i.indisunique
        and not exists (select from pg_constraint k where k.conindid = i.indexrelid)`,
  );
  const rules = await copying.rows<{ table: string; name: string; kind: string; made: string }>(
    `select conrelid::regclass::text as table, conname as name, contype as kind, pg_get_constraintdef(oid) as made
      from pg_constraint where connamespace = 'public'::regnamespace and contype in ('f', 'x')
      order by contype desc, conname`,
  );
  for (const { table, name } of rules) await copying.rows(`alter table ${table} drop constraint ${quoted(name)}`);
  for (const { name } of indexes) await copying.rows(`drop index ${name}`);
  return [
    ...indexes.map(({ made }) => made),
    ...rules.map(({ table, name, made }) => `alter table ${table} add constraint ${quoted(name)} ${made}`),
  ];
}
/** Rows that were put in with numbers of their own: what comes next is counted on from the last. */
export async function countOn(copying: Copying): Promise<void> {
  const counted = await copying.rows<{ name: string; column: string }>(
    `select table_name as name, column_name as column from information_schema.columns
      where table_schema = 'public' and is_identity = 'YES'`,
  );
  for (const { name, column } of counted)
    await copying.rows(
      `select setval(pg_get_serial_sequence($1, $2), greatest((select max(${quoted(column)}) from ${quoted(name)}), 1), exists (select from ${quoted(name)}))`,
      [quoted(name), column],
    );
}
