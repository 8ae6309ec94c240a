import { useCases } from "@/server";
import { answerJson } from "../../../../_server/json";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function GET(request: Request, { params }: Props): Promise<Response> {
  return answerJson(
    await runAsClient((await params).packetId, useCases.changesSince, {
      since: new URL(request.url).searchParams.get("since") ?? "",
    }),
  );
}
