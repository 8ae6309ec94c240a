'use server';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../../_server/form';
import { runAsStaff } from '../../../_server/run';

export async function reverseAction(_: FormState, data: FormData): Promise<FormState> {
  const clientId = data.get('clientId');
  const result = await runAsStaff(useCases.reverse, { clientId, postingId: data.get('postingId'), requestId: data.get('requestId') });
  if (!result.ok) return formFailure(result.error, { 'already-reversed': 'This posting was reversed already.' });
  redirect(`/people/${String(clientId)}`);
}
