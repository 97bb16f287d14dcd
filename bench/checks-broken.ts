import { join } from 'node:path';
import { type Browser, chromium } from 'playwright-core';
import { chromiumLaunch } from '../e2e/support/chromium';
import type { Finding } from '../src/core/checks/finding';
import { rules } from '../src/core/checks/rules';
import { mend } from '../src/services/checks/mend';
import { undoLive } from '../src/services/goods/goods';
import { readSlip } from '../src/services/sites/slip';
import { undoWaiting } from '../src/services/sites/undo-waiting';
import type { Files } from './support/break-files';
import { seenBreakings } from './support/break-seen';
import { type Breaking, breakings } from './support/break-shop';
import { CheckedShop } from './support/checked-shop';
import { figure, type Measurement } from './support/figure';
import { filesOf } from './support/outside-files';
import { fetchPackage } from './support/outside-sites';
import type { Checked } from '../src/services/checks/compute';
import { SeenShop } from './support/seen-shop';

/** Sites that are broken on purpose, of different make, whose pages are real. */
const whole = [
  // A template with title bands over its pages.
  { from: 'npm', name: 'startbootstrap-clean-blog', root: 'package/dist', page: 'about.html' },
  // Documents in folders: a bar above and below, a column.
  {
    from: 'debian',
    name: 'python-markdown-doc',
    root: 'usr/share/doc/python-markdown-doc/docs',
    page: 'extensions/api.html',
  },
  // A manual with a column of menus that comes out on phones, written by hand.
  { from: 'npm', name: 'spectre.css', root: 'package/docs', page: 'elements/tables.html' },
] as const;

interface Tally {
  seeded: number;
  found: number;
  mends: number;
  mended: number;
  back: number;
  readonly misses: string[];
}

