import { readFileSync } from "node:fs";
import { consentWords } from "../core/consent";
import { paperOutcomeWords } from "../core/signing";
import { repositories } from "../db/repositories";
import { withoutValues } from "../db/errors";
import { verdictOn, type PaperVerdict } from "../usecases/signing";
import type { Application } from "./application";

/** What is said of a PDF on the command line, and whether it is ours and as it was. */
export interface PaperSaid {
  readonly good: boolean;
  readonly lines: readonly string[];
}
/** Looks at a file with the application that is open. The journal tells that it was checked. */
export async function checkPaperFile(app: Application, path: string): Promise<PaperSaid> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return { good: false, lines: ["There is no practice here yet."] };
  const look = await app.ports.papers.look(new Uint8Array(readFileSync(path)));
  if (!look.ok) return { good: false, lines: [`Nothing can be said of it: ${look.error}.`] };
  const now = app.ports.clock.now();
  const verdict = await withoutValues(() =>
    app.database.db.transaction(async (db) => {
      const repo = repositories(db, app.ports.sealer);
      const found = await verdictOn({ repo, practice, now }, look.value);
      await repo.journal.write(practice.id, now, [
        {
          actor: "system",
          action: "paper.check",
          subject: found.paper ? `packet:${found.paper.packetId}` : "practice",
          address: "",
          detail: { ours: found.seals.some((s) => s.ours), known: found.paper !== undefined },
        },
      ]);
      return found;
    }),
  );
  return saidOf(verdict);
}
function saidOf(verdict: PaperVerdict): PaperSaid {
  const { outcome, seals, paper } = verdict;
  const lines = [
    paper
      ? `Ours: ${paper.title}, paper ${paper.number}, revision ${paper.revision}.`
      : "Not among the papers kept here.",
    paperOutcomeWords[outcome],
    ...seals.map(
      (s) =>
        `Seal of ${s.subject || "an unreadable certificate"}${s.ours ? " (ours)" : ""}: ${s.intact ? "intact" : "broken"}${s.stampedAt ? `, time-stamped ${s.stampedAt}` : ""}.`,
    ),
    ...(paper?.signatures ?? []).map(
      (s) => `Signed by ${s.signer}, ${s.at}${s.stands ? "" : ": stands no longer, what was signed changed"}.`,
    ),
    ...(paper?.consent ? [`Consent: ${consentWords[paper.consent].toLowerCase()}.`] : []),
    `SHA-256 ${verdict.sha256}`,
  ];
  return { good: outcome === "unchanged" || outcome === "newer", lines };
}
