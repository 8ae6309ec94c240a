import type { Metadata } from 'next';
import { useCases } from '@/compose';
import { load } from '../../../../_server/run';
import { Composer } from './composer';

export const metadata: Metadata = { title: 'Composer' };
export default async function ComposerPage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  return <Composer view={await load(useCases.composerView, await params)} />;
}
