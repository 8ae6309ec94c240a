import { saveListener } from "./app/_server/save-listener";
import { application, keepHouse, recoverPost, runMailings } from "./server";

(globalThis as { kindLedgerSave?: typeof saveListener }).kindLedgerSave = saveListener;
// Opened before the first request; server.mjs waits for it and stops when it fails (another process holds the folder).
application()
  .then(async (app) => {
    keepHouse(app);
    await recoverPost(app);
    await runMailings(app);
  })
  .catch(() => undefined);
