import type { Id } from "../core/shared";
import { repositories, type Practice } from "../db/repositories";
import { withoutValues } from "../db/errors";
import type { Application } from "../server/application";
import { log, nameOfError } from "../server/log";
import { run } from "../server/run";
import { sealPart } from "../server/seals";
import { tellSigned } from "../usecases/signing";

const atOnce = 20;
const againAfterMs = 60_000;
const running = new WeakMap<Application, Promise<number>>();
const stopped = new WeakSet<Application>();
/** Which could not be sealed here, and when: a time-stamp server that is away holds up nothing else. */
const failedAt = new Map<string, number>();

/** Seals what is due, one paper after the other; gives how many. One round at a time in a process. */
export function runSeals(app: Application): Promise<number> {
  const own =
    running.get(app) ??
    sealDue(app).finally(() => {
      running.delete(app);
    });
  running.set(app, own);
  return own;
}
async function sealDue(app: Application): Promise<number> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return 0;
  const { signers } = repositories(app.database.db, app.ports.sealer);
  let sealed = 0;
  const tried = new Set<string>();
  const next = async (): Promise<Id<"Part">[]> =>
    (await withoutValues(() => signers.toSeal(practice.id, atOnce + tried.size))).filter(
      (id) => !tried.has(id) && (failedAt.get(id) ?? -Infinity) < performance.now() - againAfterMs,
    );
  for (let due = await next(); due.length > 0 && !stopped.has(app); due = await next())
    for (const partId of due) {
      if (stopped.has(app)) break;
      tried.add(partId);
      try {
        const done = await sealPart(app, practice, partId);
        if (!done.ok) continue;
        if (done.value.sealed) sealed++;
        await tell(app, practice, partId);
        failedAt.delete(partId);
      } catch (error) {
        failedAt.set(partId, performance.now());
        log.error("A paper could not be sealed; it is tried again in a minute.", { error: nameOfError(error) });
      }
    }
  return sealed;
}
/** In the name of whoever the answers are for, or of an owner where they have left. */
async function tell(app: Application, practice: Practice, partId: Id<"Part">): Promise<void> {
  const repo = repositories(app.database.db, app.ports.sealer);
  const found = await withoutValues(() => repo.packets.part(practice.id, partId));
  const all = (await withoutValues(() => repo.staff.all(practice.id))).filter((s) => s.active);
  const staff = all.find((s) => s.id === found?.packet.staffId) ?? all.find((s) => s.role === "owner");
  if (!staff) throw new Error("A practice always has an owner.");
  const { id, name, email, role } = staff;
  await run(
    app,
    tellSigned,
    { kind: "staff", id, name, email, role, sessionDigest: "", address: "seal", device: "" },
    { partId },
  );
}
/** Begins no further paper; the one under way is finished. */
export async function stopSeals(app: Application): Promise<void> {
  stopped.add(app);
  await running.get(app)?.catch(() => undefined);
}
