import { join } from 'node:path';
import { type Browser, chromium } from 'playwright-core';
import { chromiumLaunch } from '../e2e/support/chromium';
import type { WaysFrom } from '../src/core/checks/ways/ways';
import { figure, type Figure, type Measurement } from './support/figure';
import { demoOwner, startDemo } from './support/installation';
import { filesOf } from './support/outside-files';
import { fetchPackage } from './support/outside-sites';
import { SeenShop } from './support/seen-shop';
import { walkSite } from './support/walk';

const PORT = 5400;
const strangers = [
  { name: 'startbootstrap-clean-blog', root: 'package/dist', page: 'about.html' },
  { name: 'startbootstrap-business-casual', root: 'package/dist', page: 'products.html' },
] as const;

/** Shortest ways against a walk by a browser that presses every link and every button of the live pages. */
export const checksWays: Measurement = async () => {
  const browser = await chromium.launch(chromiumLaunch);
  try {
    const figures = [await ofDemo(browser)];
    for (const s of strangers) figures.push(...(await ofStranger(browser, s)));
    return figures;
  } finally {
    await browser.close();
  }
};

async function ofDemo(browser: Browser): Promise<Figure> {
  const demo = await startDemo(PORT);
  const office = `http://localhost:${PORT}`;
  try {
    const page = await browser.newPage();
    await page.goto(`${office}/sign-in`);
    await page.waitForSelector('[data-ready]');
    await page.getByLabel('E-mail').fill(demoOwner.email);
    await page.getByLabel('Password').fill(demoOwner.password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL(/\/site$/);
    const checked = () =>
      page.evaluate(
        async () =>
          (await (await fetch('/api/withybed/checks')).json()) as {
            ways: (WaysFrom & { was: Partial<WaysFrom> | null })[];
            running: unknown;
          },
      );
    let now = await checked();
    while (now.ways.length === 0 || now.running) {
      await page.waitForTimeout(500);
      now = await checked();
    }
    // What waits on the slip is not live: the ways of before are walked.
    const ways = now.ways.map((w) => ({ ...w, ...w.was }));
    await page.close();
    return await compared(browser, 'the demo', `http://withybed.localhost:${PORT + 3}/`, ways);
  } finally {
    await demo.end();
  }
}

async function ofStranger(
  browser: Browser,
  { name, root, page }: (typeof strangers)[number],
): Promise<Figure[]> {
  const folder = await fetchPackage({ from: 'npm', name });
  if (!folder) return [];
  const seen = await SeenShop.open(await filesOf(join(folder, root)), browser);
  try {
    // Something is sold on one page by a card, beside the shop front.
    await seen.shop.put(page, 'card', { goods: 'saltmarsh-creel' });
    const live = await seen.goLive();
    const { ways } = await seen.shop.check();
    return [await compared(browser, name, live, ways)];
  } finally {
    await seen.end();
  }
}

/** @param root address of the live site */
async function compared(
  browser: Browser,
  name: string,
  root: string,
  ways: readonly WaysFrom[],
): Promise<Figure> {
  const walked = await walkSite(browser, root);
  let [same, all] = [0, 0];
  const misses: string[] = [];
  for (const w of ways) {
    const at = walked.get(`${root}${w.path.replace(/(^|\/)index\.html?$/, '$1')}`);
    // Nobody gets to a page that nothing leads to.
    if (!at) continue;
    for (const goal of ['product', 'cart', 'paid'] as const) {
      all++;
      if (at[goal] === w[goal]) same++;
      else misses.push(`${name} ${w.path}: ${goal} ${w[goal] ?? 'none'}, walked ${at[goal] ?? 'none'}`);
    }
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${misses.join('\n')}\n`);
  return figure(
    `shortest ways as walked: ${name}`,
    `${same} of ${all}`,
    `${walked.size} pages, every link and button pressed with an empty and a filled cart`,
    '',
    'all',
  );
}
