import { application, useCases } from "@/server";
import { answerJson } from "../../../../_server/json";
import { doorCookie, readCookie, setCookie } from "../../../../_server/request";
import { runAsClient } from "../../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function POST(_: Request, { params }: Props): Promise<Response> {
  const { packetId } = await params;
  const result = await runAsClient(packetId, useCases.stayIn, {});
  const pass = await readCookie(doorCookie);
  if (result.ok && pass !== undefined)
    await setCookie(await application(), doorCookie, pass, `/f/${packetId}`, result.value.passUntil);
  return answerJson(result);
}
