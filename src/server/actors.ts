import { hasSecondFactor, repositories } from "../db/repositories";
import { withoutValues } from "../db/errors";
import type { LinkRole } from "../core/packet";
import { isBefore, laterBy, type Id } from "../core/shared";
import { idleLimit } from "../usecases/identity";
import type { Actor } from "../usecases/kit";
import type { Application } from "./application";

interface From {
  readonly address: string;
  readonly device: string;
}

const sessionsOf = (app: Application) => repositories(app.database.db, app.ports.sealer).sessions;
const sessionBehind = (app: Application, digest: string) => {
  const now = app.ports.clock.now();
  return withoutValues(() => sessionsOf(app).byDigest(digest, now, laterBy(now, -idleLimit)));
};
/** How exactly it is known when a session was used last, in ms: not each request writes it down. */
const seenWithin = 60_000;
/**
 * Staff behind a session cookie whose sign-in is complete; a stranger otherwise. `isAtWork`: a person did something, so
 * the session counts as used; what a page asks by itself does not keep it open.
 */
export async function staffActor(
  app: Application,
  token: string | undefined,
  from: From,
  isAtWork = true,
): Promise<Actor> {
  if (token === undefined) return { kind: "stranger", ...from };
  const digest = app.ports.sealer.keyedDigest("session", token);
  const found = await sessionBehind(app, digest);
  if (!found?.complete) return { kind: "stranger", ...from };
  const now = app.ports.clock.now();
  const touches = isAtWork && isBefore(found.usedAt, laterBy(now, -seenWithin));
  if (touches) await withoutValues(() => sessionsOf(app).touch(digest, now));
  const idleUntil = laterBy(touches ? now : found.usedAt, idleLimit);
  const { id, name, email, role, singleKeys } = found.staff;
  return {
    kind: "staff",
    id,
    name,
    email,
    role,
    singleKeys,
    secondFactor: hasSecondFactor(found.staff),
    sessionDigest: digest,
    sessionUntil: isBefore(idleUntil, found.expiresAt) ? idleUntil : found.expiresAt,
    ...from,
  };
}

/** Whether the session that something long-lived was opened for still holds. */
export const sessionHolds = async (app: Application, digest: string): Promise<boolean> =>
  (await sessionBehind(app, digest))?.complete === true;

/** The client behind a door pass for this packet; a stranger otherwise. */
export async function clientActor(
  app: Application,
  packetId: string,
  token: string | undefined,
  from: From,
): Promise<Actor> {
  if (token === undefined) return { kind: "stranger", ...from };
  const digest = app.ports.sealer.keyedDigest("pass", token);
  const found = await withoutValues(() =>
    repositories(app.database.db, app.ports.sealer).passes.byDigest(digest, app.ports.clock.now()),
  );
  remembered.delete(digest);
  if (found?.packetId !== packetId) return { kind: "stranger", ...from };
  if (remembered.size >= mostRemembered) remembered.clear();
  remembered.set(digest, found);
  return {
    kind: "client",
    packetId: found.packetId,
    linkId: found.linkId,
    role: found.role,
    passDigest: digest,
    ...(found.handedBy === null ? {} : { handedBy: found.handedBy }),
    ...(found.unseen ? { unseen: true } : {}),
    ...from,
  };
}

/**
 * The same for a use case whose statement looks the pass up itself as it writes (`saveAnswers`): a pass seen once in
 * this process is taken as it was, so that no query has to come before the statement.
 */
export function savingActor(
  app: Application,
  packetId: string,
  token: string | undefined,
  from: From,
): Promise<Actor> | Actor {
  const digest = token === undefined ? undefined : app.ports.sealer.keyedDigest("pass", token);
  const known = digest === undefined ? undefined : remembered.get(digest);
  return known?.packetId === packetId && digest !== undefined
    ? {
        kind: "client",
        packetId: known.packetId,
        linkId: known.linkId,
        role: known.role,
        passDigest: digest,
        ...(known.unseen ? { unseen: true } : {}),
        ...from,
      }
    : clientActor(app, packetId, token, from);
}
const remembered = new Map<
  string,
  {
    readonly packetId: Id<"Packet">;
    readonly linkId: Id<"Link">;
    readonly role: LinkRole;
    readonly unseen: boolean;
  }
>();
const mostRemembered = 10_000;
