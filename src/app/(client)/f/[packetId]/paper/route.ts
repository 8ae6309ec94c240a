import { renderOwnPaper, useCases } from "@/server";
import { givenFile } from "../../../../_server/files";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function GET(_: Request, { params }: Props): Promise<Response> {
  const result = await runAsClient((await params).packetId, useCases.clientPaper, {});
  return givenFile(
    result.ok
      ? { title: "answers.pdf", contentType: "application/pdf", bytes: await renderOwnPaper(result.value) }
      : undefined,
  );
}
