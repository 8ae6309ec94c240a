import { collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import { repositories } from "../db/repositories";
import type { Application } from "./application";

// One for each process, through hot reloads and whichever bundle asks first.
const holder = globalThis as { kindLedgerMeters?: ReturnType<typeof makeMeters> };
function makeMeters() {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: "kind_ledger_" });
  const gauge = (name: string, help: string): Gauge =>
    new Gauge({ name: `kind_ledger_${name}`, help, registers: [registry] });
  return {
    registry,
    uses: new Histogram({
      name: "kind_ledger_use_case_seconds",
      help: "How long use cases took, by what became of them.",
      labelNames: ["use_case", "outcome"],
      buckets: [0.005, 0.02, 0.1, 0.5, 2, 10],
      registers: [registry],
    }),
    up: gauge("database_up", "1 where the database answers."),
    fits: gauge("database_fits", "1 where its tables are those of this version."),
    connections: gauge("database_connections", "Connections of this process's pool."),
    waiting: gauge("database_waiting", "What waits for a connection."),
    letters: gauge("letters_waiting", "Letters that are to go out."),
    troubled: gauge("letters_troubled", "Of those, which were tried in vain."),
    backup: gauge(
      "newest_backup_seconds",
      "When the newest backup was made, as seconds since 1970; 0 where none is known.",
    ),
    journal: gauge("journal_rows", "Rows of the journal."),
    free: gauge("disk_free_bytes", "What is free where the data lies."),
    warnings: gauge("warnings", "What the owner is warned of just now."),
  };
}
const meters = () => (holder.kindLedgerMeters ??= makeMeters());

export const noteUse = (useCase: string, outcome: string, ms: number): void =>
  meters().uses.observe({ use_case: useCase, outcome }, ms / 1000);

/** What is measured, in the Prometheus text format. */
export async function metricsText(app: Application): Promise<string> {
  const all = meters();
  const up = await app.database.answersIn(2_000);
  all.up.set(up ? 1 : 0);
  all.fits.set(app.state.fits ? 1 : 0);
  const pool = app.database.pool?.();
  all.connections.set(pool?.total ?? 1);
  all.waiting.set(pool?.waiting ?? 0);
  const { watch } = app.ports;
  const backup = watch.newestBackup();
  all.backup.set(backup === undefined ? 0 : Date.parse(backup) / 1000);
  all.free.set(watch.free());
  all.warnings.set(app.state.warnings);
  const practice = up ? await app.practice() : undefined;
  if (practice) {
    const { outbox, journal } = repositories(app.database.db, app.ports.sealer);
    const { waiting, troubled } = await outbox.backlog(practice.id);
    all.letters.set(waiting);
    all.troubled.set(troubled);
    all.journal.set((await journal.head(practice.id)).seq);
  }
  return all.registry.metrics();
}
