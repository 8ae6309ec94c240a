'use server';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../../../_server/form';
import { runAsStaff } from '../../../../_server/run';

export async function sendAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.sendPacket, {
    requestId: sent.get('requestId'), visitId: sent.get('visitId'), questionnaireIds: sent.getAll('questionnaireIds'),
  });
  if (!result.ok)
    return formFailure(result.error, {
      'no-contact': 'There is no way to reach this person. Add an e-mail or a phone to the chart first. Nothing was sent.',
      'not-in-use': 'One of these questionnaires is no longer in use. Load the page again and choose anew. Nothing was sent.',
    });
  redirect(`/packets/${result.value.packetId}`);
}
