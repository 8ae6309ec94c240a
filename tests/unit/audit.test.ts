import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";
import { journalActions, journalWords } from "../../src/core/audit";

it("has words of its own for each action, and no action that nothing writes", () => {
  const written = ["src/usecases", "src/server", "src/jobs"]
    .flatMap((folder) => readdirSync(folder, { recursive: true, encoding: "utf8" }).map((name) => join(folder, name)))
    .filter((file) => file.endsWith(".ts"))
    .map((file) => readFileSync(file, "utf8"))
    .join("\n");
  expect(journalActions.filter((action) => !written.includes(`"${action}"`))).toEqual([]);
  for (const action of journalActions) expect(journalWords[action]).toMatch(/^[A-Z].{2,}[^.]$/);
});
