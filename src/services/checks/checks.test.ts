import { mkdtemp, readFile, rm, writeFile, mkdir } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listPitches } from '../../core/site/pitch';
import { handOuts, sites } from '../../data/schema';
import { addSelling } from '../sites/add-selling';
import { bringIn } from '../sites/bring-in';
import { place, takeAway } from '../sites/placing';
import { loadPage, loadSite } from '../sites/site';
import { readSlip } from '../sites/slip';
import { undoWaiting } from '../sites/undo-waiting';
import { publish, computeManifest } from '../publishing/publish';
import { draftState } from '../sites/state';
import { makeWorld, type World, zipFrom } from '../testing';
import { checksCount, checksView, leaveFinding, parseLeave, recordRun, wayOf } from './checks';
import { lookAtLive, putBack } from './live';
import { mend, parseMends } from './mend';
import { setLiveAddress } from '../sites/live-address';
import { checkByNight } from './night';
import { keepSeen } from './seen';

const page = (title: string, body: string) =>
  `<!doctype html><html lang="en-GB"><head><title>${title}</title></head><body><header><a href="/">Quern</a><nav><ul><li><a href="/">Home</a></li><li><a href="/about/">About</a></li></ul></nav></header><main><h1>${title}</h1>${body}</main><footer><p>Quern, since 1986</p></footer></body></html>`;
const files = {
  'index.html': page('Quern', '<p>Our hazel trug is &pound;31 and lasts.</p><p>[stall barrow]</p>'),
  'about/index.html': page('About', '<p>We weave. See <a href="/abuot/">this</a>.</p>'),
  'bare.html':
    '<html><head><title>Price list</title></head><body><h1>Price list</h1><p>Hazel trug £31</p></body></html>',
};

