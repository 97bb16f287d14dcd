import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { atLinkPrice, priceNow } from '../../core/goods/price';
import { type Product, productInput } from '../../core/goods/product';
import { wordsIn } from '../../core/languages/languages';
import { listGoods, saveProduct } from '../goods/goods';
import { goodsLines } from '../goods/lines';
import { productPageView } from '../storefront/views';
import { makeWorld, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const key = 'friends0123456';
const links = [{ key, name: 'Friends', price: 3000 }];
const put = async (goods: string, price = '', token: string | null = null) =>
  addToCart(w.ctx, await w.site(), token, { goods, quantity: 1, placement: null, page: '/', price }, null);
const stockOf = async (name: string) =>
  (await listGoods(w.ctx, (await w.site()).row.id)).find((p) => p.name === name)?.variants[0]?.stock;

describe('a price by link', () => {
  it('is the same product at its own price, from the same stock', async () => {
    await w.addGoods('Trug', 4200, 2, { linkPrices: links });
    const first = await put('trug', key);
    expect(first.lines.map((l) => l.unit)).toEqual([3000]);
    // The usual price beside it is a line of its own, and both draw on what there is.
    const both = await put('trug', '', first.token);
    expect(both.lines.map((l) => l.unit).sort()).toEqual([3000, 4200]);
    await expect(put('trug', key, first.token)).rejects.toThrow('All 2 that are left are in your cart');
    await w.buy([{ goods: 'trug', quantity: 1, price: key }]);
    expect(await stockOf('Trug')).toBe(1);
    const [order] = await w.orders();
    expect(order?.total).toBe(3000);
  });

  it('is shown at its address and nowhere else; one that is no link has the usual price', async () => {
    await w.addGoods('Trug', 4200, 2, {
      linkPrices: links,
      offer: { kind: 'percent', value: 50, from: null, until: null },
    });
    const site = await w.site();
    const shown = async (price: string) => {
      const {
        price: text,
        linkPrice,
        was,
        structured,
      } = await productPageView(w.ctx, site, 'trug', '', wordsIn('en'), { price });
      return { text, linkPrice, was, toSearchEngines: structured !== undefined };
    };
    expect(await shown(key)).toEqual({ text: '£30.00', linkPrice: key, was: '', toSearchEngines: false });
    for (const other of ['', 'constructor', 'friends012345x'])
      expect(await shown(other)).toMatchObject({
        text: '£21.00',
        linkPrice: undefined,
        toSearchEngines: true,
      });
    expect((await put('trug', 'nonsense')).lines[0]?.unit).toBe(2100);
  });

  it('that is withdrawn leaves a cart with the usual price', async () => {
    const trug = await w.addGoods('Trug', 4200, 2, { linkPrices: links });
    const cart = await put('trug', key);
    await saveProduct(w.ctx, await w.site(), trug.id, { fields: { linkPrices: [] }, counts: [] }, 'test');
    expect((await readCart(w.ctx, await w.site(), cart.token)).lines[0]?.unit).toBe(4200);
  });

  it('changes variants by their difference, and own prices in the same ratio', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.integer({ min: 0, max: 1_000_000 }),
        fc.integer({ min: -500, max: 500 }),
        fc.integer({ min: 0, max: 1_000_000 }),
        (price, linked, difference, own) => {
          const form = productInput.parse({
            name: 'x',
            price,
            options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'M' }] }],
            variants: [
              { values: ['S'], difference },
              { values: ['M'], price: own },
            ],
            linkPrices: [{ key, name: 'F', price: linked }],
          });
          const p = { ...form, id: 'p', plain: '', addedAt: 0, order: 1, rating: null } as unknown as Product;
          const at = atLinkPrice(p, key);
          const [s, m] = at.variants.map((v) => priceNow(at, v, 0).price);
          expect(s).toBe(Math.max(0, linked + difference));
          expect(Math.abs((m ?? 0) - (own * linked) / price)).toBeLessThanOrEqual(0.5);
          expect(atLinkPrice(p, key)).toBe(at);
          expect(atLinkPrice(p, 'another-key')).toBe(p);
        },
      ),
    );
  });
});

describe('a bundle of which a part is hidden', () => {
  it('is told to the owner, and to shoppers as not available, not as sold out', async () => {
    const bowl = await w.addGoods('Bowl', 900, 5);
    const part = { goodsId: bowl.id, variantId: bowl.variants[0]?.id ?? '', quantity: 1 };
    await w.addGoods('Set', 1500, null, { kind: 'bundle', bundle: [part] });
    const view = async () => productPageView(w.ctx, await w.site(), 'set', '', wordsIn('en'));
    expect(await view()).toMatchObject({ soldOut: false, partGone: false });
    await saveProduct(w.ctx, await w.site(), bowl.id, { fields: { shows: 'hidden' }, counts: [] }, 'test');
    expect(await view()).toMatchObject({ soldOut: true, stock: 'Not available at the moment' });
    const lines = await goodsLines(w.ctx, (await w.site()).row.id);
    expect(lines.map((l) => [l.name, l.partGone])).toEqual([
      ['Bowl', false],
      ['Set', true],
    ]);
  });
});
