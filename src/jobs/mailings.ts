import { repositories } from "../db/repositories";
import { withoutValues } from "../db/errors";
import type { StaffActor } from "../usecases/kit";
import { writeNext } from "../usecases/sending";
import type { Application } from "../server/application";
import { run } from "../server/run";

const running = new WeakMap<Application, Promise<void>>();
/**
 * Goes on with every mailing that is not over, one person after the other. One round at a time in a process: who asks
 * meanwhile gets that one.
 */
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
  while (!stopped.has(app)) {
    const mailing = (await withoutValues(() => repo.mailings.unfinished(practice.id))).find(
      (m) => !left.has(m.id) && (failedAt.get(m.id) ?? -Infinity) < performance.now() - againAfterMs,
    );
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
      while (!stopped.has(app) && (await oneMore(app, actor, mailing.id))) {
        // The embedded database answers without ever letting the process turn to anything else: requests come in
        // between.
        await new Promise((resolve) => {
          setImmediate(resolve);
        });
      }
    } catch (error) {
      failedAt.set(mailing.id, performance.now());
      console.error(
        "kind-ledger: a mailing was cut short; it goes on in a few minutes.",
        error instanceof Error ? error.message : "",
      );
    }
  }
}
/** Which broke off here, and when: each is tried again after a while, and holds up no other meanwhile. */
const failedAt = new Map<string, number>();
const againAfterMs = 5 * 60_000;
const stopped = new WeakSet<Application>();
/** Begins with no more people; who is being written to is written to first. */
export async function stopMailings(app: Application): Promise<void> {
  stopped.add(app);
  await running.get(app)?.catch(() => undefined);
}
async function oneMore(app: Application, actor: StaffActor, mailingId: string): Promise<boolean> {
  const done = await run(app, writeNext, actor, { mailingId });
  // Whoever began it may send no more: asked again now and then only.
  if (!done.ok && done.error.reason !== "held") failedAt.set(mailingId, performance.now());
  return done.ok && done.value.more;
}
