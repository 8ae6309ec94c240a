import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import type { Gist } from "../../core/scoring";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { RaisedAlert } from "../../db/repositories";
import { command, idInput, may, notFound, type CommonError, type Context, type StaffActor } from "../kit";

/** An alert as it is read: whose, since when, over what, and what was done. */
export interface AlertLine {
  readonly id: Id<"Alert">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly packetId: Id<"Packet">;
  readonly raisedAt: Instant;
  readonly escalatedAt: Instant | null;
  /** None for who may not read answers. */
  readonly about: readonly { readonly question: string; readonly message: string }[];
  readonly done: { readonly at: Instant; readonly by: string; readonly words: string } | undefined;
}
/** Of these clients, the newest first; of everybody in sight those that are open, the oldest first. */
export async function alertLines(ctx: Context<StaffActor>, clientIds?: readonly Id<"Client">[]): Promise<AlertLine[]> {
  const { repo, practice } = ctx;
  const alerts = clientIds ? await repo.alerts.ofClients(clientIds) : await repo.alerts.open(practice.id);
  if (alerts.length === 0) return [];
  const clients = await repo.clients.byIds(practice.id, [...new Set(alerts.map(({ clientId }) => clientId))]);
  const staff = new Map((await repo.staff.all(practice.id)).map(({ id, name }) => [id as string, name]));
  const parts = await repo.packets.partsOf(may(ctx, "answers.read") ? alerts.map(({ packetId }) => packetId) : []);
  return alerts.flatMap(({ done, ...alert }: RaisedAlert): AlertLine[] => {
    const client = clients.get(alert.clientId);
    if (!client) return [];
    const raised = (parts.get(alert.packetId) ?? []).flatMap((part) => repo.packets.gistOf<Gist>(part)?.alerts ?? []);
    return [
      {
        ...alert,
        clientName: nameOf(client),
        about: raised.map(({ question, message }) => ({ question, message })),
        done: done && { at: done.at, by: staff.get(done.by) ?? "", words: done.words },
      },
    ];
  });
}

export interface AlertClosed {
  readonly reason: "closed-already";
  readonly by: string;
  readonly at: Instant;
}
/** Writes down what was done about an alert, which ends it. Whoever comes second is told what the first wrote. */
export const closeAlert = command({
  name: "close-alert",
  access: "answers.read",
  input: object({
    alertId: idInput<"Alert">(),
    done: string().trim().required("Say what was done.").max(2000, "At most 2000 characters."),
  }),
  async run(ctx, { alertId, done }): Promise<Result<{ readonly clientId: Id<"Client"> }, CommonError | AlertClosed>> {
    const { repo, now, actor } = ctx;
    const alert = await repo.alerts.byId(alertId, true);
    if (!alert) return notFound;
    if (alert.done) {
      // The same press twice.
      if (alert.done.by === actor.id && alert.done.words === done) {
        ctx.journal("alert.close-repeated", `packet:${alert.packetId}`);
        return ok({ clientId: alert.clientId });
      }
      const by = (await repo.staff.byId(alert.done.by))?.name ?? "";
      return fail({ reason: "closed-already", by, at: alert.done.at });
    }
    await repo.alerts.close(alert, { at: now, by: actor.id, words: done });
    ctx.journal("alert.close", `packet:${alert.packetId}`);
    ctx.tell("returns");
    return ok({ clientId: alert.clientId });
  },
});
