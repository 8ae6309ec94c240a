import { application, deliverQueued } from './compose';

// Opened before the first request; server.mjs waits for it and stops when it fails (another process holds the folder).
application().then(deliverQueued).catch(() => undefined);
