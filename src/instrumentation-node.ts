import { knownCaller } from "./app/_server/known-caller";
import { saveListener } from "./app/_server/save-listener";
import { application, metricsText, readEnvironment, setUpCodeWords, startJobs } from "./server";

const { metricsToken } = readEnvironment(process.env);
Object.assign(globalThis, {
  kindLedgerSave: saveListener,
  kindLedgerKnows: knownCaller,
  kindLedgerMetrics: metricsToken === undefined ? undefined : { token: metricsToken, text: metricsText },
});
// Opened before the first request; server.mjs waits for it and stops when it fails (another process holds the folder).
application()
  .then(async (app) => {
    if (!(await app.practice()))
      console.log(
        `kind-ledger: nothing is set up here yet. Open ${app.ports.origin}/set-up and type this code: ${setUpCodeWords(app.ports.sealer)}`,
      );
    await startJobs(app);
  })
  .catch(() => undefined);
