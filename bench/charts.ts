import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import {
  builtInFields,
  foldChart,
  incomingOf,
  planOf,
  reconcileLines,
  withPlan,
  type ChartEntry,
} from "../src/core/chart";
import { emptyQuestionnaire, newLine, type Answers, type Item } from "../src/core/questionnaire";
import { instant, instantMs, type Id } from "../src/core/shared";
import { repositories } from "../src/db/repositories";
import { openApplication, readEnvironment, run, useCases } from "../src/server";
import { ms, printTable, quantile } from "./support";

// A chart of ten years beside one of a few visits, and what came back laid beside it.
const base = mkdtempSync(join(tmpdir(), "kl-bench-charts-"));
const [few, many] = [200, 20_000];
const perPosting = 20;
const rounds = 40;

const app = await openApplication(readEnvironment({ KIND_LEDGER_DATA: base }));
try {
  const seeded = await seedPeople(app);
  const maren = staffAs(app, seeded.staff["maren"]!, "maren");
  const repo = repositories(app.database.db, app.ports.sealer);
  const texts = builtInFields.filter((field) => field.kind === "text" || field.kind === "long-text");
  const fill = async (clientId: Id<"Client">, entries: number): Promise<void> => {
    const at = app.ports.clock.now();
    for (let done = 0; done < entries; done += perPosting) {
      const id = app.ports.random.id<"Posting">();
      const row = {
        id,
        clientId,
        requestId: id,
        kind: "post" as const,
        packetId: null,
        reverses: null,
        at,
        by: "Maren",
      };
      await repo.charts.append(
        row,
        Array.from({ length: perPosting }, (_, index) => ({
          change: {
            kind: "set" as const,
            field: texts[(done + index) % texts.length]!.key,
            value: `What stood there at visit ${done + index}`,
          },
          source: { kind: "staff" as const, reason: "said" },
        })),
      );
    }
  };
  const [small, large] = [seeded.clients["ines"]!, seeded.clients["hugo"]!];
  await fill(small, few);
  await fill(large, many);
  const took: Record<string, number[]> = { small: [], large: [] };
  for (let round = -5; round < rounds; round++)
    for (const [name, clientId] of [
      ["small", small],
      ["large", large],
    ] as const) {
      const t = performance.now();
      must(await run(app, useCases.chartView, maren, { clientId }));
      if (round >= 0) took[name]!.push(performance.now() - t);
    }
  const [first, second] = [took["small"]!, took["large"]!].map((all) =>
    quantile(
      all.sort((a, b) => a - b),
      0.95,
    ),
  ) as [number, number];

  // 300 answers, half of which differ from what is on file.
  const items: Item[] = Array.from({ length: 300 }, (_, index) => ({
    ...(newLine("long-text", `q${index}`) as Item & { type: "text" }),
    text: `Question ${index}`,
    posting: { field: texts[index % texts.length]!.key, rule: "ask" as const },
  }));
  const questionnaire = { ...emptyQuestionnaire("urn:uuid:1", "Three hundred", "intake", "s"), items };
  const answers: Answers = {
    values: Object.fromEntries(
      items.map(({ linkId }, index) => [linkId, [{ type: "string", value: `Answer ${index % 150}` }]]),
    ),
    rows: {},
  };
  const entries: ChartEntry[] = texts.map((field, index) => ({
    seq: index + 1,
    posting: "p" as Id<"Posting">,
    at: instant(instantMs(app.ports.clock.now())),
    by: "Maren",
    source: { kind: "staff", reason: "" },
    change: { kind: "set", field: field.key, value: `Answer ${index}` },
  }));
  const chart = foldChart(entries);
  const planned = withPlan(questionnaire, planOf(questionnaire, builtInFields), builtInFields);
  const laid: number[] = [];
  for (let round = -20; round < 200; round++) {
    const t = performance.now();
    reconcileLines(chart, incomingOf(planned, answers, builtInFields));
    if (round >= 0) laid.push(performance.now() - t);
  }
  const p95 = quantile(
    laid.sort((a, b) => a - b),
    0.95,
  );
  printTable([
    ["what", "took (p95)", "beside", "ratio", "goal"],
    [
      `a chart of ${many} entries opened`,
      ms(second),
      `${ms(first)} with ${few}`,
      `${(second / first).toFixed(2)}x`,
      "2x",
    ],
    ["300 answers laid beside the chart", ms(p95), "", "", "10 ms"],
  ]);
} finally {
  await app.close();
  rmSync(base, { recursive: true, force: true });
}
