import { expect, it } from 'vitest';
import { makeWorld } from '../testing';
import { addToCart } from './add-to-cart';
import { setCode, setPlace } from './cart-changes';
import { readRules, saveRules } from '../rules/rules';
import { tillView, tryCart } from './try-cart';

it('"Try a cart" and a shopper\u2019s cart are the same sum; rules that are only typed count in the first alone, and nothing is kept', async () => {
  const w = await makeWorld();
  try {
    const trug = await w.addGoods('Trug', 4200, null, {
      variants: [{ stock: null, weight: 800 }],
      categories: ['Baskets'],
    });
    const plans = await w.addGoods('Plans', 900, null, { kind: 'download', was: 1200 });
    const set = async (part: 'tax' | 'shipping' | 'discounts', value: unknown) =>
      saveRules(
        w.ctx,
        await w.site(),
        { part, value, from: (await readRules(w.ctx.store.db, (await w.site()).row.id))[part] },
        'test',
      );
    await set('tax', {
      included: true,
      home: { country: 'GB' },
      rates: [
        { country: 'GB', percent: 20 },
        { country: 'FR', percent: 20 },
      ],
    });
    await set('shipping', {
      regions: [
        {
          id: 'r',
          name: 'R',
          areas: [{ country: 'FR' }],
          ways: [{ id: 'w', name: 'Post', by: 'weight', bands: [{ upTo: 2000, price: 900 }] }],
        },
      ],
    });
    await set('discounts', [
      { id: 'd', name: 'D', code: 'TEN', percent: 10, scope: { to: 'categories', categories: ['Baskets'] } },
      { id: 'e', name: 'E', percent: 5, scope: { notOnOffer: true } },
    ]);
    const site = await w.site();
    const { token } = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 2, placement: null, page: '/' },
      null,
    );
    await addToCart(w.ctx, site, token, { goods: 'plans', quantity: 1, placement: null, page: '/' }, null);
    await setCode(w.ctx, site, token, 'ten', 'in');
    const bought = await setPlace(w.ctx, site, token, { country: 'FR', state: '', postcode: '' }, '');
    const asked = {
      lines: [
        { variantId: trug.variants[0]?.id, quantity: 2 },
        { variantId: plans.variants[0]?.id, quantity: 1 },
      ],
      country: 'FR',
      codes: ['ten'],
    };
    const tried = await tryCart(w.ctx, site, asked);
    expect([
      tried.total,
      tried.totals,
      tried.taxes,
      tried.codes,
      tried.steps.map((s) => [s.kind, s.amount]),
    ]).toEqual([
      bought.total,
      bought.totals,
      bought.taxes,
      bought.codes,
      bought.steps.map((s) => [s.kind, s.amount]),
    ]);
    const { rules } = await tillView(w.ctx, site);
    expect((await tryCart(w.ctx, site, { ...asked, rules: { ...rules, discounts: [] } })).total).toBe(
      2 * 4200 + 900 + 900,
    );
    expect((await tryCart(w.ctx, site, asked)).total).toBe(tried.total);
    await expect(
      tryCart(w.ctx, site, { ...asked, rules: { tax: { rates: [{ country: 'GB', percent: 101 }] } } }),
    ).rejects.toThrow('100 per cent');
    expect(
      (await tryCart(w.ctx, site, { ...asked, lines: [{ variantId: 'gone', quantity: 1 }] })).total,
    ).toBe(0);
  } finally {
    await w.end();
  }
});
