import { run } from "../server/run";
import { askForMeasures } from "../usecases/measures";
import { stepByStep } from "./step-by-step";

/** Asks everybody for their measures for whom it is time. */
export const { goOn: runSchedules, stop: stopSchedules } = stepByStep({
  what: "asking for measures",
  address: "schedule",
  unfinished: (repo, practice, now) => repo.measureSchedules.due(practice.id, now),
  step: (app, actor, scheduleId) => run(app, askForMeasures, actor, { scheduleId }),
});
