/**
 * How the house is built, in figures: node tools/house.mjs [DIR] [--long]
 * Lines a file and a function, casts, conditionals inside one another, circles by value and the share of tests. With --long the
 * longest functions are named. Complexity is the linter's (biome.json holds it).
 */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';
import { importsOf } from './layers.mjs';

const ROOTS = ['src', 'cli', 'standins', 'demo', 'bench', 'e2e', 'tools'];
const isTest = (file) => /\.(test|spec)\.tsx?$|(^|\/)testing\.tsx?$/.test(file) || file.startsWith('e2e/');

const filesIn = (dir) =>
  ROOTS.flatMap((root) => {
    try {
      return readdirSync(join(dir, root), { recursive: true, encoding: 'utf8' }).map((f) => join(root, f));
    } catch {
      return [];
    }
  }).filter((f) => /\.(tsx?|mjs)$/.test(f) && !/migrations|\.d\.ts$/.test(f));

const isFunction = (n) =>
  ts.isFunctionDeclaration(n) ||
  ts.isMethodDeclaration(n) ||
  ts.isArrowFunction(n) ||
  ts.isFunctionExpression(n) ||
  ts.isConstructorDeclaration(n);

function nameOf(node) {
  if (node.name) return node.name.getText();
  const up = node.parent;
  return up && (ts.isVariableDeclaration(up) || ts.isPropertyAssignment(up))
    ? up.name.getText()
    : '(unnamed)';
}

/** What one file has of all that is counted. */
function measure(file, text) {
  const tree = ts.createSourceFile(
    file,
    text,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : undefined,
  );
  const line = (pos) => tree.getLineAndCharacterOfPosition(pos).line;
  const functions = [];
  let casts = 0;
  let nested = 0;
  const visit = (node) => {
    if (isFunction(node))
      functions.push({ file, name: nameOf(node), lines: line(node.end) - line(node.getStart()) + 1 });
    if (ts.isAsExpression(node) && node.type.getText() !== 'const') casts++;
    if (
      ts.isConditionalExpression(node) &&
      [node.whenTrue, node.whenFalse, node.condition].some((n) => ts.isConditionalExpression(unwrapped(n)))
    )
      nested++;
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return { functions, casts, nested, lines: text.split('\n').length - 1 };
}
const unwrapped = (n) => (ts.isParenthesizedExpression(n) ? unwrapped(n.expression) : n);

/** Files that need each other when the program runs: each circle once (Tarjan, SIAM J. Comput. 1, 1972). */
function circles(dir, files) {
  const known = new Set(files);
  const edges = new Map(files.map((f) => [f, valueImports(dir, f).filter((t) => known.has(t))]));
  const index = new Map();
  const low = new Map();
  const stack = [];
  const found = [];
  const walk = (v) => {
    index.set(v, index.size);
    low.set(v, index.get(v));
    stack.push(v);
    for (const w of edges.get(v)) {
      if (!index.has(w)) walk(w);
      if (stack.includes(w)) low.set(v, Math.min(low.get(v), low.get(w)));
    }
    if (low.get(v) !== index.get(v)) return;
    const circle = stack.splice(stack.indexOf(v));
    if (circle.length > 1) found.push(circle);
  };
  for (const f of files) if (!index.has(f)) walk(f);
  return found;
}

const valueImports = (dir, file) =>
  importsOf(readFileSync(join(dir, file), 'utf8'), file)
    .filter((i) => !i.typeOnly && i.name.startsWith('.'))
    .flatMap((i) => resolved(dir, file, i.name));

function resolved(dir, file, name) {
  const base = relative(dir, resolve(dir, dirname(file), name));
  const ways = [`${base}.ts`, `${base}.tsx`, `${base}/index.ts`, base];
  return ways.filter((w) => /\.tsx?$/.test(w));
}

const at = (sorted, share) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
const spread = (values) => {
  const sorted = [...values].sort((a, b) => a - b);
  return `${at(sorted, 0.5)} / ${at(sorted, 0.95)} / ${sorted.at(-1) ?? 0}`;
};

/** All figures of the tree in `dir`. */
export function houseFigures(dir) {
  const files = filesIn(dir);
  const all = files.map((f) => ({ file: f, ...measure(f, readFileSync(join(dir, f), 'utf8')) }));
  const own = all.filter((f) => !isTest(f.file));
  const lines = (some) => some.reduce((n, f) => n + f.lines, 0);
  const functions = own.flatMap((f) => f.functions);
  return {
    functions,
    rows: [
      ['lines of code / of tests', `${lines(own)} / ${lines(all) - lines(own)}`],
      ['share of tests', `${Math.round((1 - lines(own) / lines(all)) * 1000) / 10} %`],
      ['lines a file: median / 95th / longest', spread(own.map((f) => f.lines))],
      ['lines a function: median / 95th / longest', spread(functions.map((f) => f.lines))],
      ['functions over 60 lines', String(functions.filter((f) => f.lines > 60).length)],
      ['functions over 120 lines', String(functions.filter((f) => f.lines > 120).length)],
      ['conditionals inside one another', String(own.reduce((n, f) => n + f.nested, 0))],
      ['casts outside tests', String(own.reduce((n, f) => n + f.casts, 0))],
      [
        'circles by value',
        String(
          circles(
            dir,
            own.map((f) => f.file),
          ).length,
        ),
      ],
    ],
  };
}

if (process.argv[1]?.endsWith('house.mjs')) {
  const dir = resolve(process.argv.find((a, i) => i > 1 && !a.startsWith('--')) ?? '.');
  const { functions, rows } = houseFigures(dir);
  for (const [what, figure] of rows) process.stdout.write(`${what}: ${figure}\n`);
  if (process.argv.includes('--long'))
    for (const f of functions.filter((x) => x.lines > 60).sort((a, b) => b.lines - a.lines))
      process.stdout.write(`${f.lines}  ${f.file}  ${f.name}\n`);
  if (process.argv.includes('--circles'))
    for (const c of circles(
      dir,
      filesIn(dir).filter((f) => !isTest(f)),
    ))
      process.stdout.write(`${c.join(' -> ')}\n`);
}
