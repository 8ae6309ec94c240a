import type { Instant } from "../shared";
import type { SignedStatement } from "../signing";
import type { JsonObject } from "./json";
import { consentSignatureCode, signatureTypeSystem } from "./urls";

/** A consent as it goes out. Ids are unique among their kind. */
export interface ConsentFrame {
  readonly id: string;
  readonly client: { readonly id: string; readonly name: string };
  readonly practice: string;
  readonly title: string;
  readonly url: string;
  readonly version: string;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly withdrawnAt: Instant | null;
  /** A later one took its place. */
  readonly renewed: boolean;
  /** The response that was signed, by its id. */
  readonly responseId: string;
  readonly signatures: readonly {
    readonly statement: SignedStatement;
    /** The statement's canonical bytes in base64. */
    readonly data: string;
    /** The client, or somebody else by name. */
    readonly as: "client" | "other";
  }[];
}
const system = "http://terminology.hl7.org/CodeSystem";

/** A Consent (FHIR R4) and, with its signatures, the Provenance of it. */
export function writeConsent(frame: ConsentFrame): [JsonObject, JsonObject] {
  const { client, signatures } = frame;
  const ended = frame.withdrawnAt !== null || frame.renewed;
  const consent: JsonObject = {
    resourceType: "Consent",
    id: frame.id,
    status: ended ? "inactive" : "active",
    scope: { coding: [{ system: `${system}/consentscope`, code: "treatment", display: "Treatment" }] },
    category: [{ coding: [{ system: "http://loinc.org", code: "59284-0", display: "Patient Consent" }] }],
    patient: { reference: `Patient/${client.id}`, display: client.name },
    dateTime: frame.from,
    organization: [{ display: frame.practice }],
    sourceReference: { reference: `QuestionnaireResponse/${frame.responseId}` },
    // FHIR wants a policy or a rule (ppc-1): the text that was agreed to.
    policyRule: { text: `${frame.title}, version ${frame.version}` },
    provision: {
      type: "permit",
      period: {
        start: frame.from,
        ...((frame.withdrawnAt ?? frame.until) ? { end: frame.withdrawnAt ?? frame.until } : {}),
      },
    },
  };
  const who = (one: ConsentFrame["signatures"][number]): JsonObject =>
    one.as === "client"
      ? { reference: `Patient/${client.id}`, display: one.statement.signer }
      : { display: one.statement.signer };
  const provenance: JsonObject = {
    resourceType: "Provenance",
    id: `${frame.id}-signed`,
    target: [{ reference: `Consent/${frame.id}` }],
    occurredDateTime: frame.from,
    recorded: frame.from,
    policy: [frame.url],
    activity: { coding: [{ system: `${system}/v3-DataOperation`, code: "CREATE", display: "create" }] },
    agent: signatures.map((one) => ({
      type: { coding: [{ system: `${system}/provenance-participant-type`, code: "attester", display: "Attester" }] },
      who: who(one),
    })),
    signature: signatures.map((one) => ({
      type: [{ system: signatureTypeSystem, code: consentSignatureCode, display: "Consent Signature" }],
      when: one.statement.at,
      who: who(one),
      targetFormat: "application/json",
      sigFormat: "application/json",
      data: one.data,
    })),
  };
  return [consent, provenance];
}
