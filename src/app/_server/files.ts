import 'server-only';

export const attachment = (name: string): Record<string, string> => ({ 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' });

/** A FHIR resource as a file, or 404 where the use case said no (to whom it is not open, it is not there). */
export function fhirFile(resource: object | undefined, name: string): Response {
  if (resource === undefined) return new Response(null, { status: 404 });
  return new Response(`${JSON.stringify(resource, null, 2)}\n`, { headers: { 'content-type': 'application/fhir+json; charset=utf-8', ...attachment(name) } });
}
