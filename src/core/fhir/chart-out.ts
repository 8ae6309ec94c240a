import { foldChart, reversals, type ChartEntry, type ChartField, type EntryChange, type RowValue } from "../chart";
import type { Instant } from "../shared";
import type { JsonObject } from "./json";
import { many, patientReference, peopleOut, type ClientOut, type RelationOut } from "./person-out";
import { url } from "./urls";

/** A client's chart with its whole past, as it goes out. */
export interface ChartFrame {
  readonly at: Instant;
  readonly practice: string;
  readonly client: ClientOut;
  readonly relations: readonly RelationOut[];
  readonly fields: readonly ChartField[];
  readonly entries: readonly ChartEntry[];
  /** QuestionnaireResponses, Consents and their Provenance. */
  readonly more: readonly JsonObject[];
}
type Written = ChartEntry & { readonly change: EntryChange };
const isWritten = (entry: ChartEntry): entry is Written => entry.change.kind !== "reverse";

/**
 * A FHIR R4 Bundle of type collection: the Patient and those around them, each value that ever stood in the chart as the
 * resource of its kind (MedicationStatement, AllergyIntolerance, Condition, FamilyMemberHistory, else Observation), and a
 * Provenance for each posting. What FHIR has no place for stands in an extension, so that a chart read back is the same.
 */
export function writeChart(frame: ChartFrame): JsonObject {
  const { client, entries } = frame;
  const patient = patientReference(client);
  const isReversed = reversals(entries);
  const fields = new Map(frame.fields.map((field) => [field.key, field]));
  const rows = new Map(
    Object.values(foldChart(entries).lists)
      .flat()
      .flatMap(({ current, history }) =>
        history.map(({ seq, value }) => [seq, { cells: value, stands: current?.seq === seq }] as const),
      ),
  );
  const values = entries.filter(isWritten).map((entry): JsonObject => {
    const { cells, stands } = rows.get(entry.seq) ?? { cells: {}, stands: true };
    const field = fields.get(entry.change.field);
    return {
      ...resourceOf({ entry, field, patient, isWrong: isReversed(entry), stands, cells }),
      extension: [entryExtension(entry)],
    };
  });
  const postings = new Map<string, ChartEntry[]>();
  for (const entry of entries) postings.set(entry.posting, [...(postings.get(entry.posting) ?? []), entry]);
  const resources: JsonObject[] = [
    ...peopleOut(client, frame.relations, frame.practice),
    ...values,
    ...[...postings].map(([posting, own]) => provenanceOf(posting, own)),
    ...frame.more,
  ];
  return {
    resourceType: "Bundle",
    type: "collection",
    timestamp: frame.at,
    entry: resources.map((resource) => ({
      fullUrl: `https://kindledger.example/fhir/${String(resource["resourceType"])}/${String(resource["id"])}`,
      resource,
    })),
  };
}
const idOf = ({ posting, seq }: ChartEntry): string => `${posting}-${seq}`.slice(-64);

interface OneValue {
  readonly entry: Written;
  readonly field: ChartField | undefined;
  readonly patient: JsonObject;
  /** It was taken back. */
  readonly isWrong: boolean;
  /** Of a row, it is what stands now: neither taken back, nor ended, nor written anew. */
  readonly stands: boolean;
  /** Of a row, what it holds, or held when it ended. */
  readonly cells: RowValue;
}
const system = "http://terminology.hl7.org/CodeSystem";
const coded = (of: string, code: string): JsonObject => ({ coding: [{ system: `${system}/${of}`, code }] });
function resourceOf(one: OneValue): JsonObject {
  const { entry, patient, isWrong, cells } = one;
  const id = idOf(entry);
  const isOver = !one.stands;
  const text = (key: string): string | undefined => cells[key];
  if (entry.change.kind !== "set")
    switch (entry.change.field) {
      case "medicines":
        return {
          resourceType: "MedicationStatement",
          id,
          status: medicineStatus(isWrong, isOver),
          medicationCodeableConcept: { text: text("name") || "not named" },
          subject: patient,
          dateAsserted: entry.at,
          ...(text("dose") || text("often")
            ? { dosage: [{ text: [text("dose"), text("often")].filter(Boolean).join(", ") }] }
            : {}),
          ...(text("reason") ? { reasonCode: [{ text: text("reason") }] } : {}),
        };
      case "allergies":
        return {
          resourceType: "AllergyIntolerance",
          id,
          verificationStatus: coded("allergyintolerance-verification", isWrong ? "entered-in-error" : "unconfirmed"),
          // A statement that was entered in error has no clinical status (ait-2).
          ...(isWrong ? {} : { clinicalStatus: coded("allergyintolerance-clinical", isOver ? "resolved" : "active") }),
          code: { text: text("substance") || "not named" },
          patient,
          recordedDate: entry.at,
          ...(text("reaction") ? { reaction: [{ manifestation: [{ text: text("reaction") }] }] } : {}),
        };
      case "condition-list":
        return {
          resourceType: "Condition",
          id,
          verificationStatus: coded("condition-ver-status", isWrong ? "entered-in-error" : "unconfirmed"),
          // con-5: as above.
          ...(isWrong ? {} : { clinicalStatus: coded("condition-clinical", isOver ? "inactive" : "active") }),
          code: { text: text("condition") || "not named" },
          subject: patient,
          recordedDate: entry.at,
          ...(text("since") ? { onsetString: text("since") } : {}),
          ...(text("now") ? { note: [{ text: text("now") }] } : {}),
        };
      case "family-history":
        return {
          resourceType: "FamilyMemberHistory",
          id,
          status: isWrong ? "entered-in-error" : "partial",
          patient,
          date: entry.at,
          relationship: { text: text("relative") || "not named" },
          ...(text("condition")
            ? {
                condition: [
                  { code: { text: text("condition") }, ...(text("age") ? { onsetString: text("age") } : {}) },
                ],
              }
            : {}),
        };
    }
  return {
    resourceType: "Observation",
    id,
    status: isWrong ? "entered-in-error" : "final",
    code: { text: one.field?.label ?? entry.change.field },
    subject: patient,
    effectiveDateTime: entry.at,
    performer: [{ display: entry.by }],
    ...observed(one),
  };
}
function medicineStatus(isWrong: boolean, isOver: boolean): string {
  if (isWrong) return "entered-in-error";
  return isOver ? "completed" : "active";
}
function observed({ entry: { change }, field, cells }: OneValue): JsonObject {
  const ended = { dataAbsentReason: { text: "no longer" } };
  if (change.kind === "set") {
    if (change.value === "") return ended;
    const unit = field?.kind === "number" ? field.unit : undefined;
    const amount = Number(change.value);
    return unit && Number.isFinite(amount)
      ? { valueQuantity: { value: amount, unit, system: "http://unitsofmeasure.org", code: unit } }
      : { valueString: change.value };
  }
  const columns = field?.kind === "rows" ? field.columns : [];
  const component = columns.flatMap(({ key, label }) =>
    cells[key] ? [{ code: { text: label }, valueString: cells[key] }] : [],
  );
  return change.kind === "end-row" || component.length === 0 ? ended : { component };
}

