'use client';
import Link from 'next/link';
import type { PacketState } from '@/core/packet';
import type { Id, Instant } from '@/core/shared';
import { ButtonLink } from '@/ui/button';
import { ActionForm } from '@/ui/form';
import { useLiveReload } from '@/ui/live';
import { Notice } from '@/ui/notice';
import { MarginRow, Page, SectionTitle, Soft } from '@/ui/page';
import { StateWords } from '@/ui/state-mark';
import { Moment } from '@/ui/time';
import { reissueAction } from './actions';

const stepWords: Readonly<Record<string, string>> = {
  'packet.send': 'Sent', 'packet.send-repeated': 'Send pressed again; nothing more was sent', 'packet.reissue': 'A fresh link was sent; the old one stopped working', 'door.code-sent': 'A code was asked for and sent',
  'door.wrong-code': 'A wrong code was typed', 'door.locked': 'Locked after five wrong codes', 'door.passed': 'Door check passed', signature: 'Signed',
  'packet.return': 'Returned', 'packet.return-repeated': 'Return pressed again; nothing more happened', 'return.view': 'Read by staff', 'reconcile.view': 'Laid beside the chart', 'response.export': 'Exported',
};
export interface PacketViewProps {
  readonly requestId: string;
  readonly packet: {
    readonly id: Id<'Packet'>; readonly clientId: Id<'Client'>; readonly clientName: string; readonly state: PacketState; readonly stateWords: string; readonly locked: boolean; readonly expiresAt: Instant;
    readonly titles: readonly string[]; readonly visit: { readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
    readonly recipient: { readonly name: string; readonly relation: string | undefined; readonly masked: string | undefined };
    readonly steps: readonly { readonly at: Instant; readonly action: string; readonly seq: number }[];
  };
}
export function PacketView({ packet, requestId }: PacketViewProps) {
  useLiveReload();
  const back = packet.state === 'returned' || packet.state === 'settled';
  const closed = back || packet.state === 'withdrawn';
  return (
    <Page
      title={<>Packet for <bdi>{packet.clientName}</bdi></>}
      margin={packet.visit ? <><Moment at={packet.visit.startsAt} /><br />{packet.visit.visitType}</> : undefined}
      actions={back ? <ButtonLink href={`/returns/${packet.id}`} weight="primary">Read what came back</ButtonLink> : <ButtonLink href="/post-room">Post room</ButtonLink>}
    >
      <MarginRow margin={<StateWords mark={packet.locked ? 'locked' : packet.state} words={packet.locked ? 'Door locked' : packet.stateWords} />}>
        <ul>{packet.titles.map((t) => <li key={t}>{t}</li>)}</ul>
        <Soft>To {packet.recipient.name}{packet.recipient.relation ? `, ${packet.recipient.relation}` : ''}{packet.recipient.masked ? `, ${packet.recipient.masked}` : ''}{closed ? null : <>. Open until <Moment at={packet.expiresAt} as="day" /></>}.</Soft>
      </MarginRow>
      {packet.locked && !closed && (
        <MarginRow margin="What happened" tone="attention">
          <Notice tone="attention"><strong>Five wrong codes were typed, so the page is locked.</strong> Nobody got in. Ask {packet.recipient.name} whether it was them, then send a fresh link. What was answered before is kept.</Notice>
        </MarginRow>
      )}
      <SectionTitle>Its journey</SectionTitle>
      <ol>
        {packet.steps.map((s) => <li key={s.seq}><MarginRow margin={<Moment at={s.at} />}>{stepWords[s.action] ?? s.action}</MarginRow></li>)}
      </ol>
      {!closed && (
        <MarginRow margin="If it went astray">
          <p>A fresh link goes to {packet.recipient.masked ?? 'nobody: there is no contact on file'}. The old link stops working, and answers given so far stay.</p>
          <div style={{ marginBlockStart: '0.75rem' }}><ActionForm action={reissueAction} submit="Send a fresh link" weight={packet.locked || packet.state === 'lapsed' ? 'primary' : 'plain'} hidden={{ packetId: packet.id, requestId }} disabled={!packet.recipient.masked} /></div>
        </MarginRow>
      )}
      <p style={{ paddingBlockStart: '1rem' }}><Link href={`/people/${packet.clientId}`}>Open the chart of <bdi>{packet.clientName}</bdi></Link></p>
    </Page>
  );
}
