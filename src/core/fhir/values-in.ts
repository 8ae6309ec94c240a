import { isDate, type AnswerValue, type Coding } from "../questionnaire";
import { isObject, type JsonObject, type Reader } from "./json";

export function codingFrom(value: unknown): Coding | undefined {
  if (!isObject(value)) return undefined;
  const { system, code, display } = value;
  const text = (v: unknown): v is string => typeof v === "string";
  if (!text(code) && !text(display)) return undefined;
  return {
    ...(text(system) ? { system } : {}),
    ...(text(code) ? { code } : {}),
    ...(text(display) ? { display } : {}),
  };
}

/** Reads a FHIR `value[x]`/`answer[x]` of one of the types a question can hold. */
export function valueFrom(reader: Reader, stem: "value" | "answer"): AnswerValue | undefined {
  const found = Object.keys(reader.json).filter((k) => new RegExp(`^${stem}[A-Z]`).test(k));
  if (found.length !== 1) return reader.problem(`needs exactly one ${stem}[x]; it has ${found.length}.`);
  const key = found[0]!;
  const value = reader.raw(key);
  const wrong = (): undefined => reader.problem(`"${key}" does not hold what its name says.`, key);
  switch (key.slice(stem.length)) {
    case "Boolean":
      return typeof value === "boolean" ? { type: "boolean", value } : wrong();
    case "Decimal":
      return typeof value === "number" ? { type: "decimal", value } : wrong();
    case "Integer":
      return typeof value === "number" && Number.isInteger(value) ? { type: "integer", value } : wrong();
    case "Date":
      if (typeof value === "string" && !isDate(value))
        return reader.problem(`There is no day “${value.slice(0, 20)}”. A day is written as YYYY-MM-DD.`, key);
      return typeof value === "string" ? { type: "date", value } : wrong();
    case "Time":
      return typeof value === "string" ? { type: "time", value } : wrong();
    case "String":
      return typeof value === "string" ? { type: "string", value } : wrong();
    case "Coding": {
      const coding = codingFrom(value);
      return coding ? { type: "coding", value: coding } : wrong();
    }
    case "Quantity":
      return quantityFrom(value) ?? wrong();
    default:
      return reader.problem(
        `"${key}" is not supported. Supported are: Boolean, Decimal, Integer, Date, Time, String, Coding, Quantity.`,
        key,
      );
  }
}

function quantityFrom(value: unknown): AnswerValue | undefined {
  if (!isObject(value) || typeof value["value"] !== "number") return undefined;
  const unit = value["unit"] ?? value["code"];
  return { type: "quantity", value: { value: value["value"], ...(typeof unit === "string" ? { unit } : {}) } };
}

/** A FHIR value[x] with its key, for writing out. */
export function valueTo(value: AnswerValue, stem: "value" | "answer"): JsonObject {
  if (value.type === "quantity") return { [`${stem}Quantity`]: value.value };
  if (value.type === "attachment")
    return {
      [`${stem}Attachment`]: {
        contentType: value.value.contentType,
        url: `urn:uuid:${value.value.id}`,
        size: value.value.size,
        title: value.value.title,
      },
    };
  const suffix = value.type === "uri" ? "Uri" : value.type.charAt(0).toUpperCase() + value.type.slice(1);
  return {
    [`${stem}${suffix}`]: value.type === "time" && value.value.length === 5 ? `${value.value}:00` : value.value,
  };
}
