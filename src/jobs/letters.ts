import { afterTry, internationalPhone, linkPurposes, type Delivery } from "../core/messages";
import { laterBy, type Instant } from "../core/shared";
import { withoutValues } from "../db/errors";
import { repositories, type PostMessage, type Practice, type Repositories } from "../db/repositories";
import { logoOf } from "../usecases/kit";
import { bouncedLetterTo } from "../usecases/sending";
import type { Application } from "../server/application";
import { log, nameOfError } from "../server/log";

const postOf = (app: Application) => repositories(app.database.db, app.ports.sealer).outbox;
const most = 500;

/** How long whoever claimed a letter has it, in ms: longer than any driver waits for the other side. */
const claimedForMs = 5 * 60_000;

/**
 * Hands over what is due, one after the other, each claimed before it is tried and recorded after. A process that ends
 * in between leaves a message as `sending`; see `settleLost`.
 */
export async function deliverDue(app: Application): Promise<number> {
  const practice = await app.practice();
  if (!practice) return 0;
  let tried = 0;
  for (; tried < most && !stopped.has(app); tried++) {
    const now = app.ports.clock.now();
    const message = await withoutValues(() => postOf(app).claim(practice.id, now, laterBy(now, claimedForMs)));
    if (!message) break;
    const simulation = await repositories(app.database.db, app.ports.sealer).practices.simulation(practice.id);
    const { files } = repositories(app.database.db, app.ports.sealer);
    const held = await withoutValues(() =>
      Promise.all((message.channel === "email" ? (message.files ?? []) : []).map((f) => files.byId(practice.id, f.id))),
    );
    const attachments = held.flatMap((h) =>
      h ? [{ title: h.file.title, contentType: h.file.contentType, bytes: h.bytes }] : [],
    );
    const isMail = message.channel === "email";
    const logo = isMail
      ? await withoutValues(() => logoOf({ repo: repositories(app.database.db, app.ports.sealer), practice }))
      : undefined;
    const delivery = await app.ports.post.deliver(
      {
        ...message,
        // A gateway takes numbers as ITU-T E.164 writes them, whatever stands on file.
        to: isMail ? message.to : internationalPhone(message.to, practice.country),
        attachments,
        from: { name: practice.name, email: practice.email },
        ...(logo ? { logo } : {}),
      },
      simulation,
    );
    const set = afterTry(delivery, message.attempts, now);
    await withoutValues(() =>
      app.database.db.transaction(async (tx) => {
        const repo = repositories(tx, app.ports.sealer);
        await repo.outbox.set(message.id, set);
        if (set.trouble !== null && (linkPurposes as readonly string[]).includes(message.purpose)) {
          await repo.journal.notify("returns", practice.id);
          if (set.state === "bounced") await tellSender(app, repo, practice, message, now);
        }
      }),
    );
  }
  return tried;
}

/** One letter an hour to the same sender, however many bounce: the app says which. */
const tellAgainAfter = 3_600_000;
async function tellSender(
  app: Application,
  repo: Repositories,
  practice: Practice,
  message: PostMessage,
  now: Instant,
): Promise<void> {
  await repo.journal.write(practice.id, now, [
    { actor: "system", action: "post-room.bounced", subject: `message:${message.id}`, address: "", detail: {} },
  ]);
  const sender = message.senderId && (await repo.staff.byId(message.senderId));
  if (!sender || (await repo.outbox.toldOfBounce(sender.id, laterBy(now, -tellAgainAfter)))) return;
  await repo.outbox.add(practice.id, {
    id: app.ports.random.id<"Message">(),
    ...bouncedLetterTo(sender, practice.name, `${app.ports.origin}/packets/${message.packetId ?? ""}`),
    channel: "email",
    purpose: "bounced",
    packetId: null,
    senderId: sender.id,
    createdAt: now,
  });
}

// One round at a time in a process; who comes meanwhile is served by one more round after it.
const rounds = new WeakMap<Application, { running: Promise<number>; again: boolean }>();
/** Gives how many were tried. */
function round(app: Application): Promise<number> {
  const known = rounds.get(app);
  if (known) {
    known.again = true;
    return known.running;
  }
  const own = { again: false, running: Promise.resolve(0) };
  rounds.set(app, own);
  own.running = (async () => {
    let tried = 0;
    try {
      do {
        own.again = false;
        tried += await deliverDue(app);
      } while (own.again);
      return tried;
    } finally {
      rounds.delete(app);
    }
  })();
  return own.running;
}

/** After a transaction that wrote letters. Nobody waits for a server outside: a slow one would hold up the page. */
export async function deliverNow(app: Application): Promise<void> {
  const done = round(app);
  if (app.ports.post.outside)
    done.catch((error: unknown) => {
      log.error("Handing over messages failed.", { error: nameOfError(error) });
    });
  else await done;
}

/**
 * What became of tries that the end of a process cut off. In a process nothing had left; a server outside may have the
 * message.
 */
const cutOff = (outside: boolean): Delivery =>
  outside
    ? { outcome: "unsure", trouble: "The app stopped while it was being sent." }
    : { outcome: "later", trouble: "The app stopped while it was being sent." };
/** `isAlone`: no other process has this database, so that what is being sent is being sent by nobody. */
async function settleLost(app: Application, isAlone: boolean): Promise<void> {
  const practice = await app.practice();
  if (!practice) return;
  const now = app.ports.clock.now();
  const { outside } = app.ports.post;
  const set = { ...afterTry(cutOff(outside), 1, now), ...(outside ? {} : { nextAt: now }) };
  const settled = await withoutValues(() => postOf(app).settleLost(practice.id, now, isAlone, set));
  if (settled > 0) await repositories(app.database.db, app.ports.sealer).journal.notify("returns", practice.id);
}

/** At the start: settles what was cut off, and sends what is due. Gives how many were tried. */
export async function recoverPost(app: Application): Promise<number> {
  // The folder of the embedded database is ours alone.
  await settleLost(app, app.database.kind === "pglite");
  return round(app);
}
/** Now and then: the same, with what other processes left. */
export async function lookAfterPost(app: Application): Promise<void> {
  await settleLost(app, false);
  await round(app);
}
const stopped = new WeakSet<Application>();
/** Begins no more letters; the one that is being handed over is finished first. */
export async function stopPost(app: Application): Promise<void> {
  stopped.add(app);
  await rounds.get(app)?.running.catch(() => undefined);
}
