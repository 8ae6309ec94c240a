import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { dataModel, dataModelFile } from "../../scripts/data-model";

it("the drawing of the tables is of the tables as they are", async () => {
  const drawn = await dataModel();
  expect(drawn).toContain("practice ||--o{ packet");
  expect(readFileSync(dataModelFile, "utf8"), "`npm run data-model` draws it anew").toBe(drawn);
});
