'use client';
import Link from 'next/link';
import type { Id, Instant } from '@/core/shared';
import { MarginRow, Page, Soft } from '@/ui/page';
import { rowKeys } from '@/ui/shortcuts';
import { Moment } from '@/ui/time';

const purposes = { alert: 'To read first', packet: 'Personal link', nudge: 'Reminder', 'sent-back': 'Sent back', test: 'Test', code: 'Door code', locked: 'Lock told to the practice' } as const;
export interface PostRoomViewProps {
  readonly messages: readonly { readonly id: Id<'Message'>; readonly at: Instant; readonly channel: 'email' | 'text'; readonly purpose: keyof typeof purposes; readonly state: 'queued' | 'delivered' | 'bounced'; readonly toName: string; readonly masked: string }[];
}
export function PostRoomView({ messages }: PostRoomViewProps) {
  return (
    <Page title="Post room" margin="Newest first">
      <MarginRow margin="What this is"><p>The mail server and phone that come with Kind Ledger. Messages end here and leave no machine; open one to see it as the person would.</p></MarginRow>
      {messages.length === 0 && <MarginRow margin=""><p>Nothing went out yet. Send questionnaires from a visit on the <Link href="/day">Day sheet</Link>.</p></MarginRow>}
      <ol onKeyDown={rowKeys}>
        {messages.map((m) => (
          <li key={m.id}>
            <MarginRow margin={<><Moment at={m.at} /><br />{m.state}</>}>
              <Link href={`/post-room/${m.id}`} data-row>{purposes[m.purpose]} for <bdi>{m.toName}</bdi></Link> <Soft>{m.channel === 'email' ? 'e-mail' : 'text'} to {m.masked}</Soft>
            </MarginRow>
          </li>
        ))}
      </ol>
    </Page>
  );
}
