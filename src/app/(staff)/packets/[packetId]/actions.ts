'use server';
import { revalidatePath } from 'next/cache';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../../_server/form';
import { runAsStaff } from '../../../_server/run';

export async function reissueAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.reissueLink, { packetId: sent.get('packetId'), requestId: sent.get('requestId') });
  if (!result.ok)
    return formFailure(result.error, { closed: 'This packet came back already. Nothing was sent.', 'no-contact': 'There is no way to reach this person. Nothing was sent.' });
  revalidatePath('/packets/[packetId]', 'page');
  return {};
}
