import { useCases } from "@/server";
import { answerJson, readJson } from "../../../../_server/json";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function POST(request: Request, { params }: Props): Promise<Response> {
  const body = await readJson(request, 2_000);
  return answerJson(await runAsClient((await params).packetId, useCases.askForPaper, body));
}
