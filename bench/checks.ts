import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type Browser, chromium } from 'playwright-core';
import { chromiumLaunch } from '../e2e/support/chromium';
import { priceMentions } from '../src/core/money/mention';
import { isPriceNow, NameIndex, speaksOf } from '../src/core/checks/prices/speaks-of';
import type { PriceText } from '../src/core/checks/written/facts';
import type { Product } from '../src/core/goods/product';
import { year } from './checks-year';
import { judged } from './labels/checks';
import { lookSites } from './labels/look';
import { type LabelledTexts, labelledPrices, readLabelled } from './labels/prices';
import { CheckedShop } from './support/checked-shop';
import { type Figure, figure, type Measurement } from './support/figure';
import { filesOf } from './support/outside-files';
import { fetchPackage } from './support/outside-sites';
import { SeenShop } from './support/seen-shop';
import { rewritten } from './support/rewrite-site';

/** The checks: whether prices are read right, and nothing is said of what is not broken. */
export const checks: Measurement = async () => [
  ...prices(),
  ...(await inBrowser(falseAlarms)),
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

async function inBrowser<T>(work: (browser: Browser) => Promise<T>): Promise<T> {
  const browser = await chromium.launch(chromiumLaunch);
  try {
    return await work(browser);
  } finally {
    await browser.close();
  }
}

/** What is said of sites of others with a sound shop on them, beside faults that they really have, each looked at by hand. */
async function falseAlarms(browser: Browser): Promise<Figure[]> {
  let [sites, alarms, theirs, again] = [0, 0, 0, 0];
  const misses: string[] = [];
  for (const site of lookSites) {
    const folder = await fetchPackage(site.of);
    if (!folder || !existsSync(join(folder, site.root))) continue;
    const files = await filesOf(join(folder, site.root));
    const whole = await filesOf(join(folder, site.root), { whole: true });
    const [one, two] = [await SeenShop.open(whole, browser), await CheckedShop.open(rewritten(files))];
    try {
      // The shop of the measure itself answers without encryption.
      const first = (await one.look()).findings.filter((f) => f.rule !== 'insecure' || f.place.on === 'page');
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
      `${sites} sites of registries with selling added, looked at in a browser; ${theirs} faults of their own, judged by hand`,
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
