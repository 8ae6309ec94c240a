import { useCases } from "@/server";
import { mostBytes } from "@/core/files";
import { answerJson } from "../../../../_server/json";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
/**
 * A file as the body; what it belongs to in the address, its name in a header: none of them says anything of its
 * content.
 */
export async function PUT(request: Request, { params }: Props): Promise<Response> {
  const { searchParams } = new URL(request.url);
  const name = decode(request.headers.get("x-file-name") ?? "");
  return answerJson(
    await runAsClient((await params).packetId, useCases.addFile, {
      requestId: searchParams.get("id"),
      partId: searchParams.get("part"),
      key: decode(request.headers.get("x-answer-key") ?? ""),
      name,
      bytes: await body(request),
    }),
  );
}
const decode = (text: string): string => {
  try {
    return decodeURIComponent(text);
  } catch {
    return "";
  }
};

/** What was sent, read no further than one byte past what is taken, so that the use case can say it is too large. */
async function body(request: Request): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    pieces.push(piece);
    bytes += piece.length;
    if (bytes > mostBytes) break;
  }
  return new Uint8Array(Buffer.concat(pieces));
}
