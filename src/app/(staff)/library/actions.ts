'use server';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import type { FormState } from '@/ui/form';
import { formFailure } from '../../_server/form';
import { runAsStaff } from '../../_server/run';

export interface ImportState extends FormState {
  readonly problems?: readonly { readonly path: string; readonly linkId?: string; readonly problem: string }[];
  readonly fileName?: string;
}
const largest = 20 * 1024 * 1024;

export async function importAction(_: ImportState, sent: FormData): Promise<ImportState> {
  const file = sent.get('file');
  if (!(file instanceof File) || file.size === 0) return { message: 'Choose a file first.' };
  const fileName = file.name;
  if (file.size > largest) return { fileName, problems: [{ path: '', problem: 'The file is larger than 20 MB. A questionnaire holds text only.' }] };
  const result = await runAsStaff(useCases.importQuestionnaire, { text: await file.text() });
  if (!result.ok) {
    const { error } = result;
    return error.reason === 'bad-file' ? { fileName, problems: error.problems } : formFailure(error);
  }
  redirect(`/library/${result.value.id}${result.value.already ? '?already' : ''}`);
}

export async function putInUseAction(_: FormState, sent: FormData): Promise<FormState> {
  const id = sent.get('id');
  const result = await runAsStaff(useCases.putInUse, { id });
  if (!result.ok) return formFailure(result.error);
  redirect(`/library/${String(id)}`);
}
