import { cpSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import ts from 'typescript';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importsOf } from './layers.mjs';
import { apply, forget, recipes, touched } from './recipes';

/** Below node_modules, so that packages are found from there. */
const copy = resolve('node_modules/.cache/green-stall/recipes');
const inCopy = (file: string): string => join(copy, 'src', file);

/** The copy as the compiler sees it. What did not change since the program before is not read again. */
function compiled(before?: ts.Program): ts.Program {
  const { config } = ts.readConfigFile('tsconfig.json', ts.sys.readFile);
  const { options } = ts.parseJsonConfigFileContent(config, ts.sys, process.cwd());
  const { fileNames } = ts.parseJsonConfigFileContent({ include: ['src'] }, ts.sys, copy);
  const roots = fileNames.filter((name) => !/\.test\.tsx?$|testing\.tsx?$/.test(name));
  return ts.createProgram(roots, options, undefined, before);
}

/** Files that were touched, and those that import one of them: who lists a union names it. */
function nearTo(program: ts.Program, files: readonly string[]): ts.SourceFile[] {
  const wanted = new Set(files.map((file) => inCopy(file).replace(/(\/index)?\.tsx?$/, '')));
  return program.getSourceFiles().filter(({ fileName, text }) => {
    if (!fileName.startsWith(copy)) return false;
    const imports = importsOf(text, fileName).map(({ name }) => resolve(dirname(fileName), name));
    return [fileName.replace(/(\/index)?\.tsx?$/, ''), ...imports].some((name) => wanted.has(name));
  });
}

const said = (found: readonly ts.Diagnostic[]): string[] =>
  found.map((d) => `${d.file?.fileName ?? ''}: ${ts.flattenDiagnosticMessageText(d.messageText, ' ')}`);

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
    const program = compiled();
    const near = nearTo(program, recipes.flatMap(touched));
    expect(near.length).toBeGreaterThan(60);
    expect(near.flatMap((file) => said(program.getSemanticDiagnostics(file)))).toEqual([]);
    forget(copy, recipes);
    const without = compiled(program);
    for (const { what, forgets } of recipes)
      expect(
        said(without.getSemanticDiagnostics(without.getSourceFile(inCopy(forgets.in)))),
        `the compiler says what is missing from ${what}`,
      ).not.toEqual([]);
  });
});