/** Good sites are broken in every way that there is a rule against, and looked at; what only a browser knows, by a browser. */
export const checksBroken: Measurement = async () => {
  const tally: Tally = { seeded: 0, found: 0, mends: 0, mended: 0, back: 0, misses: [] };
  const browser = await chromium.launch(chromiumLaunch);
  try {
    for (const site of whole) {
      const folder = await fetchPackage({ from: site.from, name: site.name });
      if (!folder) continue;
      const files = await filesOf(join(folder, site.root));
      const sound = await saidOfSound(files);
      for (const [n, b] of breakings.entries())
        if (isAsked(site.name, b))
          await breakOne(files, site.page, b, tally, { name: `${site.name} ${n}`, sound });
      for (const [n, b] of seenBreakings.entries())
        if (isAsked(site.name, b)) await seeOne(browser, files, site.page, b, tally, `${site.name} ${n}`);
    }
  } finally {
    await browser.close();
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${tally.misses.join('\n')}\n`);
  const covered = new Set([...breakings, ...seenBreakings].map((b) => b.rule)).size;
  return [
    figure(
      'mistakes found at their place',
      `${tally.found} of ${tally.seeded}`,
      `${covered} of ${rules.length} rules, on ${whole.length} broken sites`,
      '',
      'all',
    ),
    figure(
      'mends that take the finding away and add none',
      `${tally.mended} of ${tally.mends}`,
      '',
      '',
      'all',
    ),
    figure('undo of a mend: pages byte for byte as before', `${tally.back} of ${tally.mends}`, '', '', 'all'),
  ];
};

/** While a rule is worked on, only what its name and the site's are like: STALL_BENCH_ONLY='spectre.*menu'. */
const only = new RegExp(process.env.STALL_BENCH_ONLY ?? '');
const isAsked = (site: string, b: Breaking): boolean => only.test(`${site} ${b.rule}`);

/** What is said of a site with nothing broken: a mend that leads back to it adds nothing. */
async function saidOfSound(files: Files): Promise<ReadonlySet<string>> {
  const shop = await CheckedShop.open({ ...files });
  try {
    return new Set((await shop.check()).findings.map((f) => f.key));
  } finally {
    await shop.end();
  }
}

interface Whole {
  readonly name: string;
  readonly sound: ReadonlySet<string>;
  /** How the shop is looked at: by a browser as well, or not. */
  readonly check?: () => Promise<Checked>;
}

async function breakOne(
  whole: Files,
  page: string,
  b: Breaking,
  tally: Tally,
  { name, sound }: Whole,
): Promise<void> {
  const files = { ...whole };
  b.files?.(files, page);
  const shop = await CheckedShop.open(files);
  try {
    await b.shop?.(shop, page);
    tally.seeded++;
    const hit = counted((await shop.check()).findings, b, page, tally, name);
    if (!hit) return;
    const n = hit.mends.findIndex((m) => m.do !== 'go');
    if (n >= 0) await shop.publish();
    if (n >= 0) await mendOne(shop, hit, n, tally, { name: `${name} ${b.rule}`, sound });
  } finally {
    await shop.end();
  }
}

/** The finding that was to be found. */
function counted(
  findings: readonly Finding[],
  b: Breaking,
  page: string,
  tally: Tally,
  name: string,
): Finding | undefined {
  const hit = findings.find((f) => f.rule === b.rule && b.at(f, page));
  if (hit) tally.found++;
  else
    tally.misses.push(
      `${name} ${b.rule}: not found; ${findings.map((f) => `${f.rule} ${f.title}`).join('; ')}`,
    );
  return hit;
}

/** What only a browser sees; its mends are looked at by a browser as well. */
async function seeOne(
  browser: Browser,
  whole: Files,
  page: string,
  b: Breaking,
  tally: Tally,
  name: string,
): Promise<void> {
  const files = { ...whole };
  b.files?.(files, page);
  const seen = await SeenShop.open(files, browser, { settles: false });
  try {
    await b.shop?.(seen.shop, page);
    tally.seeded++;
    const hit = counted((await seen.look()).findings, b, page, tally, name);
    const n = hit?.mends.findIndex((m) => m.do !== 'go') ?? -1;
    if (!hit || n < 0) return;
    await seen.shop.publish();
    const check = () => seen.look();
    await mendOne(seen.shop, hit, n, tally, { name: `${name} ${b.rule}`, sound: new Set(), check });
  } finally {
    await seen.end();
  }
}

async function mendOne(
  shop: CheckedShop,
  hit: Finding,
  n: number,
  tally: Tally,
  { name, sound, check = () => shop.check() }: Whole,
): Promise<void> {
  const { ctx } = shop.world;
  tally.mends++;
  const before = await shop.written();
  const keys = new Set([...sound, ...(await check()).findings.map((f) => f.key)]);
  const lines = new Set((await readSlip(ctx, await shop.site())).waiting.map((l) => `${l.id} ${l.what}`));
  const live = new Set((await readSlip(ctx, await shop.site())).live.map((l) => l.id));
  const state = (await shop.site()).row;
  try {
    await mend(ctx, await shop.site(), [{ key: hit.key, n }], 'bench');
  } catch (error) {
    tally.misses.push(`${name}: the mend was refused: ${String(error)}`);
    return;
  }
  const after = (await check()).findings;
  const added = after.filter((f) => !keys.has(f.key));
  const gone = !after.some((f) => f.key === hit.key);
  if (gone && added.length === 0) tally.mended++;
  else
    tally.misses.push(
      `${name}: ${gone ? '' : 'still there'} ${added.map((f) => `added ${f.rule}: ${f.title}`).join('; ')}`,
    );
  await undoAll(shop, lines, live, state);
  const back = await shop.written();
  const same = back.size === before.size && [...before].every(([path, bytes]) => back.get(path) === bytes);
  if (same) tally.back++;
  else
    tally.misses.push(
      `${name}: not byte for byte as before: ${[...before]
        .filter(([p, b]) => back.get(p) !== b)
        .map(([p]) => p)
        .slice(0, 3)
        .join(' ')}`,
    );
}

/** Takes back what a mend did, by the undo of each line that came with it. What was changed of a line that waited before is set as it was. */
async function undoAll(
  shop: CheckedShop,
  lines: ReadonlySet<string>,
  live: ReadonlySet<number>,
  was: Awaited<ReturnType<CheckedShop['site']>>['row'],
): Promise<void> {
  const { ctx } = shop.world;
  const slip = await readSlip(ctx, await shop.site());
  for (const l of slip.live) if (!live.has(l.id)) await undoLive(ctx, await shop.site(), l.id, 'bench');
  for (const l of slip.waiting)
    if (!lines.has(`${l.id} ${l.what}`)) {
      if (l.id === 'menu') await shop.setRow({ menu: was.menu });
      else await undoWaiting(ctx, await shop.site(), l.id);
    }
}
