import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

// The layering rules can be silent when misconfigured, so each is shown a violation that it must report.
const planted: readonly (readonly [place: string, code: string, rule: string])[] = [
  ['src/core/shared/planted.ts', "import '../chart';", 'boundaries/dependencies'],
  ['src/core/messages/planted.ts', "import { place } from '../questionnaire';\nexport const x = place;", 'boundaries/dependencies'],
  ['src/core/chart/planted.ts', "import { openPglite } from '../../db/client.pglite';\nexport const x = openPglite;", 'boundaries/dependencies'],
  ['src/core/chart/planted.ts', "import { readFileSync } from 'node:fs';\nexport const x = readFileSync;", 'no-restricted-imports'],
  ['src/core/chart/planted.ts', "import { useState } from 'react';\nexport const x = useState;", 'no-restricted-imports'],
  ['src/core/chart/planted.ts', 'export const x = Date.now();', 'no-restricted-syntax'],
  ['src/core/chart/planted.ts', 'export const x = new Date();', 'no-restricted-syntax'],
  ['src/db/planted.ts', "import { run } from '../compose';\nexport const x = run;", 'boundaries/dependencies'],
  ['src/usecases/send/planted.ts', "import { createSealer } from '../../adapters/encryption';\nexport const x = createSealer;", 'boundaries/dependencies'],
  ['src/usecases/send/planted.ts', "import { openPglite } from '../../db/client.pglite';\nexport const x = openPglite;", 'boundaries/dependencies'],
  ['src/ui/planted.tsx', "import { run } from '@/compose';\nexport const x = run;", 'boundaries/dependencies'],
  ['src/app/(staff)/day/page.tsx', "import { Door } from '../../(client)/p/[token]/door';\nexport default Door;", 'boundaries/dependencies'],
  ['src/app/(staff)/day/page.tsx', "import { signIn } from '@/usecases/sign-in';\nexport default signIn;", 'boundaries/dependencies'],
  ['src/app/(staff)/day/planted-view.tsx', "import { run } from '@/compose';\nexport const x = run;", 'no-restricted-imports'],
  ['src/ui/planted.tsx', "import Link from 'next/link';\nexport const x = Link;", 'no-restricted-imports'],
  ['src/app/(staff)/day/planted-view.tsx', "import Link from 'next/link';\nexport const x = Link;", 'no-restricted-imports'],
];
const clean: readonly (readonly [place: string, code: string])[] = [
  ['src/usecases/send/planted.ts', "import type { Paper } from '../../adapters/paper';\nexport type X = Paper;"],
  ['src/core/chart/planted.ts', "import { place } from '../questionnaire';\nexport const x = place;"],
  ['src/app/(staff)/day/page.tsx', "import { run } from '@/compose';\nexport default run;"],
];

describe('the linter', () => {
  const eslint = new ESLint({ cache: false });
  const rulesFor = async (place: string, code: string) => (await eslint.lintText(code, { filePath: place }))[0]!.messages.map((m) => m.ruleId);

  it.each(planted)('reports a violation planted in %s: %s', async (place, code, rule) => {
    expect(await rulesFor(place, code)).toContain(rule);
  }, 60_000);
  // Circles are found over all files at once, by the other linter (see the lint script).
  it('reports modules that import each other in a circle, types aside', () => {
    const command = /oxlint .* (?=src)/.exec((JSON.parse(readFileSync('package.json', 'utf8')) as { scripts: { lint: string } }).scripts.lint)![0];
    const folder = mkdtempSync(join(tmpdir(), 'kl-circle-')), circles = (files: Readonly<Record<string, string>>): number => {
      mkdirSync(join(folder, 'src'), { recursive: true });
      for (const [name, code] of Object.entries(files)) writeFileSync(join(folder, 'src', name), code);
      return spawnSync('node', [join(process.cwd(), 'node_modules/.bin/oxlint'), ...command.trim().split(' ').slice(1), 'src'], { cwd: folder }).status!;
    };
    expect(circles({ 'a.ts': "import { b } from './b';\nexport const a = () => b;", 'b.ts': "import { c } from './c';\nexport const b = c;", 'c.ts': 'export const c = 1;' })).toBe(0);
    expect(circles({ 'c.ts': "import type { a } from './a';\nexport const c = {} as typeof a;" })).toBe(0);
    expect(circles({ 'c.ts': "import { a } from './a';\nexport const c = a;" })).toBe(1);
  });
  it.each(clean)('has nothing against what is allowed in %s', async (place, code) => {
    expect(await rulesFor(place, code)).toEqual([]);
  }, 60_000);
});
