import { spawnSync } from "node:child_process";
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { ESLint } from "eslint";
import { afterAll, describe, expect, it } from "vitest";

// The layering rules can be silent when misconfigured, so each is shown a violation that it must report.
const planted: readonly (readonly [place: string, code: string, rule: string])[] = [
  ["src/core/shared/planted.ts", "import '../chart';", "boundaries/dependencies"],
  [
    "src/core/messages/planted.ts",
    "import { place } from '../questionnaire';\nexport const planted = place;",
    "boundaries/dependencies",
  ],
  [
    "src/core/chart/planted.ts",
    "import { openPglite } from '../../db/client.pglite';\nexport const planted = openPglite;",
    "boundaries/dependencies",
  ],
  [
    "src/core/chart/planted.ts",
    "import { readFileSync } from 'node:fs';\nexport const planted = readFileSync;",
    "no-restricted-imports",
  ],
  [
    "src/core/chart/planted.ts",
    "import { useState } from 'react';\nexport const planted = useState;",
    "no-restricted-imports",
  ],
  ["src/core/chart/planted.ts", "export const planted = Date.now();", "no-restricted-syntax"],
  ["src/core/chart/planted.ts", "export const planted = new Date();", "no-restricted-syntax"],
  ["src/db/planted.ts", "import { run } from '../server';\nexport const planted = run;", "boundaries/dependencies"],
  [
    "src/usecases/sending/planted.ts",
    "import { createSealer } from '../../adapters/encryption';\nexport const planted = createSealer;",
    "boundaries/dependencies",
  ],
  [
    "src/usecases/sending/planted.ts",
    "import { openPglite } from '../../db/client.pglite';\nexport const planted = openPglite;",
    "boundaries/dependencies",
  ],
  ["src/ui/planted.tsx", "import { run } from '@/server';\nexport const planted = run;", "boundaries/dependencies"],
  [
    "src/app/(staff)/day/page.tsx",
    "import { Door } from '../../(client)/p/[token]/door';\nexport default Door;",
    "boundaries/dependencies",
  ],
  [
    "src/app/(staff)/day/page.tsx",
    "import { signIn } from '@/usecases/identity';\nexport default signIn;",
    "boundaries/dependencies",
  ],
  [
    "src/app/(staff)/day/planted-view.tsx",
    "import { run } from '@/server';\nexport const planted = run;",
    "no-restricted-imports",
  ],
  [
    "src/app/(staff)/day/planted-view.tsx",
    "import { daySheet } from '@/usecases/scheduling';\nexport const planted = daySheet;",
    "boundaries/dependencies",
  ],
  [
    "src/ui/planted.tsx",
    "import { daySheet } from '@/usecases/scheduling';\nexport const planted = daySheet;",
    "boundaries/dependencies",
  ],
  [
    "src/app/(staff)/day/page.tsx",
    "export const planted = (x: number) => {\n\n\n\n\n\n\n\n\n  return x;\n};",
    "names/short",
  ],
  ["src/ui/planted.tsx", "import Link from 'next/link';\nexport const planted = Link;", "no-restricted-imports"],
  [
    "src/app/(staff)/day/planted-view.tsx",
    "import Link from 'next/link';\nexport const planted = Link;",
    "no-restricted-imports",
  ],
];
const clean: readonly (readonly [place: string, code: string])[] = [
  [
    "src/app/(staff)/day/planted-view.tsx",
    "import type { DaySheet } from '@/usecases/scheduling';\nexport type Planted = DaySheet;",
  ],
  ["src/usecases/sending/planted.ts", "import type { Paper } from '../../adapters/paper';\nexport type X = Paper;"],
  ["src/core/chart/planted.ts", "import { place } from '../questionnaire';\nexport const planted = place;"],
  ["src/app/(staff)/day/page.tsx", "import { run } from '@/server';\nexport default run;"],
];

