import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };
export default defineConfig({
  test: {
    // Limits are for what hangs, never for what is slow: on a bad day a machine takes four times as long.
    // Two cores: more workers would only get in each other's way, and each PGlite wants one.
    maxWorkers: 2,
    projects: [
      // Pure functions: files may share what they imported, and the FHIR validators take seconds to load.
      {
        resolve: { alias },
        test: {
          name: "unit",
          setupFiles: ["tests/support/patterns.ts"],
          isolate: false,
          include: ["src/**/*.test.ts", "tests/unit/**/*.test.ts", "tests/lint/**/*.test.ts"],
          testTimeout: 240_000,
        },
      },
      // One after the other in one process, so that a practice is settled in once for each database.
      {
        resolve: { alias },
        test: {
          name: "integration",
          isolate: false,
          maxWorkers: 1,
          include: ["tests/integration/**/*.test.ts"],
          testTimeout: 600_000,
          hookTimeout: 600_000,
          fileParallelism: false,
        },
      },
      // Against the built server.
      {
        resolve: { alias },
        test: {
          name: "faults",
          include: ["tests/faults/**/*.test.ts", "tests/hostile/**/*.test.ts"],
          testTimeout: 600_000,
          hookTimeout: 600_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
