import type { Result } from "@/core/shared";

/** A request's JSON, or undefined when it is not JSON or too long; the use case then refuses it. */
export async function readJson(request: Request, most: number): Promise<unknown> {
  return parseJson(await request.text(), most);
}
export function parseJson(text: string, most: number): unknown {
  if (text.length > most) return undefined;
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

const status: Readonly<Record<string, number>> = {
  "not-allowed": 401,
  "not-found": 404,
  invalid: 400,
  closed: 409,
  incomplete: 422,
  refused: 422,
  busy: 503,
};
export const jsonHeaders = { "cache-control": "no-store", "x-content-type-options": "nosniff" } as const;
export const jsonStatus = (result: Result<unknown, { readonly reason: string }>): number =>
  result.ok ? 200 : (status[result.error.reason] ?? 422);
export function answerJson(result: Result<unknown, { readonly reason: string }>): Response {
  return Response.json(result.ok ? result.value : result.error, { headers: jsonHeaders, status: jsonStatus(result) });
}
