import { repositories, type Practice, type Repositories } from "../db/repositories";
import { withoutValues } from "../db/errors";
import type { Id, Instant, Result } from "../core/shared";
import type { StaffActor } from "../usecases/kit";
import type { Application } from "../server/application";
import { log, nameOfError } from "../server/log";

interface Begun {
  readonly id: string;
  readonly staffId: Id<"Staff">;
}
/** Something long that somebody began, done a step at a time. */
export interface LongWork {
  /** "a mailing" */
  readonly what: string;
  readonly address: string;
  unfinished(repo: Repositories, practice: Practice, now: Instant): Promise<readonly Begun[]>;
  /** One step, in one transaction; says whether there is another. */
  step(
    app: Application,
    actor: StaffActor,
    id: string,
  ): Promise<Result<{ readonly more: boolean }, { readonly reason: string }>>;
}
const againAfterMs = 5 * 60_000;

/**
 * Goes on with all work of a kind that is not over, one after the other, in the name of who began it, as they are now:
 * who has left, or may no longer, does nothing. In a process one round at a time: who asks meanwhile gets that one.
 */
export function stepByStep({ what, address, unfinished, step }: LongWork) {
  const running = new WeakMap<Application, Promise<void>>();
  const stopped = new WeakSet<Application>();
  /** Which broke off here, and when: each is tried again after a while, and holds up no other meanwhile. */
  const failedAt = new Map<string, number>();

  async function oneMore(app: Application, actor: StaffActor, id: string): Promise<boolean> {
    const done = await step(app, actor, id);
    // Whoever began it may no longer: asked again now and then only.
    if (!done.ok && done.error.reason !== "held") failedAt.set(id, performance.now());
    return done.ok && done.value.more;
  }
  async function goOn(app: Application): Promise<void> {
    const practice = await app.practice();
    if (!practice) return;
    const repo = repositories(app.database.db, app.ports.sealer);
    const left = new Set<string>();
    while (!stopped.has(app)) {
      const work = (await withoutValues(() => unfinished(repo, practice, app.ports.clock.now()))).find(
        ({ id }) => !left.has(id) && (failedAt.get(id) ?? -Infinity) < performance.now() - againAfterMs,
      );
      if (!work) return;
      // One that cannot go on holds up no other; it stands as under way until somebody stops it.
      left.add(work.id);
      const staff = await withoutValues(() => repo.staff.byId(work.staffId));
      if (!staff) continue;
      const { id, name, email, role } = staff;
      const actor: StaffActor = { kind: "staff", id, name, email, role, sessionDigest: "", address, device: "" };
      try {
        while (!stopped.has(app) && (await oneMore(app, actor, work.id))) {
          // The embedded database answers without ever letting the process turn to anything else: requests come in
          // between.
          await new Promise((resolve) => {
            setImmediate(resolve);
          });
        }
      } catch (error) {
        failedAt.set(work.id, performance.now());
        log.error(`${what} was cut short; it goes on in a few minutes.`, { error: nameOfError(error) });
      }
    }
  }
  return {
    goOn(app: Application): Promise<void> {
      const own =
        running.get(app) ??
        goOn(app).finally(() => {
          running.delete(app);
        });
      running.set(app, own);
      return own;
    },
    /** Begins no further step; the one under way is finished. */
    async stop(app: Application): Promise<void> {
      stopped.add(app);
      await running.get(app)?.catch(() => undefined);
    },
  };
}
