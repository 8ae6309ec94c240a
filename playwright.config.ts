import { defineConfig } from "@playwright/test";
import { endToEndProjects } from "./tests/e2e/projects";

/**
 * Debian's Chromium without a window: the same engine at half the time of the one that draws a window nobody sees.
 * Letters stand where they stand in that one, not on whole pixels.
 */
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
export default defineConfig({
  testDir: "tests/e2e",
  outputDir: ".cache/e2e-results",
  globalSetup: "./tests/e2e/set-up.ts",
  // Each spec file is a project with a practice of its own, walked through in order; two files side by side.
  projects: endToEndProjects().map(({ name, file, port }) => ({
    name,
    testMatch: file,
    use: { baseURL: `http://localhost:${port}` },
  })),
  workers: 2,
  fullyParallel: false,
  // A test left alone by mistake would keep the others from running.
  forbidOnly: true,
  // For what hangs, never for what is slow: whole visits are walked through, on a machine that may be four times
  // slower than yesterday.
  timeout: 1_200_000,
  expect: { timeout: 60_000 },
  reporter: process.env["KIND_LEDGER_JSON"]
    ? [["list"], ["json", { outputFile: process.env["KIND_LEDGER_JSON"] }]]
    : [["list"]],
  use: {
    actionTimeout: 90_000,
    navigationTimeout: 90_000,
    launchOptions: chromium,
    viewport: { width: 1280, height: 800 },
    screenshot: "only-on-failure",
    locale: "en-GB",
  },
});
