import { spawn } from "node:child_process";
import { cpSync, rmSync } from "node:fs";
import { test as plain } from "@playwright/test";
import { practiceNow } from "./practice-now";
import { endToEndProjects, practiceFolder } from "./projects";

/** Each spec file runs against a server of its own, which begins from a copy of the practice. */
/** What the server has said on its console. */
export const said = { text: "" };
export const test = plain.extend<object, { practice: void }>({
  practice: [
    // oxlint-disable-next-line no-empty-pattern -- Playwright reads the names of fixtures from here.
    async ({}, use, worker) => {
      const { port, data, empty } = endToEndProjects().find(({ name }) => name === worker.project.name)!;
      rmSync(data, { recursive: true, force: true });
      if (!empty) cpSync(practiceFolder, data, { recursive: true });
      // Short-lived: the embedded database's code is compiled once and quickly, not again and better beside the tests.
      const server = spawn(process.execPath, ["--liftoff-only", "server.mjs"], {
        stdio: ["ignore", "pipe", "inherit"],
        env: {
          ...process.env,
          PORT: String(port),
          KIND_LEDGER_DATA: data,
          KIND_LEDGER_NOW: practiceNow,
          KIND_LEDGER_TRIAL: "yes",
          NODE_ENV: "production",
        },
      });
      const over = new Promise<void>((resolve) => server.once("exit", () => resolve()));
      await new Promise<void>((resolve, reject) => {
        server.stdout.on("data", (text) => {
          said.text += String(text);
          if (said.text.includes("kind-ledger: ready")) resolve();
        });
        server.once("exit", (code) => reject(new Error(`The server on port ${port} ended with ${code}.`)));
      });
      await use();
      server.kill("SIGTERM");
      await over;
    },
    { scope: "worker", auto: true, timeout: 600_000 },
  ],
});
