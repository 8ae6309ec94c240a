import { ValidationError } from "yup";
import type { DirectoryView } from "../core/chart";
import type { JournalAction } from "../core/audit";
import { setPatternReader } from "../core/questionnaire";
import { linearPatterns } from "../core/questionnaire/linear-pattern";
import { fail, isPlain, type Id, type Result } from "../core/shared";
import type { Db } from "../db/database";
import { isBusy, withoutValues } from "../db/errors";
import { noteUse } from "./metrics";
import { repositories, type JournalLine, type KnownClient, type Practice, type Sight } from "../db/repositories";
import {
  actorName,
  mayCall,
  sightOf,
  type Actor,
  type Access,
  type CommonError,
  type Context,
  type UseCase,
} from "../usecases/kit";
import { emptyPractice } from "../usecases/practice";
import type { Application } from "./application";
import { deliverNow } from "../jobs/letters";

// Here, and not where the server starts: what is bundled apart has modules of its own.
setPatternReader(linearPatterns);

/**
 * The one way into a use case: access, then input, then one transaction with its journal lines at the end, then the
 * letters. Nothing else calls `run` on a use case.
 */
export async function run<I, O, E, A extends Access>(
  app: Application,
  useCase: UseCase<I, O, E, A>,
  actor: Actor,
  input: unknown,
): Promise<Result<O, E | CommonError>> {
  const began = performance.now();
  try {
    const result = await runIn(app, useCase, actor, input);
    noteUse(
      useCase.name,
      result.ok ? "ok" : (result.error as { readonly reason: string }).reason,
      performance.now() - began,
    );
    return result;
  } catch (error) {
    noteUse(useCase.name, isBusy(error) ? "busy" : "failed", performance.now() - began);
    // A page is drawn by what there is, so it fails as a whole; what somebody sent is answered, and stays with them.
    if (isBusy(error) && useCase.kind !== "query") return fail({ reason: "busy" });
    throw error;
  }
}
async function runIn<I, O, E, A extends Access>(
  app: Application,
  useCase: UseCase<I, O, E, A>,
  actor: Actor,
  input: unknown,
): Promise<Result<O, E | CommonError>> {
  const settled = await withoutValues(() => app.practice());
  // Before it is set up nothing is here, for anybody.
  if (!settled && useCase.access !== "set-up") return fail({ reason: "not-found" });
  const now = app.ports.clock.now();
  const lineFor = (action: JournalAction, subject: string, detail: JournalLine["detail"] = {}): JournalLine => ({
    actor: actorName(actor),
    action,
    subject,
    address: actor.address,
    detail,
  });

  if (!mayCall(useCase.access, actor, settled)) {
    // Counted: a row in the journal for each would be anybody's to fill.
    const { journal } = repositories(app.database.db, app.ports.sealer);
    const count = (id: Id<"Practice">) => journal.countRefusal(id, useCase.name, actorKind(actor), now, actor.address);
    if (settled) await withoutValues(() => count(settled.id));
    return fail({ reason: "not-allowed" });
  }
  const practice = settled ?? emptyPractice(app.ports.random.id(), now);
  const checked = await check(useCase, input);
  if (!checked.ok) return checked;

  const sight = sightOf(actor, practice, now);
  const before = await useCase.before?.(
    // `access` was checked above; the actor has the kind it asks for.
    { ...app.ports, repo: repositories(app.database.db, app.ports.sealer, sight), actor, practice, now } as Parameters<
      NonNullable<typeof useCase.before>
    >[0],
    checked.value,
  );
  let posted = false;
  const result = await withoutValues(() =>
    inTransaction(app, useCase.kind !== "statement", async (db) => {
      const repo = repositories(db, app.ports.sealer, sight);
      const lines: JournalLine[] = [];
      const topics = new Set<string>();
      const context: Context = {
        ...app.ports,
        repo,
        actor,
        practice,
        sight,
        now,
        directory: async () => {
          // What is not settled yet must not get into a list that outlives the transaction.
          if (lines.length > 0) throw new Error(`${useCase.name} asks for the directory after it wrote.`);
          return directoryFor(app, db, practice, sight);
        },
        line: lineFor,
        journal: (action, subject, detail) => void lines.push(lineFor(action, subject, detail)),
        send: async (message) => {
          const id = app.ports.random.id<"Message">();
          const { to, toName, subject, body, files, channel, purpose, packetId } = message;
          await repo.outbox.add(practice.id, {
            id,
            to,
            toName,
            subject,
            body,
            ...(files ? { files } : {}),
            channel,
            purpose,
            packetId,
            senderId: actor.kind === "staff" ? actor.id : null,
            createdAt: now,
          });
          posted = true;
          return id;
        },
        handOver: () => {
          posted = true;
        },
        tell: (topic) => void topics.add(topic),
      };
      // `access` was checked above; the context's actor has the kind it asks for.
      const done = await useCase.run(context as Parameters<typeof useCase.run>[0], checked.value, before);
      if (useCase.kind === "command" && done.ok && lines.length === 0)
        throw new Error(`${useCase.name} left no journal line.`);
      if (useCase.kind === "statement" && lines.length + topics.size + Number(posted) > 0)
        throw new Error(`${useCase.name} is one statement and must write its line with it.`);
      for (const topic of topics) await repo.journal.notify(topic, practice.id);
      if (lines.length > 0) await repo.journal.write(practice.id, now, lines);
      return done;
    }),
  );
  if (posted) await deliverNow(app);
  return result;
}

async function directoryFor(
  app: Application,
  db: Db,
  practice: Practice,
  sight: Sight,
): Promise<DirectoryView<KnownClient>> {
  const { clients, careTeams } = repositories(db, app.ports.sealer);
  const directory = await app.directories.of(practice, (mark) => clients.changedSince(practice.id, mark));
  return directory.view(sight === "all" ? undefined : await careTeams.inSightOf(sight.of, sight.at));
}

/** Whose refusals are counted together: there are only so many staff, and of strangers and clients any number. */
const actorKind = (actor: Actor): string => (actor.kind === "staff" ? actorName(actor) : actor.kind);

const inTransaction = <T>(app: Application, open: boolean, work: (db: Db) => Promise<T>): Promise<T> =>
  open ? app.database.db.transaction(work) : work(app.database.db);

async function check<I>(useCase: UseCase<I, unknown, unknown>, input: unknown): Promise<Result<I, CommonError>> {
  if (!isPlain(input)) return fail({ reason: "invalid", fields: { "": "This cannot be read." } });
  try {
    return { ok: true, value: await useCase.input.validate(input, { abortEarly: false, stripUnknown: true }) };
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const all = error.inner.length > 0 ? error.inner : [error];
    return fail({ reason: "invalid", fields: Object.fromEntries(all.map((e) => [e.path ?? "", e.message])) });
  }
}
