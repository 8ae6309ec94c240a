export { rights, rightsOf, rightWords, startingRights, wholeSet, without, type Right, type RightSets } from "./rights";
export { mayStepBack, roleWords, type Member } from "./members";
