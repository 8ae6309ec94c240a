'use server';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../../_server/form';
import { runAsStaff } from '../../../_server/run';

export async function draftAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.draft, {
    packetId: sent.get('packetId'), requestId: sent.get('requestId'), layoutId: sent.get('layoutId'), pick: sent.get('pick'), keys: sent.getAll('keys'),
  });
  if (!result.ok) return formFailure(result.error);
  redirect(`/notes/${result.value.noteId}`);
}
