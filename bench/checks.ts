import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Finding } from '../src/core/checks/finding';
import { priceMentions } from '../src/core/checks/prices/mention';
import { isPriceNow, NameIndex, speaksOf } from '../src/core/checks/prices/speaks-of';
import { rules } from '../src/core/checks/rules';
import type { PriceText } from '../src/core/checks/written/facts';
import type { Product } from '../src/core/goods/product';
import { mend } from '../src/services/checks/mend';
import { undoLive } from '../src/services/goods/goods';
import { readSlip } from '../src/services/sites/slip';
import { undoWaiting } from '../src/services/sites/undo-waiting';
import { year } from './checks-year';
import { judged } from './labels/checks';
import { lookSites } from './labels/look';
import { type LabelledTexts, labelledPrices, readLabelled } from './labels/prices';
import { type Breaking, breakings, type Files } from './support/break-shop';
import { CheckedShop } from './support/checked-shop';
import { type Figure, figure, type Measurement } from './support/figure';
import { filesOf } from './support/outside-files';
import { fetchPackage } from './support/outside-sites';
import { rewritten } from './support/rewrite-site';

/** The checks: whether what is broken is found and mended, and nothing is said of what is not. */
export const checks: Measurement = async () => [
  ...prices(),
  ...(await broken()),
  ...(await falseAlarms()),
  ...(await year()),
];

/** Prices in texts against marks made by hand. */
function prices(): Figure[] {
  let [all, priced, right, wrong] = [0, 0, 0, 0];
  for (const set of labelledPrices)
    for (const text of set.texts) {
      const seen = pricesIn(set, text);
      all += seen.all;
      priced += seen.priced;
      right += seen.right;
      wrong += seen.wrong;
    }
  const percent = (n: number, of: number) => `${Math.round((n / of) * 1000) / 10} %`;
  return [
    figure(
      'prices in texts: precision',
      percent(right, right + wrong),
      `${all} marked by hand, six languages`,
      '',
      '99 %',
    ),
    figure(
      'prices in texts: recall',
      percent(right, priced),
      `${priced} of them the price of a product`,
      '',
      '95 %',
    ),
  ];
}

function pricesIn(
  set: LabelledTexts,
  text: string,
): { all: number; priced: number; right: number; wrong: number } {
  // Only names are asked of them.
  const products = Object.entries(set.goods).map(([slug, name]) => ({ slug, name }) as Product);
  const names = new NameIndex(products);
  const { blocks, mentions } = readLabelled(text);
  const found = blocks.flatMap((block, n) =>
    priceMentions(block, set.currency).map(
      (mention): PriceText => ({
        region: 'main',
        block: String(n),
        line: 1,
        mention,
        text: block,
        before: ['', ...blocks.slice(Math.max(0, n - 4), n)],
        after: blocks[n + 1] ?? '',
      }),
    ),
  );
  const rest = [...mentions];
  let [right, wrong] = [0, 0];
  for (const f of found) {
    const bare = (t: string) => t.replace(/\s/g, '');
    const at = rest.findIndex((m) => String(m.block) === f.block && bare(m.text) === bare(f.mention.text));
    const label = at >= 0 ? rest.splice(at, 1)[0] : undefined;
    const product = isPriceNow(f) ? speaksOf(f, names, found)?.slug : undefined;
    if (product === undefined) continue;
    if (product === label?.goods) right++;
    else wrong++;
  }
  return { all: mentions.length, priced: mentions.filter((m) => m.goods).length, right, wrong };
}

/** Sites that are broken on purpose: templates of different make, whose pages are real. */
const whole = [
  { name: 'startbootstrap-clean-blog', root: 'package/dist', page: 'about.html' },
  { name: 'startbootstrap-business-casual', root: 'package/dist', page: 'about.html' },
  { name: 'startbootstrap-modern-business', root: 'package/dist', page: 'about.html' },
];

interface Tally {
  seeded: number;
  found: number;
  mends: number;
  mended: number;
  back: number;
  readonly misses: string[];
}

