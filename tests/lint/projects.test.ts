import { describe, expect, it } from "vitest";
import { endToEndProjects } from "../e2e/projects";

describe("the end-to-end projects", () => {
  it("are every spec there is, each with a port and a folder of its own", () => {
    const projects = endToEndProjects();
    expect(projects.map(({ name }) => name)).toContain("path");
    expect(new Set(projects.map(({ port }) => port)).size).toBe(projects.length);
    expect(new Set(projects.map(({ data }) => data)).size).toBe(projects.length);
  });
  it.each([
    "e2e/forgotten/one.spec.ts",
    "integration/lost.spec.ts",
    "e2e/one.test.ts",
    "e2e/one.spec.tsx",
    "e2e/One.e2e.ts",
  ])("refuse %s, which none of them would run", (lost) => {
    expect(() => endToEndProjects(["e2e/path.spec.ts", lost])).toThrow(lost);
  });
});
