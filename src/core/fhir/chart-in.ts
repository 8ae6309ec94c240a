import {
  foldChart,
  identityOf,
  type ChartEntry,
  type EntryChange,
  type EntryReversal,
  type EntrySource,
} from "../chart";
import { isEmail } from "../questionnaire";
import { fail, isInstant, isLanguageTag, ok, type Id, type Instant, type Result } from "../shared";
import { isObject, type JsonObject } from "./json";
import { url } from "./urls";

/** A chart as a Bundle has it. Ids are those of where it came from. */
export interface BroughtChart {
  readonly practice: string;
  readonly firstName: string;
  readonly lastName: string;
  readonly language: string | undefined;
  readonly entries: readonly ChartEntry[];
  readonly relations: readonly {
    readonly kind: string;
    readonly firstName: string;
    readonly lastName: string;
    readonly email: string | undefined;
    readonly phone: string | undefined;
    readonly ended: boolean;
  }[];
}
interface Brought {
  readonly at: Instant;
  readonly by: string;
}
const mostResources = 50_000;
const mostPostings = 5_000;
/** A narrative grows with every return, so this is far above what is written at once. */
const mostText = 200_000;

/**
 * Reads a chart back that `writeChart` wrote: every value with its source and its past. Of a Bundle from elsewhere, what
 * has a place here: the patient's name, birth date and contacts, medicines, allergies and conditions as they stand.
 *
 * @param brought who brings it when: what another program's Bundle says is written down by them, now
 */
export function readChart(json: unknown, brought: Brought): Result<BroughtChart, string> {
  if (!isObject(json) || json["resourceType"] !== "Bundle" || !Array.isArray(json["entry"]))
    return fail("This is no FHIR Bundle.");
  if (json["entry"].length > mostResources) return fail("There is too much in it for one chart.");
  const resources = (json["entry"] as unknown[]).flatMap((entry) =>
    isObject(entry) && isObject(entry["resource"]) ? [entry["resource"]] : [],
  );
  const patients = resources.filter((one) => one["resourceType"] === "Patient");
  const [patient] = patients;
  if (!patient || patients.length > 1) return fail("A chart is of one patient.");
  const recorded = new Map(
    resources
      .filter((one) => one["resourceType"] === "Provenance")
      .map((one) => [text(one["id"]) ?? "", { at: text(one["recorded"]), by: agentOf(one) }]),
  );
  const own = resources.flatMap((one) => ownEntry(one, recorded) ?? []);
  const undone = resources.flatMap((one) => ownReversals(one, recorded));
  // Half a chart would be taken for the whole.
  const ours = resources.flatMap((one) =>
    list(one["extension"]).filter(
      (extension) => extension["url"] === url.chartEntry || extension["url"] === url.chartPosting,
    ),
  );
  const postings = new Set([...own, ...undone].map(({ posting }) => posting));
  if (own.length + undone.length < ours.length || undone.some(({ change }) => !postings.has(change.posting)))
    return fail("An entry of this chart cannot be read.");
  const entries =
    ours.length > 0
      ? [...own, ...undone].sort((one, other) => one.seq - other.seq)
      : elsewhere(patient, resources, brought);
  if (new Set(entries.map(({ posting }) => posting)).size > mostPostings)
    return fail("There is too much in it for one chart.");
  if (new Set(entries.map(({ seq }) => seq)).size < entries.length) return fail("Two entries have one number.");
  const identity = identityOf(foldChart(entries));
  if (identity.firstName === "" && identity.lastName === "") return fail("The patient has no name.");
  if (identity.email !== undefined && !isEmail(identity.email))
    return fail("The patient's e-mail address is none that letters can go to.");
  const [first] = list(patient["communication"]);
  const language =
    first && isObject(first["language"]) ? text(list(first["language"]["coding"])[0]?.["code"]) : undefined;
  return ok({
    practice: isObject(patient["managingOrganization"]) ? (text(patient["managingOrganization"]["display"]) ?? "") : "",
    ...officialName(patient),
    language: language !== undefined && isLanguageTag(language) ? language : undefined,
    entries,
    relations: resources
      .filter((one) => one["resourceType"] === "RelatedPerson")
      .map((one) => ({
        kind: text(list(one["relationship"])[0]?.["text"]) ?? "",
        ...officialName(one),
        ...telecomIn(one),
        ended: one["active"] === false,
      })),
  });
}

