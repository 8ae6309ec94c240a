import Papa from "papaparse";
import { plainLetters } from "../shared";

/** What a column of a file of clients can hold; `name` is a whole one. */
export const clientColumns = [
  "firstName",
  "lastName",
  "name",
  "preferredName",
  "birthDate",
  "email",
  "phone",
  "address",
  "language",
] as const;
export type ClientColumn = (typeof clientColumns)[number];
export const clientColumnWords: Readonly<Record<ClientColumn, string>> = {
  firstName: "First name",
  lastName: "Last name",
  name: "Whole name",
  preferredName: "Likes to be called",
  birthDate: "Birth date",
  email: "E-mail",
  phone: "Phone",
  address: "Address",
  language: "Language",
};
/** Headings people give such columns, in plain letters (from memory). */
const headings: Readonly<Record<ClientColumn, readonly string[]>> = {
  firstName: ["first name", "firstname", "given name", "forename", "vorname", "nombre", "prenom"],
  lastName: ["last name", "lastname", "surname", "family name", "nachname", "apellido", "apellidos", "nom"],
  name: ["name", "full name", "client", "client name", "patient", "nombre completo", "nom complet"],
  preferredName: ["likes to be called", "preferred name", "known as", "called", "nickname"],
  birthDate: ["birth date", "birthdate", "date of birth", "dob", "born", "geburtsdatum", "fecha de nacimiento"],
  email: ["e-mail", "email", "mail", "e-mail address", "email address", "correo", "courriel"],
  phone: ["phone", "telephone", "mobile", "phone number", "mobile phone", "cell", "telefon", "telefono", "tel"],
  address: ["address", "postal address", "adresse", "direccion"],
  language: ["language", "reads", "sprache", "idioma", "langue"],
};
/** What each column probably holds, by its heading; each thing once. */
export function guessColumns(header: readonly string[]): (ClientColumn | undefined)[] {
  const free = new Set<ClientColumn>(clientColumns);
  return header.map((text) => {
    const plain = plainLetters(text).replace(/[_\s]+/g, " ");
    const column = clientColumns.find((one) => free.has(one) && headings[one].includes(plain));
    if (column) free.delete(column);
    return column;
  });
}

export interface ClientsFile {
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
}
/** RFC 4180, also with semicolons or tabs; a mark of the byte order is dropped, and so are empty lines. */
export function readClientsFile(text: string): ClientsFile {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    skipEmptyLines: "greedy",
    delimitersToGuess: [",", ";", "\t"],
  });
  return { header: data[0] ?? [], rows: data.slice(1) };
}

export const importStates = ["ready", "refused", "added"] as const;
/** Of a row: can be added, cannot be, was. */
export type ImportState = (typeof importStates)[number];

/** One line of a file, as it is before it is checked. */
export type ClientRow = Readonly<Partial<Record<Exclude<ClientColumn, "name">, string>>>;
/** As it was before it was guarded against being run as a formula. */
export const unguarded = (cell: string): string => cell.replace(/^'(?=[=+\-@\t\r])/, "").trim();

/** @param monthFirst whether 4/5/1991 is the fifth of April */
export function clientRow(
  cells: readonly string[],
  columns: readonly (ClientColumn | undefined)[],
  monthFirst: boolean,
): ClientRow {
  const row: Partial<Record<ClientColumn, string>> = {};
  columns.forEach((column, at) => {
    const cell = unguarded(cells[at] ?? "");
    if (column && cell !== "") row[column] = column === "birthDate" ? (writtenDay(cell, monthFirst) ?? cell) : cell;
  });
  const { name, ...rest } = row;
  return name === undefined ? rest : { ...parted(name), ...rest };
}
/** "Halvorsen, Ines" or "Ines Halvorsen". */
function parted(name: string): { firstName: string; lastName?: string } {
  const [last, first] = name.split(",", 2).map((part) => part.trim());
  if (last && first) return { firstName: first, lastName: last };
  const words = name.split(/\s+/);
  return words.length === 1
    ? { firstName: name }
    : { firstName: words.slice(0, -1).join(" "), lastName: words.at(-1)! };
}
const two = (n: string): string => n.padStart(2, "0");
/** As YYYY-MM-DD; undefined where it is written in no way we know, or its year has two digits. */
export function writtenDay(text: string, monthFirst: boolean): string | undefined {
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(text);
  if (iso) return `${iso[1]}-${two(iso[2]!)}-${two(iso[3]!)}`;
  const local = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})$/.exec(text);
  if (!local) return undefined;
  // With dots the day stands first everywhere.
  const [day, month] = monthFirst && text.includes("/") ? [local[2]!, local[1]!] : [local[1]!, local[2]!];
  return `${local[3]}-${two(month)}-${two(day)}`;
}

/**
 * A table as RFC 4180 writes it. What a spreadsheet would run as a formula gets an apostrophe before it, so that it
 * stays what it is (OWASP, CSV injection); reading such a file takes it off again.
 */
export const writeTable = (rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse(
    rows.map((row) => row.map((cell) => (/^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell))),
    { newline: "\r\n" },
  )}\r\n`;
