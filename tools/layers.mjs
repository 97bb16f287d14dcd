// Holds the architecture: which folder may import which. Reads every import with TypeScript's own scanner.
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';

/** To the left a layer, to the right what it may import. `type:` allows types only. Packages: `npm:` by name, `npm:*` for any. */
export const layers = [
  {
    in: 'src/core',
    may: [
      'src/core',
      'npm:zod',
      'npm:parse5',
      'npm:@date-fns/tz',
      'npm:css-tree',
      'npm:css-select',
      'npm:css-what',
      'npm:culori',
      'npm:currency-codes',
      'npm:country-to-currency',
      'npm:iconv-lite',
      'npm:chardet',
      'npm:html-encoding-sniffer',
      'npm:image-size',
      'type:npm:schema-dts',
    ],
  },
  { in: 'src/contract', may: ['src/contract', 'type:src/services', 'type:src/core'] },
  { in: 'src/data', may: ['src/data', 'src/core', 'type:src/services', 'npm:*'] },
  { in: 'src/services', may: ['src/services', 'src/data', 'src/core', 'npm:*'] },
  { in: 'src/server', may: ['src/server', 'src/services', 'src/data', 'src/core', 'npm:*'] },
  {
    in: 'src/pages',
    may: ['src/pages', 'src/contract', 'src/office', 'src/core', 'type:src/services', 'npm:*'],
  },
  { in: 'src/middleware.ts', may: ['src/contract', 'npm:*'] },
  { in: 'src/office/in-page', may: ['src/office/in-page', 'src/core/look'] },
  { in: 'src/office', may: ['src/office', 'src/contract', 'src/core', 'type:src/services', 'npm:*'] },
  {
    in: 'src/widgets',
    may: ['src/widgets', 'src/core/languages/plural', 'src/core/storefront', 'src/core/placement/shortcode'],
  },
  { in: 'src/env.d.ts', may: ['type:src/server'] },
  { in: 'cli', may: ['cli', 'src/services', 'src/core', 'npm:*'] },
  { in: 'standins', may: ['standins', 'npm:*'] },
  {
    in: 'demo',
    may: ['demo', 'src/core', 'src/data', 'src/services', 'src/server/settings', 'standins', 'npm:*'],
  },
  {
    in: 'bench',
    may: ['bench', 'src', 'standins', 'demo', 'e2e/support/chromium', 'e2e/support/person', 'npm:*'],
  },
  { in: 'e2e', may: ['e2e', 'src/core/storefront/room', 'npm:*'] },
];
/**
 * Walls inside a layer: its folders from the lowest to the highest. A folder may use what stands before it, and files of the layer
 * itself; types may be named both ways. A folder that is not named here is refused.
 */
export const walls = [
  {
    in: 'src/core',
    rows: [
      'people',
      'languages',
      'money',
      'html',
      'letters',
      'look',
      'goods',
      'till',
      'storefront',
      'site',
      'papers',
      'placement',
      'checks',
    ],
  },
  {
    in: 'src/services',
    rows: [
      'outside',
      'backup',
      'mail',
      'people',
      'reading',
      'rules',
      'goods',
      'sites',
      'account',
      'till',
      'storefront',
      'papers',
      'letters',
      'publishing',
      'checks',
    ],
    // What the server hands on stands above all of them.
    above: ['src/services/index.ts', 'src/services/testing.ts'],
  },
  { in: 'src/server', rows: ['public', 'draft', 'office'], above: ['src/server/main.ts'] },
  {
    in: 'src/office',
    rows: [
      'words',
      'ui',
      'in-page',
      'onboarding',
      'account',
      'goods',
      'bench',
      'till',
      'look',
      'orders',
      'site',
      'checks',
      'slip',
      'find',
    ],
    // What is said and what it is said with is for all views.
    base: ['words', 'ui'],
    above: ['src/office/office.tsx'],
  },
];

/** Core does no input or output: of Node it may use nothing. Widgets run in browsers. */
const noNode = ['src/core', 'src/widgets', 'src/office'];
const isTest = (file) => /\.test\.tsx?$|(^|\/)testing\.tsx?$/.test(file);

function filesIn(dir) {
  return readdirSync(dir, { withFileTypes: true, recursive: true })
    .filter((e) => e.isFile() && /\.(ts|tsx|astro)$/.test(e.name))
    .map((e) => join(e.parentPath, e.name));
}