const text = (value: unknown): string | undefined =>
  typeof value === "string" && value.length <= mostText ? value : undefined;
const list = (value: unknown): readonly JsonObject[] => (Array.isArray(value) ? value.filter(isObject) : []);
function officialName(person: JsonObject): { readonly firstName: string; readonly lastName: string } {
  const names = list(person["name"]);
  const name = names.find((one) => one["use"] === "official") ?? names[0] ?? {};
  const given = Array.isArray(name["given"]) ? name["given"].filter((one) => typeof one === "string") : [];
  const lastName = text(name["family"]) ?? "";
  return { firstName: given.join(" ") || (lastName === "" ? (text(name["text"]) ?? "") : ""), lastName };
}
function telecomIn(person: JsonObject): { readonly email: string | undefined; readonly phone: string | undefined } {
  const of = (system: string): string | undefined =>
    text(list(person["telecom"]).find((one) => one["system"] === system)?.["value"]);
  return { email: of("email"), phone: of("phone") };
}
const agentOf = (provenance: JsonObject): string => {
  const who = list(provenance["agent"])[0]?.["who"];
  return isObject(who) ? (text(who["display"]) ?? "") : "";
};

/** The parts of an extension of ours, by their names; `cell` comes many times. */
function partsOf(extension: JsonObject): ReadonlyMap<string, unknown> {
  return new Map(
    list(extension["extension"]).flatMap((one) => {
      const name = text(one["url"]);
      const value = one["valueString"] ?? one["valueCode"] ?? one["valueInteger"];
      return name === undefined || value === undefined ? [] : [[name, value] as const];
    }),
  );
}
type Recorded = ReadonlyMap<string, { readonly at: string | undefined; readonly by: string }>;
/** A part's text, empty where it is not there; undefined where it cannot be read. */
const wordsOf = (parts: ReadonlyMap<string, unknown>, name: string): string | undefined =>
  parts.has(name) ? text(parts.get(name)) : "";
const whole = (value: unknown): number | undefined =>
  typeof value === "number" && Number.isSafeInteger(value) && value > 0 ? value : undefined;

/** An entry of ours; undefined where any part of it cannot be read. */
function ownEntry(resource: JsonObject, recorded: Recorded): ChartEntry | undefined {
  const extension = list(resource["extension"]).find((one) => one["url"] === url.chartEntry);
  if (!extension) return undefined;
  const said = partsOf(extension);
  const [seq, posting, field] = [whole(said.get("seq")), text(said.get("posting")), text(said.get("field"))];
  const made = recorded.get(posting ?? "");
  if (seq === undefined || !posting || !field || field.length > 80 || !made?.at || !isInstant(made.at) || !made.by)
    return undefined;
  const change = changeIn(extension, said, field);
  const source = sourceIn(said);
  return change && source && { seq, posting: posting as Id<"Posting">, at: made.at, by: made.by, source, change };
}
function changeIn(extension: JsonObject, said: ReadonlyMap<string, unknown>, field: string): EntryChange | undefined {
  const [value, row] = [wordsOf(said, "value"), wordsOf(said, "row")];
  if (value === undefined || row === undefined) return undefined;
  switch (said.get("kind")) {
    case "set":
      return { kind: "set", field, value };
    case "end-row":
      return { kind: "end-row", field, row };
    case "row": {
      const cells = list(extension["extension"])
        .filter((one) => one["url"] === "cell")
        .map((one) => {
          const cell = partsOf(one);
          return [text(cell.get("key")), wordsOf(cell, "text")] as const;
        });
      return cells.some(([key, cell]) => key === undefined || cell === undefined)
        ? undefined
        : { kind: "row", field, row, value: Object.fromEntries(cells) as Record<string, string> };
    }
    default:
      return undefined;
  }
}
function sourceIn(said: ReadonlyMap<string, unknown>): EntrySource | undefined {
  const [reason, partId, key, questionnaire] = ["reason", "partId", "key", "questionnaire"].map((name) =>
    wordsOf(said, name),
  );
  if (said.get("source") !== "answer") return reason === undefined ? undefined : { kind: "staff", reason };
  return partId === undefined || key === undefined || questionnaire === undefined
    ? undefined
    : { kind: "answer", partId, key, questionnaire };
}
type Reversal = ChartEntry & { readonly change: EntryReversal };
/** What a posting of ours took back; what cannot be read of it is left out. */
function ownReversals(resource: JsonObject, recorded: Recorded): Reversal[] {
  const posting = text(resource["id"]) ?? "";
  const made = recorded.get(posting);
  return list(resource["extension"])
    .filter((one) => resource["resourceType"] === "Provenance" && one["url"] === url.chartPosting)
    .flatMap((one) => {
      const said = partsOf(one);
      const [seq, reverses, entry] = [whole(said.get("seq")), text(said.get("reverses")), whole(said.get("entry"))];
      const reason = wordsOf(said, "reason");
      if (seq === undefined || !reverses || !made?.at || !isInstant(made.at) || !made.by || reason === undefined)
        return [];
      // Half of it would be taken back whole.
      if (said.has("entry") && entry === undefined) return [];
      return [
        {
          seq,
          posting: posting as Id<"Posting">,
          at: made.at,
          by: made.by,
          source: { kind: "staff" as const, reason },
          change: {
            kind: "reverse" as const,
            posting: reverses as Id<"Posting">,
            ...(entry === undefined ? {} : { entry }),
          },
        },
      ];
    });
}