describe('checks', () => {
  let w: World;
  let id: string;
  const site = () => loadSite(w.ctx, { id });
  const view = async () => checksView(w.ctx, await site());
  const find = async (rule: string, of = '') =>
    (await view()).findings.find((f) => f.rule === rule && (!of || f.place.name === of));
  const mendIt = async (rule: string, n = 0) => {
    const f = await find(rule);
    return mend(w.ctx, await site(), [{ key: f?.key ?? '', n }], 'test');
  };

  beforeAll(async () => {
    w = await makeWorld();
    Object.assign(w.ctx.addresses, { shop: 'https://shop.test' });
    ({ id } = await bringIn(
      w.ctx,
      { how: 'zip', fileName: 'q.zip', bytes: zipFrom(files) },
      { currency: 'GBP', liveUrl: 'https://quern.example/' },
    ));
    await addSelling(w.ctx, await site(), {
      setUp: { country: 'GB', currency: 'GBP', sells: ['ships'], takesMoney: ['card'] },
    });
    const { addProduct } = await import('../goods/goods');
    await addProduct(
      w.ctx,
      await site(),
      { name: 'Hazel trug', price: 3400, variants: [{ stock: 3 }] },
      'test',
    );
  });
  afterAll(() => w.end());

  it('find what was broken, at its place, with figures', async () => {
    const found = (await view()).findings;
    const of = (rule: string) => found.filter((f) => f.rule === rule);
    expect(of('price-in-text').map((f) => f.title)).toEqual([
      'The text says £31, Hazel trug costs £34.00',
      'The text says £31, Hazel trug costs £34.00',
    ]);
    expect(of('price-in-text')[0]?.place).toMatchObject({
      on: 'page',
      page: 'index.html',
      block: 'main:0/p:0',
    });
    expect(of('bad-code')).toHaveLength(1);
    expect(of('dead-link')[0]?.mends[0]?.label).toBe('Lead it to about/index.html');
    expect(of('way-to-cart').map((f) => f.place.name)).toEqual(['Price list']);
    expect(of('shipping-region')).toHaveLength(1);
  });

  it('count what is told as one, and say what loses the sale', async () => {
    const count = await checksCount(w.ctx, await site());
    expect(count.losesSale).toBeGreaterThanOrEqual(2);
    expect(count.running).toBe(false);
    expect(count.toMend).toBeLessThanOrEqual((await view()).findings.length);
  });

  it('mend what stood on the button, and nothing where it would do another thing by now', async () => {
    const found = (await view()).findings.find((f) => f.rule === 'price-in-text');
    const n = found?.mends.findIndex((m) => m.label === 'Write £34') ?? -1;
    const asked = { key: found?.key ?? '', n, label: 'Write £31' };
    await expect(mend(w.ctx, await site(), [asked], 'test')).rejects.toThrow('not as it was shown');
    expect((await readSlip(w.ctx, await site())).waiting.some((l) => l.id.startsWith('mend-'))).toBe(false);
  });

  it('mend with a line on the slip, and the undo gives the pages back byte for byte', async () => {
    const written = async () =>
      (await computeManifest(w.ctx, await site(), await draftState(w.ctx, await site()))).manifest;
    const before = await written();
    await mendIt('price-in-text');
    await mendIt('bad-code');
    await mendIt('dead-link');
    expect(await find('bad-code')).toBeUndefined();
    expect(await find('dead-link')).toBeUndefined();
    expect((await view()).findings.filter((f) => f.rule === 'price-in-text')).toHaveLength(1);
    const lines = (await readSlip(w.ctx, await site())).waiting.filter((l) => l.id.startsWith('mend-'));
    expect(lines.map((l) => l.what).sort()).toEqual(
      [
        'Code taken off: [stall barrow]',
        '£31 → £34.00, Hazel trug',
        '“this” leads to about/index.html',
      ].sort(),
    );
    const text = Buffer.from(await w.ctx.blobs.get((await written())['index.html'] ?? '')).toString();
    expect(text).toMatch(
      /trug is <!--stall mend-\w+ was [\w+/=]+--><stall-price goods="hazel-trug"[^>]*>&#163;34.00<\/stall-price>/,
    );
    for (const l of lines) await undoWaiting(w.ctx, await site(), l.id);
    expect(await written()).toEqual(before);
  });

  it('put a cart on a page without header, and mend several in one press', async () => {
    const found = (await view()).findings;
    const wanted = found
      .filter((f) => f.rule === 'way-to-cart' || f.rule === 'price-in-text')
      .map((f) => ({ key: f.key, n: 0 }));
    const { done, refused } = await mend(w.ctx, await site(), wanted, 'test');
    expect(refused).toEqual([]);
    expect(done).toContain('Cart on one page');
    const left = (await view()).findings.map((f) => f.rule);
    expect(left).not.toContain('way-to-cart');
    expect(left).not.toContain('price-in-text');
  });

  it('refuse a mend that nobody offered', async () => {
    await expect(mend(w.ctx, await site(), [{ key: 'way-to-cart made-up', n: 0 }], 'test')).rejects.toThrow(
      'not as it was shown',
    );
    expect(() => parseMends({ mends: [{ key: 'x', n: -1 }] })).toThrow();
    expect(() => parseLeave({ keys: [], word: 'x' })).toThrow();
  });

  it('keep runs over time: what is new, what was mended, what came back', async () => {
    await recordRun(w.ctx, await site(), 'asked');
    expect((await view()).findings.every((f) => !f.isNew)).toBe(true);
    await mendIt('bad-code');
    expect((await view()).mendedSince).toBe(1);
    await recordRun(w.ctx, await site(), 'asked');
    const [line] = (await readSlip(w.ctx, await site())).waiting.filter((l) =>
      l.what.startsWith('Code taken off'),
    );
    await undoWaiting(w.ctx, await site(), line?.id ?? '');
    expect(await find('bad-code')).toMatchObject({ isNew: true, back: 1 });
    await recordRun(w.ctx, await site(), 'publish');
    expect((await view()).runs.map((r) => [r.why, r.mended, r.back])).toEqual([
      ['publish', 0, 1],
      ['asked', 1, 0],
      ['asked', 0, 0],
    ]);
  });

  it('leave something so with a word, until its facts change', async () => {
    const f = await find('dead-link');
    await leaveFinding(w.ctx, await site(), { keys: [f?.key ?? ''], word: 'a joke of ours' });
    expect(await find('dead-link')).toBeUndefined();
    expect((await view()).left).toMatchObject([{ rule: 'dead-link', left: 'a joke of ours' }]);
    await leaveFinding(w.ctx, await site(), { keys: [f?.key ?? ''], word: null });
    expect(await find('dead-link')).toBeDefined();
  });

  it('tell each press of a way', async () => {
    const steps = await wayOf(w.ctx, await site(), 'about/index.html', 'paid');
    expect(steps.map((s) => s.press)).toEqual(['Shop', 'Add to cart', 'Cart', 'Go to checkout', 'Pay']);
    expect((await view()).ways.find((x) => x.path === 'about/index.html')).toMatchObject({
      product: 1,
      cart: 1,
      paid: 5,
    });
  });

  it('believe what a browser saw only of pages that are still written so', async () => {
    const [one] = (await view()).toSee;
    if (!one) throw new Error('nothing to see');
    const widget = {
      placement: 'x',
      kind: 'cart',
      x: -900,
      y: 0,
      width: 100,
      height: 40,
      column: 300,
      coveredBy: '',
      smallTargets: 0,
      grows: 0,
      hides: 0,
      shifted: 0,
    };
    const seen = {
      path: one.path,
      version: one.version,
      fontsMissing: [],
      at: [
        {
          width: 390,
          pageWidth: 390,
          widgets: [widget],
          menuRows: 1,
          menuRowsBefore: 1,
          menuCut: false,
          menuCutBefore: false,
          menuColours: [],
        },
      ],
    };
    await keepSeen(w.ctx, await site(), [{ ...seen, version: 'older' }]);
    expect(await find('stands-badly')).toBeUndefined();
    await keepSeen(w.ctx, await site(), [seen]);
    expect(await find('stands-badly')).toMatchObject({ title: 'It stands outside the page (at 390 px)' });
    await expect(keepSeen(w.ctx, await site(), [{ path: 1 }])).rejects.toThrow('nothing that was seen');
  });
});

