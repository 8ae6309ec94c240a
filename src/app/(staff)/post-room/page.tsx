import type { Metadata } from 'next';
import { useCases } from '@/compose';
import { load } from '../../_server/run';
import { PostRoomView } from './post-room-view';

export const metadata: Metadata = { title: 'Post room' };
export default async function PostRoomPage() {
  return <PostRoomView messages={await load(useCases.postRoom, {})} />;
}
