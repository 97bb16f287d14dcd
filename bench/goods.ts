import { entryAt } from '../src/core/entries';
import { type ChildProcess, spawn } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import autocannon from 'autocannon';
import pino from 'pino';
import { folderBlobs } from '../src/data/blobs';
import { openStore } from '../src/data/database';
import { Recent } from '../src/services/cache';
import type { Ctx } from '../src/services/context';
import { catalogueOf } from '../src/services/goods/catalogue';
import { goodsCsv, readTable, takeTable, tryTable } from '../src/services/goods/csv';
import { firstSite } from '../src/services/sites/bring-in';
import { loadSite } from '../src/services/sites/site';
import { type Figure, figure, median } from './support/figure';
import { ask, heard, startDemo } from './support/installation';
import { seeded } from './support/make-site';

const GOODS = 10_000;
const ROUNDS = 3;
const SECONDS = 4;
/** A vocabulary as a shop has one: some hundred nouns and manners, made of syllables. */
const syllables = [
  'ba',
  'ket',
  'tru',
  'cre',
  'lin',
  'hur',
  'del',
  'cra',
  'wil',
  'ose',
  'ham',
  'per',
  'ske',
  'pan',
  'nor',
  'vet',
  'sol',
  'mer',
  'tig',
  'rov',
];
const words = (count: number, seed: number): string[] => {
  const next = seeded(seed);
  return Array.from({ length: count }, () =>
    Array.from({ length: 2 + next(2) }, () => syllables[next(syllables.length)]).join(''),
  );
};
const [things, manners, woods] = [words(300, 1), words(120, 2), words(60, 3)];

/** Ten thousand invented goods as a table: names of three words, categories, one to a row. */
function table(): string {
  const next = seeded(7);
  const pick = (list: readonly string[]) => list[next(list.length)] ?? '';
  const rows = Array.from(
    { length: GOODS },
    (_, n) =>
      `goods-${n},${pick(woods)} ${pick(manners)} ${pick(things)} ${n},${(5 + next(9000) / 100).toFixed(2)},${pick(things.slice(0, 8))} / ${pick(manners.slice(0, 6))},${next(40)},SKU-${n},"Made of ${pick(woods)}, in the ${pick(manners)} manner."`,
  );
  return `address,name,price,categories,stock,sku,description\r\n${rows.join('\r\n')}\r\n`;
}

const order = seeded(23);
/** Each client asks in an order of its own: no two ask for the same page at once. */
function shuffled<T>(list: readonly T[]): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = order(i + 1);
    [out[i], out[j]] = [entryAt(out, j), entryAt(out, i)];
  }
  return out;
}

