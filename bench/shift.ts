import { cp, readFile, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { type Browser, chromium } from 'playwright-core';
import { kindOf } from '../src/core/placement/kinds';
import { writeSpelling } from '../src/core/placement/spelling';
import { chromiumLaunch } from '../e2e/support/chromium';
import { figure, type Figure, median, type Measurement } from './support/figure';
import { addSelling, ask, startDemo } from './support/installation';

const RUNS = 7;

/** Layout shift and largest paint of the demo's home page, as its owner made it and with widgets, in turns in one browser. */
export const shift: Measurement = async () => {
  const demo = await startDemo(4840);
  const browser = await chromium.launch({
    ...chromiumLaunch,
  });
  try {
    const keys = JSON.parse(await readFile(join(demo.dir, 'standins.json'), 'utf8')) as { host: string };
    await fetch(`http://127.0.0.1:${demo.port + 3}/sites/plain`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${keys.host}`, 'content-type': 'application/json' },
      body: JSON.stringify({ folder: resolve('demo/withybed') }),
    });
    await fetch(`http://127.0.0.1:${demo.port + 3}/sites/many`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${keys.host}`, 'content-type': 'application/json' },
      body: JSON.stringify({ folder: await withManyWidgets(demo.dir, demo.port) }),
    });
    const names = ['plain', 'withybed', 'many'] as const;
    const seen: Record<(typeof names)[number], Seen[]> = { plain: [], withybed: [], many: [] };
    for (let i = 0; i < RUNS; i++)
      for (const name of names)
        seen[name].push(await look(browser, `http://${name}.localhost:${demo.port + 3}/`));
    const mid = (name: (typeof names)[number], what: keyof Seen) => median(seen[name].map((s) => s[what]));
    const row = (name: 'withybed' | 'many', what: string) => [
      figure(
        `layout shift of the home page with ${what}`,
        mid(name, 'paint') ? mid(name, 'shift').toFixed(4) : 'not painted',
        `without: ${mid('plain', 'shift').toFixed(4)}`,
        '',
        'no more than without',
      ),
      figure(
        `largest paint with ${what}`,
        `${mid(name, 'paint').toFixed(0)} ms`,
        `without: ${mid('plain', 'paint').toFixed(0)} ms`,
        (mid(name, 'paint') / mid('plain', 'paint')).toFixed(2),
        'about 1',
      ),
      figure(
        `blocking time added by ${what}, processor slowed four times`,
        `${Math.max(0, mid(name, 'blocked') - mid('plain', 'blocked')).toFixed(0)} ms`,
        `without: ${mid('plain', 'blocked').toFixed(0)} ms in all`,
        '',
        'under 50 ms',
      ),
      figure(`requests for data with ${what}`, mid(name, 'asked').toFixed(0), '', '', '1'),
    ];
    return [
      ...row('withybed', 'a button and a cart'),
      ...row('many', 'nine widgets'),
      ...(await shopPages(browser, demo.port)),
    ];
  } finally {
    await browser.close();
    await demo.end();
  }
};

const sizes = [
  ['phone', { width: 390, height: 844 }],
  ['desktop', { width: 1280, height: 800 }],
] as const;

/** Layout shift of the pages of a shop on the demo's site, for somebody who has a cart, at both widths. */
async function shopPages(browser: Browser, port: number): Promise<Figure[]> {
  await addSelling(port, 'withybed', true);
  const shop = `http://shop.localhost:${port + 1}`;
  const body = JSON.stringify({ goods: 'round-log-basket', quantity: 2 });
  const made = await ask(`${shop}/v1/withybed/carts`, 'POST', body, 'application/json');
  const cart = JSON.stringify({ token: (JSON.parse(made.body) as { token: string }).token, pieces: 2 });
  const figures: Figure[] = [];
  for (const [what, path] of [
    ['shop page', 'shop/'],
    ['product page', 'shop/?goods=round-log-basket'],
    ['cart', 'cart/'],
    ['checkout', 'checkout/'],
  ] as const) {
    const shifts: string[] = [];
    for (const [name, viewport] of sizes) {
      const seen: number[] = [];
      for (let n = 0; n < 3; n++) {
        const url = `http://withybed.localhost:${port + 3}/${path}`;
        const kept = { key: `stall:${shop}/withybed`, cart };
        seen.push((await look(browser, url, viewport, kept)).shift);
      }
      shifts.push(`${name} ${median(seen).toFixed(4)}`);
    }
    figures.push(figure(`layout shift of the ${what}`, shifts.join(', '), '', '', '0.00'));
  }
  return figures;
}

