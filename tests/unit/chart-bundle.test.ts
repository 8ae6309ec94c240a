import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { builtInFields, type ChartEntry, type EntryChange, type EntrySource } from "../../src/core/chart";
import { readChart, writeChart, type ChartFrame } from "../../src/core/fhir";
import type { Id, Instant } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";

const said = fc.string({ minLength: 1, maxLength: 40 }).filter((text) => text.trim() !== "");
const rows = builtInFields.filter((field) => field.kind === "rows");
const changes: fc.Arbitrary<EntryChange> = fc.oneof(
  fc.record({
    kind: fc.constant("set" as const),
    field: fc.constantFrom("goals", "weight", "occupation", "a-field-of-their-own"),
    value: fc.oneof(said, fc.constant(""), fc.constant("71.5")),
  }),
  fc.constantFrom(...rows).chain((field) =>
    fc.record({
      kind: fc.constant("row" as const),
      field: fc.constant(field.key),
      row: fc.constantFrom("r1", "r2"),
      value: fc
        .record(Object.fromEntries(field.columns.map(({ key }) => [key, said])), { requiredKeys: [] })
        .map((cells) => ({ ...cells }) as Record<string, string>),
    }),
  ),
  fc.record({
    kind: fc.constant("end-row" as const),
    field: fc.constantFrom("medicines", "allergies", "children"),
    row: fc.constantFrom("r1", "r2"),
  }),
);
const sources: fc.Arbitrary<EntrySource> = fc.oneof(
  fc.record({ kind: fc.constant("staff" as const), reason: fc.oneof(said, fc.constant("")) }),
  fc.record({
    kind: fc.constant("answer" as const),
    partId: fc.uuid(),
    key: said,
    questionnaire: fc.oneof(said, fc.constant("")),
  }),
);
/** A ledger: postings of some entries each, some of which take back an earlier one, whole or by line. */
const ledgers = fc
  .array(
    fc.record({ entries: fc.array(fc.tuple(changes, sources), { minLength: 1, maxLength: 4 }), back: fc.nat(9) }),
    {
      maxLength: 6,
    },
  )
  .map((postings): ChartEntry[] => {
    const out: ChartEntry[] = [];
    for (const [index, { entries, back }] of postings.entries()) {
      const mark = {
        posting: `00000000-0000-4000-8000-${String(index).padStart(12, "0")}` as Id<"Posting">,
        at: `2026-11-${String(10 + index)}T08:00:00.000Z` as Instant,
        by: index % 2 === 0 ? "Maren Holloway" : "Tobias Renn",
      };
      const earlier = out[back];
      if (earlier && back % 3 === 0)
        out.push({
          ...mark,
          seq: out.length + 1,
          source: { kind: "staff", reason: "said of somebody else" },
          change: { kind: "reverse", posting: earlier.posting, ...(back % 2 === 0 ? {} : { entry: earlier.seq }) },
        });
      else for (const [change, source] of entries) out.push({ ...mark, seq: out.length + 1, source, change });
    }
    return out;
  });
/** Of somebody: a chart is of one who has a name. */
const named = (entries: readonly ChartEntry[]): ChartEntry[] => [
  ...entries,
  {
    seq: entries.length + 1,
    posting: "00000000-0000-4000-8000-999999999999" as Id<"Posting">,
    at: "2026-11-20T08:00:00.000Z" as Instant,
    by: "Maren Holloway",
    source: { kind: "staff", reason: "" },
    change: { kind: "set", field: "first-name", value: "Ines" },
  },
];
const brought = { at: "2026-11-25T08:00:00.000Z" as Instant, by: "Tobias Renn" };
const frame = (entries: readonly ChartEntry[]): ChartFrame => ({
  at: "2026-11-25T08:00:00.000Z" as Instant,
  practice: "Fernhollow Care Rooms",
  client: { id: "c1", firstName: "Ines", lastName: "Halvorsen", birthDate: "1991-04-17", language: "en" },
  relations: [{ id: "r1", kind: "guardian", firstName: "Odd", lastName: "Halvorsen", phone: "020", ended: false }],
  fields: builtInFields,
  entries,
  more: [],
});

