import { UNWRITTEN } from '../../core/placement/kinds/ways-in';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { edgePitch, listPitches } from '../../core/site/pitch';
import { drawWidget } from '../storefront/widgets';
import { readRules } from '../till/rules';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { addSelling, guessSelling, setShop } from './add-selling';
import { benchView } from './bench';
import { coverage, distances } from './coverage';
import { changedFiles, fileTexts } from './diff';
import { sites } from '../../data/schema';
import { hasArrived } from './hand-out';
import { hasBeenPutUp } from './put-up';
import { menuView, setMenuChanges } from './menus';
import { bringInNewer } from './newer';
import { change, place } from './placing';
import { computeManifest, leave, publish, rollBack } from './publish';
import { bringIn } from './bring-in';
import { currentPublication, loadPage, loadSite, type Site } from './site';
import { shopPagesOf } from './shop-places';
import { readSlip } from './slip';
import { draftState, publishedState } from './state';
import { undoWaiting } from './undo-waiting';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const answers = { country: 'GB', currency: 'GBP' };
const textOf = async (hash: string | undefined) => (await w.ctx.blobs.get(hash ?? '')).toString();
const liveManifest = async (site: Site) => (await currentPublication(w.ctx, site.row))?.manifest ?? {};

async function placeRow(site: Site, settings: Record<string, unknown> = {}) {
  const pitch = listPitches(await loadPage(w.ctx, site, 'about/index.html')).find(
    (p) => p.label === 'after \u201cmore\u201d',
  );
  if (!pitch) throw new Error('no pitch');
  return place(w.ctx, site, {
    kind: 'row',
    settings,
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: { to: 'page', page: 'about/index.html' },
  });
}

