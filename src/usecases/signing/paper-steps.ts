import type { JournalAction } from "../../core/audit";
import type { Id, Instant } from "../../core/shared";
import type { JournalRow, Packet, Signer, SignerPlace } from "../../db/repositories";
import type { Context } from "../kit";

/** One thing that happened to a paper, as its line in the journal tells it. */
export interface PaperStep {
  /** The line's number. */
  readonly seq: number;
  readonly at: Instant;
  readonly action: JournalAction;
  /** Who did it or whom it is about, where that is known. */
  readonly who: string | undefined;
}
const actions: readonly JournalAction[] = [
  "signature.ask",
  "packet.nudge",
  "door.passed",
  "signature",
  "signature.decline",
  "signature.paper",
  "signature.replace",
  "signature.talk",
  "signature.void",
  "consent.give",
  "consent.void",
  "paper.seal",
  "paper.copies",
  "paper.open",
  "paper.check",
];
const mostLines = 500;

/** The lines about the signing of a packet, newest first. */
export const signingLines = ({ repo, practice }: Context, packet: Packet): Promise<JournalRow[]> =>
  repo.journal.find(practice.id, { subjects: [`packet:${packet.id}`], actions }, mostLines);

/**
 * Those that are about one paper, oldest first: what names it, and what names somebody who signs or signed it.
 *
 * @param names by the ids of signers, and of staff as the journal calls them
 */
export function stepsOf(
  lines: readonly JournalRow[],
  partId: Id<"Part">,
  places: readonly SignerPlace[],
  names: ReadonlyMap<string, string>,
): PaperStep[] {
  const signers = new Set<string>(places.filter((p) => p.partId === partId).map((p) => p.signerId));
  const signerOf = ({ detail }: JournalRow): Signer["id"] | undefined =>
    typeof detail["signer"] === "string" ? (detail["signer"] as Signer["id"]) : undefined;
  return lines
    .filter((line) =>
      line.detail["part"] === undefined
        ? signers.has(signerOf(line) ?? "") || line.action === "paper.copies"
        : line.detail["part"] === partId,
    )
    .map((line) => ({
      seq: line.seq,
      at: line.at,
      action: line.action,
      who: names.get(signerOf(line) ?? "") ?? names.get(line.actor),
    }))
    .reverse();
}
