import { readFile, writeFile } from 'node:fs/promises';
import { cpus, totalmem } from 'node:os';
import { checks } from './checks';
import { checksBroken } from './checks-broken';
import { checksSpeed } from './checks-speed';
import { checksWays } from './checks-ways';
import { chrome } from './chrome';
import { chromeStrangers } from './chrome-strangers';
import { crash } from './crash';
import { goods } from './goods';
import { identity } from './identity';
import { look } from './look';
import { menus } from './menus';
import { model } from './model';
import { notices } from './notices';
import { office } from './office';
import { orders } from './orders';
import { price } from './price';
import { read } from './read';
import { reading } from './reading';
import { reanchor } from './reanchor';
import { rush } from './rush';
import { script } from './script';
import { shift } from './shift';
import { shopPages } from './shop-pages';
import { shopper } from './shopper';
import { start } from './start';
import type { Figure, Measurement } from './support/figure';

const measurements: Readonly<Record<string, Measurement>> = {
  script,
  shift,
  office,
  goods,
  price,
  read,
  shopper,
  orders,
  notices,
  rush,
  model,
  crash,
  start,
  identity,
  reading,
  checks,
  'checks-broken': checksBroken,
  'checks-speed': checksSpeed,
  'checks-ways': checksWays,
  chrome,
  'chrome-strangers': chromeStrangers,
  'shop-pages': shopPages,
  menus,
  look,
  reanchor,
};

const args = process.argv.slice(2);
const names = args.filter((a) => !a.startsWith('--'));
if (args.includes('--help') || names.some((n) => !measurements[n])) {
  process.stdout.write(
    `Usage: bin/bench [NAME] [--json] [--write]\n  NAME     one of ${Object.keys(measurements).join(', ')}; all when none is named\n  --write  put the figures into docs/benchmarks.md\n`,
  );
  process.exit(args.includes('--help') ? 0 : 2);
}

const results: Record<string, Figure[]> = {};
for (const name of names.length ? names : Object.keys(measurements)) {
  process.stderr.write(`measuring ${name} ...\n`);
  results[name] = (await measurements[name]?.()) ?? [];
}
const machine = `${cpus().length} x ${cpus()[0]?.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node.js ${process.version}, ${process.platform}`;
const rows = Object.entries(results).flatMap(([name, figures]) =>
  figures.map((f) => `| ${name} | ${f.what} | ${f.value} | ${f.baseline} | ${f.ratio} | ${f.aim} |`),
);
const head = ['| name | what | figure | baseline, same run | ratio | aim |', '|---|---|---|---|---|---|'];
const table = [...head, ...rows].join('\n');

/** Rows of what was measured now in the place of older ones of the same name; the rest stays. */
function inOrder(kept: readonly string[], now: readonly string[]): string[] {
  const nameOf = (row: string) => row.split(' | ')[0]?.slice(2) ?? '';
  return Object.keys(measurements).flatMap((name) => {
    const own = now.filter((row) => nameOf(row) === name);
    return own.length > 0 ? own : kept.filter((row) => nameOf(row) === name);
  });
}
if (args.includes('--json'))
  process.stdout.write(`${JSON.stringify({ machine, at: new Date().toISOString(), results }, null, 2)}\n`);
else process.stdout.write(`${table}\n\n${machine}\n`);
if (args.includes('--write')) {
  const doc = await readFile('docs/benchmarks.md', 'utf8');
  const kept = doc.split('\n').filter((l) => /^\| [a-z-]+ \|/.test(l) && !l.startsWith('| name |'));
  await writeFile(
    'docs/benchmarks.md',
    doc.replace(
      /<!--figures-->[\s\S]*<!--\/figures-->/,
      () =>
        `<!--figures-->\n${[...head, ...inOrder(kept, rows)].join('\n')}\n\nMeasured ${new Date().toISOString().slice(0, 10)} (${Object.keys(results).join(', ')}; the rest before) on ${machine}.\n<!--/figures-->`,
    ),
  );
}
process.exit(0);
