// A production server over a fresh demo practice, for the end-to-end tests and the screenshots.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';

rmSync(process.env.KIND_LEDGER_DATA, { recursive: true, force: true });
const seeded = spawnSync('npx', ['tsx', 'scripts/seed.ts', '--fresh'], { stdio: 'inherit' });
if (seeded.status !== 0) process.exit(1);
await import('../server.mjs');
