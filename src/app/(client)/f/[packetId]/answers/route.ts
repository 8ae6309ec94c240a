import { application, clientActor, run, useCases } from '@/compose';
import { isSameOrigin } from '@/core/shared';
import { answerJson, readJson } from '../../../../_server/json';
import { doorCookie } from '../../../../_server/request';

interface Props { readonly params: Promise<{ readonly packetId: string }> }
/** The one route that the proxy does not stand before (see proxy.ts), so it looks at the origin itself. */
export async function PUT(request: Request, { params }: Props): Promise<Response> {
  if (!isSameOrigin(request.headers)) return Response.json({ error: 'This request came from another site.' }, { status: 403 });
  const app = await application();
  const pass = new RegExp(`(?:^|; )${doorCookie}=([\\w-]+)`).exec(request.headers.get('cookie') ?? '')?.[1];
  const from = { address: request.headers.get('x-kind-ledger-address') ?? 'unknown', device: '' };
  const actor = await clientActor(app, (await params).packetId, pass, from);
  return answerJson(await run(app, useCases.saveAnswers, actor, await readJson(request, 1_000_000)));
}
