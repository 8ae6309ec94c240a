import { clientRow, guessColumns, readClientsFile, sameKeys, type ClientColumn, type ClientsFile } from "@/core/chart";
import type { FileRow } from "./actions";

export type FileQuestion =
  | { readonly kind: "read"; readonly text: string }
  | { readonly kind: "rows"; readonly columns: readonly (ClientColumn | undefined)[]; readonly monthFirst: boolean };
export type FileAnswer =
  | {
      readonly kind: "read";
      readonly header: readonly string[];
      readonly guess: readonly (ClientColumn | undefined)[];
      readonly first: readonly (readonly string[])[];
      readonly count: number;
    }
  | { readonly kind: "rows"; readonly rows: readonly FileRow[] };

const mostShown = 3;
let file: ClientsFile = { header: [], rows: [] };

/** Each line of the file, with the earlier line that is the same person. */
function rowsOf(columns: readonly (ClientColumn | undefined)[], monthFirst: boolean): FileRow[] {
  const seen = new Map<string, { readonly line: number; readonly birthDate: string | undefined }>();
  return file.rows.map((cells, at) => {
    const line = at + 2;
    const row = clientRow(cells, columns, monthFirst);
    const keys = sameKeys({ ...row, firstName: row.firstName ?? "", lastName: row.lastName ?? "" });
    const twin = keys.map((key) => twinOf(key, row.birthDate)).find((found) => found !== undefined);
    if (twin === undefined) for (const key of keys) seen.set(key, { line, birthDate: row.birthDate });
    return { line, cells: row, ...(twin === undefined ? {} : { twin }) };
  });
  function twinOf(key: string, birthDate: string | undefined): number | undefined {
    const earlier = seen.get(key);
    const other = earlier?.birthDate !== undefined && birthDate !== undefined && earlier.birthDate !== birthDate;
    return key.startsWith("name ") && other ? undefined : earlier?.line;
  }
}

addEventListener("message", ({ data: question }: MessageEvent<FileQuestion>) => {
  if (question.kind === "read") {
    file = readClientsFile(question.text);
    postMessage({
      kind: "read",
      header: file.header,
      guess: guessColumns(file.header),
      first: file.rows.slice(0, mostShown),
      count: file.rows.length,
    } satisfies FileAnswer);
  } else postMessage({ kind: "rows", rows: rowsOf(question.columns, question.monthFirst) } satisfies FileAnswer);
});
