'use server';
import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { useCases } from '@/compose';
import { staffCookie } from '../_server/request';
import { runAsStaff } from '../_server/run';

export async function signOutAction(): Promise<void> {
  await runAsStaff(useCases.signOut, {});
  (await cookies()).delete(staffCookie);
  redirect('/sign-in');
}
