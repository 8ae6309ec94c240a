import type { Instant } from "../shared";

/** What stands first in a backup, so that one can say whether it fits before anything is changed. */
export interface BackupHead {
  readonly format: "kind-ledger-backup";
  readonly version: 1;
  readonly at: Instant;
  /** SHA-256 of each migration its tables came by, hex, oldest first. */
  readonly migrations: readonly string[];
  /** The installation's secrets as they lie there, sealed with its key; base64. */
  readonly secrets: string;
}
/** What of a table is in a backup. */
export interface TableRecord {
  readonly name: string;
  readonly columns: readonly string[];
  readonly rows: number;
  /** Sum of the SHA-256 of its rows as PostgreSQL writes them (COPY, text), in whatever order; hex. */
  readonly digest: string;
}
/** Which tables are not the same on both sides, in words. */
export function differences(one: readonly TableRecord[], other: readonly TableRecord[]): string[] {
  const there = new Map(other.map((table) => [table.name, table]));
  const found = one.flatMap(({ name, rows, digest }) => {
    const same = there.get(name);
    there.delete(name);
    if (!same) return [`${name} is missing`];
    if (same.rows !== rows) return [`${name} has ${same.rows} rows instead of ${rows}`];
    return same.digest === digest ? [] : [`${name} has other rows`];
  });
  return [...found, ...[...there.keys()].map((name) => `${name} is there besides`)];
}
