import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { drawWidget } from '../storefront/widgets';
import { readRules } from '../rules/rules';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { addSelling, guessSelling, setShop } from './add-selling';
import { coverage } from '../publishing/coverage';
import { setMenuChanges } from './menus';
import { bringInNewer } from './newer';
import { computeManifest } from '../publishing/publish';
import { bringIn } from './bring-in';
import { loadSite } from './site';
import { shopPagesOf } from './shop-places';
import { readSlip } from './slip';
import { draftState } from './state';
import { undoWaiting } from './undo-waiting';
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const answers = { country: 'GB', currency: 'GBP' };
const textOf = async (hash: string | undefined) => (await w.ctx.blobs.get(hash ?? '')).toString();

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
    // One of its two pages has no menu: that is said, and what it gets instead.
    expect(guess.will).toContain('“Shop” in the menu of 1 of 2 pages');
    expect(guess.will).toContain('a line “Shop” at the head of the content, on 1 of 2 pages');
    expect(guess.cannot).toEqual(['About has no menu of that make, so the shop is not in it there.']);
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const site = await w.site();
    const state = await draftState(w.ctx, site);
    expect(state.placements.map((p) => [p.kind, p.reach.to])).toEqual([
      ['cart', 'every'],
      ['categories', 'pages'],
    ]);
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
    expect(await draftState(w.ctx, await w.site())).toEqual({
      placements: [],
      menu: [],
      repairs: [],
      shop: null,
      look: null,
    });
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
        takesMoney: ['person', 'transfer'],
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
    // Its own menu item leads to where it is now; and back, once the shop is somewhere else again.
    expect(home).toMatch(/<a href="[^"]*"[^>]*>Home<\/a>/);
    expect(home).not.toMatch(/<a href="\/">Home<\/a>/);
    const back = await setShop(w.ctx, site, { front: false });
    expect(back.row.menu).toEqual([expect.objectContaining({ do: 'add', label: 'Shop' })]);
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
