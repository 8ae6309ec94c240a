import { useCases } from "@/server";
import { bodyOf } from "../../../../_server/body";
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
      bytes: await bodyOf(request),
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
