import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clientRow, guessColumns, readClientsFile, writeTable } from "../../src/core/chart";
import { internationalPhone } from "../../src/core/messages";

describe("a file of clients", () => {
  it.each([
    ["commas", "First name,Last name\nInes,Halvorsen\n"],
    ["semicolons, as spreadsheets of half of Europe write them", "First name;Last name\r\nInes;Halvorsen\r\n"],
    ["tabs, and a mark of the byte order", "\uFEFFFirst name\tLast name\nInes\tHalvorsen"],
    ["quotes and empty lines", '"First name","Last name"\n\n"Ines","Halvorsen"\n,\n'],
  ])("is read with %s", (_, text) => {
    expect(readClientsFile(text)).toEqual({ header: ["First name", "Last name"], rows: [["Ines", "Halvorsen"]] });
  });
  it("is understood by its headings, each thing once", () => {
    expect(
      guessColumns(["Surname", "forename", "DOB", "E-Mail", "mobile", "Notes", "Email address", "Sprache"]),
    ).toEqual(["lastName", "firstName", "birthDate", "email", "phone", undefined, undefined, "language"]);
  });
  it.each([
    ["1991-04-17", false, "1991-04-17"],
    ["17/04/1991", false, "1991-04-17"],
    ["4/5/1991", false, "1991-05-04"],
    ["4/5/1991", true, "1991-04-05"],
    // With dots the day stands first, wherever it is written.
    ["4.5.1991", true, "1991-05-04"],
    ["1991-04-17T00:00:00", false, "1991-04-17"],
    // Which century is anybody's guess: it stays as it is, and is refused.
    ["17/04/91", false, "17/04/91"],
  ])("takes the day %s (month first: %s) as %s", (typed, monthFirst, day) => {
    expect(clientRow([typed], ["birthDate"], monthFirst)).toEqual({ birthDate: day });
  });
  it.each([
    ["Halvorsen, Ines", { firstName: "Ines", lastName: "Halvorsen" }],
    ["Ines Maria Halvorsen", { firstName: "Ines Maria", lastName: "Halvorsen" }],
    ["Cher", { firstName: "Cher" }],
  ])("parts the whole name %s", (name, parted) => {
    expect(clientRow([name], ["name"], false)).toEqual(parted);
  });

  // RFC 4180, by a reader that is not ours and takes nothing loose.
  const strict = (text: string): string[][] =>
    parse(text, { relax_quotes: false, relax_column_count: false, skip_empty_lines: false, record_delimiter: "\r\n" });
  const cell = fc.oneof(
    fc.string(),
    fc.constantFrom('"', "a,b", "a\r\nb", "'", "=1+1", "+44 20", "-x", "@sum", "\tx", "\rx", "'=already", "", " x "),
  );
  const table = fc
    .integer({ min: 1, max: 4 })
    .chain((width) => fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 6 }));
  it("is written so that another reader finds every cell, and a spreadsheet nothing to run", () => {
    fc.assert(
      fc.property(table, (rows) => {
        const read = strict(writeTable(rows));
        expect(read.map((row) => row.map((text) => text.replace(/^'(?=[=+\-@\t\r])/, "")))).toEqual(
          rows.map((row) => row.map((text) => text.replace(/^'(?=[=+\-@\t\r])/, ""))),
        );
        for (const text of read.flat()) expect(text).not.toMatch(/^[=+\-@\t\r]/);
      }),
    );
  });
  it("brings back what was taken out", () => {
    const row = {
      firstName: "Ines",
      lastName: 'Hal"vorsen, née Dahl',
      phone: "+47 22 11 55 55",
      email: "i@mail.example",
    };
    const file = readClientsFile(
      writeTable([
        ["First name", "Last name", "Phone", "E-mail"],
        [row.firstName, row.lastName, row.phone, row.email],
      ]),
    );
    expect(clientRow(file.rows[0]!, guessColumns(file.header), false)).toEqual(row);
  });
});

// ITU-T E.164; numbers of the ranges that are kept for fiction (Ofcom; NANP 555-01xx), their forms common practice.
it.each([
  ["020 7946 0314", "GB", "+442079460314"],
  ["+44 (0)20 7946 0314", "US", "+442079460314"],
  ["(202) 555-0143", "US", "+12025550143"],
  ["0044 20 7946 0314", "GB", "+442079460314"],
  ["12", "GB", "12"],
])("the number %s, typed in %s, leaves as %s", (typed, country, sent) => {
  expect(internationalPhone(typed, country)).toBe(sent);
});