describe('a page that only a script fills', () => {
  it('is told once something is sold on it, and not before', async () => {
    const w = await makeWorld();
    const shell =
      '<html><head><title>Stock</title></head><body><div id="app"></div><script src="stock.js"></script></body></html>';
    const { id } = await bringIn(
      w.ctx,
      {
        how: 'zip',
        fileName: 's.zip',
        bytes: zipFrom({
          'index.html': page('Quern', '<p>Trugs.</p>'),
          'stock.html': shell,
          'stock.js': 'go()',
        }),
      },
      { currency: 'GBP', liveUrl: 'https://quern.example/' },
    );
    const site = () => loadSite(w.ctx, { id });
    await addSelling(w.ctx, await site(), {
      setUp: { country: 'GB', currency: 'GBP', sells: ['ships'], takesMoney: ['card'] },
    });
    const told = async () => {
      const { findings } = await checksView(w.ctx, await site());
      return findings.filter((f) => f.rule === 'script-only').map((f) => f.place.name);
    };
    expect(await told()).toEqual([]);
    const [pitch] = listPitches(await loadPage(w.ctx, await site(), 'stock.html'));
    if (!pitch) throw new Error('no pitch');
    const placed = await place(w.ctx, await site(), {
      kind: 'cart',
      settings: {},
      pitch: pitch.address,
      pitchLabel: pitch.label,
      reach: { to: 'page', page: 'stock.html' },
    });
    expect(await told()).toEqual(['Stock']);
    await takeAway(w.ctx, await site(), placed.id);
    expect(await told()).toEqual([]);
    await w.end();
  });
});

