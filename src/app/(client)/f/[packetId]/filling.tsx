'use client';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import type { Id, Instant } from '@/core/shared';
import { FillApp, type FillAppProps } from '@/ui/fill/fill-app';
import type { FillServer } from '@/ui/fill/use-packet';

/** The client's page on the practice's server. */
export function FillPage({ packetId, words, view, firstStep }: Pick<FillAppProps, 'words' | 'view' | 'firstStep'> & { readonly packetId: Id<'Packet'> }) {
  const router = useRouter();
  const server = useMemo((): FillServer => ({
    async save(partId, changes) {
      const response = await fetch(`/f/${packetId}/answers`, { method: 'PUT', body: JSON.stringify({ partId, changes }), keepalive: true });
      if (response.ok) return { kind: 'saved', at: ((await response.json()) as { savedAt: Instant }).savedAt };
      return { kind: response.status >= 500 || response.status === 429 ? 'again' : 'stop' };
    },
    async sign(partId, mark) {
      const response = await fetch(`/f/${packetId}/sign`, { method: 'POST', body: JSON.stringify({ partId, ...mark }) }).catch(() => undefined);
      if (response?.ok) return { kind: 'signed', at: ((await response.json()) as { at: Instant }).at };
      return { kind: response?.status === 422 ? 'incomplete' : 'no-reply' };
    },
    async send() {
      const response = await fetch(`/f/${packetId}/return`, { method: 'POST' }).catch(() => undefined);
      // The server says what comes now: the thank-you page, or why it is closed.
      const over = response?.ok === true || response?.status === 409;
      if (over) router.refresh();
      return over;
    },
  }), [packetId, router]);
  return <FillApp words={words} server={server} view={view} firstStep={firstStep} />;
}
