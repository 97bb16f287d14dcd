// Types of everything in one run of the compiler: the sources, and Astro's pages as the sources they stand for.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { convertToTSX } from '@astrojs/compiler';
import ts from 'typescript';

/** Pages as sources. They find what they import as if they stood in src/ (rootDirs of tsconfig.json). */
const written = '.astro/pages';

/** Of Astro's own surroundings, what its compiler takes for granted. */
const surroundings = `
declare const Fragment: (props: { children?: unknown }) => unknown;
`;

/** A page may return early, as the function that it becomes; as a source it leaves its file in the same place. */
function leaving(code, name) {
  const source = ts.createSourceFile(name, code, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const returns = [];
  const visit = (node) => {
    if (ts.isFunctionLike(node)) return;
    if (ts.isReturnStatement(node)) returns.push(node.getStart());
    ts.forEachChild(node, visit);
  };
  visit(source);
  return returns.reduceRight(
    (text, at) => `${text.slice(0, at)}throw ${text.slice(at + 'return '.length)}`,
    code,
  );
}

async function asSource(page) {
  const { code, diagnostics } = await convertToTSX(readFileSync(page, 'utf8'), {
    filename: page,
    includeScripts: false,
    includeStyles: false,
  });
  if (diagnostics.length > 0) throw new Error(`${page}: ${diagnostics.map((d) => d.text).join('\n')}`);
  const [body = ''] = code.split('\n//# sourceMappingURL');
  const astro = /declare const Astro\b/.test(body)
    ? ''
    : "declare const Astro: Readonly<import('astro').AstroGlobal<Record<string, unknown>>>;\n";
  return leaving(body.replace('/* @jsx', '/** @jsx'), page) + surroundings + astro;
}

rmSync(written, { recursive: true, force: true });
for (const name of readdirSync('src', { recursive: true }).filter((file) => file.endsWith('.astro'))) {
  const file = join(written, 'src', `${name}.tsx`);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, await asSource(join('src', name)));
}
const { stdout, error } = spawnSync('node_modules/typescript-native/bin/tsc', ['--noEmit'], {
  encoding: 'utf8',
});
if (error) throw error;
// What follows an early leave at the end of a page is no fault: Astro asks for it.
const faults = stdout.split('\n').filter((line) => line && !/\.astro\.tsx.*TS7027/.test(line));
process.stdout.write(faults.map((line) => `${line}\n`).join(''));
process.exitCode = faults.length > 0 ? 1 : 0;
