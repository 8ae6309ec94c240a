import { pipeline } from "node:stream/promises";
import { Readable } from "node:stream";
import type pg from "pg";
import { from, to } from "pg-copy-streams";
import { columnsOf, quoted, type Copying } from "./dump";

const bytesAtOnce = 4_000_000;
const newline = 10;
/** On one connection, so that everything is of one moment where that is in a transaction. */
export const copyingPostgres = (client: pg.ClientBase): Copying => ({
  rows: async <Row>(text: string, values: readonly unknown[] = []) =>
    (await client.query(text, [...values])).rows as Row[],
  async *out(table) {
    const stream = client.query(to(`copy ${quoted(table.name)} (${columnsOf(table)}) to stdout`));
    let held: Buffer[] = [];
    let bytes = 0;
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      held.push(chunk);
      bytes += chunk.length;
      if (bytes < bytesAtOnce) continue;
      const all = Buffer.concat(held);
      const end = all.lastIndexOf(newline) + 1;
      if (end > 0) yield all.subarray(0, end);
      held = [all.subarray(end)];
      bytes = all.length - end;
    }
    if (bytes > 0) yield Buffer.concat(held);
  },
  async in(table, lines) {
    await pipeline(
      Readable.from([lines]),
      client.query(from(`copy ${quoted(table.name)} (${columnsOf(table)}) from stdin`)),
    );
  },
});