describe("a chart as a FHIR Bundle", () => {
  it("is read back without the loss of a value, its source, its past, or what was taken back", () => {
    fc.assert(
      fc.property(ledgers, (entries) => {
        const all = named(entries);
        const read = readChart(JSON.parse(JSON.stringify(writeChart(frame(all)))), brought);
        if (!read.ok) throw new Error(read.error);
        expect(read.value.entries).toEqual(all);
        expect(read.value).toMatchObject({
          firstName: "Ines",
          lastName: "Halvorsen",
          practice: "Fernhollow Care Rooms",
        });
      }),
    );
  });
  it("is refused whole where a part of it cannot be read: half a chart would be taken for the whole", () => {
    const [first] = named([]) as [ChartEntry];
    const posting = "00000000-0000-4000-8000-000000000001" as Id<"Posting">;
    const written = {
      ...first,
      seq: 2,
      posting,
      change: { kind: "set", field: "goals", value: "Sleep" },
    } as ChartEntry;
    const undone = { ...first, seq: 3, posting: `${posting.slice(0, -1)}2` as Id<"Posting"> };
    const text = JSON.stringify(
      writeChart(frame([first, written, { ...undone, change: { kind: "reverse", posting, entry: 2 } }])),
    );
    const read = (json: string) => readChart(JSON.parse(json), brought).ok;
    expect(read(text)).toBe(true);
    const long = "x".repeat(200_001);
    for (const [part, broken] of [
      ['"Sleep"', `"${long}"`],
      ['"url":"reverses","valueString"', '"url":"reverses","valueOther"'],
      ['"url":"entry","valueInteger":2', '"url":"entry","valueInteger":-2'],
      [`"url":"reverses","valueString":"${posting}"`, '"url":"reverses","valueString":"another"'],
      ['"url":"kind","valueCode":"set"', '"url":"kind","valueCode":"put"'],
      ['"recorded":"2026', '"recorded":"soon2026'],
    ] as const) {
      expect(text, part).toContain(part);
      expect(read(text.replaceAll(part, broken)), part).toBe(false);
    }
    // What grew with many returns is longer than anybody writes at once, and comes whole.
    const grown = text.replaceAll('"Sleep"', `"${"x".repeat(30_000)}"`);
    const back = readChart(JSON.parse(grown), brought);
    expect(back.ok && (back.value.entries[1]!.change as { value: string }).value).toHaveLength(30_000);
  });
  it("says what stands: not what was ended or written anew, and what stands again since that was taken back", () => {
    const at = (seq: number, change: ChartEntry["change"]): ChartEntry => ({
      ...named([])[0]!,
      seq,
      posting: `p${seq}` as Id<"Posting">,
      change,
    });
    const row = (seq: number, id: string, name: string): ChartEntry =>
      at(seq, { kind: "row", field: "medicines", row: id, value: { name } });
    const bundle = writeChart(
      frame([
        row(1, "a", "Iron"),
        row(2, "b", "Zinc"),
        row(3, "c", "Folate"),
        at(4, { kind: "end-row", field: "medicines", row: "b" }),
        row(5, "c", "Folic acid"),
        row(6, "a", "Irin"),
        at(7, { kind: "reverse", posting: "p6" as Id<"Posting"> }),
      ]),
    );
    const states = (bundle["entry"] as { resource: Record<string, unknown> }[]).flatMap(({ resource }) =>
      resource["resourceType"] === "MedicationStatement"
        ? [[(resource["medicationCodeableConcept"] as { text: string }).text, resource["status"]]]
        : [],
    );
    expect(states).toEqual([
      ["Iron", "active"],
      ["Zinc", "completed"],
      ["Folate", "completed"],
      ["Zinc", "completed"],
      ["Folic acid", "active"],
      ["Irin", "entered-in-error"],
    ]);
  });
  it("is FHIR R4, whatever stands in it", () => {
    fc.assert(
      fc.property(ledgers, (entries) => {
        expect(fhirProblems(writeChart(frame(entries)))).toEqual([]);
      }),
      { numRuns: 15 },
    );
  });
  it("says what each thing is: medicines, allergies, conditions, illness in the family, measures with their unit", () => {
    const row = (seq: number, field: string, value: Record<string, string>): ChartEntry => ({
      seq,
      posting: "p" as Id<"Posting">,
      at: "2026-11-25T08:00:00.000Z" as Instant,
      by: "Maren",
      source: { kind: "staff", reason: "" },
      change: { kind: "row", field, row: `r${seq}`, value },
    });
    const bundle = writeChart(
      frame([
        row(1, "medicines", { name: "Iron", dose: "20 mg", reason: "Tired" }),
        row(2, "allergies", { substance: "Penicillin", reaction: "Rash" }),
        row(3, "condition-list", { condition: "Asthma", since: "childhood" }),
        row(4, "family-history", { relative: "Aunt", condition: "Diabetes", age: "50" }),
        { ...row(5, "", {}), change: { kind: "set", field: "weight", value: "71.5" } },
      ]),
    );
    const found = (bundle["entry"] as { resource: Record<string, unknown> }[]).map(({ resource }) => resource);
    const of = (type: string) => found.find((one) => one["resourceType"] === type)!;
    expect(of("MedicationStatement")).toMatchObject({
      status: "active",
      medicationCodeableConcept: { text: "Iron" },
      dosage: [{ text: "20 mg" }],
      reasonCode: [{ text: "Tired" }],
    });
    expect(of("AllergyIntolerance")).toMatchObject({ code: { text: "Penicillin" } });
    expect(of("Condition")).toMatchObject({ code: { text: "Asthma" }, onsetString: "childhood" });
    expect(of("FamilyMemberHistory")).toMatchObject({ relationship: { text: "Aunt" } });
    expect(of("Observation")).toMatchObject({
      valueQuantity: { value: 71.5, code: "kg", system: "http://unitsofmeasure.org" },
    });
    expect(of("Provenance")).toMatchObject({ agent: [{ who: { display: "Maren" } }] });
  });
  it("takes from another program's bundle what has a place here, and from no bundle anything", () => {
    const other = {
      resourceType: "Bundle",
      type: "collection",
      entry: [
        {
          resource: {
            resourceType: "Patient",
            name: [{ family: "Berg", given: ["Nils", "Olav"] }],
            birthDate: "1980-02",
          },
        },
        {
          resource: {
            resourceType: "MedicationStatement",
            status: "active",
            medicationCodeableConcept: { text: "Iron" },
          },
        },
        {
          resource: {
            resourceType: "MedicationStatement",
            status: "stopped",
            medicationCodeableConcept: { text: "Zinc" },
          },
        },
        {
          resource: {
            resourceType: "AllergyIntolerance",
            code: { coding: [{ display: "Latex" }] },
            verificationStatus: { coding: [{ code: "refuted" }] },
          },
        },
        { resource: { resourceType: "Condition", code: { coding: [{ display: "Asthma" }] }, onsetDateTime: "1999" } },
        {
          resource: {
            resourceType: "Condition",
            code: { text: "Croup" },
            clinicalStatus: { coding: [{ code: "resolved" }] },
          },
        },
      ],
    };
    const read = readChart(other, brought);
    expect(read.ok && read.value.entries.map(({ change }) => change)).toEqual([
      { kind: "set", field: "first-name", value: "Nils Olav" },
      { kind: "set", field: "last-name", value: "Berg" },
      { kind: "row", field: "medicines", row: "r1", value: { name: "Iron" } },
      { kind: "row", field: "condition-list", row: "r4", value: { condition: "Asthma", since: "1999" } },
    ]);
    expect(read.ok && read.value.entries[0]).toMatchObject(brought);
    for (const wrong of [undefined, null, [], {}, { resourceType: "Bundle" }, { ...other, entry: [] }])
      expect(readChart(wrong, brought).ok).toBe(false);
    fc.assert(fc.property(fc.json(), (text) => typeof readChart(JSON.parse(text), brought).ok === "boolean"));
  });
});
