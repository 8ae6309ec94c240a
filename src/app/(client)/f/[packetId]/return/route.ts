import { useCases } from "@/server";
import { answerJson, readJson } from "../../../../_server/json";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function POST(request: Request, { params }: Props): Promise<Response> {
  return answerJson(
    await runAsClient((await params).packetId, useCases.returnPacket, (await readJson(request, 20_000)) ?? null),
  );
}
