import { defineConfig } from '@playwright/test';

/** Debian's Chromium without a window: the same engine at half the time of the one that draws a window nobody sees. */
export const chromium = {
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
};
// Two halves, each with a practice of its own, so that `npm test` can walk through both at once; without a name, all in one.
const half = process.env['KIND_LEDGER_E2E'];
const port = half === 'b' ? 3412 : 3411;
const files = { a: /(hands|path|together|writing)\.spec/, b: /(rooms|visitors|sheets|sending)\.spec/ } as const;

export default defineConfig({
  testDir: 'tests/e2e',
  ...(half === 'a' || half === 'b' ? { testMatch: files[half] } : {}),
  outputDir: `.cache/e2e-results${half ?? ''}`,
  // One practice, walked through in order; files run one after the other.
  workers: 1,
  fullyParallel: false,
  // For what hangs, never for what is slow: whole visits are walked through, on a machine that may be four times slower than yesterday.
  timeout: 1_200_000,
  expect: { timeout: 60_000 },
  reporter: process.env['KIND_LEDGER_JSON'] ? [['list'], ['json', { outputFile: process.env['KIND_LEDGER_JSON'] }]] : [['list']],
  use: { actionTimeout: 90_000, navigationTimeout: 90_000, baseURL: `http://localhost:${port}`, launchOptions: chromium, viewport: { width: 1280, height: 800 }, screenshot: 'only-on-failure', locale: 'en-GB' },
  webServer: {
    command: 'node scripts/e2e-server.mjs', url: `http://localhost:${port}/sign-in`, timeout: 600_000, reuseExistingServer: false, stdout: 'ignore', stderr: 'pipe',
    env: { ...(process.env['KIND_LEDGER_SEEDED'] ? { KIND_LEDGER_SEEDED: process.env['KIND_LEDGER_SEEDED'] } : {}), PORT: String(port), KIND_LEDGER_DATA: `.cache/e2e-data${half ?? ''}`, KIND_LEDGER_NOW: '2026-11-25T08:10:00Z', NODE_ENV: 'production' },
  },
});
