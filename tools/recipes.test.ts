import { spawnSync } from 'node:child_process';
import { cpSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { apply, forget, recipes, touched } from './recipes';

/** Below node_modules, so that packages are found from there. */
const copy = resolve('node_modules/.cache/green-stall/recipes');
const inCopy = (file: string): string => join(copy, 'src', file);

/** What the compiler says of the copy, without its tests: a line for each fault, which begins with the file. */
function said(): string[] {
  writeFileSync(
    join(copy, 'tsconfig.json'),
    JSON.stringify({
      extends: resolve('tsconfig.json'),
      compilerOptions: { rootDirs: ['.'] },
      include: ['src'],
      exclude: ['**/*.test.ts', '**/*.test.tsx', '**/*testing.ts', '**/*testing.tsx'],
    }),
  );
  const tsc = resolve('node_modules/typescript-native/bin/tsc');
  const { stdout, error } = spawnSync(tsc, ['--noEmit', '--pretty', 'false'], {
    cwd: copy,
    encoding: 'utf8',
  });
  if (error) throw error;
  return stdout.split('\n').filter((line) => /^\S.*: error TS/.test(line));
}

/** What the changed sources hold, by running them. */
async function ran<T>(file: string): Promise<T> {
  const out = join(copy, `probe-${Math.random().toString(36).slice(2)}.mjs`);
  await build({
    entryPoints: [inCopy(file)],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outfile: out,
    logLevel: 'error',
  });
  return (await import(pathToFileURL(out).href)) as T;
}

describe('what grows', () => {
  beforeAll(() => {
    rmSync(copy, { recursive: true, force: true });
    cpSync('src', join(copy, 'src'), { recursive: true });
    apply(copy, recipes);
  });
  afterAll(() => rmSync(copy, { recursive: true, force: true }));

  it('touches as many files as architecture.md says', () => {
    const table = readFileSync('docs/architecture.md', 'utf8');
    for (const r of recipes) expect(table, r.what).toContain(`| ${r.what} | ${touched(r).length} |`);
  });

  it('works: what was added is offered, drawn, written and worked out', async () => {
    const { kinds } = await ran<typeof import('../src/core/placement/kinds')>(
      'core/placement/kinds/index.ts',
    );
    const hours = kinds.find((k) => k.kind === 'hours');
    expect(hours?.element).toBe('stall-hours');
    expect(hours?.fields.map((f) => f.key)).toEqual(['text', 'lang']);
    const { tillRules } = await ran<typeof import('../src/core/till/rules')>('core/till/rules.ts');
    expect(tillRules.parse({ pay: { ways: [{ id: 'd', kind: 'direct' }] } }).pay.ways[0]?.kind).toBe(
      'direct',
    );
    const { languages, lettersIn } = await ran<typeof import('../src/core/languages/languages')>(
      'core/languages/languages.ts',
    );
    expect(languages).toContain('nl');
    expect(Object.keys(lettersIn('nl'))).toContain('paid');
    const { spellingNames } = await ran<typeof import('../src/core/placement/spelling')>(
      'core/placement/spelling.ts',
    );
    expect(spellingNames).toContain('marker');
  });

  it('is added by what the recipes say and nothing else, and the compiler names what is missing', () => {
    expect(said()).toEqual([]);
    forget(copy, recipes);
    const without = said();
    for (const { what, forgets } of recipes)
      expect(
        without.filter((fault) => fault.startsWith(join('src', forgets.in))),
        `the compiler says what is missing from ${what}`,
      ).not.toEqual([]);
  });
});
