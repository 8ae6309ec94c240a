import { isObject, type JsonObject } from "./json";
import { url } from "./urls";

/**
 * A questionnaire as other programs write it, in the elements that are read here: value sets that the file contains
 * become options, and item types that cannot be asked become the nearest that can, which `read-as` says. What is not
 * touched by this comes out as the same object.
 */
export function asRead(json: JsonObject): JsonObject {
  const sets = new Map(
    (Array.isArray(json["contained"]) ? json["contained"] : [])
      .filter(isObject)
      .filter((one) => one["resourceType"] === "ValueSet" && typeof one["id"] === "string")
      .map((set) => [String(set["id"]), set]),
  );
  const items = itemsAsRead(json["item"], sets, 0);
  const title = text(json["title"]) ?? text(json["name"]) ?? nameless(json);
  return {
    ...json,
    ...(items === json["item"] ? {} : { item: items }),
    ...(title === undefined ? {} : { title }),
  };
}
const text = (value: unknown): string | undefined =>
  typeof value === "string" && value.trim() !== "" ? value : undefined;
/** What a file without a title and a name calls itself: its id, or the end of its address. */
const nameless = (json: JsonObject): string | undefined =>
  text(json["id"])?.replace(/[-_]+/g, " ") ??
  text(json["url"])
    ?.split(/[/#:|]/)
    .findLast((part) => /\p{L}/u.test(part))
    ?.replace(/[-_]+/g, " ");

const deepest = 13;
function itemsAsRead(items: unknown, sets: ReadonlyMap<string, JsonObject>, depth: number): unknown {
  if (!Array.isArray(items) || depth > deepest) return items;
  const next = (items as unknown[]).map((item) => (isObject(item) ? itemAsRead(item, sets, depth) : item));
  return next.every((item, index) => item === (items as unknown[])[index]) ? items : next;
}
function itemAsRead(item: JsonObject, sets: ReadonlyMap<string, JsonObject>, depth: number): JsonObject {
  const inner = itemsAsRead(item["item"], sets, depth + 1);
  const options = optionsOf(item, sets);
  const type = typeAsked(item, options !== undefined);
  if (inner === item["item"] && options === undefined && type === undefined) return item;
  const { answerValueSet, ...rest } = item;
  return {
    ...rest,
    ...(options === undefined && answerValueSet !== undefined ? { answerValueSet } : {}),
    ...(inner === undefined ? {} : { item: inner }),
    ...(options === undefined ? {} : { answerOption: options }),
    ...(type === undefined
      ? {}
      : {
          type,
          extension: [
            ...(Array.isArray(item["extension"]) ? (item["extension"] as unknown[]) : []),
            { url: url.readAs, valueCode: item["type"] },
          ],
        }),
  };
}
/** A type that cannot be asked, as the nearest that can. */
function typeAsked(item: JsonObject, hasOptions: boolean): string | undefined {
  switch (item["type"]) {
    case "dateTime":
      return "date";
    case "reference":
      return "string";
    case "question":
      return hasOptions || Array.isArray(item["answerOption"]) ? "choice" : "string";
    default:
      return undefined;
  }
}
/**
 * The codes of a value set that the file contains (FHIR R4 ValueSet: compose.include.concept, or expansion.contains).
 */
function optionsOf(item: JsonObject, sets: ReadonlyMap<string, JsonObject>): unknown[] | undefined {
  const name = text(item["answerValueSet"]);
  const set = name?.startsWith("#") ? sets.get(name.slice(1)) : undefined;
  if (!set) return undefined;
  const codes = codesOf(set);
  return codes.length === 0 || codes.length > mostCodes ? undefined : codes.map((valueCoding) => ({ valueCoding }));
}
const mostCodes = 500;
function codesOf(set: JsonObject): JsonObject[] {
  const list = (from: unknown, key: string): JsonObject[] =>
    isObject(from) && Array.isArray(from[key]) ? (from[key] as unknown[]).filter(isObject) : [];
  const included = list(set["compose"], "include").flatMap((include) =>
    list(include, "concept").map((concept) => ({ system: include["system"], ...concept })),
  );
  const expanded = (entries: readonly JsonObject[], depth: number): JsonObject[] =>
    depth > deepest
      ? []
      : entries.flatMap((entry) => [
          ...(entry["abstract"] === true ? [] : [entry]),
          ...expanded(list(entry, "contains"), depth + 1),
        ]);
  const all: JsonObject[] = included.length > 0 ? included : expanded(list(set["expansion"], "contains"), 0);
  return all.flatMap((concept) => {
    const { system, code, display, extension } = concept as Record<string, unknown>;
    if (text(code) === undefined) return [];
    return [
      {
        ...(text(system) === undefined ? {} : { system }),
        code,
        display: text(display) ?? code,
        ...(Array.isArray(extension) ? { extension } : {}),
      },
    ];
  });
}
