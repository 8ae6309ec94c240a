import { isScored, type ScorePoint } from "../measures";
import type { Coding } from "../questionnaire";
import type { Instant } from "../shared";
import type { JsonObject } from "./json";

/** One return with its scores, or one score that was brought from a file. */
export interface ScoredReturn {
  readonly id: string;
  readonly at: Instant;
  readonly questionnaire: {
    readonly title: string;
    readonly url: string;
    readonly version: string;
    readonly codes: readonly Coding[];
  };
  readonly scores: readonly {
    readonly id: string;
    readonly title: string;
    readonly codes: readonly Coding[];
    readonly point: ScorePoint;
    readonly band: string;
    readonly least: number;
    readonly most: number;
  }[];
}
export interface ScoresFrame {
  readonly at: Instant;
  readonly client: { readonly id: string; readonly name: string };
  readonly returns: readonly ScoredReturn[];
}
const survey = [
  {
    coding: [
      { system: "http://terminology.hl7.org/CodeSystem/observation-category", code: "survey", display: "Survey" },
    ],
  },
];
const codeOf = (codes: readonly Coding[], text: string): JsonObject => ({
  ...(codes.length > 0
    ? {
        coding: codes.map(({ system, code, display }) => ({
          ...(system ? { system } : {}),
          code,
          ...(display ? { display } : {}),
        })),
      }
    : {}),
  text,
});

/**
 * Scores as a FHIR R4 Bundle: for each return an Observation that is the panel, with an Observation for each score as its
 * member, the band as its interpretation and the possible range beside it. A score that could not be given says so
 * (dataAbsentReason).
 */
export function writeScores({ at, client, returns }: ScoresFrame): JsonObject {
  const subject = { reference: `urn:uuid:${client.id}`, display: client.name };
  const entries = returns.flatMap((one): { id: string; resource: JsonObject }[] => {
    const common = { status: "final", category: survey, subject, effectiveDateTime: one.at };
    const response = one.scores.find(({ point }) => point.partId !== undefined)?.point.partId;
    const derived = response
      ? { derivedFrom: [{ reference: `urn:uuid:${response}`, type: "QuestionnaireResponse" }] }
      : {};
    const members = one.scores.map(({ id, title, codes, point, band, least, most }) => ({
      id,
      resource: {
        resourceType: "Observation",
        id,
        ...common,
        code: codeOf(codes, title),
        ...(isScored(point)
          ? {
              valueQuantity: {
                value: point.value,
                unit: "score",
                system: "http://unitsofmeasure.org",
                code: "{score}",
              },
            }
          : {
              dataAbsentReason: {
                coding: [{ system: "http://terminology.hl7.org/CodeSystem/data-absent-reason", code: "not-performed" }],
                text: `not scorable, ${point.answered} of ${point.items} answered`,
              },
            }),
        ...(band === "" ? {} : { interpretation: [{ text: band }] }),
        ...(point.prorated
          ? {
              note: [
                { text: `${point.answered} of ${point.items} items answered, filled up by the mean of the others` },
              ],
            }
          : {}),
        referenceRange: [{ low: { value: least }, high: { value: most }, text: "possible range" }],
        ...derived,
      } as JsonObject,
    }));
    return [
      {
        id: one.id,
        resource: {
          resourceType: "Observation",
          id: one.id,
          ...common,
          code: codeOf(one.questionnaire.codes, one.questionnaire.title),
          hasMember: members.map(({ id }) => ({ reference: `urn:uuid:${id}` })),
          ...derived,
          note: [{ text: `${one.questionnaire.url}, version ${one.questionnaire.version}` }],
        },
      },
      ...members,
    ];
  });
  return {
    resourceType: "Bundle",
    type: "collection",
    timestamp: at,
    entry: [
      {
        fullUrl: `urn:uuid:${client.id}`,
        resource: { resourceType: "Patient", id: client.id, name: [{ text: client.name }] },
      },
      ...entries.map(({ id, resource }) => ({ fullUrl: `urn:uuid:${id}`, resource })),
    ],
  };
}
