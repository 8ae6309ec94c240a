import type { AnswerOption, Item, Question, Questionnaire, ScoreRule } from '../questionnaire';
import { emptyText, type JsonObject } from './json';
import { scoreExpression } from './score-expression';
import { consentSignatureCode, itemControlSystem, signatureTypeSystem, url } from './urls';
import { valueTo } from './values-in';

/** A FHIR R4 Questionnaire, equal in meaning to what was read: what was kept at import is written out again. */
export function writeQuestionnaire(q: Questionnaire): JsonObject {
  const extension: JsonObject[] = [{ url: url.kind, valueCode: q.kind }];
  if (q.signed) extension.push({ url: url.signatureRequired, valueCodeableConcept: { coding: [{ system: signatureTypeSystem, code: consentSignatureCode, display: 'Consent Signature' }] } });
  return withKept({
    resourceType: 'Questionnaire', url: q.url, version: q.version, ...(q.name ? { name: q.name } : {}), title: q.title, status: q.status,
    ...(q.language ? { language: q.language } : {}), ...(q.description ? { description: q.description } : {}),
    ...(q.publisher ? { publisher: q.publisher } : {}), ...(q.copyright ? { copyright: q.copyright } : {}),
    ...(q.codes.length > 0 ? { code: q.codes } : {}), item: q.items.map((i) => writeItem(i, q)),
  }, extension, q.kept);
}

/** Joins our own extensions and those kept from the file, ours first. */
function withKept(json: JsonObject, extension: readonly JsonObject[], kept: Readonly<Record<string, unknown>> | undefined): JsonObject {
  const all = [...extension.map(withoutEmpty), ...((kept?.['extension'] as JsonObject[] | undefined) ?? [])];
  return { ...json, ...kept, ...(all.length > 0 ? { extension: all } : {}) };
}

const withoutEmpty = (e: JsonObject): JsonObject =>
  Array.isArray(e['extension']) ? { ...e, extension: (e['extension'] as JsonObject[]).map(withoutEmpty) } : e['valueString'] === '' ? { ...e, valueString: emptyText } : e;

function writeItem(item: Item, whole: Questionnaire): JsonObject {
  const extension: JsonObject[] = [];
  const json: Record<string, unknown> = {
    linkId: item.linkId, ...(item.prefix ? { prefix: item.prefix } : {}), ...(item.text === '' ? {} : { text: item.text }), type: item.type,
    ...(item.codes.length > 0 ? { code: item.codes } : {}),
  };
  if (item.shownWhen) {
    json['enableWhen'] = item.shownWhen.conditions.map((c) => ({ question: c.question, operator: c.operator, ...valueTo(c.answer, 'answer') }));
    if (item.shownWhen.conditions.length > 1 || item.shownWhen.behavior === 'any') json['enableBehavior'] = item.shownWhen.behavior;
  }
  if (item.type !== 'display') {
    if (item.required) json['required'] = true;
    if (item.repeats) json['repeats'] = true;
    if (item.posting) extension.push({ url: url.posting, extension: [{ url: 'field', valueCode: item.posting.field }, { url: 'rule', valueCode: item.posting.rule }] });
    if (item.type !== 'group') writeQuestion(item, json, extension, whole);
    if (item.items.length > 0) json['item'] = item.items.map((i) => writeItem(i, whole));
  }
  return withKept(json, extension, item.kept);
}

function writeQuestion(q: Question, json: Record<string, unknown>, extension: JsonObject[], whole: Questionnaire): void {
  if (q.readOnly) json['readOnly'] = true;
  if (q.maxLength !== undefined) json['maxLength'] = q.maxLength;
  if (q.options.length > 0) json['answerOption'] = q.options.map(writeOption);
  const bound = (v: number | string): JsonObject =>
    typeof v === 'string' ? { [v.includes(':') ? 'valueTime' : 'valueDate']: v } : { [q.type === 'integer' ? 'valueInteger' : 'valueDecimal']: v };
  if (q.help !== undefined) extension.push({ url: url.help, valueString: q.help });
  if (q.minLength !== undefined) extension.push({ url: url.minLength, valueInteger: q.minLength });
  if (q.minValue !== undefined) extension.push({ url: url.minValue, ...bound(q.minValue) });
  if (q.maxValue !== undefined) extension.push({ url: url.maxValue, ...bound(q.maxValue) });
  if (q.maxDecimalPlaces !== undefined) extension.push({ url: url.maxDecimalPlaces, valueInteger: q.maxDecimalPlaces });
  if (q.unit) extension.push({ url: url.unit, valueCoding: q.unit });
  if (q.entryFormat !== undefined) extension.push({ url: url.entryFormat, valueString: q.entryFormat });
  if (q.pattern !== undefined) extension.push({ url: url.regex, valueString: q.pattern });
  if (q.keyboard) extension.push({ url: url.keyboard, valueCode: q.keyboard });
  if (q.control !== undefined) extension.push({ url: url.itemControl, valueCodeableConcept: { coding: [{ system: itemControlSystem, code: q.control }] } });
  if (q.alert) extension.push({ url: url.alert, extension: [{ url: 'from', valueDecimal: q.alert.from }, { url: 'message', valueString: q.alert.message }] });
  if (q.step !== undefined) extension.push({ url: url.sliderStep, valueInteger: q.step });
  if (q.ends) extension.push({ url: url.scaleEnds, extension: [{ url: 'low', valueString: q.ends[0] }, { url: 'high', valueString: q.ends[1] }] });
  if (q.terms !== undefined) extension.push({ url: url.terms, valueString: q.terms });
  if (q.score) extension.push(writeScore(q.score), { url: url.calculated, valueExpression: { language: 'text/fhirpath', expression: scoreExpression(whole, q) } });
}

function writeOption(o: AnswerOption): JsonObject {
  const extension: JsonObject[] = [];
  if (o.ordinal !== undefined) extension.push({ url: url.ordinalValue, valueDecimal: o.ordinal });
  if (o.exclusive) extension.push({ url: url.optionExclusive, valueBoolean: true });
  return withKept({ ...valueTo(o.value, 'value') }, extension, o.kept);
}

const writeScore = (s: ScoreRule): JsonObject => ({
  url: url.score,
  extension: [
    { url: 'method', valueCode: s.method },
    ...s.items.map((linkId) => {
      const weight = s.weights?.[linkId], reversed = s.reversed?.includes(linkId) === true;
      if (weight === undefined && !reversed) return { url: 'item', valueString: linkId };
      return { url: 'item', extension: [{ url: 'linkId', valueString: linkId }, ...(weight === undefined ? [] : [{ url: 'weight', valueDecimal: weight }]), ...(reversed ? [{ url: 'reversed', valueBoolean: true }] : [])] };
    }),
    ...(s.factor === undefined ? [] : [{ url: 'factor', valueDecimal: s.factor }]),
    { url: 'fewestAnswered', valueInteger: s.fewestAnswered },
    { url: 'proration', valueCode: s.proration },
    ...s.bands.map((b) => ({
      url: 'band',
      extension: [{ url: 'low', valueDecimal: b.low }, { url: 'high', valueDecimal: b.high }, { url: 'label', valueString: b.label }, { url: 'source', valueString: b.source }, ...(b.alert === undefined ? [] : [{ url: 'alert', valueString: b.alert }])],
    })),
  ],
});