const part = (name: string, type: string, value: unknown): JsonObject[] =>
  value === undefined ? [] : [{ url: name, [type]: value }];
/** FHIR has no empty text. */
const words = (text: string): string | undefined => (text === "" ? undefined : text);
function entryExtension(entry: Written): JsonObject {
  const { change, source } = entry;
  return {
    url: url.chartEntry,
    extension: [
      ...part("seq", "valueInteger", entry.seq),
      ...part("posting", "valueString", entry.posting),
      ...part("kind", "valueCode", change.kind),
      ...part("field", "valueString", change.field),
      ...part("value", "valueString", change.kind === "set" ? words(change.value) : undefined),
      ...part("row", "valueString", change.kind === "set" ? undefined : change.row),
      ...(change.kind === "row"
        ? Object.entries(change.value).flatMap(([key, value]) =>
            value === ""
              ? []
              : [
                  {
                    url: "cell",
                    extension: [...part("key", "valueString", key), ...part("text", "valueString", value)],
                  },
                ],
          )
        : []),
      ...(source.kind === "staff"
        ? part("reason", "valueString", words(source.reason))
        : [
            ...part("partId", "valueString", source.partId),
            ...part("key", "valueString", source.key),
            ...part("questionnaire", "valueString", words(source.questionnaire)),
          ]),
      ...part("source", "valueCode", source.kind),
    ],
  };
}
/** Who wrote what when, or took what back. */
function provenanceOf(posting: string, entries: readonly ChartEntry[]): JsonObject {
  const [first] = entries as [ChartEntry];
  const undone = entries.flatMap((entry) => (entry.change.kind === "reverse" ? [{ entry, change: entry.change }] : []));
  const written = entries.filter(isWritten);
  const target = written.map((entry) => ({ reference: `${typeOf(entry)}/${idOf(entry)}` }));
  return {
    resourceType: "Provenance",
    id: posting,
    target: target.length > 0 ? target : [{ display: "a posting that was taken back" }],
    recorded: first.at,
    activity: { text: undone.length > 0 ? "taken back" : "posted to the chart" },
    agent: [{ who: { display: first.by } }],
    ...(first.source.kind === "answer"
      ? { entity: [{ role: "source", what: { display: first.source.questionnaire || "a questionnaire" } }] }
      : {}),
    ...many(
      "extension",
      undone.map(({ entry, change }) => ({
        url: url.chartPosting,
        extension: [
          ...part("seq", "valueInteger", entry.seq),
          ...part("reverses", "valueString", change.posting),
          ...part("entry", "valueInteger", change.entry),
          ...part("reason", "valueString", entry.source.kind === "staff" ? words(entry.source.reason) : undefined),
        ],
      })),
    ),
  };
}
function typeOf({ change }: Written): string {
  const kinds: Readonly<Record<string, string>> = {
    medicines: "MedicationStatement",
    allergies: "AllergyIntolerance",
    "condition-list": "Condition",
    "family-history": "FamilyMemberHistory",
  };
  return change.kind === "set" ? "Observation" : (kinds[change.field] ?? "Observation");
}
