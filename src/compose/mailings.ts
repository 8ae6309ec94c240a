import { repositories } from '../db/repositories';
import { withoutValues } from '../db/errors';
import type { StaffActor } from '../usecases/kit';
import type { Application } from './application';
import { run } from './run';
import { stopMailing, writeNext } from './use-cases';

const running = new WeakMap<Application, Promise<void>>();
/** Goes on with every mailing that is not over, one person after the other. One round at a time in a process: who asks meanwhile gets that one. */
export function runMailings(app: Application): Promise<void> {
  const own = running.get(app) ?? goOn(app).finally(() => { running.delete(app); });
  running.set(app, own);
  return own;
}
async function goOn(app: Application): Promise<void> {
  const practice = await app.practice();
  if (!practice) return;
  for (;;) {
    const repo = repositories(app.database.db, app.ports.sealer);
    const [mailing] = await withoutValues(() => repo.mailings.unfinished(practice.id));
    if (!mailing) return;
    // In the name of who began it, as they are now: who may no longer send writes to nobody.
    const staff = (await withoutValues(() => repo.staff.all(practice.id))).find((s) => s.id === mailing.staffId);
    if (!staff) return;
    const actor: StaffActor = { kind: 'staff', id: staff.id, name: staff.name, email: staff.email, role: staff.role, sessionDigest: '', address: 'mailing', device: '' };
    const input = { mailingId: mailing.id };
    for (let more = true; more;) {
      const done = await run(app, writeNext, actor, input);
      if (!done.ok) { await run(app, stopMailing, actor, input); return; }
      more = done.value.more;
      // The embedded database answers without ever letting the process turn to anything else: requests come in between.
      await new Promise((resolve) => { setImmediate(resolve); });
    }
  }
}
