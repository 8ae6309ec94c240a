import { addNext } from "../usecases/charting";
import { run } from "../server/run";
import { stepByStep } from "./step-by-step";

/** Adds the clients of every file whose bringing in was started. */
export const { goOn: runImports, stop: stopImports } = stepByStep({
  what: "bringing clients in",
  address: "import",
  unfinished: (repo, practice) => repo.clientImports.unfinished(practice.id),
  step: (app, actor, importId) => run(app, addNext, actor, { importId }),
});
