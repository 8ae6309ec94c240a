'use server';
import { redirect } from 'next/navigation';
import { application, useCases, type DoorError } from '@/compose';
import { clientWords } from '@/i18n/client-words';
import type { FormState } from '@/ui/form';
import { doorCookie, setCookie } from '../../../_server/request';
import { runAsStranger } from '../../../_server/run';

type AnyError = DoorError | { readonly reason: 'invalid'; readonly fields: Readonly<Record<string, string>> } | { readonly reason: 'not-allowed' } | { readonly reason: 'not-found' };
function answer(error: AnyError, language: unknown): FormState {
  const t = clientWords('door', String(language));
  switch (error.reason) {
    case 'wrong-code': return { fields: { code: t('wrong', { left: error.left }) } };
    case 'code-expired': return { message: t('expired') };
    case 'wait': return { message: t('wait', { seconds: error.seconds }) };
    case 'too-many': return { message: t('tooMany') };
    case 'locked': return { message: t('locked') };
    case 'invalid': return { fields: error.fields };
    case 'closed': case 'not-allowed': case 'not-found': return { message: t('closed') };
  }
}

/** The language the page was switched to, if it was. */
const switched = (sent: FormData): string | undefined => (sent.get('switched') === 'yes' ? String(sent.get('language')) : undefined);
const suffix = (sent: FormData): string => (switched(sent) ? `?in=${encodeURIComponent(switched(sent)!)}` : '');

export async function sendCodeAction(_: FormState, sent: FormData): Promise<FormState> {
  const token = sent.get('token');
  const result = await runAsStranger(useCases.sendCode, { token, language: switched(sent) });
  if (!result.ok) return answer(result.error, sent.get('language'));
  redirect(`/p/${String(token)}${suffix(sent)}`);
}

export async function checkCodeAction(_: FormState, sent: FormData): Promise<FormState> {
  const token = sent.get('token');
  const result = await runAsStranger(useCases.checkCode, { token, code: sent.get('code'), language: switched(sent) });
  if (!result.ok) {
    if (result.error.reason === 'locked') redirect(`/p/${String(token)}${suffix(sent)}`);
    return answer(result.error, sent.get('language'));
  }
  const { packetId, passToken, expiresAt } = result.value;
  await setCookie(await application(), doorCookie, passToken, `/f/${packetId}`, expiresAt);
  redirect(`/f/${packetId}`);
}