describe('the live site', () => {
  let w: World;
  let id: string;
  let folder: string;
  let server: Server;
  beforeAll(async () => {
    w = await makeWorld();
    folder = await mkdtemp(join(tmpdir(), 'stall-live-'));
    await mkdir(join(folder, 'about'));
    for (const [path, text] of Object.entries(files)) await writeFile(join(folder, path), text);
    server = createServer((req, res) => {
      const path = new URL(req.url ?? '/', 'http://x').pathname.replace(/\/$/, '/index.html');
      readFile(join(folder, path)).then(
        (bytes) => res.end(bytes),
        () => res.writeHead(404).end(),
      );
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const liveUrl = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    ({ id } = await bringIn(w.ctx, { how: 'folder', folder }, { currency: 'GBP', liveUrl }));
    await addSelling(w.ctx, await loadSite(w.ctx, { id }), {
      setUp: { country: 'GB', currency: 'GBP', sells: ['ships'], takesMoney: ['card'] },
    });
    await publish(w.ctx, await loadSite(w.ctx, { id }), 'test');
  });
  afterAll(async () => {
    server.close();
    await w.end();
    await rm(folder, { recursive: true, force: true });
  });

  it('is what was published; written otherwise it is the same; changed it is told, and put back', async () => {
    const site = () => loadSite(w.ctx, { id });
    const other = async () => (await lookAtLive(w.ctx, await site()))?.pages.map((p) => [p.path, p.is]);
    expect(await other()).toEqual([]);
    const file = join(folder, 'about/index.html');
    const published = await readFile(file, 'utf8');
    await writeFile(
      file,
      published.replace(/\n/g, '\r\n').replace('<html lang="en-GB">', "<html  lang='en-GB'>"),
    );
    expect(await other()).toEqual([]);
    await writeFile(file, published.replace('We weave', 'We no longer weave'));
    expect(await other()).toEqual([['about/index.html', 'changed']]);
    await rm(join(folder, 'bare.html'));
    expect(await other()).toEqual([
      ['about/index.html', 'changed'],
      ['bare.html', 'missing'],
    ]);
    await putBack(w.ctx, await site(), 'about/index.html');
    await putBack(w.ctx, await site(), 'bare.html');
    expect(await readFile(file, 'utf8')).toBe(published);
    expect(await other()).toEqual([]);
  });

  it('does not answer: the rest is not asked for hours, and nothing is written there again', async () => {
    const away = await loadSite(w.ctx, { id });
    const nowhere = { ...away, row: { ...away.row, liveUrl: 'http://127.0.0.1:9/' } };
    const live = await lookAtLive(w.ctx, nowhere);
    expect(live?.pages.length).toBeGreaterThan(0);
    expect(live?.pages.every((p) => p.is === 'silent')).toBe(true);
    const { findings } = await checksView(w.ctx, away);
    const silent = findings.find((f) => f.rule === 'live-differs');
    expect(silent?.mends.map((m) => m.do)).toEqual(['go']);
    await lookAtLive(w.ctx, away);
  });

  it('has what was handed out to it looked at, too', async () => {
    const away = await loadSite(w.ctx, { id });
    const url = `${away.row.liveUrl}bare.html`;
    await w.ctx.store.write((tx) =>
      tx.insert(handOuts).values({
        siteId: id,
        placementId: 'gone',
        kind: 'buy',
        spelling: 'element',
        url,
        found: true,
        message: 'It stands there.',
        lookedAt: w.ctx.now(),
      }),
    );
    const live = await lookAtLive(w.ctx, away);
    expect(live?.handOuts).toMatchObject([{ url, kind: 'buy' }]);
    await w.ctx.store.write((tx) => tx.delete(handOuts).where(eq(handOuts.siteId, id)));
    await lookAtLive(w.ctx, away);
  });

  it('is told where it lives anew; what is no address, and what a host gives, stays', async () => {
    const was = (await loadSite(w.ctx, { id })).row.liveUrl;
    const site = await loadSite(w.ctx, { id });
    for (const bad of ['', 'quern.example', 'ftp://quern.example/', 'javascript:alert(1)', 7, null])
      await expect(setLiveAddress(w.ctx, site, { liveUrl: bad }), String(bad)).rejects.toThrow('https://');
    for (const more of [
      'https://a:b@quern.example/',
      'https://quern.example/?x=1',
      'https://quern.example/#x',
    ])
      await expect(setLiveAddress(w.ctx, site, { liveUrl: more }), more).rejects.toThrow('the address alone');
    expect(await setLiveAddress(w.ctx, site, { liveUrl: 'https://www.quern.example' })).toEqual({
      liveUrl: 'https://www.quern.example/',
    });
    expect((await loadSite(w.ctx, { id })).row.liveUrl).toBe('https://www.quern.example/');
    const hosted = {
      ...site,
      row: { ...site.row, delivery: { to: 'host' as const, endpoint: 'x', key: 'k' } },
    };
    await expect(setLiveAddress(w.ctx, hosted, { liveUrl: 'https://x.example/' })).rejects.toThrow('host');
    await setLiveAddress(w.ctx, site, { liveUrl: was });
  });

  it('is looked at once a night, at three by the shop’s own clock', async () => {
    w.clock.ms = Date.UTC(2026, 10, 28, 2, 50);
    expect(await checkByNight(w.ctx)).toBe(0);
    w.clock.ms = Date.UTC(2026, 10, 28, 3, 5);
    expect(await checkByNight(w.ctx)).toBe(1);
    expect(await checkByNight(w.ctx)).toBe(0);
    expect(await w.ctx.store.db.select().from(sites)).not.toHaveLength(0);
  });
});
