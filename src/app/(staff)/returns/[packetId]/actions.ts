'use server';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../../_server/form';
import { runAsStaff } from '../../../_server/run';

export async function draftAction(_: FormState, data: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.draft, {
    packetId: data.get('packetId'), requestId: data.get('requestId'), layoutId: data.get('layoutId'), pick: data.get('pick'), keys: data.getAll('keys'),
  });
  if (!result.ok) return formFailure(result.error);
  redirect(`/notes/${result.value.noteId}`);
}