/** What another program's Bundle says that has a place here, as one posting. */
function elsewhere(patient: JsonObject, resources: readonly JsonObject[], { at, by }: Brought): ChartEntry[] {
  const { firstName, lastName } = officialName(patient);
  const { email, phone } = telecomIn(patient);
  const birthDate = text(patient["birthDate"]);
  const facts: readonly (readonly [string, string | undefined])[] = [
    ["first-name", firstName],
    ["last-name", lastName],
    ["birth-date", birthDate !== undefined && /^\d{4}-\d\d-\d\d$/.test(birthDate) ? birthDate : undefined],
    ["email", email],
    ["phone", phone],
  ];
  const changes: EntryChange[] = facts.flatMap(([field, value]): EntryChange[] =>
    value ? [{ kind: "set", field, value }] : [],
  );
  for (const [index, resource] of resources.entries()) {
    const row = rowElsewhere(resource);
    if (row) changes.push({ kind: "row", row: `r${index}`, ...row });
  }
  return changes.map((change, index) => ({
    seq: index + 1,
    posting: "elsewhere" as Id<"Posting">,
    at,
    by,
    source: { kind: "staff", reason: "Brought from elsewhere" },
    change,
  }));
}
const concept = (value: unknown): string =>
  isObject(value) ? (text(value["text"]) ?? text(list(value["coding"])[0]?.["display"]) ?? "") : "";
const isWrong = (resource: JsonObject): boolean =>
  resource["status"] === "entered-in-error" ||
  (isObject(resource["verificationStatus"]) &&
    ["entered-in-error", "refuted"].includes(String(list(resource["verificationStatus"]["coding"])[0]?.["code"])));
/** An allergy or a condition that is over. */
const isPast = (resource: JsonObject): boolean =>
  isObject(resource["clinicalStatus"]) &&
  ["inactive", "resolved", "remission"].includes(String(list(resource["clinicalStatus"]["coding"])[0]?.["code"]));
function rowElsewhere(
  resource: JsonObject,
): { readonly field: string; readonly value: Readonly<Record<string, string>> } | undefined {
  if (isWrong(resource) || isPast(resource)) return undefined;
  const filled = (value: Readonly<Record<string, string>>): Readonly<Record<string, string>> =>
    Object.fromEntries(Object.entries(value).filter(([, cell]) => cell !== ""));
  switch (resource["resourceType"]) {
    case "MedicationStatement": {
      const name = concept(resource["medicationCodeableConcept"]);
      if (name === "" || ["completed", "stopped"].includes(String(resource["status"]))) return undefined;
      return { field: "medicines", value: filled({ name, dose: text(list(resource["dosage"])[0]?.["text"]) ?? "" }) };
    }
    case "AllergyIntolerance": {
      const substance = concept(resource["code"]);
      const reaction = concept(list(list(resource["reaction"])[0]?.["manifestation"])[0]);
      return substance === "" ? undefined : { field: "allergies", value: filled({ substance, reaction }) };
    }
    case "Condition": {
      const condition = concept(resource["code"]);
      const since = text(resource["onsetString"]) ?? text(resource["onsetDateTime"]) ?? "";
      return condition === "" ? undefined : { field: "condition-list", value: filled({ condition, since }) };
    }
    default:
      return undefined;
  }
}
