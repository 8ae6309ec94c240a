import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { withPlaces, type Lock } from "../../scripts/lock";

const read = (): Lock => JSON.parse(readFileSync("package-lock.json", "utf8")) as Lock;

it("the lock says where each package lies, and names no registry (`npm run lock` writes it)", () => {
  expect(read()).toEqual(withPlaces(read()));
  expect(readFileSync(".npmrc", "utf8")).toContain("replace-registry-host=always");
});
it("a package of another name, a scoped one and one inside another have their own place; what comes from elsewhere keeps its", () => {
  const places = withPlaces({
    packages: {
      "": { version: "1.0.0" },
      "node_modules/@a/b": { version: "2.0.0", resolved: "https://somewhere.example/x.tgz" },
      "node_modules/c/node_modules/other": { name: "d", version: "3.0.0-rc.1" },
      "node_modules/e": { link: true, resolved: "packages/e" },
      "node_modules/f": { version: "1.0.0", resolved: "git+ssh://git@somewhere.example/f.git#1" },
      "node_modules/g": { version: "1.0.0", resolved: "file:g.tgz" },
    },
  }).packages;
  expect(Object.values(places).map((p) => p.resolved)).toEqual([
    undefined,
    "https://packages.invalid/@a/b/-/b-2.0.0.tgz",
    "https://packages.invalid/d/-/d-3.0.0-rc.1.tgz",
    "packages/e",
    "git+ssh://git@somewhere.example/f.git#1",
    "file:g.tgz",
  ]);
});
