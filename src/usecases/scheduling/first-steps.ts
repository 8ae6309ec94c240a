import { may, type Context, type StaffActor } from "../kit";

export interface FirstStep {
  readonly step: "visit-types" | "questionnaires" | "door" | "colleagues" | "letter" | "test-client" | "visit";
  /** What is really there says so, not a tick that somebody sets. */
  readonly done: boolean;
}
/**
 * What a new practice does first. Shown to who may change how the practice works, until a first packet was sent: from
 * then on it has begun.
 */
export async function firstSteps(ctx: Context<StaffActor>): Promise<readonly FirstStep[]> {
  const { repo, practice } = ctx;
  if (!may(ctx, "office.write") || (await repo.packets.hasAny(practice.id))) return [];
  const [types, inUse, staff, door, letter, tried, visit] = [
    await repo.visitTypes.all(practice.id),
    await repo.questionnaires.countInUse(practice.id),
    await repo.staff.all(practice.id),
    await repo.journal.hasAction(practice.id, "door.policy"),
    await repo.journal.hasAction(practice.id, "post-room.try-out"),
    (await repo.clients.testClient(practice.id)) !== undefined,
    await repo.visits.hasAny(practice.id),
  ];
  return [
    { step: "visit-types", done: types.length > 0 },
    { step: "questionnaires", done: inUse > 0 },
    { step: "door", done: door },
    { step: "colleagues", done: staff.length > 1 },
    { step: "letter", done: letter },
    { step: "test-client", done: tried },
    { step: "visit", done: visit },
  ];
}