async function broken(): Promise<Figure[]> {
  const tally: Tally = { seeded: 0, found: 0, mends: 0, mended: 0, back: 0, misses: [] };
  for (const site of whole) {
    const folder = await fetchPackage({ from: 'npm', name: site.name });
    if (!folder) continue;
    const files = await filesOf(join(folder, site.root));
    for (const breaking of breakings) await breakOne(files, site.page, breaking, tally, site.name);
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${tally.misses.join('\n')}\n`);
  const covered = new Set(breakings.map((b) => b.rule)).size;
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
}

async function breakOne(whole: Files, page: string, b: Breaking, tally: Tally, name: string): Promise<void> {
  const files = { ...whole };
  b.files?.(files, page);
  const shop = await CheckedShop.open(files);
  try {
    await b.shop?.(shop, page);
    tally.seeded++;
    const { findings } = await shop.check();
    const hit = findings.find(
      (f) => f.rule === b.rule && b.at(f.place.on === 'page' ? f : { ...f, place: f.place }, page),
    );
    if (!hit) {
      tally.misses.push(`${name} ${b.rule}: not found; ${findings.map((f) => f.rule).join(' ')}`);
      return;
    }
    tally.found++;
    const n = hit.mends.findIndex((m) => m.do !== 'go');
    if (n >= 0) await shop.publish();
    if (n >= 0) await mendOne(shop, hit, n, tally, `${name} ${b.rule}`);
  } finally {
    await shop.end();
  }
}

async function mendOne(
  shop: CheckedShop,
  hit: Finding,
  n: number,
  tally: Tally,
  name: string,
): Promise<void> {
  const { ctx } = shop.world;
  tally.mends++;
  const before = await shop.written();
  const keys = new Set((await shop.check()).findings.map((f) => f.key));
  const lines = new Set((await readSlip(ctx, await shop.site())).waiting.map((l) => `${l.id} ${l.what}`));
  const live = new Set((await readSlip(ctx, await shop.site())).live.map((l) => l.id));
  const state = (await shop.site()).row;
  try {
    await mend(ctx, await shop.site(), [{ key: hit.key, n }], 'bench');
  } catch (error) {
    tally.misses.push(`${name}: the mend was refused: ${String(error)}`);
    return;
  }
  const after = (await shop.check()).findings;
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

/** What is said of sites of others with a sound shop on them, beside faults that they really have, each looked at by hand. */
async function falseAlarms(): Promise<Figure[]> {
  let [sites, alarms, theirs, again] = [0, 0, 0, 0];
  const misses: string[] = [];
  for (const site of lookSites) {
    const folder = await fetchPackage(site.of);
    if (!folder || !existsSync(join(folder, site.root))) continue;
    const files = await filesOf(join(folder, site.root));
    const [one, two] = [await CheckedShop.open(files), await CheckedShop.open(rewritten(files))];
    try {
      const first = (await one.check()).findings;
      const known = judged[site.of.name] ?? [];
      const unknown = first.filter(
        (f) =>
          !known.some(
            (k) =>
              k.rule === f.rule &&
              (!k.of || f.title.includes(k.of) || (f.place.on === 'page' && f.place.page === k.of)),
          ),
      );
      sites++;
      theirs += first.length - unknown.length;
      alarms += unknown.length;
      misses.push(...unknown.map((f) => `${site.of.name} ${f.rule}: ${f.title} (${f.place.name})`));
      const keys = new Set(first.map((f) => f.key));
      const fresh = (await two.check()).findings.filter((f) => !keys.has(f.key));
      again += fresh.length;
      misses.push(...fresh.map((f) => `${site.of.name} again ${f.rule}: ${f.title} (${f.place.name})`));
    } finally {
      await one.end();
      await two.end();
    }
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${misses.join('\n')}\n`);
  return [
    figure(
      'false alarms',
      String(alarms),
      `${sites} sites of registries with selling added; ${theirs} faults of their own, judged by hand`,
      '',
      '0',
    ),
    figure(
      'said anew of the same site, written otherwise',
      String(again),
      'attributes reordered, white space and line ends changed',
      '',
      '0',
    ),
  ];
}
