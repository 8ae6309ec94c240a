import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";
import {
  actionsOfKind,
  anchorText,
  journalActions,
  journalKindOf,
  journalKinds,
  journalWords,
  readAnchor,
} from "../../src/core/audit";
import { instant } from "../../src/core/shared";

it("has words of its own for each action, and no action that nothing writes", () => {
  const written = ["src/usecases", "src/server", "src/jobs"]
    .flatMap((folder) => readdirSync(folder, { recursive: true, encoding: "utf8" }).map((name) => join(folder, name)))
    .filter((file) => file.endsWith(".ts"))
    .map((file) => readFileSync(file, "utf8"))
    .join("\n");
  expect(journalActions.filter((action) => !written.includes(`"${action}"`))).toEqual([]);
  for (const action of journalActions) expect(journalWords[action]).toMatch(/^[A-Z].{2,}[^.]$/);
});

it("has each action in one kind, so that looking up by kind leaves nothing out", () => {
  expect(journalActions.filter((action) => journalKindOf(action) === undefined)).toEqual([]);
  expect(journalKinds.flatMap(actionsOfKind).toSorted()).toEqual([...journalActions].toSorted());
  for (const kind of journalKinds) expect(actionsOfKind(kind)).not.toEqual([]);
});

it("reads an anchor out of a letter, however it was broken into lines", () => {
  const anchor = { seq: 4711, hash: "0a".repeat(32), at: instant("2026-11-25T08:10:00Z") };
  const text = anchorText(anchor);
  expect(readAnchor(`Dear Maren,\n\n> ${text}\n\nkeep it`)).toEqual(anchor);
  expect(readAnchor(text.replaceAll(" ", "\n"))).toEqual(anchor);
  for (const other of ["", "journal", text.replace("4711", "x"), text.slice(0, 40), text.replace("2026", "soon")])
    expect(readAnchor(other)).toBeUndefined();
});
