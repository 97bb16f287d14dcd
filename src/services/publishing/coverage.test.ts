import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { edgePitch } from '../../core/site/pitch';
import { makeWorld, type World } from '../testing';
import { addSelling } from '../sites/add-selling';
import { coverage, distances } from './coverage';
import { menuView } from '../sites/menus';
import { loadPage } from '../sites/site';
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const answers = { country: 'GB', currency: 'GBP' };

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
      [true, false, 4],
    ]);
    const menu = await menuView(w.ctx, await w.site());
    expect(menu.items.map((i) => [i.label, i.added])).toContainEqual(['Shop', true]);
    // The about page of this site has no menu: its copy is told apart.
    expect(menu.copies.map((c) => c.takes)).toContain(true);
    expect(edgePitch(await loadPage(w.ctx, await w.site(), 'index.html'), 'header', 'end')).toBeDefined();
  });
});
