import type { Instant } from "../shared";
import type { JsonObject } from "./json";
import { patientReference, peopleOut, type ClientOut, type RelationOut } from "./person-out";

/** Everything of one client's that has a place in FHIR R4. Days as YYYY-MM-DD; ids are unique among their kind. */
export interface RecordFrame {
  readonly at: Instant;
  readonly practice: string;
  readonly client: ClientOut;
  readonly relations: readonly RelationOut[];
  /** As they were posted; those that were reversed count as entered in error. */
  readonly entries: readonly {
    readonly id: string;
    readonly at: Instant;
    readonly by: string;
    readonly label: string;
    readonly text: string;
    readonly reversed: boolean;
  }[];
  readonly responses: readonly JsonObject[];
  /** Consents and what proves them. */
  readonly consents: readonly JsonObject[];
  readonly visits: readonly {
    readonly id: string;
    readonly startsAt: Instant;
    readonly endsAt: Instant;
    readonly type: string;
    readonly practitioner: string;
    readonly cancelled: boolean;
  }[];
  readonly notes: readonly { readonly id: string; readonly at: Instant; readonly by: string; readonly text: string }[];
  readonly letters: readonly {
    readonly id: string;
    readonly at: Instant;
    readonly channel: "email" | "text";
    readonly subject: string;
    readonly text: string;
  }[];
  readonly files: readonly {
    readonly id: string;
    readonly at: Instant;
    readonly title: string;
    readonly contentType: string;
    readonly bytes: number;
    /** Where it lies beside the bundle. */
    readonly path: string;
  }[];
}

/** UTF-8, as FHIR's attachments are. */
export function toBase64(text: string): string {
  const bytes = new TextEncoder().encode(text);
  const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  let out = "";
  for (let at = 0; at < bytes.length; at += 3) {
    const [one, two, three] = [bytes[at]!, bytes[at + 1], bytes[at + 2]];
    out += letters[one >> 2]! + letters[((one & 3) << 4) | ((two ?? 0) >> 4)]!;
    out += two === undefined ? "=" : letters[((two & 15) << 2) | ((three ?? 0) >> 6)]!;
    out += three === undefined ? "=" : letters[three & 63]!;
  }
  return out;
}

/**
 * A FHIR R4 Bundle of type collection: the Patient, those around them, each value that was ever posted as an
 * Observation, what came back, visits as Appointments, notes and files as DocumentReferences, letters as Communications.
 */
export function writeRecord(frame: RecordFrame): JsonObject {
  const { client } = frame;
  const patient = patientReference(client);
  const resources: JsonObject[] = [
    ...peopleOut(client, frame.relations, frame.practice),
    ...frame.entries.map((one) => ({
      resourceType: "Observation",
      id: one.id,
      status: one.reversed ? "entered-in-error" : "final",
      code: { text: one.label },
      subject: patient,
      effectiveDateTime: one.at,
      performer: [{ display: one.by }],
      ...(one.text === "" ? { dataAbsentReason: { text: "no longer" } } : { valueString: one.text }),
    })),
    ...frame.consents,
    ...frame.responses,
    ...frame.visits.map((one) => ({
      resourceType: "Appointment",
      id: one.id,
      status: appointmentStatus(one.cancelled, one.endsAt, frame.at),
      appointmentType: { text: one.type },
      start: one.startsAt,
      end: one.endsAt,
      participant: [
        { actor: patient, status: "accepted" },
        { actor: { display: one.practitioner }, status: "accepted" },
      ],
    })),
    ...frame.notes.map((one) => ({
      resourceType: "DocumentReference",
      id: one.id,
      status: "current",
      type: { text: "Session note" },
      subject: patient,
      date: one.at,
      author: [{ display: one.by }],
      content: [{ attachment: { contentType: "text/plain; charset=utf-8", data: toBase64(one.text) } }],
    })),
    ...frame.files.map((one) => ({
      resourceType: "DocumentReference",
      id: one.id,
      status: "current",
      type: { text: "File given as an answer" },
      subject: patient,
      date: one.at,
      content: [{ attachment: { contentType: one.contentType, url: one.path, size: one.bytes, title: one.title } }],
    })),
    ...frame.letters.map((one) => ({
      resourceType: "Communication",
      id: one.id,
      status: "completed",
      medium: [{ text: one.channel === "email" ? "e-mail" : "text message" }],
      subject: patient,
      sent: one.at,
      ...(one.subject === "" ? {} : { topic: { text: one.subject } }),
      payload: [{ contentString: one.text }],
    })),
  ];
  return {
    resourceType: "Bundle",
    type: "collection",
    timestamp: frame.at,
    entry: resources.map((resource) => ({
      fullUrl: `urn:uuid:${String(resource["id"])}`,
      resource,
    })),
  };
}
function appointmentStatus(cancelled: boolean, endsAt: Instant, now: Instant): string {
  if (cancelled) return "cancelled";
  return endsAt < now ? "fulfilled" : "booked";
}
