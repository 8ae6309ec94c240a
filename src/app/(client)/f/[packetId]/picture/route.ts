import { useCases } from "@/server";
import { bodyOf } from "../../../../_server/body";
import { answerJson } from "../../../../_server/json";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function PUT(request: Request, { params }: Props): Promise<Response> {
  const bytes = await bodyOf(request);
  return answerJson(await runAsClient((await params).packetId, useCases.cutPicture, { bytes }));
}
