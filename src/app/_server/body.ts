import { mostBytes } from "@/core/files";

/** What was sent, read no further than one byte past what is taken, so that the use case can say it is too large. */
export async function bodyOf(request: Request): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    pieces.push(piece);
    bytes += piece.length;
    if (bytes > mostBytes) break;
  }
  return new Uint8Array(Buffer.concat(pieces));
}
