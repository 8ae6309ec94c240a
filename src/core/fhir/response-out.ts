import { isQuestion, place, prune, type Answers, type Placed, type Questionnaire } from "../questionnaire";
import { missingWords, scoresOf, type Score } from "../scoring";
import type { SignedStatement } from "../signing";
import type { Instant } from "../shared";
import type { JsonObject } from "./json";
import { consentSignatureCode, signatureTypeSystem, url } from "./urls";
import { valueTo } from "./values-in";

export interface ResponseFrame {
  readonly id: string;
  readonly client: { readonly id: string; readonly name: string };
  /** Who filled it in, when that was not the client. */
  readonly relation?: { readonly id: string; readonly name: string };
  readonly authored: Instant;
  readonly status: "in-progress" | "completed";
  /** `data` is the base64 of the canonical statement. */
  readonly signatures?: readonly { readonly statement: SignedStatement; readonly data: string }[];
}

/** A FHIR R4 QuestionnaireResponse: shown items only, scores filled in, the signature as HL7's extension. */
export function writeResponse(questionnaire: Questionnaire, answers: Answers, frame: ResponseFrame): JsonObject {
  const given = prune(questionnaire, answers);
  const scores = new Map(scoresOf(questionnaire, given).map((s) => [s.linkId, s]));
  const item = place(questionnaire, given).flatMap((p) => writePlaced(p, given, scores));
  const author = frame.relation
    ? { reference: `RelatedPerson/${frame.relation.id}`, display: frame.relation.name }
    : { reference: `Patient/${frame.client.id}`, display: frame.client.name };
  return {
    resourceType: "QuestionnaireResponse",
    id: frame.id,
    ...(frame.signatures && frame.signatures.length > 0
      ? {
          extension: frame.signatures.map((signature) => ({
            url: url.responseSignature,
            valueSignature: {
              type: [{ system: signatureTypeSystem, code: consentSignatureCode, display: "Consent Signature" }],
              when: signature.statement.at,
              who: { ...author, display: signature.statement.signer },
              targetFormat: "application/json",
              sigFormat: "application/json",
              data: signature.data,
            },
          })),
        }
      : {}),
    questionnaire: `${questionnaire.url}|${questionnaire.version}`,
    status: frame.status,
    subject: { reference: `Patient/${frame.client.id}`, display: frame.client.name },
    authored: frame.authored,
    author,
    source: author,
    ...(item.length > 0 ? { item } : {}),
  };
}

function writePlaced(placed: Placed, answers: Answers, scores: ReadonlyMap<string, Score>): JsonObject[] {
  if (!placed.shown || placed.item.type === "display") return [];
  const { item } = placed;
  if (item.type === "group" && item.repeats && placed.row === undefined)
    return placed.children.flatMap((row) => writePlaced(row, answers, scores));
  const children = placed.children.flatMap((c) => writePlaced(c, answers, scores));
  const head = { linkId: item.linkId, ...(item.text === "" ? {} : { text: item.text }) };
  if (!isQuestion(item)) return children.length > 0 ? [{ ...head, item: children }] : [];
  const score = scores.get(item.linkId);
  const answered = (): JsonObject[] => {
    if (item.score) {
      if (score?.value === undefined) return [];
      return [item.type === "integer" ? { valueInteger: score.value } : { valueDecimal: score.value }];
    }
    return (answers.values[placed.key] ?? []).map((v) => valueTo(v, "value"));
  };
  const values: JsonObject[] = answered();
  const missing = score ? missingWords(score) : "";
  const marks = missing === "" ? {} : { extension: [{ url: url.scoreMissing, valueString: missing }] };
  if (values.length === 0) return missing === "" ? [] : [{ ...head, ...marks }];
  // FHIR nests a question's own children under its answer.
  return [
    {
      ...head,
      ...marks,
      answer: values.map((v, i) => (i === 0 && children.length > 0 ? { ...v, item: children } : v)),
    },
  ];
}
