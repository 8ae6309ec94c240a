import { saveListener } from './app/_server/save-listener';
import { application, recoverPost } from './compose';

(globalThis as { kindLedgerSave?: typeof saveListener }).kindLedgerSave = saveListener;
// Opened before the first request; server.mjs waits for it and stops when it fails (another process holds the folder).
application().then((app) => recoverPost(app)).catch(() => undefined);
