import 'server-only';
import type { Result } from '@/core/shared';

/** A request's JSON, or undefined when it is not JSON or too long; the use case then refuses it. */
export async function readJson(request: Request, most: number): Promise<unknown> {
  const text = await request.text();
  if (text.length > most) return undefined;
  try { return JSON.parse(text) as unknown; } catch { return undefined; }
}

const status: Readonly<Record<string, number>> = { 'not-allowed': 401, 'not-found': 404, invalid: 400, closed: 409, incomplete: 422, refused: 422 };
export function answerJson(result: Result<unknown, { readonly reason: string }>): Response {
  const headers = { 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' };
  return result.ok ? Response.json(result.value, { headers }) : Response.json(result.error, { headers, status: status[result.error.reason] ?? 422 });
}