interface Seen {
  readonly shift: number;
  readonly paint: number;
  /** Of every task of the main thread the time beyond 50 ms, added up (the definition of total blocking time). */
  readonly blocked: number;
  readonly asked: number;
}

async function look(
  browser: Browser,
  url: string,
  viewport = { width: 1280, height: 800 },
  kept?: { readonly key: string; readonly cart: string },
): Promise<Seen> {
  const context = await browser.newContext({ viewport });
  if (kept) await context.addInitScript(({ key, cart }) => localStorage.setItem(key, cart), kept);
  const page = await context.newPage();
  let asked = 0;
  page.on('request', (r) => {
    if (/\/v1\/[^/]+\/page\?/.test(r.url())) asked++;
  });
  await page.addInitScript(() => {
    const seen = { shift: 0, paint: 0, blocked: 0 };
    window.benchSeen = seen;
    const on = (type: string, hear: (e: PerformanceEntry) => void) =>
      new PerformanceObserver((l) => l.getEntries().forEach(hear)).observe({ type, buffered: true });
    on('layout-shift', (e) => {
      if ('value' in e) seen.shift += Number(e.value);
    });
    on('largest-contentful-paint', (e) => {
      seen.paint = e.startTime;
    });
    on('longtask', (e) => {
      seen.blocked += Math.max(0, e.duration - 50);
    });
  });
  const cdp = await context.newCDPSession(page);
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  await page.goto(url);
  await page.waitForTimeout(2500);
  const seen = await page.evaluate(() => window.benchSeen);
  if (!seen) throw new Error('the page was not looked at');
  await context.close();
  return { ...seen, asked };
}

/** The demo's home page with nine widgets in it, as the element spelling writes them. */
async function withManyWidgets(dir: string, port: number): Promise<string> {
  const folder = join(dir, 'many');
  await cp('demo/withybed', folder, { recursive: true });
  const shop = `http://shop.localhost:${port + 1}/withybed`;
  const context = {
    placementId: 'benchbench',
    shopUrl: shop,
    cartHref: 'cart/',
    contentWidth: '70rem',
    productName: () => undefined,
    countOf: (s: Record<string, unknown>) => Math.min(8, Number(s.limit ?? s.perPage ?? 4)),
  };
  const wanted: readonly (readonly [string, Record<string, unknown>])[] = [
    ['row', { source: 'all', limit: 4 }],
    ['row', { form: 'slider', source: 'all', limit: 8 }],
    ['row', { form: 'list', source: 'category', category: 'Baskets', limit: 3 }],
    ['card', { goods: 'berry-trug' }],
    ['categories', {}],
    ['search', {}],
    ['lookup', {}],
    ['buy', { goods: 'round-log-basket' }],
    ['cart', {}],
  ];
  const written = wanted.map(([kind, settings]) => {
    const w = kindOf(kind)?.writable(settings, context);
    return w ? writeSpelling('element', w, context) : '';
  });
  const home = await readFile(join(folder, 'index.html'), 'utf8');
  await writeFile(
    join(folder, 'index.html'),
    home.replace(
      '</main>',
      () => `${written.join('\n')}<script async src="${new URL('/stall.js', shop).href}"></script></main>`,
    ),
  );
  return folder;
}
