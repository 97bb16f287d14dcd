// Builds everything into dist/: the office (Astro), the server, stand-ins and command line (Node), the widgets (browser).
import { createHash } from 'node:crypto';
import { cp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { inSiteRem, siteRem } from './site-rem.mjs';
import { widgetKinds } from './widget-kinds.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
process.chdir(root);

const inputs = [
  'src',
  'standins',
  'demo',
  'tools/build.mjs',
  'tools/site-rem.mjs',
  'tools/widget-kinds.mjs',
  'astro.config.ts',
  'package-lock.json',
  'tsconfig.json',
  'bench',
  'cli',
];

/** A hash over everything that goes into dist/: an unchanged tree is not built again. */
async function stamp() {
  const hash = createHash('sha256');
  const visit = async (path) => {
    const entries = await readdir(path, { withFileTypes: true }).catch(() => undefined);
    if (!entries) return void hash.update(path).update(await readFile(path).catch(() => ''));
    for (const e of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) await visit(join(path, e.name));
  };
  for (const input of inputs) await visit(input);
  return hash.digest('hex');
}

const run = (command, args) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
    });
    let out = '';
    child.stdout.on('data', (d) => (out += d));
    child.stderr.on('data', (d) => (out += d));
    child.on('close', (code) =>
      code === 0 ? resolve(out) : reject(new Error(`${command} ${args.join(' ')} failed:\n${out}`)),
    );
  });

const now = await stamp();
if ((await readFile('dist/.stamp', 'utf8').catch(() => '')) === now && !process.argv.includes('--force'))
  process.exit(0);

process.stdout.write('Building Green Stall (once, until something changes) ...\n');
await rm('dist', { recursive: true, force: true });
await mkdir('dist/widgets', { recursive: true });
const node = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  sourcemap: 'linked',
  logLevel: 'error',
};
// In one file with its packages, the command line starts in two thirds of the time, and so do threads. Those that bring
// files of their own stay outside; of css-tree the copy that holds its data is taken.
const inOneFile = {
  ...node,
  packages: 'bundle',
  external: ['@libsql/client', 'libsql', 'piscina', 'sharp'],
  alias: { 'css-tree': 'css-tree/dist/csstree.esm' },
  banner: {
    js: "import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);",
  },
};
const browser = {
  bundle: true,
  platform: 'browser',
  target: 'es2022',
  minify: true,
  legalComments: 'none',
  loader: { '.css': 'text' },
  plugins: [siteRem],
  define: await widgetKinds(),
  logLevel: 'error',
};
await Promise.all([
  build({ ...node, entryPoints: { main: 'src/server/main.ts' }, outdir: 'dist/server' }),
  build({
    ...node,
    entryPoints: {
      'card-provider': 'standins/card-provider/main.ts',
      wallet: 'standins/wallet/main.ts',
      'site-host': 'standins/site-host/main.ts',
      mailbox: 'standins/mailbox/main.ts',
    },
    outdir: 'dist/standins',
  }),
  build({ ...node, entryPoints: { seed: 'demo/seed.ts' }, outdir: 'dist/demo' }),
  build({
    ...node,
    entryPoints: {
      main: 'bench/main.ts',
      'reading-child': 'bench/reading-child.ts',
      'bare-child': 'bench/bare-child.ts',
    },
    outdir: 'dist/bench',
  }),
  build({
    ...inOneFile,
    entryPoints: { main: 'cli/main.ts' },
    outdir: 'dist/cli',
  }),
  build({
    ...inOneFile,
    entryPoints: {
      survey: 'src/services/reading/survey-worker.ts',
      pitches: 'src/services/reading/pitch-worker.ts',
      styles: 'src/services/reading/styles-worker.ts',
      picture: 'src/services/goods/picture-process.ts',
      checks: 'src/services/checks/check-worker.ts',
    },
    outdir: 'dist/workers',
  }),
  build({
    ...browser,
    format: 'iife',
    entryPoints: { stall: 'src/widgets/stall.ts', frame: 'src/office/in-page/in-page.ts' },
    outdir: 'dist/widgets',
  }),
  build({
    ...browser,
    format: 'esm',
    entryPoints: { 'stall-more': 'src/widgets/stall-more.ts' },
    outdir: 'dist/widgets',
  }),
  // On ordinary pages the sheet stands beside the owner's own: everything in it is nested under .stall.
  readFile('src/core/storefront/storefront.css', 'utf8').then((css) =>
    build({
      minify: true,
      target: 'chrome100',
      stdin: { contents: `.stall{container-type:inline-size;${inSiteRem(css)}}`, loader: 'css' },
      outfile: 'dist/widgets/stall.css',
      logLevel: 'error',
    }),
  ),
  cp('src/data/migrations', 'dist/migrations', { recursive: true }),
  run('node_modules/.bin/astro', ['build', '--silent']),
]);
/**
 * The two scripts that the framework writes into each page of the office, as hashes for its policy (CSP 3,
 * 2.3.1): so no other inline script runs there. They are constants of the framework; a browser test fails
 * when a page has another.
 */
const inPages = await Promise.all(
  ['client/only', 'server/astro-island'].map(async (name) => {
    const { default: code } = await import(join(root, `node_modules/astro/dist/runtime/${name}.prebuilt.js`));
    return `'sha256-${createHash('sha256').update(code).digest('base64')}'`;
  }),
);
await writeFile('dist/office/inline-scripts.json', JSON.stringify(inPages));
await writeFile('dist/.stamp', now);
