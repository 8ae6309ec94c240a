import { linesOf, plainText, type NoteContent, type NoteLine } from "../notes";
import type { Instant } from "../shared";
import type { JsonObject } from "./json";
import { toBase64 } from "./record-out";

export interface NoteFrame {
  readonly id: string;
  readonly clientId: string;
  readonly clientName: string;
  readonly practice: string;
  readonly title: string;
  readonly author: string;
  readonly at: Instant;
  readonly content: NoteContent;
  readonly signed: { readonly at: Instant; readonly by: string } | undefined;
  readonly cosigned: { readonly at: Instant; readonly by: string } | undefined;
  readonly addenda: readonly { readonly by: string; readonly at: Instant; readonly text: string }[];
  /** The same as Markdown. */
  readonly markdown: string;
}
const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);
/** FHIR's narrative: a part of XHTML without anything that runs (R4, 2.4 Narrative). */
const narrative = (text: string): JsonObject => ({
  status: "generated",
  div: `<div xmlns="http://www.w3.org/1999/xhtml">${text
    .split("\n")
    .map((line) => `<p>${escaped(line)}</p>`)
    .join("")}</div>`,
});
function statusOf({ signed, addenda }: NoteFrame): string {
  if (!signed) return "preliminary";
  return addenda.length > 0 ? "amended" : "final";
}
interface Section {
  readonly title: string;
  readonly lines: NoteLine[];
}
function sectionsOf(lines: readonly NoteLine[]): Section[] {
  const sections: Section[] = [];
  for (const line of lines) {
    if (line.kind === "heading" && line.level === 2) sections.push({ title: line.text, lines: [] });
    else if (sections.length === 0) sections.push({ title: "", lines: [line] });
    else sections.at(-1)!.lines.push(line);
  }
  return sections;
}
const sectionOut = ({ title, lines }: Section): JsonObject => ({
  ...(title === "" ? {} : { title }),
  text: narrative(plainText(lines)),
});

/**
 * A note as a FHIR R4 document: a Composition with its sections (LOINC 34109-9, Note), who attested it, and the whole as
 * Markdown in a DocumentReference. What the client got stands in a section of its own.
 */
export function writeNote(note: NoteFrame): JsonObject {
  const { id, clientId, clientName, practice, title, author, at, content } = note;
  const subject = { reference: `urn:uuid:${clientId}`, display: clientName };
  const type = { coding: [{ system: "http://loinc.org", code: "34109-9", display: "Note" }], text: title };
  const takeHome = linesOf(content.takeHome);
  const attesters = [
    ...(note.signed ? [{ mode: "professional", time: note.signed.at, party: { display: note.signed.by } }] : []),
    ...(note.cosigned ? [{ mode: "professional", time: note.cosigned.at, party: { display: note.cosigned.by } }] : []),
  ];
  const composition: JsonObject = {
    resourceType: "Composition",
    id,
    status: statusOf(note),
    type,
    subject,
    date: note.addenda.at(-1)?.at ?? note.signed?.at ?? at,
    author: [{ display: author }],
    title,
    custodian: { display: practice },
    ...(attesters.length > 0 ? { attester: attesters } : {}),
    section: [
      ...sectionsOf(linesOf(content.body, content)).map(sectionOut),
      ...(takeHome.length > 0 ? [{ title: "Take-home", text: narrative(plainText(takeHome)) }] : []),
      ...note.addenda.map((one) => ({
        title: `Added by ${one.by}, ${one.at}`,
        text: narrative(one.text),
      })),
    ],
  };
  const reference: JsonObject = {
    resourceType: "DocumentReference",
    status: "current",
    docStatus: note.signed ? "final" : "preliminary",
    type,
    subject,
    date: at,
    author: [{ display: author }],
    custodian: { display: practice },
    content: [{ attachment: { contentType: "text/markdown; charset=utf-8", data: toBase64(note.markdown), title } }],
    context: { related: [{ reference: `urn:uuid:${id}` }] },
  };
  const patient: JsonObject = { resourceType: "Patient", id: clientId, name: [{ text: clientName }] };
  return {
    resourceType: "Bundle",
    type: "collection",
    timestamp: at,
    entry: [
      { fullUrl: `urn:uuid:${id}`, resource: composition },
      { fullUrl: `urn:uuid:${clientId}`, resource: patient },
      { resource: reference },
    ],
  };
}
