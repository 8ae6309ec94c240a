import { useCases } from '@/compose';
import { answerJson } from '../../../../_server/json';
import { runAsClient } from '../../../../_server/run';

interface Props { readonly params: Promise<{ readonly packetId: string }> }
export async function POST(_: Request, { params }: Props): Promise<Response> {
  return answerJson(await runAsClient((await params).packetId, useCases.returnPacket, {}));
}
