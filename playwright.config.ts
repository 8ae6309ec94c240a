import { defineConfig } from "@playwright/test";

/** Debian's Chromium without a window: the same engine at half the time of the one that draws a window nobody sees. Letters stand where they stand in that one, not on whole pixels. */
export const chromium = {
  executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium-headless-shell",
  args: [
    "--headless",
    "--font-render-hinting=none",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};
// Three thirds, each with a practice of its own, so that `npm test` can walk through them side by side; without a name, all in one.
const third = process.env["KIND_LEDGER_E2E"];
const files: Readonly<Record<string, { readonly testMatch: RegExp; readonly port: number }>> = {
  a: { testMatch: /(hands|path|together)\.spec/, port: 3411 },
  b: { testMatch: /(rooms|sending)\.spec/, port: 3412 },
  c: { testMatch: /(sheets|visitors|writing)\.spec/, port: 3413 },
};
const { port, testMatch } = files[third ?? ""] ?? { port: 3411, testMatch: /\.spec/ };

export default defineConfig({
  testDir: "tests/e2e",
  testMatch,
  outputDir: `.cache/e2e-results${third ?? ""}`,
  // One practice, walked through in order; files run one after the other.
  workers: 1,
  fullyParallel: false,
  // For what hangs, never for what is slow: whole visits are walked through, on a machine that may be four times slower than yesterday.
  timeout: 1_200_000,
  expect: { timeout: 60_000 },
  reporter: process.env["KIND_LEDGER_JSON"]
    ? [["list"], ["json", { outputFile: process.env["KIND_LEDGER_JSON"] }]]
    : [["list"]],
  use: {
    actionTimeout: 90_000,
    navigationTimeout: 90_000,
    baseURL: `http://localhost:${port}`,
    launchOptions: chromium,
    viewport: { width: 1280, height: 800 },
    screenshot: "only-on-failure",
    locale: "en-GB",
  },
  webServer: {
    // Short-lived: the embedded database's code is compiled once and quickly, not again and better beside the tests.
    command: "node --liftoff-only scripts/e2e-server.mjs",
    url: `http://localhost:${port}/sign-in`,
    timeout: 600_000,
    reuseExistingServer: false,
    stdout: "ignore",
    stderr: "pipe",
    env: {
      ...(process.env["KIND_LEDGER_SEEDED"] ? { KIND_LEDGER_SEEDED: process.env["KIND_LEDGER_SEEDED"] } : {}),
      PORT: String(port),
      KIND_LEDGER_DATA: `.cache/e2e-data${third ?? ""}`,
      KIND_LEDGER_NOW: "2026-11-25T08:10:00Z",
      NODE_ENV: "production",
    },
  },
});
