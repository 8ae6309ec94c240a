import type { Metadata } from 'next';
import { application, useCases } from '@/compose';
import { load } from '../../../../_server/run';
import { Rehearsal } from './rehearsal';

export const metadata: Metadata = { title: 'Rehearse' };
export default async function RehearsePage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  const practice = await (await application()).practice();
  return <Rehearsal view={await load(useCases.rehearsal, await params)} practiceName={practice?.name ?? ''} />;
}
