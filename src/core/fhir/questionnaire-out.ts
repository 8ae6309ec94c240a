import {
  optionPlace,
  type AnswerOption,
  type Item,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../questionnaire";
import { emptyText, isObject, type JsonObject } from "./json";
import { shownWhenExpression } from "./condition-expression";
import { scoreExpression } from "./score-expression";
import { translationsOut } from "./translations";
import { consentSignatureCode, itemControlSystem, signatureTypeSystem, url } from "./urls";
import { valueTo } from "./values-in";

/** A FHIR R4 Questionnaire, equal in meaning to what was read: what was kept at import is written out again. */
export function writeQuestionnaire(q: Questionnaire): JsonObject {
  const extension: JsonObject[] = [{ url: url.kind, valueCode: q.kind }];
  if (q.signed) extension.push(signatureRequired);
  if (q.sheet)
    extension.push({
      url: url.sheet,
      valueAttachment: {
        contentType: "application/pdf",
        url: `urn:uuid:${q.sheet.id}`,
        size: q.sheet.size,
        hash: q.sheet.hash,
        title: q.sheet.title,
      },
    });
  return withKept(
    {
      ...translationsOut(q.translations, "title", "title", q.title),
      ...translationsOut(q.translations, "description", "description", q.description ?? ""),
      resourceType: "Questionnaire",
      url: q.url,
      version: q.version,
      ...(q.name ? { name: q.name } : {}),
      title: q.title,
      status: q.status,
      ...(q.language ? { language: q.language } : {}),
      ...(q.description ? { description: q.description } : {}),
      ...(q.publisher ? { publisher: q.publisher } : {}),
      ...(q.copyright ? { copyright: q.copyright } : {}),
      ...(q.codes.length > 0 ? { code: q.codes } : {}),
      item: q.items.map((i) => writeItem(i, q)),
    },
    extension,
    q.kept,
  );
}

/** The same with the bytes of a worksheet's PDF in it, for leaving the practice. */
export const withSheetData = (questionnaire: JsonObject, base64: string): JsonObject =>
  withSheet(questionnaire, { data: base64 });
/** The same without the name its PDF has in one practice's store. */
export const withoutSheetId = (questionnaire: JsonObject): JsonObject => withSheet(questionnaire, { url: "" });
function withSheet(questionnaire: JsonObject, set: JsonObject): JsonObject {
  const list = questionnaire["extension"] as readonly JsonObject[] | undefined;
  return list
    ? {
        ...questionnaire,
        extension: list.map((e) =>
          e["url"] === url.sheet ? { ...e, valueAttachment: { ...(e["valueAttachment"] as JsonObject), ...set } } : e,
        ),
      }
    : questionnaire;
}

const signatureRequired: JsonObject = {
  url: url.signatureRequired,
  valueCodeableConcept: {
    coding: [{ system: signatureTypeSystem, code: consentSignatureCode, display: "Consent Signature" }],
  },
};

/** Joins our own extensions and those kept from the file, ours first. */
function withKept(
  json: JsonObject,
  extension: readonly JsonObject[],
  kept: Readonly<Record<string, unknown>> | undefined,
): JsonObject {
  const all = [...extension.map(withoutEmpty), ...((kept?.["extension"] as JsonObject[] | undefined) ?? [])];
  return { ...json, ...kept, ...besides(json, kept), ...(all.length > 0 ? { extension: all } : {}) };
}

/** What FHIR keeps beside a plain value (`_text`): ours and what came in with the file, joined. */
function besides(json: JsonObject, kept: Readonly<Record<string, unknown>> | undefined): JsonObject {
  return Object.fromEntries(
    Object.entries(kept ?? {}).flatMap(([key, value]) => {
      const own = json[key];
      if (!key.startsWith("_") || !isObject(own) || !isObject(value)) return [];
      return [
        [
          key,
          {
            ...own,
            ...value,
            extension: [
              ...((own["extension"] as unknown[] | undefined) ?? []),
              ...((value["extension"] as unknown[] | undefined) ?? []),
            ],
          },
        ],
      ];
    }),
  );
}

const withoutEmpty = (e: JsonObject): JsonObject =>
  Array.isArray(e["extension"])
    ? { ...e, extension: (e["extension"] as JsonObject[]).map(withoutEmpty) }
    : e["valueString"] === ""
      ? { ...e, valueString: emptyText }
      : e;

function writeItem(item: Item, whole: Questionnaire): JsonObject {
  const extension: JsonObject[] = [];
  const json: Record<string, unknown> = {
    linkId: item.linkId,
    ...(item.prefix ? { prefix: item.prefix } : {}),
    ...(item.text === "" ? {} : { text: item.text }),
    ...translationsOut(whole.translations, "text", `text:${item.linkId}`, item.text),
    type: item.type,
    ...(item.codes.length > 0 ? { code: item.codes } : {}),
  };
  if (item.shownWhen) {
    json["enableWhen"] = item.shownWhen.conditions.map((c) => ({
      question: c.question,
      operator: c.operator,
      ...valueTo(c.answer, "answer"),
    }));
    if (item.shownWhen.conditions.length > 1 || item.shownWhen.behavior === "any")
      json["enableBehavior"] = item.shownWhen.behavior;
  }
  if (item.type === "display") {
    if (item.signature) extension.push(signatureRequired);
  } else {
    if (item.required) json["required"] = true;
    if (item.repeats) json["repeats"] = true;
    if (item.posting)
      extension.push({
        url: url.posting,
        extension: [
          { url: "field", valueCode: item.posting.field },
          { url: "rule", valueCode: item.posting.rule },
        ],
      });
    if (item.type === "group" && item.control)
      extension.push({
        url: url.itemControl,
        valueCodeableConcept: { coding: [{ system: itemControlSystem, code: item.control }] },
      });
    if (item.type !== "group") writeQuestion(item, json, extension, whole);
    if (item.items.length > 0) json["item"] = item.items.map((i) => writeItem(i, whole));
  }
  return withKept(json, extension, item.kept);
}

function writeQuestion(
  q: Question,
  json: Record<string, unknown>,
  extension: JsonObject[],
  whole: Questionnaire,
): void {
  if (q.readOnly) json["readOnly"] = true;
  if (q.maxLength !== undefined) json["maxLength"] = q.maxLength;
  if (q.options.length > 0) json["answerOption"] = q.options.map((o) => writeOption(o, q, whole));
  const bound = (v: number | string): JsonObject =>
    typeof v === "string"
      ? { [v.includes(":") ? "valueTime" : "valueDate"]: v }
      : { [q.type === "integer" ? "valueInteger" : "valueDecimal"]: v };
  const said = (part: string, words: string): JsonObject => ({
    valueString: words,
    ...translationsOut(whole.translations, "valueString", `${part}:${q.linkId}`, words),
  });
  if (q.help !== undefined) extension.push({ url: url.help, ...said("help", q.help) });
  if (q.minLength !== undefined) extension.push({ url: url.minLength, valueInteger: q.minLength });
  if (q.minValue !== undefined) extension.push({ url: url.minValue, ...bound(q.minValue) });
  if (q.maxValue !== undefined) extension.push({ url: url.maxValue, ...bound(q.maxValue) });
  if (q.maxDecimalPlaces !== undefined) extension.push({ url: url.maxDecimalPlaces, valueInteger: q.maxDecimalPlaces });
  if (q.unit) extension.push({ url: url.unit, valueCoding: q.unit });
  if (q.entryFormat !== undefined) extension.push({ url: url.entryFormat, ...said("example", q.entryFormat) });
  if (q.pattern !== undefined) extension.push({ url: url.regex, valueString: q.pattern });
  if (q.sheetField !== undefined) extension.push({ url: url.sheetField, valueString: q.sheetField });
  // The same said as SDC says it, for those who know nothing of ours.
  for (const o of q.options)
    if (o.shownWhen)
      extension.push({
        url: url.optionsToggle,
        extension: [
          { url: "option", ...valueTo(o.value, "value") },
          {
            url: "expression",
            valueExpression: { language: "text/fhirpath", expression: shownWhenExpression(o.shownWhen) },
          },
        ],
      });
  if (q.keyboard) extension.push({ url: url.keyboard, valueCode: q.keyboard });
  if (q.control !== undefined)
    extension.push({
      url: url.itemControl,
      valueCodeableConcept: { coding: [{ system: itemControlSystem, code: q.control }] },
    });
  if (q.alert)
    extension.push({
      url: url.alert,
      extension: [
        { url: "from", valueDecimal: q.alert.from },
        { url: "message", valueString: q.alert.message },
      ],
    });
  if (q.step !== undefined) extension.push({ url: url.sliderStep, valueInteger: q.step });
  if (q.ends)
    extension.push({
      url: url.scaleEnds,
      extension: [
        { url: "low", ...said("low", q.ends[0]) },
        { url: "high", ...said("high", q.ends[1]) },
      ],
    });
  if (q.terms !== undefined) extension.push({ url: url.terms, ...said("terms", q.terms) });
  if (q.score)
    extension.push(writeScore(q.score), {
      url: url.calculated,
      valueExpression: { language: "text/fhirpath", expression: scoreExpression(whole, q) },
    });
}

function writeOption(o: AnswerOption, q: Question, whole: Questionnaire): JsonObject {
  const extension: JsonObject[] = [];
  if (o.ordinal !== undefined) extension.push({ url: url.ordinalValue, valueDecimal: o.ordinal });
  if (o.exclusive) extension.push({ url: url.optionExclusive, valueBoolean: true });
  if (o.shownWhen)
    extension.push({
      url: url.optionShownWhen,
      extension: [
        { url: "behavior", valueCode: o.shownWhen.behavior },
        ...o.shownWhen.conditions.map((c) => ({
          url: "condition",
          extension: [
            { url: "question", valueString: c.question },
            { url: "operator", valueCode: c.operator },
            { url: "answer", ...valueTo(c.answer, "value") },
          ],
        })),
      ],
    });
  const place = optionPlace(q.linkId, o);
  const value = valueTo(o.value, "value");
  if (o.value.type === "string")
    return withKept(
      { ...value, ...translationsOut(whole.translations, "valueString", place, o.value.value) },
      extension,
      o.kept,
    );
  if (o.value.type !== "coding") return withKept(value, extension, o.kept);
  return withKept(
    {
      valueCoding: {
        ...o.value.value,
        ...translationsOut(whole.translations, "display", place, o.value.value.display ?? ""),
      },
    },
    extension,
    o.kept,
  );
}

const writeScore = (s: ScoreRule): JsonObject => ({
  url: url.score,
  extension: [
    { url: "method", valueCode: s.method },
    ...s.items.map((linkId) => {
      const weight = s.weights?.[linkId];
      const reversed = s.reversed?.includes(linkId) === true;
      if (weight === undefined && !reversed) return { url: "item", valueString: linkId };
      return {
        url: "item",
        extension: [
          { url: "linkId", valueString: linkId },
          ...(weight === undefined ? [] : [{ url: "weight", valueDecimal: weight }]),
          ...(reversed ? [{ url: "reversed", valueBoolean: true }] : []),
        ],
      };
    }),
    ...(s.factor === undefined ? [] : [{ url: "factor", valueDecimal: s.factor }]),
    { url: "fewestAnswered", valueInteger: s.fewestAnswered },
    { url: "proration", valueCode: s.proration },
    ...s.bands.map((b) => ({
      url: "band",
      extension: [
        { url: "low", valueDecimal: b.low },
        { url: "high", valueDecimal: b.high },
        { url: "label", valueString: b.label },
        { url: "source", valueString: b.source },
        ...(b.alert === undefined ? [] : [{ url: "alert", valueString: b.alert }]),
      ],
    })),
  ],
});
