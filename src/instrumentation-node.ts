import { knownCaller } from "./app/_server/known-caller";
import { saveListener } from "./app/_server/save-listener";
import { application, startJobs } from "./server";

Object.assign(globalThis, { kindLedgerSave: saveListener, kindLedgerKnows: knownCaller });
// Opened before the first request; server.mjs waits for it and stops when it fails (another process holds the folder).
application()
  .then(async (app) => {
    await startJobs(app);
  })
  .catch(() => undefined);
