import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { handOutView, lookForPieces, setHandOut } from '../publishing/hand-out-list';
import { leave, publish } from '../publishing/publish';
import { renderPage, rendering } from '../publishing/render';
import { backTo } from '../till/providers';
import { makeWorld, type World } from '../testing';
import { pageOf, shopHome } from './addresses';
import { addSelling } from './add-selling';
import { bringIn } from './bring-in';
import { plainPage } from './shop-pages';
import { readAgain } from './newer';
import { loadSite, type Site } from './site';
import { readSlip } from './slip';
import { draftState } from './state';

let w: World;
let url = '';
let pages: Record<string, string> = {};
let close = async (): Promise<void> => {};

const words = 'Wool from the hill, spun by the fire and dyed with what grows beside the door of the house.';
const made = (title: string, main = `<h1>${title}</h1><p>${title}: ${words}</p>`, menu = '') =>
  `<!doctype html><html lang="en"><head><title>${title} - Hill Wool</title></head><body><header><a href="/">Hill Wool</a><nav><ul><li><a href="/">Home</a></li><li><a href="/wool">Wool</a></li><li><a href="/about/">About</a></li>${menu}</ul></nav></header><main>${main}</main><footer><p>Hill Wool, up the lane</p></footer></body></html>`;

beforeEach(async () => {
  w = await makeWorld();
  pages = { '/': made('Home'), '/wool': made('Wool'), '/about/': made('About') };
  const server = createServer((req, res) => {
    const page = pages[new URL(req.url ?? '/', 'http://x.invalid').pathname];
    res
      .writeHead(page === undefined ? 404 : 200, { 'content-type': 'text/html; charset=utf-8' })
      .end(page ?? 'gone');
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  close = () => new Promise((closed) => server.close(() => closed()));
});
afterEach(async () => {
  await close();
  await w.end();
});

const again = (site: Site) => loadSite(w.ctx, { id: site.row.id });

async function connected(): Promise<Site> {
  const brought = await bringIn(w.ctx, { how: 'live', url }, { currency: 'GBP', liveUrl: '' });
  return loadSite(w.ctx, { id: brought.id });
}

/** Selling added and published; the shop's page named. */
async function selling(): Promise<Site> {
  const site = await connected();
  await addSelling(w.ctx, site, {
    setUp: { country: 'GB', currency: 'GBP', units: 'metric', sells: ['ships'] },
  });
  await publish(w.ctx, await again(site), 'Jo');
  await setHandOut(w.ctx, await again(site), { shopPage: `${url}our-shop` });
  return again(site);
}

/** Pastes all that is listed, as an owner does. */
async function pasteAll(site: Site): Promise<void> {
  const { pieces } = await handOutView(w.ctx, site);
  const code = (id: string) => pieces.find((p) => p.id === id)?.code ?? '';
  pages['/our-shop'] = made('Our shop', `<h1>Our shop</h1>${code('shop')}`);
  for (const [address, page] of Object.entries(pages))
    pages[address] = page
      .replace('</ul>', '<li><a href="/our-shop">Shop</a></li></ul>')
      .replace('</body>', `${code('script')}</body>`);
}

describe('a site that is read from its live address', () => {
  it('has the addresses of its host, and is where it was found', async () => {
    const site = await connected();
    expect(site.reading.pages.map((p) => [p.path, p.address])).toEqual([
      ['index.html', '/'],
      ['wool.html', '/wool'],
      ['about/index.html', '/about/'],
    ]);
    expect(site.row).toMatchObject({ liveUrl: url, delivery: { to: 'paste' }, name: 'Hill Wool' });
    expect(site.reading.menu.map((m) => [m.label, m.page])).toEqual([
      ['Home', 'index.html'],
      ['Wool', 'wool.html'],
      ['About', 'about/index.html'],
    ]);
  });

  it('is connected once', async () => {
    await connected();
    await expect(connected()).rejects.toThrow('is connected already');
  });

  it('leads shoppers to its own shop page as soon as the shop stands there, and no longer than that', async () => {
    const site = await selling();
    const plain = `${w.ctx.addresses.shop}/${site.row.slug}`;
    expect(shopHome(w.ctx, site)).toBe(`${plain}/goods`);
    expect(backTo(w.ctx, site, 'site', 'thanks', 'tok')).toBe(`${plain}/thanks/tok`);
    await pasteAll(site);
    const view = await lookForPieces(w.ctx, site);
    expect(view.pieces.map((p) => [p.id, p.state])).toEqual([
      ['script', 'there'],
      ['shop', 'there'],
      ['menu:Shop', 'there'],
    ]);
    const live = await again(site);
    expect(shopHome(w.ctx, live)).toBe(`${url}our-shop`);
    expect(pageOf(w.ctx, live, 'trug')).toBe(`${url}our-shop?goods=trug`);
    expect(backTo(w.ctx, live, 'site', 'thanks', 'tok')).toBe(`${url}our-shop?step=thanks&order=tok`);
    pages['/our-shop'] = made('Our shop');
    await lookForPieces(w.ctx, live);
    expect(shopHome(w.ctx, await again(site))).toBe(`${plain}/goods`);
  });

  it('read again shows nothing twice: what was pasted is ours, and so are the shop page and its item in the menu', async () => {
    const site = await selling();
    await pasteAll(site);
    pages['/wool'] = (pages['/wool'] ?? '').replace('<h1>Wool', '<h1>New wool');
    await lookForPieces(w.ctx, site);
    await readAgain(w.ctx, await again(site));
    const newer = await again(site);
    expect(Object.keys(newer.manifest).sort()).toEqual(['about/index.html', 'index.html', 'wool.html']);
    const front = (await w.ctx.blobs.get(newer.manifest['index.html'] ?? '')).toString();
    expect(front).not.toMatch(/stall/);
    const written = await renderPage(
      w.ctx,
      await rendering(w.ctx, newer, await draftState(w.ctx, newer)),
      'index.html',
    );
    const text = Buffer.from(written.bytes).toString();
    expect(text.split('>Shop</a>')).toHaveLength(2);
    expect(text.split('<stall-cart')).toHaveLength(2);
    const chrome = Buffer.from(await plainPage(w.ctx, newer, { title: 't', main: 'm', head: '' })).toString();
    expect(chrome.split('>Shop</a>')).toHaveLength(2);
    // Nothing of ours changed: the slip tells of the owner's own pages alone.
    const waits = await readSlip(w.ctx, newer);
    expect(waits.waiting.map((l) => l.what)).toEqual(['A newer version of the site']);
  });

  it('keeps a page of the owner\u2019s that the shop was pasted into, and sees code of another day', async () => {
    const site = await selling();
    await setHandOut(w.ctx, site, { shopPage: `${url}wool` });
    const now = await again(site);
    const { pieces } = await handOutView(w.ctx, now);
    const [script = '', front = ''] = ['script', 'shop'].map(
      (id) => pieces.find((p) => p.id === id)?.code ?? '',
    );
    pages['/wool'] = (pages['/wool'] ?? '').replace('</main>', `${front}</main>`);
    for (const address of Object.keys(pages))
      pages[address] = (pages[address] ?? '').replace(
        '</body>',
        `${script.replace('step=checkout', 'step=old')}</body>`,
      );
    const seen = await lookForPieces(w.ctx, now);
    expect(seen.pieces.map((p) => [p.id, p.state])).toEqual([
      ['script', 'missing'],
      ['shop', 'there'],
      ['menu:Shop', 'there'],
    ]);
    pages['/'] = (pages['/'] ?? '').replace('<h1>Home', '<h1>New home');
    await readAgain(w.ctx, await again(site));
    expect((await again(site)).manifest['wool.html']).toBeDefined();
  });

  it('leads nobody to a front that was seen in a way of writing that is no longer asked for', async () => {
    const site = await selling();
    await pasteAll(site);
    await lookForPieces(w.ctx, site);
    await setHandOut(w.ctx, await again(site), { offers: { blocks: false, foot: true } });
    pages['/our-shop'] = made('Our shop');
    await lookForPieces(w.ctx, await again(site));
    expect(shopHome(w.ctx, await again(site))).toBe(`${w.ctx.addresses.shop}/${site.row.slug}/goods`);
  });

  it('is left with a list of what still stands there, until it is gone', async () => {
    const site = await selling();
    const bare = { ...pages };
    await pasteAll(site);
    await lookForPieces(w.ctx, site);
    await leave(w.ctx, await again(site), 'Jo');
    const left = await handOutView(w.ctx, await again(site));
    expect(left.pieces).toEqual([]);
    expect(left.out.map((o) => o.name)).toEqual(
      expect.arrayContaining(['The script', 'The shop front', 'The menu item \u201cShop\u201d']),
    );
    delete pages['/our-shop'];
    Object.assign(pages, bare);
    expect((await lookForPieces(w.ctx, await again(site))).out).toEqual([]);
  });

  it('takes no shop page on another host', async () => {
    const site = await connected();
    await expect(setHandOut(w.ctx, site, { shopPage: 'https://elsewhere.example/shop' })).rejects.toThrow(
      'on your own site',
    );
    await expect(setHandOut(w.ctx, site, { shopPage: 'shop' })).rejects.toThrow('whole address');
  });
});

it('a site that Green Stall writes itself has no such list', async () => {
  await expect(setHandOut(w.ctx, await w.site(), { shopPage: '' })).rejects.toThrow(
    'nothing has to be pasted',
  );
});
