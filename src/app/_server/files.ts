import "server-only";

export const attachment = (name: string): Record<string, string> => ({
  "content-disposition": `attachment; filename="${name}"`,
  "cache-control": "no-store",
});

/**
 * A file of somebody's as it was kept, always to be saved and never shown by the browser; 404 where the use case said
 * no.
 */
export function givenFile(
  given: { readonly title: string; readonly contentType: string; readonly bytes: Uint8Array } | undefined,
): Response {
  if (!given) return new Response(null, { status: 404 });
  const plain = given.title.normalize("NFKD").replace(/[^ -~]|["\\%;]/g, "") || "file";
  // RFC 8187: what `encodeURIComponent` leaves and an extended value may not hold.
  const whole = encodeURIComponent(given.title).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16)}`);
  return new Response(new Uint8Array(given.bytes), {
    headers: {
      "content-type": given.contentType,
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
      "content-disposition": `attachment; filename="${plain}"; filename*=UTF-8''${whole}`,
    },
  });
}

/** A FHIR resource as a file, or 404 where the use case said no (to whom it is not open, it is not there). */
export function fhirFile(resource: object | undefined, name: string): Response {
  if (resource === undefined) return new Response(null, { status: 404 });
  return new Response(`${JSON.stringify(resource, null, 2)}\n`, {
    headers: { "content-type": "application/fhir+json; charset=utf-8", ...attachment(name) },
  });
}

/** A table as a file; 404 where the use case said no. The mark of the byte order tells spreadsheets that it is UTF-8. */
export function csvFile(table: string | undefined, name: string): Response {
  if (table === undefined) return new Response(null, { status: 404 });
  return new Response(`\uFEFF${table}`, {
    headers: { "content-type": "text/csv; charset=utf-8", ...attachment(name) },
  });
}
