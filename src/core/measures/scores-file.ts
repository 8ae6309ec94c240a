import { clientRow, guessColumns, readClientsFile, unguarded, writtenDay, type ClientRow } from "../chart";
import { isDay } from "../scheduling";
import { plainDigits, plainLetters } from "../shared";

/** One line of a file of earlier scores, as it was read. */
export interface ScoreRow {
  /** As a spreadsheet counts them: the headings are line 1. */
  readonly line: number;
  readonly person: ClientRow;
  /** YYYY-MM-DD; undefined where none was written, or in no way we know. */
  readonly day: string | undefined;
  readonly value: number | undefined;
}
export type ScoresFileProblem = "empty" | "no-person" | "no-date" | "no-value" | "too-long";
export const mostScoreRows = 5000;
const dateHeadings = ["date", "answered", "answered on", "day", "when", "returned", "datum", "fecha"];
const valueHeadings = ["score", "value", "total", "points", "result", "wert", "valor", "puntuacion", "total score"];

/**
 * A table (RFC 4180, also semicolons or tabs) with whose, when and how much: by e-mail, or by name and birth date.
 * @param monthFirst whether 4/5/2026 is the fifth of April
 */
export function readScoresFile(
  text: string,
  monthFirst: boolean,
): { readonly ok: true; readonly rows: readonly ScoreRow[] } | { readonly ok: false; readonly why: ScoresFileProblem } {
  const { header, rows } = readClientsFile(text);
  if (rows.length === 0) return { ok: false, why: "empty" };
  if (rows.length > mostScoreRows) return { ok: false, why: "too-long" };
  const plain = header.map((one) => plainLetters(one).replace(/[_\s]+/g, " "));
  const [date, value] = [dateHeadings, valueHeadings].map((known) => plain.findIndex((one) => known.includes(one)));
  const columns = guessColumns(header);
  if (!columns.some((column) => column === "email" || column === "name" || column === "firstName"))
    return { ok: false, why: "no-person" };
  if (date === -1) return { ok: false, why: "no-date" };
  if (value === -1) return { ok: false, why: "no-value" };
  return {
    ok: true,
    rows: rows.map((cells, index) => {
      const day = writtenDay(plainDigits(unguarded(cells[date!] ?? "")), monthFirst);
      return {
        line: index + 2,
        person: clientRow(cells, columns, monthFirst),
        day: day !== undefined && isDay(day) ? day : undefined,
        value: numberIn(cells[value!] ?? ""),
      };
    }),
  };
}
/** Also with a comma, as much of Europe writes it. */
function numberIn(cell: string): number | undefined {
  const text = plainDigits(unguarded(cell)).replace(",", ".");
  return /^-?\d{1,6}(\.\d{1,4})?$/.test(text) ? Number(text) : undefined;
}