/** Goods by the ten thousand: a page of 48 by the second against a bare server of the same bytes, search, a table in and out. */
export async function goods(): Promise<Figure[]> {
  const demo = await startDemo(4860);
  const quiet = pino({ level: 'silent' });
  const store = await openStore(`file:${join(demo.dir, 'stall.db')}`, 'dist/migrations');
  const ctx = {
    store,
    blobs: folderBlobs(join(demo.dir, 'blobs')),
    folders: { roots: [], own: [] },
    journals: '',
    pictures: new Recent(5),
    changed: () => {},
    host: undefined,
    mail: undefined,
    addresses: { office: '', shop: '', draft: () => '' },
    providers: {},
    now: () => new Date(),
    log: quiet,
  } as unknown as Ctx;
  const servers: ChildProcess[] = [];
  try {
    const first = await firstSite(ctx);
    const site = await loadSite(ctx, { id: first?.id ?? '' });
    const text = table();
    const peak = () => Math.round(process.memoryUsage().rss / 2 ** 20);
    const before = peak();
    const read = readTable(Buffer.from(text));
    const dry = await timed(async () => void (await tryTable(ctx, site, read)));
    const taken = await timed(
      async () => void (await takeTable(ctx, site, read, read.mapping, false, 'bench')),
    );
    const inPeak = peak();
    const loaded = await timed(async () => void (await catalogueOf(ctx, site.row.id)));
    const out = await timed(
      async () => void (await writeFile(join(demo.dir, 'goods.csv'), await goodsCsv(ctx, site))),
    );
    const found = await searches(ctx, site.row.id);

    const shop = `http://shop.localhost:${demo.port + 1}`;
    const address = (n: number, sort: string) =>
      `/v1/withybed/page?goods=&w=${encodeURIComponent(`shop?per-page=48#sort=${sort}&page=${n}`)}`;
    const { body } = await ask(shop + address(3, ''));
    servers.push(
      spawn(
        process.execPath,
        [
          '-e',
          `const b=Buffer.from(process.env.BODY);require('node:http').createServer((q,s)=>{s.writeHead(200,{'content-type':'application/json; charset=utf-8','content-length':b.length});s.end(b)}).listen(4869,'127.0.0.1',()=>console.log('ready'))`,
        ],
        { env: { ...process.env, BODY: body }, stdio: ['ignore', 'pipe', 'inherit'] },
      ),
    );
    await heard(entryAt(servers, 0), /ready/);
    const headers = { host: `shop.localhost:${demo.port + 1}` };
    const rate = async (port: number, paths: readonly string[]) =>
      (
        await autocannon({
          url: `http://127.0.0.1:${port}`,
          connections: 20,
          duration: SECONDS,
          headers,
          requests: paths.map((path) => ({ path })),
          setupClient: (client) => client.setRequests(shuffled(paths).map((path) => ({ path }))),
        })
      ).requests.average;
    // More pages than answers are kept: each is made when it is asked for.
    const pages = Math.floor(GOODS / 48);
    const many = ['', 'newest', 'cheapest', 'name'].flatMap((sort) =>
      Array.from({ length: pages }, (_, n) => address(n + 1, sort)),
    );
    const rates: Record<'bare' | 'cached' | 'made', number[]> = { bare: [], cached: [], made: [] };
    for (let i = 0; i < ROUNDS; i++) {
      rates.bare.push(await rate(4869, ['/']));
      rates.cached.push(await rate(demo.port + 1, [address(3, '')]));
      rates.made.push(await rate(demo.port + 1, many));
    }
    const bare = median(rates.bare);
    const page = await ask(`${shop}/withybed/goods/round-log-basket`);
    return [
      figure(
        'a page of 48 out of 10,000 products, kept',
        `${median(rates.cached).toFixed(0)}/s`,
        `bare node:http, same ${Math.round(body.length / 1000)} kB: ${bare.toFixed(0)}/s`,
        (median(rates.cached) / bare).toFixed(2),
        '0.7 or more',
      ),
      figure(
        'a page of 48 out of 10,000 products, made anew each time',
        `${median(rates.made).toFixed(0)}/s, ${(1000 / median(rates.made)).toFixed(2)} ms of server time each`,
        `bare node:http: ${bare.toFixed(0)}/s`,
        (median(rates.made) / bare).toFixed(2),
        '0.2 or more',
      ),
      figure(
        'search in 10,000 products, server time, 95th of 500',
        `${found.p95.toFixed(1)} ms`,
        `median ${found.median.toFixed(1)} ms`,
        '',
        'under 10 ms',
      ),
      figure('CSV of 10,000 rows: dry run', `${(dry / 1000).toFixed(1)} s`),
      figure(
        'CSV of 10,000 rows: in, all or nothing',
        `${(taken / 1000).toFixed(1)} s, ${inPeak} MB`,
        `before: ${before} MB`,
      ),
      figure('CSV of 10,000 rows: out', `${(out / 1000).toFixed(2)} s`),
      figure('catalogue of 10,000 products into memory, with its index', `${(loaded / 1000).toFixed(1)} s`),
      figure(
        'bytes of a product page with options (HTML, without pictures)',
        `${(page.body.length / 1000).toFixed(1)} kB`,
      ),
    ];
  } finally {
    for (const s of servers) s.kill();
    store.close();
    await demo.end();
  }
}

async function searches(ctx: Ctx, siteId: string): Promise<{ p95: number; median: number }> {
  const { index } = await catalogueOf(ctx, siteId);
  await index.search('basket');
  const next = seeded(11);
  const pick = (list: readonly string[]) => list[next(list.length)] ?? '';
  // Words whole, begun, in another form, and with a letter wrong.
  const forms = [
    (w: string) => w,
    (w: string) => w.slice(0, 4),
    (w: string) => `${w}s`,
    (w: string) => w.replace(/.(?=.$)/, 'x'),
  ];
  const times: number[] = [];
  for (let n = 0; n < 500; n++) {
    const words = [pick(things), pick(manners), pick(woods)]
      .slice(0, 1 + (n % 3))
      .map((w) => entryAt(forms, n % forms.length)(w))
      .join(' ');
    const began = performance.now();
    await index.search(words);
    times.push(performance.now() - began);
  }
  times.sort((a, b) => a - b);
  return { p95: times[475] ?? 0, median: times[250] ?? 0 };
}

async function timed(work: () => Promise<void>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}
