import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { cartSpots } from '../../core/site/cart-spots';
import { computeManifest } from '../publishing/publish';
import { makeWorld, type World, zipFrom } from '../testing';
import { addSelling } from './add-selling';
import { bringIn } from './bring-in';
import { toCartSpot } from './cart-spot';
import { loadPage, loadSite, type Site } from './site';
import { draftState } from './state';
import { readSlip } from './slip';
import { undoWaiting } from './undo-waiting';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const links = '<a href="/a.html">Nets</a><a href="/b.html">Floats</a><a href="/c.html">Lines</a>';
const bar = `<header><div class="row"><a href="/">Skerry</a><nav><ul>${links.replace(/<a.*?<\/a>/g, '<li>$&</li>')}</ul></nav></div><p class="below">By the harbour</p></header>`;
const desk = `<header class="desk"><p>Skerry at the desk</p><div><span>Since spring</span><nav>${links}</nav></div></header>`;
const page = (head: string, name: string) =>
  `<!doctype html><html lang="en-GB"><title>${name}</title><body>${head}<main><h1>${name}</h1><p>Words of ${name}.</p></main><footer>Skerry, by the harbour</footer></body></html>`;

async function sells(files: Record<string, string>) {
  const { slug } = await bringIn(
    w.ctx,
    { how: 'zip', fileName: 'skerry.zip', bytes: zipFrom(files) },
    { currency: 'GBP', liveUrl: 'https://skerry.example/' },
  );
  const added = await addSelling(w.ctx, await loadSite(w.ctx, { slug }), {
    setUp: { country: 'GB', currency: 'GBP' },
  });
  return { added, site: () => loadSite(w.ctx, { slug }) };
}

const textOf = async (site: Site, path: string): Promise<string> => {
  const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
  return (await w.ctx.blobs.get(manifest[path] ?? '')).toString();
};

const ofOne = Object.fromEntries(['index', 'a', 'b', 'c'].map((name) => [`${name}.html`, page(bar, name)]));

describe('the spot of a cart', () => {
  it('is one of those that the header has, all of them other places', async () => {
    const { site } = await sells(ofOne);
    const spots = cartSpots(await loadPage(w.ctx, await site(), 'index.html'));
    expect(spots.length).toBeGreaterThan(3);
    expect(new Set(spots.map((s) => s.offset)).size).toBe(spots.length);
  });

  it('changes on every page that has it, with one placement', async () => {
    const { added, site } = await sells(ofOne);
    const { placement = '', pages = [] } = added.cart ?? {};
    expect(pages).toHaveLength(1);
    const path = pages[0] ?? '';
    const before = await textOf(await site(), 'b.html');
    const spots = cartSpots(await loadPage(w.ctx, await site(), path));
    const n = spots.findIndex((s) => s.label.includes('Nets') || s.address.side === 'after');
    await toCartSpot(w.ctx, await site(), { placement, page: path, n });
    const after = await textOf(await site(), 'b.html');
    expect(after).not.toBe(before);
    expect(after).toMatch(/<\/nav>\s*(<!--[^>]*-->)?\s*<stall-cart/);
    expect((await draftState(w.ctx, await site())).placements).toHaveLength(1);
  });

  it('of one make of header says nothing of another: its pages get a cart of their own, taken back as one', async () => {
    const { added, site } = await sells({
      ...ofOne,
      ...Object.fromEntries(['d', 'e'].map((name) => [`${name}.html`, page(desk, name)])),
    });
    const { placement = '', pages = [] } = added.cart ?? {};
    expect(pages).toHaveLength(2);
    const own = await site();
    await toCartSpot(w.ctx, own, { placement, page: 'd.html', n: 'corner' });
    const { waiting } = await readSlip(w.ctx, await site());
    expect(waiting.map((l) => l.what).filter((what) => what.startsWith('Cart'))).toEqual([
      'Cart added at the end of the header',
      'Cart added in the corner of the window',
    ]);
    expect(await textOf(await site(), 'e.html')).toMatch(/<stall-cart[^>]*position:fixed/);
    const others = await textOf(await site(), 'a.html');
    expect(others).toContain('<stall-cart');
    expect(others).not.toMatch(/<stall-cart[^>]*position:fixed/);
    expect((await draftState(w.ctx, await site())).placements).toHaveLength(2);
    await undoWaiting(w.ctx, await site(), 'shop');
    expect((await draftState(w.ctx, await site())).placements).toEqual([]);
  });

  it('that a page does not have is refused, and nothing changes', async () => {
    const { added, site } = await sells(ofOne);
    const { placement = '' } = added.cart ?? {};
    const before = await draftState(w.ctx, await site());
    for (const to of [
      { placement, page: 'index.html', n: 49 },
      { placement: 'nobody', page: 'index.html', n: 0 },
      { placement, page: 'nowhere.html', n: 0 },
    ])
      await expect(toCartSpot(w.ctx, await site(), to)).rejects.toThrow('Look at it again');
    expect(await draftState(w.ctx, await site())).toEqual(before);
  });
});