/** Imports of a file: the name, and whether only types are wanted. */
export function importsOf(text, file) {
  const code = file.endsWith('.astro') ? (/^---\n([\s\S]*?)\n---/.exec(text)?.[1] ?? '') : text;
  const tree = ts.createSourceFile(
    file,
    code,
    ts.ScriptTarget.Latest,
    false,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found = [];
  const visit = (node) => {
    if ((ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) && node.moduleSpecifier) {
      const typeOnly = ts.isImportDeclaration(node)
        ? Boolean(node.importClause?.isTypeOnly)
        : node.isTypeOnly;
      found.push({ name: node.moduleSpecifier.text, typeOnly });
    }
    if (
      ts.isCallExpression(node) &&
      node.expression.kind === ts.SyntaxKind.ImportKeyword &&
      ts.isStringLiteral(node.arguments[0] ?? node)
    )
      found.push({ name: node.arguments[0].text, typeOnly: false });
    if (ts.isImportTypeNode(node) && ts.isLiteralTypeNode(node.argument))
      found.push({ name: node.argument.literal.text, typeOnly: true });
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

/** Why an import breaks the rules, or nothing. */
export function fault(file, { name, typeOnly }) {
  const layer = layers.find((l) => file === l.in || file.startsWith(`${l.in}/`));
  if (!layer) return `${file}: stands in no layer; name its folder in tools/layers.mjs`;
  if (name.startsWith('.')) return ownFault(file, layer, { name, typeOnly });
  if (name.startsWith('node:'))
    return noNode.some((d) => file.startsWith(`${d}/`)) ? `${file}: may not use ${name}` : undefined;
  if (name.startsWith('astro:')) return undefined;
  const pack = name.startsWith('@') ? name.split('/').slice(0, 2).join('/') : name.split('/')[0];
  const ways = ['npm:*', `npm:${pack}`, ...(typeOnly ? [`type:npm:${pack}`] : [])];
  return layer.may.some((m) => ways.includes(m)) ? undefined : `${file}: may not use the package ${pack}`;
}

/** Whether an import goes up, or past a wall, within its layer. */
function wallFault(file, target, typeOnly) {
  const wall = walls.find((w) => file.startsWith(`${w.in}/`) && target.startsWith(`${w.in}/`));
  if (!wall || typeOnly || wall.above?.includes(file)) return undefined;
  const rowOf = (path) => path.slice(wall.in.length + 1).split('/')[0];
  const [from, to] = [rowOf(file), rowOf(target)];
  const isFolder = (path) => path.slice(wall.in.length + 1).includes('/');
  if (isFolder(file) && !wall.rows.includes(from))
    return `${file}: name the folder ${from} in tools/layers.mjs`;
  if (!isFolder(target) || from === to || (!isFolder(file) && wall.base?.includes(to))) return undefined;
  if (isFolder(file) && wall.rows.indexOf(to) < wall.rows.indexOf(from) && wall.rows.includes(to))
    return undefined;
  return `${file}: may not use ${target}; in ${wall.in} ${to} stands above ${from}`;
}

/** An import of a file of ours. */
function ownFault(file, layer, { name, typeOnly }) {
  const target = relative(process.cwd(), resolve(dirname(file), name)).replaceAll('\\', '/');
  const within = (dir) => target === dir || target.startsWith(`${dir}/`);
  if (layer.may.some((m) => !m.includes(':') && within(m))) return wallFault(file, target, typeOnly);
  if (typeOnly && layer.may.some((m) => m.startsWith('type:') && within(m.slice(5)))) return undefined;
  return `${file}: may not import ${target}${typeOnly ? ' (even as a type)' : ''}`;
}

export function checkAll() {
  const faults = [];
  let count = 0;
  for (const dir of ['src', 'cli', 'standins', 'demo', 'bench', 'e2e']) {
    for (const file of filesIn(dir)) {
      if (isTest(file)) continue;
      for (const imported of importsOf(readFileSync(file, 'utf8'), file)) {
        count++;
        const wrong = fault(file, imported);
        if (wrong) faults.push(wrong);
      }
    }
  }
  return { faults, count };
}

if (process.argv[1]?.endsWith('layers.mjs')) {
  const { faults, count } = checkAll();
  for (const f of faults) process.stderr.write(`${f}\n`);
  process.stdout.write(`${count} imports, ${faults.length} against the layers\n`);
  process.exit(faults.length ? 1 : 0);
}
