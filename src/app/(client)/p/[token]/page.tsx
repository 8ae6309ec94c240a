import type { Metadata } from 'next';
import { application, useCases } from '@/compose';
import { clientLanguage, clientWords } from '@/i18n/client-words';
import { Doorstep } from '@/ui/doorstep';
import { runAsStranger } from '../../../_server/run';
import { Door } from './door';

export const metadata: Metadata = { title: { absolute: 'Your personal page' } };
export default async function DoorPage({ params }: { readonly params: Promise<{ readonly token: string }> }) {
  const { token } = await params;
  const result = await runAsStranger(useCases.openLink, { token });
  const practice = (await (await application()).practice())?.name ?? '';
  if (!result.ok) {
    const t = clientWords('door');
    const locked = result.error.reason === 'locked';
    return <Doorstep name={practice}><h1>{t(locked ? 'lockedTitle' : 'closedTitle')}</h1><p>{t(locked ? 'locked' : 'closed')}</p></Doorstep>;
  }
  // An address runs from left to right, whatever stands around it.
  const { channel, codeOut } = result.value, masked = `\u2066${result.value.masked}\u2069`, language = clientLanguage(result.value.language);
  const t = clientWords('door', language);
  return (
    <Doorstep name={practice} language={language}>
      <h1>{t('title')}</h1>
      <p>{t('why')}</p>
      <Door
        token={token} codeOut={codeOut} language={language}
        words={{
          to: t(channel === 'email' ? 'toEmail' : 'toText', { masked }), send: t('send'), again: t('again'), codeLabel: t('codeLabel'), codeHelp: t('codeHelp'),
          check: t('check'), sent: t(channel === 'email' ? 'sentEmail' : 'sentText', { masked }), notMine: t('notMine'),
        }}
      />
    </Doorstep>
  );
}
