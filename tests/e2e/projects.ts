import { readdirSync } from "node:fs";

/** One spec file: its own server on its own port, over its own copy of the practice. */
export interface EndToEnd {
  readonly name: string;
  readonly file: string;
  readonly port: number;
  readonly data: string;
  /** Begins with an empty folder instead of the demo practice. */
  readonly empty: boolean;
}
const firstPort = 3411;
export const practiceFolder = ".cache/e2e-practice";

/**
 * Every spec under tests/ as a project. There is no second list to forget one in: a spec that stands where
 * no project looks, or under a name that no runner takes, is refused.
 */
export function endToEndProjects(files: readonly string[] = readdirSync("tests", { recursive: true }).map(String)) {
  const specs = files.filter((file) => /\.(spec|e2e)\.[cm]?[jt]sx?$/.test(file)).sort();
  const lost = [
    ...specs.filter((file) => !/^e2e\/[a-z-]+\.spec\.ts$/.test(file)),
    ...files.filter((file) => /^e2e\/.*\.test\.[jt]sx?$/.test(file)),
  ];
  if (lost.length > 0) throw new Error(`No end-to-end project would run ${lost.join(", ")}.`);
  return specs.map((file, index): EndToEnd => {
    const name = file.slice("e2e/".length, -".spec.ts".length);
    return {
      name,
      file: file.slice("e2e/".length),
      port: firstPort + index,
      data: `.cache/e2e/${name}`,
      empty: name === "begin",
    };
  });
}
