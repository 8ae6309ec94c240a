'use client';
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import type { PacketState } from '@/core/packet';
import type { QuestionnaireKind } from '@/core/questionnaire';
import type { Id, Instant } from '@/core/shared';
import { CheckboxGroup } from '@/ui/fields';
import { ActionForm } from '@/ui/form';
import { Notice } from '@/ui/notice';
import { MarginRow, Page, Soft, Stack } from '@/ui/page';
import { Moment } from '@/ui/time';
import { sendAction } from './actions';

export interface SendViewProps {
  readonly requestId: string;
  readonly options: {
    readonly visitId: Id<'Visit'>; readonly clientId: Id<'Client'>; readonly clientName: string; readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string;
    readonly recipient: { readonly firstName: string; readonly name: string; readonly relation: string | undefined; readonly channel: 'email' | 'text' | undefined; readonly masked: string | undefined };
    readonly expiresAt: Instant;
    readonly questionnaires: readonly { readonly id: Id<'Questionnaire'>; readonly title: string; readonly kind: QuestionnaireKind; readonly description: string; readonly usual: boolean }[];
    readonly earlier: readonly { readonly id: Id<'Packet'>; readonly state: PacketState; readonly createdAt: Instant }[];
  };
}
export function SendView({ options, requestId }: SendViewProps) {
  const [chosen, setChosen] = useState(options.questionnaires.filter((q) => q.usual).map((q) => q.id as string));
  const { recipient } = options;
  const who = recipient.relation ? `${recipient.name}, ${recipient.relation},` : recipient.firstName;
  return (
    <Page title={<>Send to <bdi>{options.clientName}</bdi></>} margin={<><Moment at={options.startsAt} /><br />{options.visitType}<br />with {options.practitioner}</>}>
      {options.earlier.length > 0 && (
        <MarginRow margin="Sent before">
          <Notice tone="attention">This visit already has a packet: {options.earlier.map((p) => <Link key={p.id} href={`/packets/${p.id}`}>sent <Moment at={p.createdAt} /></Link>)}. Sending again makes a second one.</Notice>
        </MarginRow>
      )}
      <ActionForm
        action={sendAction} inPage submit={`Send ${chosen.length === 1 ? 'it' : `all ${chosen.length}`} to ${recipient.firstName}`} disabled={recipient.channel === undefined || chosen.length === 0}
        hidden={{ requestId, visitId: options.visitId }}
      >
        <div>
          <MarginRow margin={`${chosen.length} of ${options.questionnaires.length} chosen`}>
            {options.questionnaires.length === 0
              ? <p>No questionnaire is in use yet. <Link href="/library">Put one in use in the Library</Link> first.</p>
              : <CheckboxGroup label="What to send, in this order" name="questionnaireIds" value={chosen} onChange={setChosen}
                  options={options.questionnaires.map((q) => ({ value: q.id, label: q.title, note: `${q.kind}${q.description ? `. ${q.description}` : ''}` }))} />}
          </MarginRow>
          <MarginRow margin="What will happen">
            {recipient.channel === undefined
              ? <Notice tone="attention"><strong>Nobody can be reached.</strong> There is no e-mail and no phone on file for {recipient.name}. Add one to the chart, then come back.</Notice>
              : (
                <Stack $gap="0.4rem">
                  <p><bdi>{who}</bdi> gets {recipient.channel === 'email' ? 'an e-mail at' : 'a text to'} <Strong>{recipient.masked}</Strong>, can open it until <Strong><Moment at={options.expiresAt} as="day" /></Strong>, and proves who they are with a code sent to the same place.</p>
                  <Soft>Nothing about their health stands in the message.</Soft>
                </Stack>
              )}
          </MarginRow>
        </div>
      </ActionForm>
    </Page>
  );
}
const Strong = styled.strong`font-weight: 600; white-space: nowrap;`;
