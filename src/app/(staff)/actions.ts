'use server';
import { leaveStaff } from '../_server/run';

export async function signOutAction(): Promise<void> {
  await leaveStaff('/sign-in');
}
