import { useCases } from "@/server";
import { givenFile } from "../../../../../_server/files";
import { runAsClient } from "../../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string; readonly partId: string }>;
}
export async function GET(_: Request, { params }: Props): Promise<Response> {
  const { packetId, partId } = await params;
  const result = await runAsClient(packetId, useCases.signedCopy, { partId });
  return givenFile(result.ok ? { ...result.value, contentType: "application/pdf" } : undefined);
}
