import { laterBy } from "../core/shared";
import { withoutValues } from "../db/errors";
import { repositories } from "../db/repositories";
import type { Application } from "../server/application";
import { alertOpenLetterTo } from "../usecases/sending";

/** Alerts that nobody dealt with in the time the practice allows: owners are told, once for each. */
export async function escalateAlerts(app: Application): Promise<void> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return;
  const { clock, random, sealer, origin } = app.ports;
  const now = clock.now();
  await withoutValues(() =>
    app.database.db.transaction(async (db) => {
      const repo = repositories(db, sealer);
      const before = laterBy(now, -practice.measures.alertHours * 3_600_000);
      const overdue = await repo.alerts.takeOverdue(practice.id, before, now);
      if (overdue.length === 0) return;
      for (const owner of await repo.staff.all(practice.id)) {
        if (owner.role !== "owner" || !owner.active || owner.joinedAt === null) continue;
        await repo.outbox.add(practice.id, {
          id: random.id<"Message">(),
          ...alertOpenLetterTo(owner, practice.name, `${origin}/returns`),
          channel: "email",
          purpose: "alert",
          packetId: null,
          senderId: owner.id,
          createdAt: now,
        });
      }
      await repo.journal.write(
        practice.id,
        now,
        overdue.map(({ packetId }) => ({
          actor: "system",
          action: "alert.escalate" as const,
          subject: `packet:${packetId}`,
          address: "",
          detail: {},
        })),
      );
    }),
  );
}
