import { useCases } from "@/server";
import { givenFile } from "../../../../../_server/files";
import { runAsClient } from "../../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string; readonly id: string }>;
}
export async function GET(_: Request, { params }: Props): Promise<Response> {
  const { packetId, id } = await params;
  const result = await runAsClient(packetId, useCases.clientLeaflet, { id });
  return givenFile(result.ok ? { ...result.value.file, bytes: result.value.bytes } : undefined);
}
