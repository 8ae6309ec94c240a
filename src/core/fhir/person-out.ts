import type { JsonObject } from "./json";

/** Who a client is, in what goes out. Ids are unique among their kind; days as YYYY-MM-DD. */
export interface ClientOut {
  readonly id: string;
  readonly firstName: string;
  readonly lastName: string;
  readonly preferredName?: string | undefined;
  readonly birthDate?: string | undefined;
  readonly email?: string | undefined;
  readonly phone?: string | undefined;
  readonly language: string;
}
/** Somebody around a client. */
export interface RelationOut {
  readonly id: string;
  readonly kind: string;
  readonly firstName: string;
  readonly lastName: string;
  readonly email?: string | undefined;
  readonly phone?: string | undefined;
  readonly ended: boolean;
}

const telecomOf = (email: string | undefined, phone: string | undefined): JsonObject[] => [
  ...(email ? [{ system: "email", value: email }] : []),
  ...(phone ? [{ system: "phone", value: phone }] : []),
];
const humanName = (firstName: string, lastName: string): JsonObject => ({
  use: "official",
  text: `${firstName} ${lastName}`.trim(),
  ...(lastName === "" ? {} : { family: lastName }),
  ...(firstName === "" ? {} : { given: [firstName] }),
});
/** FHIR has no empty lists. */
export const many = (name: string, list: readonly JsonObject[]): JsonObject =>
  list.length > 0 ? { [name]: list } : {};

export const patientReference = (client: ClientOut): JsonObject => ({
  reference: `Patient/${client.id}`,
  display: `${client.firstName} ${client.lastName}`.trim(),
});
/** The Patient, and a RelatedPerson for each of those around them. */
export function peopleOut(client: ClientOut, relations: readonly RelationOut[], practice: string): JsonObject[] {
  const patient = patientReference(client);
  return [
    {
      resourceType: "Patient",
      id: client.id,
      name: [
        humanName(client.firstName, client.lastName),
        ...(client.preferredName ? [{ use: "usual", text: client.preferredName }] : []),
      ],
      ...many("telecom", telecomOf(client.email, client.phone)),
      ...(client.birthDate ? { birthDate: client.birthDate } : {}),
      communication: [{ language: { coding: [{ system: "urn:ietf:bcp:47", code: client.language }] } }],
      managingOrganization: { display: practice },
    },
    ...relations.map((one) => ({
      resourceType: "RelatedPerson",
      id: one.id,
      active: !one.ended,
      patient,
      relationship: [{ text: one.kind }],
      name: [humanName(one.firstName, one.lastName)],
      ...many("telecom", telecomOf(one.email, one.phone)),
    })),
  ];
}