describe("the linter", () => {
  const eslint = new ESLint({ cache: false });
  const rulesFor = async (place: string, code: string) =>
    (await eslint.lintText(code, { filePath: place }))[0]!.messages.map((m) => m.ruleId);

  it.each(planted)(
    "reports a violation planted in %s: %s",
    async (place, code, rule) => {
      expect(await rulesFor(place, code)).toContain(rule);
    },
    60_000,
  );
  /** What the other linter, by its configuration here, says of a folder with these files: line and rule. */
  const folder = mkdtempSync(join(tmpdir(), "kl-planted-"));
  const said = (files: Readonly<Record<string, string>>): string[] => {
    copyFileSync(".oxlintrc.json", join(folder, ".oxlintrc.json"));
    for (const [name, code] of Object.entries(files)) {
      mkdirSync(dirname(join(folder, name)), { recursive: true });
      writeFileSync(join(folder, name), code);
    }
    const { stdout } = spawnSync("node", [join(process.cwd(), "node_modules/.bin/oxlint"), "-f", "json", "."], {
      cwd: folder,
      encoding: "utf8",
    });
    const { diagnostics } = JSON.parse(stdout) as {
      diagnostics: { code: string; labels: { span: { line: number } }[] }[];
    };
    return diagnostics.map((d) => `${d.labels[0]?.span.line} ${d.code}`).sort();
  };
  afterAll(() => {
    rmSync(folder, { recursive: true });
  });
  it("reports modules that import each other in a circle, types aside", () => {
    expect(
      said({
        "src/a.ts": "import { b } from './b';\nexport const a = () => b;",
        "src/b.ts": "import { c } from './c';\nexport const b = c;",
        "src/c.ts": "export const c = 1;",
      }),
    ).toEqual([]);
    expect(said({ "src/c.ts": "import type { a } from './a';\nexport const c = {} as typeof a;" })).toEqual([]);
    expect(said({ "src/c.ts": "import { a } from './a';\nexport const c = a;" })).toContain("1 import(no-cycle)");
    rmSync(join(folder, "src"), { recursive: true });
  });
  it("reports statements that hide another, and functions that do not fit on two screens", () => {
    const long = (lines: number) => `export function long() {\n${"  call();\n".repeat(lines)}}`;
    const code = "export const a = (b) => (b ? 1 : b === 0 ? 2 : 3);\nexport const c = 1, d = 2;";
    expect(said({ "src/dense.js": code, "src/long.js": `${long(119)}\nconst call = () => 1;` })).toEqual([
      "1 eslint(max-lines-per-function)",
      "1 eslint(no-nested-ternary)",
      "2 eslint(one-var)",
    ]);
    expect(said({ "src/dense.js": "export {};", "src/long.js": `${long(118)}\nconst call = () => 1;` })).toEqual([]);
    rmSync(join(folder, "src"), { recursive: true });
  });
  it("reports what React's compiler could not keep right, and code that only looks right", () => {
    const lines: readonly (readonly [code: string, rule: string])[] = [
      ["import { useCallback, useEffect, useMemo, useRef, useState } from 'react';", ""],
      ["let outside = 0;", ""],
      ["export function Refs() { const r = useRef(0); return <p>{r.current}</p>; }", "react(refs)"],
      [
        "export function InEffect({ a }: { a: number }) { const [x, setX] = useState(0); useEffect(() => { setX(a); }, [a]); return <p>{x}</p>; }",
        "react(set-state-in-effect)",
      ],
      ["export function Pure() { const x = Math.random(); return <p>{x}</p>; }", "react(purity)"],
      ["export function Static() { const Inner = () => <p />; return <Inner />; }", "react(static-components)"],
      [
        "export function InRender() { const [x, setX] = useState(0); setX(1); return <p>{x}</p>; }",
        "react(set-state-in-render)",
      ],
      ["export function Outside() { outside = 1; return <p>{outside}</p>; }", "react(globals)"],
      ["export function Caught() { try { return <Static />; } catch { return null; } }", "react(error-boundaries)"],
      [
        "export function Memo({ a }: { a: number }) { const x = useMemo(async () => a, [a]); return <p>{String(x)}</p>; }",
        "react(use-memo)",
      ],
      [
        "export function Callback({ a, b }: { a: { c: number }; b: number }) { const f = useCallback(() => a.c + b, [a.c]); return <p>{f()}</p>; }",
        "react-hooks(exhaustive-deps)",
      ],
      [
        "export function Rules({ a }: { a: boolean }) { if (a) { useState(0); } return null; }",
        "react-hooks(rules-of-hooks)",
      ],
      ['export const Image = () => <img src="/a.png" />;', "jsx-a11y(alt-text)"],
      ["export const list = [1].map((n) => <p>{n}</p>);", "react(jsx-key)"],
      ["export const any = (x: any) => x == 1;", "typescript(no-explicit-any)"],
      ["export const loose = (x: number) => x == 1;", "eslint(eqeqeq)"],
    ];
    const found = said({ "src/ui/a.tsx": lines.map(([code]) => code).join("\n") });
    expect(found).toEqual(
      expect.arrayContaining(lines.flatMap(([, rule], i) => (rule === "" ? [] : [`${i + 1} ${rule}`]))),
    );
  });
  it.each(clean)(
    "has nothing against what is allowed in %s",
    async (place, code) => {
      expect(await rulesFor(place, code)).toEqual([]);
    },
    60_000,
  );
});
