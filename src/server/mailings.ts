import { repositories } from "../db/repositories";
import { withoutValues } from "../db/errors";
import type { StaffActor } from "../usecases/kit";
import type { Application } from "./application";
import { run } from "./run";
import { writeNext } from "./use-cases";

const running = new WeakMap<Application, Promise<void>>();
/** Goes on with every mailing that is not over, one person after the other. One round at a time in a process: who asks meanwhile gets that one. */
export function runMailings(app: Application): Promise<void> {
  const own =
    running.get(app) ??
    goOn(app).finally(() => {
      running.delete(app);
    });
  running.set(app, own);
  return own;
}
async function goOn(app: Application): Promise<void> {
  const practice = await app.practice();
  if (!practice) return;
  const repo = repositories(app.database.db, app.ports.sealer);
  const left = new Set<string>();
  for (;;) {
    const mailing = (await withoutValues(() => repo.mailings.unfinished(practice.id))).find((m) => !left.has(m.id));
    if (!mailing) return;
    // One that cannot go on holds up no other; it stands as under way until somebody stops it.
    left.add(mailing.id);
    // In the name of who began it, as they are now: who has left, or may no longer send, writes to nobody.
    const staff = await withoutValues(() => repo.staff.byId(mailing.staffId));
    if (!staff) continue;
    const actor: StaffActor = {
      kind: "staff",
      id: staff.id,
      name: staff.name,
      email: staff.email,
      role: staff.role,
      sessionDigest: "",
      address: "mailing",
      device: "",
    };
    try {
      while (await oneMore(app, actor, mailing.id)) {
        // The embedded database answers without ever letting the process turn to anything else: requests come in between.
        await new Promise((resolve) => {
          setImmediate(resolve);
        });
      }
    } catch (error) {
      console.error(
        "kind-ledger: a mailing was cut short; it goes on with the next start.",
        error instanceof Error ? error.message : "",
      );
    }
  }
}
async function oneMore(app: Application, actor: StaffActor, mailingId: string): Promise<boolean> {
  const done = await run(app, writeNext, actor, { mailingId });
  return done.ok && done.value.more;
}
