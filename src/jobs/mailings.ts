import { writeNext } from "../usecases/sending";
import { run } from "../server/run";
import { stepByStep } from "./step-by-step";

/** Writes to everybody of every mailing that is not over. */
export const { goOn: runMailings, stop: stopMailings } = stepByStep({
  what: "a mailing",
  address: "mailing",
  unfinished: (repo, practice) => repo.mailings.unfinished(practice.id),
  step: (app, actor, mailingId) => run(app, writeNext, actor, { mailingId }),
});
