import { assertNever } from "../shared";
import {
  changeNumbers,
  optionPlace,
  type AlertTest,
  type AnswerOption,
  type ChangeRule,
  type Item,
  type Norm,
  type Question,
  type Questionnaire,
  type ScoreRule,
  type Sourced,
} from "../questionnaire";
import { emptyText, isObject, type JsonObject } from "./json";
import { shownWhenExpression } from "./condition-expression";
import { scoreExpression } from "./score-expression";
import { signingOut, signingTermsOut } from "./signing";
import { translationsOut } from "./translations";
import { consentSignatureCode, itemControlSystem, signatureTypeSystem, url } from "./urls";
import { valueTo } from "./values-in";

/** A FHIR R4 Questionnaire, equal in meaning to what was read: what was kept at import is written out again. */
export function writeQuestionnaire(questionnaire: Questionnaire): JsonObject {
  const extension: JsonObject[] = [{ url: url.kind, valueCode: questionnaire.kind }];
  if (questionnaire.signed) extension.push(signatureRequired);
  extension.push(...signingTermsOut(questionnaire.signing));
  if (questionnaire.sheet)
    extension.push({
      url: url.sheet,
      valueAttachment: {
        contentType: "application/pdf",
        url: `urn:uuid:${questionnaire.sheet.id}`,
        size: questionnaire.sheet.size,
        hash: questionnaire.sheet.hash,
        title: questionnaire.sheet.title,
        ...(questionnaire.sheet.sha256
          ? { extension: [{ url: url.sheetDigest, valueString: questionnaire.sheet.sha256 }] }
          : {}),
      },
    });
  return withKept(
    {
      ...translationsOut(questionnaire.translations, "title", "title", questionnaire.title),
      ...translationsOut(questionnaire.translations, "description", "description", questionnaire.description ?? ""),
      resourceType: "Questionnaire",
      url: questionnaire.url,
      version: questionnaire.version,
      ...(questionnaire.name ? { name: questionnaire.name } : {}),
      title: questionnaire.title,
      status: questionnaire.status,
      ...(questionnaire.language ? { language: questionnaire.language } : {}),
      ...(questionnaire.description ? { description: questionnaire.description } : {}),
      ...(questionnaire.publisher ? { publisher: questionnaire.publisher } : {}),
      ...(questionnaire.copyright ? { copyright: questionnaire.copyright } : {}),
      ...(questionnaire.codes.length > 0 ? { code: questionnaire.codes } : {}),
      item: questionnaire.items.map((i) => writeItem(i, questionnaire)),
    },
    extension,
    questionnaire.kept,
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

const withoutEmpty = (e: JsonObject): JsonObject => {
  if (Array.isArray(e["extension"])) return { ...e, extension: (e["extension"] as JsonObject[]).map(withoutEmpty) };
  if (e["valueString"] === "") return { ...e, valueString: emptyText };
  return e;
};

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
    if (item.signer) extension.push({ url: url.signer, valueCode: item.signer });
    extension.push(...signingOut(item.signing));
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
  question: Question,
  json: Record<string, unknown>,
  extension: JsonObject[],
  whole: Questionnaire,
): void {
  if (question.readOnly) json["readOnly"] = true;
  if (question.maxLength !== undefined) json["maxLength"] = question.maxLength;
  if (question.options.length > 0) json["answerOption"] = question.options.map((o) => writeOption(o, question, whole));
  const bound = (v: number | string): JsonObject =>
    typeof v === "string"
      ? { [v.includes(":") ? "valueTime" : "valueDate"]: v }
      : { [question.type === "integer" ? "valueInteger" : "valueDecimal"]: v };
  const said = (part: string, words: string): JsonObject => ({
    valueString: words,
    ...translationsOut(whole.translations, "valueString", `${part}:${question.linkId}`, words),
  });
  if (question.help !== undefined) extension.push({ url: url.help, ...said("help", question.help) });
  if (question.minLength !== undefined) extension.push({ url: url.minLength, valueInteger: question.minLength });
  if (question.minValue !== undefined) extension.push({ url: url.minValue, ...bound(question.minValue) });
  if (question.maxValue !== undefined) extension.push({ url: url.maxValue, ...bound(question.maxValue) });
  if (question.maxDecimalPlaces !== undefined)
    extension.push({ url: url.maxDecimalPlaces, valueInteger: question.maxDecimalPlaces });
  if (question.unit) extension.push({ url: url.unit, valueCoding: question.unit });
  if (question.entryFormat !== undefined)
    extension.push({ url: url.entryFormat, ...said("example", question.entryFormat) });
  if (question.pattern !== undefined) extension.push({ url: url.regex, valueString: question.pattern });
  if (question.sheetField !== undefined) extension.push({ url: url.sheetField, valueString: question.sheetField });
  // The same said as SDC says it, for those who know nothing of ours.
  for (const option of question.options)
    if (option.shownWhen)
      extension.push({
        url: url.optionsToggle,
        extension: [
          { url: "option", ...valueTo(option.value, "value") },
          {
            url: "expression",
            valueExpression: { language: "text/fhirpath", expression: shownWhenExpression(option.shownWhen) },
          },
        ],
      });
  if (question.keyboard) extension.push({ url: url.keyboard, valueCode: question.keyboard });
  if (question.control !== undefined)
    extension.push({
      url: url.itemControl,
      valueCodeableConcept: { coding: [{ system: itemControlSystem, code: question.control }] },
    });
  if (question.alert)
    extension.push({
      url: url.alert,
      extension: [
        ...alertTest(question.alert.test),
        { url: "message", valueString: question.alert.message || emptyText },
      ],
    });
  if (question.step !== undefined) extension.push({ url: url.sliderStep, valueInteger: question.step });
  if (question.ends)
    extension.push({
      url: url.scaleEnds,
      extension: [
        { url: "low", ...said("low", question.ends[0]) },
        { url: "high", ...said("high", question.ends[1]) },
      ],
    });
  if (question.terms !== undefined) extension.push({ url: url.terms, ...said("terms", question.terms) });
  if (question.score)
    extension.push(writeScore(question.score), {
      url: url.calculated,
      valueExpression: { language: "text/fhirpath", expression: scoreExpression(whole, question) },
    });
}

function writeOption(option: AnswerOption, question: Question, whole: Questionnaire): JsonObject {
  const extension: JsonObject[] = [];
  if (option.ordinal !== undefined) extension.push({ url: url.ordinalValue, valueDecimal: option.ordinal });
  if (option.exclusive) extension.push({ url: url.optionExclusive, valueBoolean: true });
  if (option.shownWhen)
    extension.push({
      url: url.optionShownWhen,
      extension: [
        { url: "behavior", valueCode: option.shownWhen.behavior },
        ...option.shownWhen.conditions.map((c) => ({
          url: "condition",
          extension: [
            { url: "question", valueString: c.question },
            { url: "operator", valueCode: c.operator },
            { url: "answer", ...valueTo(c.answer, "value") },
          ],
        })),
      ],
    });
  const place = optionPlace(question.linkId, option);
  const value = valueTo(option.value, "value");
  if (option.value.type === "string")
    return withKept(
      { ...value, ...translationsOut(whole.translations, "valueString", place, option.value.value) },
      extension,
      option.kept,
    );
  if (option.value.type !== "coding") return withKept(value, extension, option.kept);
  return withKept(
    {
      valueCoding: {
        ...option.value.value,
        ...translationsOut(whole.translations, "display", place, option.value.value.display ?? ""),
      },
    },
    extension,
    option.kept,
  );
}

const writeScore = (step: ScoreRule): JsonObject => ({
  url: url.score,
  extension: [
    { url: "method", valueCode: step.method },
    ...step.items.map((linkId) => {
      const weight = step.weights?.[linkId];
      const reversed = step.reversed?.includes(linkId) === true;
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
    ...(step.factor === undefined ? [] : [{ url: "factor", valueDecimal: step.factor }]),
    { url: "fewestAnswered", valueInteger: step.fewestAnswered },
    { url: "proration", valueCode: step.proration },
    ...(step.missingSource === undefined ? [] : [{ url: "missingSource", valueString: step.missingSource }]),
    ...(step.unread ?? []).map((line) => ({ url: "unread", valueString: line })),
    ...(step.bandsSource === undefined ? [] : [{ url: "bandsSource", valueString: step.bandsSource }]),
    ...step.bands.map((band) => ({
      url: "band",
      extension: [
        { url: "low", valueDecimal: band.low },
        { url: "high", valueDecimal: band.high },
        { url: "label", valueString: band.label },
        { url: "source", valueString: band.source },
        ...(band.alert === undefined ? [] : [{ url: "alert", valueString: band.alert }]),
      ],
    })),
    ...(step.change ? [writeChange(step.change)] : []),
  ],
});
const writeChange = ({ better, reliability, clinical, general, ...numbers }: ChangeRule): JsonObject => {
  const sourced = (name: string, said: Sourced | undefined, more: readonly JsonObject[] = []): JsonObject[] =>
    said
      ? [
          {
            url: name,
            extension: [
              { url: "value", valueDecimal: said.value },
              { url: "source", valueString: said.source },
              ...more,
            ],
          },
        ]
      : [];
  const norm = (name: string, said: Norm | undefined): JsonObject[] =>
    said
      ? [
          {
            url: name,
            extension: [
              { url: "mean", valueDecimal: said.mean },
              { url: "sd", valueDecimal: said.sd },
              { url: "source", valueString: said.source },
            ],
          },
        ]
      : [];
  return {
    url: "change",
    extension: [
      { url: "better", valueCode: better },
      ...sourced("reliability", reliability, reliability ? [{ url: "kind", valueCode: reliability.kind }] : []),
      ...norm("clinical", clinical),
      ...norm("general", general),
      ...changeNumbers.flatMap((name) => sourced(name, numbers[name])),
    ],
  };
};

function alertTest(test: AlertTest): JsonObject[] {
  switch (test.kind) {
    case "answers":
      return test.answers.map((a) => ({ url: "answer", ...valueTo(a, "value") }));
    case "numbers":
      return [
        ...(test.low === undefined ? [] : [{ url: "from", valueDecimal: test.low }]),
        ...(test.high === undefined ? [] : [{ url: "to", valueDecimal: test.high }]),
      ];
    case "unanswered":
      return [{ url: "unanswered", valueBoolean: true }];
    case "condition":
      return [
        { url: "behavior", valueCode: test.rule.behavior },
        ...test.rule.conditions.map((c) => ({
          url: "condition",
          extension: [
            { url: "question", valueString: c.question },
            { url: "operator", valueCode: c.operator },
            { url: "answer", ...valueTo(c.answer, "value") },
          ],
        })),
      ];
    default:
      return assertNever(test);
  }
}
