import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { listPitches } from '../../core/site/pitch';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { benchView, pitchesOf } from '../publishing/bench';
import { bringIn, siteSettings } from './bring-in';
import { siteOverview } from './overview';
import { place } from './placing';
import { publish } from '../publishing/publish';
import { loadPage, loadSite, type Site } from './site';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const settings = siteSettings.parse({ currency: 'GBP', liveUrl: 'https://x.example' });
const bring = async (files: Record<string, string>): Promise<Site> =>
  loadSite(w.ctx, {
    id: (await bringIn(w.ctx, { how: 'zip', fileName: 'x.zip', bytes: zipFrom(files) }, settings)).id,
  });
const columns = async (site: Site) =>
  (await siteOverview(w.ctx, site)).columns.map((c) => [c.name, c.inMenu, c.pages.map((p) => p.path)]);

describe('the site as its owner thinks of it', () => {
  it('is columns in the order of the menu, each page in one of them', async () => {
    const menu =
      '<nav><ul><li><a href="/">Home</a><li><a href="/news/">News</a><ul><li><a href="/old.html">Old news</a></ul></ul></nav>';
    const page = (title: string) =>
      `<title>${title}</title><header>${menu}</header><main><h1>${title}</h1></main>`;
    const site = await bring({
      'index.html': page('Home'),
      'news/index.html': page('News'),
      'news/rain.html': page('Rain'),
      'old.html': page('Old'),
      'secret.html': page('Secret'),
    });
    expect(await columns(site)).toEqual([
      ['Home', true, ['index.html']],
      ['News', true, ['news/index.html', 'old.html', 'news/rain.html']],
      ['Not in a menu', false, ['secret.html']],
    ]);
  });

  it('without a menu is simply its pages', async () => {
    const site = await bring({ 'index.html': '<p>one', 'two.html': '<p>two' });
    expect(await columns(site)).toEqual([['Pages', false, ['index.html', 'two.html']]]);
  });

  it('counts what sells, marks what waits, and shows the pages built for the shop', async () => {
    await w.addGoods('Trug', 4200, null);
    let site = await w.site();
    const home = await loadPage(w.ctx, site, 'index.html');
    const end = listPitches(home).find((p) => p.label === 'at the end of the header');
    if (!end) throw new Error('no header');
    await place(w.ctx, site, {
      kind: 'cart',
      settings: {},
      pitch: end.address,
      pitchLabel: end.label,
      reach: { to: 'every', except: [] },
    });
    const waiting = await siteOverview(w.ctx, site);
    expect(waiting).toMatchObject({ isLive: false, withCart: 6, pageCount: 6 });
    expect(waiting.columns.at(-1)).toMatchObject({
      name: 'Built for the shop',
      pages: [{ name: 'Cart' }, { name: 'Checkout' }, { name: 'Thank you' }, { name: 'Payment failed' }],
    });
    expect(waiting.columns.flatMap((c) => c.pages).every((p) => p.onSlip)).toBe(true);
    await publish(w.ctx, site, 'test');
    site = await w.site();
    const live = await siteOverview(w.ctx, site);
    expect(live.isLive).toBe(true);
    expect(live.columns.flatMap((c) => c.pages).some((p) => p.onSlip)).toBe(false);
  });
});

describe('the bench of a page', () => {
  it('knows pitches, regions, and how each widget is written', async () => {
    await w.addGoods('Trug', 4200, null);
    const site = await w.site();
    const pitch = listPitches(await loadPage(w.ctx, site, 'about/index.html')).find(
      (p) => p.label === 'after “more”',
    );
    if (!pitch) throw new Error('no pitch');
    const made = await place(w.ctx, site, {
      kind: 'buy',
      settings: { goods: 'trug' },
      pitch: pitch.address,
      pitchLabel: pitch.label,
      reach: { to: 'page', page: 'about/index.html' },
    });
    const view = await benchView(w.ctx, site, 'about/index.html');
    expect(view.page).toMatchObject({ path: 'about/index.html', address: '/about/', name: 'About' });
    expect(view.regions.map((r) => r.region)).toEqual(['header', 'main', 'footer']);
    expect(view.placements).toMatchObject([{ id: made.id, pages: 1 }]);
    expect(view.placements[0]?.written.element).toMatch(
      /^<stall-buy .* cart="https:\/\/tiny\.example\/cart\/" .*<\/stall-buy>$/,
    );
    expect(view.shelf.map((k) => [k.kind, k.pages])).toEqual([
      ['buy', 1],
      ...[
        'cart',
        'card',
        'row',
        'shop',
        'categories',
        'search',
        'lookup',
        'account',
        'reviews',
        'releases',
        'price',
        'notice',
      ].map((k) => [k, 0]),
    ]);
    for (const how of Object.values(view.placements[0]?.written ?? {})) expect(how).toMatch(/trug/);
    expect((await pitchesOf(w.ctx, site, 'about/index.html')).map((p) => p.label)).toContain('after “more”');
    await expect(benchView(w.ctx, site, 'gone.html')).rejects.toThrow('no page gone.html');
  });

  it('refuses a pitch that is not there, a product that is not chosen, and a page that is not one', async () => {
    const site = await w.site();
    const pitch = listPitches(await loadPage(w.ctx, site, 'index.html'))[3];
    if (!pitch) throw new Error('no pitch');
    const at = { pitch: pitch.address, pitchLabel: pitch.label };
    const reach = { to: 'page' as const, page: 'index.html' };
    await expect(place(w.ctx, site, { kind: 'buy', settings: {}, ...at, reach })).rejects.toThrow();
    await expect(
      place(w.ctx, site, { kind: 'cart', settings: {}, ...at, reach: { to: 'page', page: 'nothing.html' } }),
    ).rejects.toThrow('at least one page');
    await expect(
      place(w.ctx, site, {
        kind: 'cart',
        settings: {},
        reach,
        pitchLabel: 'after nothing',
        pitch: { ...pitch.address, path: 'div:7', row: 'x', around: ['p:x:', 'p:y:', 'p:z:', ''] },
      }),
    ).rejects.toThrow('cannot stand after nothing');
    expect(Object.keys(tinySite)).toHaveLength(2);
  });
});
