import { anchorText } from "../core/audit";
import { boundsOf, dayIn } from "../core/scheduling";
import { laterBy } from "../core/shared";
import { lowDisk } from "../core/backup";
import { anchorLetterTo } from "../usecases/sending";
import { withoutValues } from "../db/errors";
import { tendTables } from "../db/tend";
import { markedHead, repositories } from "../db/repositories";
import type { Application } from "../server/application";

/**
 * Keeps where the journal stands outside the database, so that nobody with the database alone can cut its end off or
 * write it anew unseen.
 */
export async function keepHead(app: Application): Promise<void> {
  const practice = await app.practice();
  if (!practice) return;
  const { sealer, keptHeads, clock } = app.ports;
  const { seq, hash } = await withoutValues(() => repositories(app.database.db, sealer).journal.head(practice.id));
  if (seq > 0) keptHeads.keep(markedHead(sealer, { practiceId: practice.id, seq, hash, at: clock.now() }));
}
/** Each day, owners who wish it get where the journal stands: once, however many processes there are. */
export async function mailAnchors(app: Application): Promise<void> {
  const practice = await withoutValues(() => app.practice());
  if (!practice?.mailsAnchors) return;
  const { clock, random, sealer, origin } = app.ports;
  const now = clock.now();
  const [today] = boundsOf(dayIn(now, practice.zone), practice.zone);
  await withoutValues(() =>
    app.database.db.transaction(async (db) => {
      const repo = repositories(db, sealer);
      await repo.practices.hold(practice.id);
      if (await repo.outbox.wroteSince(practice.id, "anchor", today)) return;
      const anchor = anchorText({ ...(await repo.journal.head(practice.id)), at: now });
      for (const owner of await repo.staff.all(practice.id)) {
        if (owner.role !== "owner" || !owner.active || owner.joinedAt === null) continue;
        await repo.outbox.add(practice.id, {
          id: random.id<"Message">(),
          ...anchorLetterTo(owner, practice.name, `${origin}/office/journal`, anchor),
          channel: "email",
          purpose: "anchor",
          packetId: null,
          senderId: owner.id,
          createdAt: now,
        });
      }
      await repo.journal.write(practice.id, now, [
        { actor: "system", action: "journal.anchor", subject: "practice", address: "", detail: {} },
      ]);
    }),
  );
}
/**
 * Looks after the tables of the embedded database, which has nobody else who would. Not where the disk is nearly full:
 * the write-ahead log of it could take what is left for answers.
 */
export async function lookAfterTables({ database, ports }: Application): Promise<void> {
  if (database.kind !== "pglite" || ports.watch.free() < lowDisk) return;
  await withoutValues(() => tendTables(database.db));
}
/** Longest window that anything is counted in. */
const longestWindow = 24 * 3_600_000;
/** How long the lines of a file of clients are kept that nobody dropped. */
const importsKeptFor = 30 * 24 * 3_600_000;
/** Forgets what was counted in windows that are over, and files of clients that nobody went on with. */
export async function tidy(app: Application): Promise<void> {
  const { limits, clientImports } = repositories(app.database.db, app.ports.sealer);
  const now = app.ports.clock.now();
  await withoutValues(() => limits.clearOld(laterBy(now, -longestWindow)));
  await withoutValues(() => clientImports.clearOld(laterBy(now, -importsKeptFor)));
}
