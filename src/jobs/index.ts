export { escalateAlerts } from "./alerts";
export { keepHead, mailAnchors } from "./housekeeping";
export { eraseAgain, heardErased, keysLeft, resealKeys, scrubKeys } from "./client-keys";
export { deliverDue, recoverPost } from "./letters";
export { runImports } from "./imports";
export { runMailings } from "./mailings";
export { runSchedules } from "./measures";
export { runSeals } from "./seals";
export { startJobs, stopJobs } from "./runner";