describe('adding selling', () => {
  it('says what it will do, does just that, and is taken back as one', async () => {
    const guess = await guessSelling(w.ctx, await w.site());
    expect(guess.pages.map((p) => p.address)).toEqual([
      '/shop/',
      '/cart/',
      '/checkout/',
      '/thank-you/',
      '/payment-failed/',
      '/order-lookup/',
      '/your-orders/',
    ]);
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const site = await w.site();
    const state = await draftState(w.ctx, site);
    expect(state.placements.map((p) => [p.kind, p.reach.to])).toEqual([['cart', 'every']]);
    expect(state.menu).toEqual([expect.objectContaining({ do: 'add', label: 'Shop', to: '/shop/' })]);
    const { manifest } = await computeManifest(w.ctx, site, state);
    expect(
      Object.keys(manifest)
        .filter((p) => !(p in site.manifest))
        .sort(),
    ).toEqual([
      'cart/index.html',
      'checkout/index.html',
      'order-lookup/index.html',
      'payment-failed/index.html',
      'shop/index.html',
      'thank-you/index.html',
      'your-orders/index.html',
    ]);
    expect(await textOf(manifest['shop/index.html'])).toMatch(/<stall-shop main [^>]*cart="\.\.\/cart\/"/);
    expect(await textOf(manifest['index.html'])).toContain('href="shop/">Shop</a>');
    await expect(addSelling(w.ctx, site, { setUp: answers })).rejects.toThrow('added already');
    await undoWaiting(w.ctx, site, 'shop');
    expect(await draftState(w.ctx, await w.site())).toEqual({ placements: [], menu: [], shop: null });
  });

  it('taken back takes along what the menu did with the shop since, and leaves the rest', async () => {
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const site = await w.site();
    await setMenuChanges(w.ctx, site, [
      ...site.row.menu,
      { do: 'move', item: ['About'], at: { under: [], after: 'Shop' } },
      { do: 'move', item: ['Shop'], at: { under: [], before: 'Home' } },
    ]);
    await undoWaiting(w.ctx, await w.site(), 'shop');
    const after = await w.site();
    expect(after.row.menu).toEqual([{ do: 'move', item: ['About'], at: { under: [] } }]);
    expect(
      (await computeManifest(w.ctx, after, await draftState(w.ctx, after))).lost.filter(
        (l) => l.page === 'index.html',
      ),
    ).toEqual([]);
  });

  it('is covered where it stands as it is written, not where it was meant to', async () => {
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const { rows } = await coverage(w.ctx, await w.site());
    // The second page of this site has a header, and no menu in it.
    expect(rows.map((r) => [r.path, r.shopInMenu, r.cart])).toEqual([
      ['index.html', true, true],
      ['about/index.html', false, true],
    ]);
    const site = await w.site();
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    for (const r of rows) {
      const html = await textOf(manifest[r.path]);
      expect([r.path, /<nav[\s\S]*shop\/"[\s\S]*<\/nav>/.test(html), html.includes('<stall-cart')]).toEqual([
        r.path,
        r.shopInMenu,
        r.cart,
      ]);
    }
  });

  it('floats a cart where no header is, and says which pages the menu misses', async () => {
    const bare = (title: string) =>
      `<!doctype html><html lang="de"><head><title>${title}</title></head><body><div class="text"><h1>${title}</h1><p>Ein Satz \u00fcber ${title} und noch einer.</p><p>Und noch ein Absatz.</p></div></body></html>`;
    const { slug } = await bringIn(
      w.ctx,
      {
        how: 'zip',
        fileName: 'x.zip',
        bytes: zipFrom({ 'index.html': bare('Ofen'), 'ton.html': bare('Ton') }),
      },
      { currency: 'EUR', liveUrl: 'https://ofen.example/' },
    );
    const plan = await guessSelling(w.ctx, await loadSite(w.ctx, { slug }));
    expect(plan.cannot.join(' ')).toContain('cannot stand in the menu');
    expect(plan.will.join(' ')).toContain('a cart that floats in the corner, on every page');
    await addSelling(w.ctx, await loadSite(w.ctx, { slug }), { setUp: { country: 'DE', currency: 'EUR' } });
    const site = await loadSite(w.ctx, { slug });
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    for (const path of ['index.html', 'ton.html', 'cart.html'])
      expect([path, /<stall-cart[^>]*position:fixed/.test(await textOf(manifest[path]))]).toEqual([
        path,
        true,
      ]);
    // The cart speaks the site's language.
    expect((await draftState(w.ctx, site)).placements[0]?.settings).toMatchObject({
      text: 'Korb',
      floats: true,
    });
  });

  it('builds the pages that were ticked, and no others', async () => {
    await addSelling(w.ctx, await w.site(), { setUp: answers, shop: { pages: ['account'] } });
    const site = await w.site();
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    expect(manifest['your-orders/index.html']).toBeDefined();
    expect(manifest['order-lookup/index.html']).toBeUndefined();
    const slip = await readSlip(w.ctx, site);
    expect(slip.builtPages).toEqual(['Shop', 'Cart', 'Checkout', 'Thank you', 'Payment failed', 'Account']);
  });

  it('does what its answers say: ways to pay, tax with the rates of the country, weights, dates', async () => {
    const rulesNow = async () => readRules(w.ctx.store.db, (await w.site()).row.id);
    await addSelling(w.ctx, await w.site(), {
      setUp: {
        country: 'DE',
        currency: 'GBP',
        units: 'imperial',
        taxed: true,
        taxIncluded: false,
        takesMoney: ['in-person', 'transfer'],
        account: 'de89 3704 0044 0532 0130 00',
      },
    });
    const rules = await rulesNow();
    expect(rules.pay.ways.map((x) => [x.kind, x.iban])).toEqual([
      ['person', ''],
      ['transfer', 'DE89370400440532013000'],
    ]);
    expect(rules.tax).toMatchObject({ charged: true, included: false, home: { country: 'DE' } });
    expect(rules.tax.rates.map((r) => [r.country, r.class, r.percent])).toEqual([
      ['DE', 'standard', 19],
      ['DE', 'reduced', 7],
      ['DE', 'books', 7],
    ]);
    expect(rules.shipping.unit).toBe('lb');
    expect((await w.site()).row.locale).toBe('en-GB');
  });

  it('charges no tax where none is to be charged, and knows no rates of countries it does not know', async () => {
    await addSelling(w.ctx, await w.site(), { setUp: { ...answers, taxed: true, country: 'US' } });
    const { tax } = await readRules(w.ctx.store.db, (await w.site()).row.id);
    expect([tax.charged, tax.rates]).toEqual([true, []]);
  });

  it('never reads prices in another currency than they were meant in', async () => {
    await w.addGoods('Trug', 4200, 3);
    await expect(
      addSelling(w.ctx, await w.site(), { setUp: { ...answers, currency: 'JPY' } }),
    ).rejects.toThrow('other digits behind the point');
    expect((await w.site()).row).toMatchObject({ currency: 'GBP', shop: null });
  });

  it('asks again in words where an answer is missing', async () => {
    await expect(
      addSelling(w.ctx, await w.site(), { setUp: { ...answers, country: 'Britain' } }),
    ).rejects.toThrow('Choose the country');
    await expect(
      addSelling(w.ctx, await w.site(), { setUp: answers, shop: { slug: '../x' } }),
    ).rejects.toThrow('small letters');
  });

  it("moves the shop: the old address leads on, the menu follows, and the owner's pages are never written over", async () => {
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    await expect(setShop(w.ctx, await w.site(), { slug: 'about' })).rejects.toThrow(
      'has a page at /about already',
    );
    const site = await setShop(w.ctx, await w.site(), { slug: 'wares' });
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    expect(await textOf(manifest['shop/index.html'])).toMatch(
      /location\.replace\("\.\.\/wares\/"\+location\.search.*content="1;url=\.\.\/wares\/"/,
    );
    expect(await textOf(manifest['index.html'])).toContain('href="wares/">Shop</a>');
  });

  it("makes the shop the front page, and keeps the owner's beside it with all its links right", async () => {
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const site = await setShop(w.ctx, await w.site(), { front: true });
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    expect(await textOf(manifest['index.html'])).toContain('<stall-shop main');
    const home = await textOf(manifest['home/index.html']);
    expect(home).toContain('href="/about/"');
    expect(home).not.toContain('<stall-shop');
    expect(await textOf(manifest['shop/index.html'])).toContain('http-equiv="refresh"');
  });
});

describe('publications', () => {
  it('are compared page by page, gone back to byte for byte, and left without a trace', async () => {
    await w.addGoods('Trug', 4200, 3);
    const own = (await w.site()).manifest;
    await placeRow(await w.site());
    const first = await publish(w.ctx, await w.site(), 'test');
    const then = await liveManifest(await w.site());
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const { files } = await changedFiles(w.ctx, await w.site());
    expect(files.filter((f) => f.what === 'added').map((f) => f.path)).toEqual([
      'order-lookup/index.html',
      'shop/index.html',
      'your-orders/index.html',
    ]);
    const texts = await fileTexts(w.ctx, await w.site(), 'index.html');
    expect([texts.before.includes('<stall-cart'), texts.after.includes('<stall-cart')]).toEqual([
      false,
      true,
    ]);
    await expect(fileTexts(w.ctx, await w.site(), 'nowhere.html')).rejects.toThrow('no file nowhere.html');
    await publish(w.ctx, await w.site(), 'test');
    await rollBack(w.ctx, await w.site(), first.id, 'test');
    expect(await liveManifest(await w.site())).toEqual(then);
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    const slip = await readSlip(w.ctx, await w.site());
    expect(slip.past.map((p) => p.current)).toEqual([true, false, false]);
    await expect(rollBack(w.ctx, await w.site(), slip.past[0]?.id ?? '', 'test')).rejects.toThrow('live now');
    const proof = await leave(w.ctx, await w.site(), 'test');
    expect(proof.same).toBe(proof.all);
    expect(proof.removed).toContain('cart/index.html');
    expect(await liveManifest(await w.site())).toEqual(own);
    expect(publishedState(await currentPublication(w.ctx, (await w.site()).row))).toEqual({
      placements: [],
      menu: [],
      shop: null,
    });
  });
});

/** A site whose host may refuse, like a disk that is full or a password that was changed. */
async function hosted(): Promise<{ answers: { status: number }; end: () => void }> {
  const answers = { status: 201 };
  const server = createServer((req, res) => {
    req.resume();
    req.on('end', () => void res.writeHead(answers.status).end());
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const endpoint = `http://127.0.0.1:${(server.address() as AddressInfo).port}/sites/tiny`;
  await w.ctx.store.write((tx) => tx.update(sites).set({ delivery: { to: 'host', endpoint, key: 'k' } }));
  return { answers, end: () => server.close() };
}

it('leaving and going back, where the host refuses, leave draft, history and live site as they were', async () => {
  const host = await hosted();
  try {
    await w.addGoods('Trug', 4200, 3);
    await placeRow(await w.site());
    const first = await publish(w.ctx, await w.site(), 'test');
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    await publish(w.ctx, await w.site(), 'test');
    await placeRow(await w.site(), { heading: 'Waits' });
    const before = {
      draft: await draftState(w.ctx, await w.site()),
      slip: await readSlip(w.ctx, await w.site()),
      live: await liveManifest(await w.site()),
    };
    host.answers.status = 507;
    await expect(leave(w.ctx, await w.site(), 'test')).rejects.toThrow();
    await expect(rollBack(w.ctx, await w.site(), first.id, 'test')).rejects.toThrow();
    await expect(publish(w.ctx, await w.site(), 'test')).rejects.toThrow();
    expect({
      draft: await draftState(w.ctx, await w.site()),
      slip: await readSlip(w.ctx, await w.site()),
      live: await liveManifest(await w.site()),
    }).toEqual(before);
    host.answers.status = 201;
    expect((await rollBack(w.ctx, await w.site(), first.id, 'test')).delivered).toBe('host');
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    const proof = await leave(w.ctx, await w.site(), 'test');
    expect(proof.same).toBe(proof.all);
    expect(await draftState(w.ctx, await w.site())).toEqual({ placements: [], menu: [], shop: null });
  } finally {
    host.end();
  }
});

it('words that only hold a place do not go live: the owner is asked for their own first', async () => {
  const site = await w.site();
  const [pitch] = listPitches(await loadPage(w.ctx, site, 'about/index.html'));
  if (!pitch) throw new Error('no pitch');
  const made = await place(w.ctx, site, {
    kind: 'notice',
    settings: { text: UNWRITTEN },
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: { to: 'page', page: 'about/index.html' },
  });
  await expect(publish(w.ctx, await w.site(), 'test')).rejects.toThrow(/notice on About still says/);
  await change(w.ctx, await w.site(), made.id, { settings: { text: 'Closed in May.' } });
  expect((await publish(w.ctx, await w.site(), 'test')).changes).toBe(1);
});

it('what the owner puts up is compared with what was published, page by page', async () => {
  await w.addGoods('Trug', 4200, 3);
  await placeRow(await w.site());
  expect(await publish(w.ctx, await w.site(), 'test')).toMatchObject({ delivered: 'download' });
  const manifest = await liveManifest(await w.site());
  const up = new Map<string, Buffer>();
  const server = createServer((req, res) => {
    const path = `${(req.url ?? '/').slice(1)}`.replace(/\/$|^$/, (m) => `${m}index.html`);
    const bytes = up.get(path);
    void res.writeHead(bytes ? 200 : 404, { 'content-type': 'text/html' }).end(bytes);
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  try {
    const liveUrl = `http://tiny.localhost:${(server.address() as AddressInfo).port}/`;
    await w.ctx.store.write((tx) => tx.update(sites).set({ liveUrl }));
    const none = await hasBeenPutUp(w.ctx, await w.site());
    expect([none.same, none.other.length]).toEqual([0, none.looked]);
    for (const [path, hash] of Object.entries(manifest)) up.set(path, await w.ctx.blobs.get(hash));
    expect(await hasBeenPutUp(w.ctx, await w.site())).toMatchObject({ same: none.looked, other: [] });
    up.set('cart/index.html', Buffer.from('<p>altered by the host'));
    expect((await hasBeenPutUp(w.ctx, await w.site())).other).toEqual([
      { address: '/cart/', says: 'is there, but not as it was published' },
    ]);
  } finally {
    server.close();
  }
});

it('leaving does not bring a newer version out that only waits in the draft', async () => {
  await w.addGoods('Trug', 4200, 3);
  await placeRow(await w.site());
  const own = (await w.site()).manifest;
  await publish(w.ctx, await w.site(), 'test');
  await bringInNewer(w.ctx, await w.site(), {
    how: 'zip',
    fileName: 'n.zip',
    bytes: zipFrom({ ...tinySite, 'new.html': '<title>New</title><p>New' }),
  });
  const proof = await leave(w.ctx, await w.site(), 'test');
  expect(await liveManifest(await w.site())).toEqual(own);
  expect([proof.same, proof.all]).toEqual([2, 2]);
});

describe('a newer version of the site', () => {
  it('comes into the draft alone: widgets are found again, ours is taken out of it, and it is gone back from', async () => {
    await w.addGoods('Trug', 4200, 3);
    const made = await placeRow(await w.site());
    await publish(w.ctx, await w.site(), 'test');
    const before = await w.site();
    const live = await liveManifest(before);
    // As an owner exports it after publishing: with our marks in it, and then edited.
    const exported = Object.fromEntries(
      await Promise.all(Object.entries(live).map(async ([path, hash]) => [path, await textOf(hash)])),
    );
    const edited = {
      ...exported,
      'about/index.html': (exported['about/index.html'] ?? '').replace(
        '<main>',
        '<main><p>News of the week, quite long enough.</p>',
      ),
      'new.html': '<title>New</title><p>New',
    };
    const report = await bringInNewer(w.ctx, before, {
      how: 'zip',
      fileName: 'n.zip',
      bytes: zipFrom(edited),
    });
    expect(report.pages).toMatchObject({ added: ['new.html'], changed: ['about/index.html'], removed: [] });
    expect([report.found, report.lost]).toEqual([1, []]);
    const site = await w.site();
    expect(Object.keys(site.manifest).sort()).toEqual([...Object.keys(tinySite), 'new.html'].sort());
    expect(await textOf(site.manifest['about/index.html'])).not.toContain('stall');
    expect(await liveManifest(site)).toEqual(live);
    expect((await readSlip(w.ctx, site)).waiting.map((l) => l.id)).toEqual(['newer']);
    expect((await benchView(w.ctx, site, 'about/index.html')).placements.map((p) => p.id)).toEqual([made.id]);
    await undoWaiting(w.ctx, site, 'newer');
    expect((await w.site()).manifest).toEqual(before.manifest);
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
  });

  it('whose pitch went says so with the likeliest spot, and refuses what is no site or the same', async () => {
    await w.addGoods('Trug', 4200, 3);
    await placeRow(await w.site());
    const site = await w.site();
    await expect(
      bringInNewer(w.ctx, site, { how: 'zip', fileName: 'n.zip', bytes: zipFrom(tinySite) }),
    ).rejects.toThrow('nothing changed');
    await expect(
      bringInNewer(w.ctx, site, { how: 'zip', fileName: 'n.zip', bytes: zipFrom({ 'a.txt': 'x' }) }),
    ).rejects.toThrow('No page was found');
    const report = await bringInNewer(w.ctx, site, {
      how: 'zip',
      fileName: 'n.zip',
      bytes: zipFrom({ 'index.html': tinySite['index.html'] ?? '' }),
    });
    expect(report.pages.removed).toEqual(['about/index.html']);
    expect(report.lost).toMatchObject([{ page: 'about/index.html', why: expect.stringContaining('gone') }]);
  });
});

describe('a widget that was handed out', () => {
  it('is looked for where it was pasted, with its script, in each spelling', async () => {
    await w.addGoods('Trug', 4200, 3);
    let served = '';
    const server = createServer(
      (_, res) =>
        void res.writeHead(200, { 'content-type': 'text/html' }).end(`<title>t</title><p>${served}`),
    );
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    const site = await w.site();
    const ask = (spelling: string) =>
      hasArrived(w.ctx, site, { url, placement: 'abcdefgh12', kind: 'buy', spelling });
    const script = `<script async src="${w.ctx.addresses.shop}/stall.js"></script>`;
    try {
      expect(await ask('element')).toMatchObject({
        found: false,
        says: expect.stringContaining('not on that page'),
      });
      served = '<stall-buy goods="trug" placement="abcdefgh12"></stall-buy>';
      expect(await ask('element')).toMatchObject({
        found: false,
        says: expect.stringContaining('Paste the script'),
      });
      served += script;
      expect(await ask('element')).toMatchObject({ found: true });
      served = `[stall buy goods=\u201ctrug\u201d placement=abcdefgh12] ${script}`;
      expect(await ask('shortcode')).toMatchObject({ found: true });
      served = `[stall buy placement=abcdefgh12] ${script}`;
      expect(await ask('shortcode')).toMatchObject({
        found: false,
        says: expect.stringContaining('Choose the product'),
      });
      served = `<iframe src="${w.ctx.addresses.shop}/${site.row.slug}/frame/buy?goods=trug"></iframe>`;
      expect(await ask('frame')).toMatchObject({ found: true });
      served = `&lt;stall-buy goods="trug" placement="abcdefgh12"&gt;&lt;/stall-buy&gt; ${script}`;
      expect(await ask('element')).toMatchObject({
        found: false,
        says: expect.stringContaining('stands there as text, in line 1'),
      });
      served = '<div data-stall-fragment="buy"></div>';
      expect(await ask('ssi')).toMatchObject({ found: true });
      served = `<a href="${w.ctx.addresses.shop}/${site.row.slug}/goods/trug?via=abcdefgh12">x</a>`;
      expect(await ask('link')).toMatchObject({ found: true });
    } finally {
      server.close();
    }
    await expect(ask('element')).rejects.toThrow('does not answer');
  });
});

it('a page of the owner’s that takes the shop’s address moves the shop aside, and the menu item with it', async () => {
  const w = await makeWorld();
  await addSelling(w.ctx, await w.site(), { setUp: answers });
  const to = async () => (await w.site()).row.menu.flatMap((c) => (c.do === 'add' ? [c.to] : []));
  expect(await to()).toEqual(['/shop/']);
  await bringInNewer(w.ctx, await w.site(), {
    how: 'zip',
    fileName: 'n.zip',
    bytes: zipFrom({ ...tinySite, 'shop/index.html': '<title>The shed</title><p>Where we work' }),
  });
  const page = shopPagesOf(await w.site(), (await w.site()).row.shop).find((p) => p.part === 'shop');
  expect(page?.address).not.toBe('/shop/');
  expect(await to()).toEqual([page?.address]);
  await w.end();
});

describe('coverage', () => {
  it('counts presses to the nearest page that sells', () => {
    const page = (path: string, links: string[], sells = false) => ({ path, links, sells, toShop: false });
    expect(
      Object.fromEntries(
        distances([page('a', ['b']), page('b', ['c']), page('c', [], true), page('island', [])]),
      ),
    ).toEqual({ a: 2, b: 1, c: 0 });
  });

  it('follows what the draft places', async () => {
    const bare = await coverage(w.ctx, await w.site());
    expect(bare.rows.every((r) => r.clicks === null && !r.cart && !r.shopInMenu)).toBe(true);
    expect(bare.mend.cart.can).toBe(true);
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const sold = await coverage(w.ctx, await w.site());
    expect(sold.rows.map((r) => [r.cart, r.shopInMenu, r.clicks])).toEqual([
      [true, true, 4],
      [true, false, 5],
    ]);
    const menu = await menuView(w.ctx, await w.site());
    expect(menu.items.map((i) => [i.label, i.added])).toContainEqual(['Shop', true]);
    // The about page of this site has no menu: its copy is told apart.
    expect(menu.copies.map((c) => c.takes)).toContain(true);
    expect(edgePitch(await loadPage(w.ctx, await w.site(), 'index.html'), 'header', 'end')).toBeDefined();
  });
});

describe('widgets as the server draws them', () => {
  const draw = async (
    kind: string,
    attributes: Record<string, string> = {},
    asked: Record<string, string> = {},
  ) => {
    const { readState } = await import('../../core/storefront/shop-front');
    return (
      await drawWidget(w.ctx, await w.site(), {
        kind,
        attributes: new Map(Object.entries(attributes)),
        state: readState(new URLSearchParams(asked)),
      })
    ).text;
  };

  it('show what there is, forgive a wrong letter, and refuse what does not fit', async () => {
    await w.addGoods('Berry trug', 4200, 2);
    await w.addGoods('Gut line', 320, 0);
    expect(await draw('row', { source: 'all', form: 'table' })).toMatch(
      /Berry trug[\s\S]*£42\.00[\s\S]*Only 2 left[\s\S]*Gut line[\s\S]*Sold out/,
    );
    expect(await draw('shop', {}, { find: 'bery trugs' })).toContain('Berry trug');
    expect(await draw('shop', {}, { find: 'bicycle' })).toContain('Nothing was found');
    expect(await draw('shop', { 'per-page': '1' }, { page: '99' })).toContain('Page 2 of 2');
    expect(await draw('shop', {}, { goods: 'berry-trug' })).toContain('Back to all goods');
    expect(await draw('card', { goods: 'gone' })).toContain('not for sale any more');
    expect(await draw('row', { source: 'all', lang: 'de' })).toContain('Kaufen: Berry trug, in den Korb');
    await expect(draw('row', { limit: 'many' })).rejects.toThrow();
    await expect(draw('row', { colour: 'red' })).rejects.toThrow('no setting "colour"');
    await expect(draw('releases')).rejects.toThrow();
  });
});
