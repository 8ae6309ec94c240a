import { repositories } from '../db/repositories';
import { withoutValues } from '../db/errors';
import type { Actor } from '../usecases/kit';
import type { Application } from './application';

interface From { readonly address: string; readonly device: string }

/** Staff behind a session cookie whose sign-in is complete; a stranger otherwise. */
export async function staffActor(app: Application, token: string | undefined, from: From): Promise<Actor> {
  if (token === undefined) return { kind: 'stranger', ...from };
  const digest = app.ports.sealer.mark('session', token);
  const found = await withoutValues(() => repositories(app.database.db, app.ports.sealer).staff.session(digest, app.ports.clock.now()));
  if (!found?.complete) return { kind: 'stranger', ...from };
  const { id, name, email, role } = found.staff;
  return { kind: 'staff', id, name, email, role, sessionDigest: digest, ...from };
}

/** The client behind a door pass for this packet; a stranger otherwise. */
export async function clientActor(app: Application, packetId: string, token: string | undefined, from: From): Promise<Actor> {
  if (token === undefined) return { kind: 'stranger', ...from };
  const found = await withoutValues(() => repositories(app.database.db, app.ports.sealer).packets.byPass(app.ports.sealer.mark('pass', token), app.ports.clock.now()));
  return found?.packetId === packetId ? { kind: 'client', packetId: found.packetId, linkId: found.linkId, ...from } : { kind: 'stranger', ...from };
}
