import { asc, eq } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { orders, reservations, variants } from '../../data/schema';
import { isRefusal } from '../errors';
import { removeProduct, saveProduct, undoLive } from '../goods/goods';
import { readSlip } from '../sites/slip';
import { makeWorld, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { goToPay } from './go-to-pay';

/** What owners change while shoppers pay. Goods and rules are remembered by version: what was changed must count from the next act on. */
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const buyer = {
  email: 'ada@penhallow.example',
  name: 'Ada',
  street: '4 Weir Lane',
  town: 'Osierham',
  postcode: 'WB4 2TR',
  country: 'GB',
};
const soon = (ms: number) => new Promise((done) => setTimeout(done, ms));

it('prices that change while many pay: nobody is charged another total than they were shown, and no order mixes two prices', async () => {
  const made = await w.addGoods('Trug', 1000, null);
  const site = await w.site();
  let price = 1000;
  const owner = async () => {
    for (let n = 0; n < 12; n++) {
      await saveProduct(w.ctx, site, made.id, { fields: { price: 1000 + n } }, 'm');
      price = 1000 + n;
      await soon(3);
    }
  };
  let refused = 0;
  const shopper = async () => {
    for (let n = 0; n < 6; n++) {
      const before = price;
      const cart = await addToCart(
        w.ctx,
        site,
        null,
        { goods: 'trug', quantity: 2, placement: null, page: '/' },
        null,
      );
      // Never older than what was saved before it was asked for.
      expect(cart.total).toBeGreaterThanOrEqual(before * 2);
      await soon(n);
      try {
        await goToPay(w.ctx, site, cart.token, { ...buyer, total: cart.total }, 'site');
      } catch (error) {
        if (!isRefusal(error)) throw error;
        expect(error.detail).toMatchObject({ changed: true });
        refused++;
        const again = await readCart(w.ctx, site, cart.token);
        expect(again.total).toBeGreaterThan(cart.total);
      }
    }
  };
  await Promise.all([owner(), ...Array.from({ length: 8 }, shopper)]);
  const made48 = await w.ctx.store.db.select().from(orders).orderBy(asc(orders.createdAt));
  expect(made48.length + refused).toBe(48);
  for (const o of made48)
    expect([o.total, o.worked.lines[0]?.amount]).toEqual([(o.worked.lines[0]?.unit ?? 0) * 2, o.total]);
  expect(w.provider.asked.map((a) => a.amount).sort()).toEqual(made48.map((o) => o.total).sort());
});

it('counts that are set while many go to pay: what was there at the moment of paying is the most that is held', async () => {
  const made = await w.addGoods('Trug', 1000, 10);
  const site = await w.site();
  const [variant] = await w.ctx.store.db.select().from(variants).where(eq(variants.goodsId, made.id));
  const asked = fc.array(
    fc.oneof(
      fc.record({ buy: fc.integer({ min: 1, max: 3 }) }),
      fc.record({ add: fc.integer({ min: -4, max: 4 }) }),
    ),
    { minLength: 6, maxLength: 14 },
  );
  await fc.assert(
    fc.asyncProperty(asked, async (acts) => {
      await w.ctx.store.db.update(reservations).set({ state: 'released' });
      await w.ctx.store.db.update(variants).set({ stock: 10 });
      // Each writes down what is held and what there is, at the very moment it has gone through.
      const most = { held: 0, stock: 10 };
      const ended = await Promise.allSettled(
        acts.map(async (act) => {
          if ('add' in act) {
            await saveProduct(
              w.ctx,
              site,
              made.id,
              { fields: {}, counts: [{ variantId: variant?.id ?? '', from: 10, to: 10 + act.add }] },
              'm',
            );
            most.stock = Math.max(
              most.stock,
              10 + acts.reduce((n, x) => n + ('add' in x ? Math.max(0, x.add) : 0), 0),
            );
            return;
          }
          const cart = await addToCart(
            w.ctx,
            site,
            null,
            { goods: 'trug', quantity: act.buy, placement: null, page: '/' },
            null,
          );
          await goToPay(w.ctx, site, cart.token, { ...buyer, total: cart.total }, 'site');
          most.held += act.buy;
        }),
      );
      const held = (
        await w.ctx.store.db.select().from(reservations).where(eq(reservations.state, 'held'))
      ).reduce((n, r) => n + r.quantity, 0);
      expect(held).toBe(most.held);
      expect(held).toBeLessThanOrEqual(most.stock);
      for (const e of ended) if (e.status === 'rejected') expect(isRefusal(e.reason)).toBe(true);
    }),
    { numRuns: 15 },
  );
});

it('rules that change count from the next cart on, and go back with their undo', async () => {
  await w.addGoods('Trug', 1000, null);
  const site = await w.site();
  const cart = await addToCart(
    w.ctx,
    site,
    null,
    { goods: 'trug', quantity: 1, placement: null, page: '/' },
    null,
  );
  expect(cart.total).toBe(1000);
  await w.till('discounts', [{ id: 'a', name: 'Autumn', kind: 'percent', percent: 10 }]);
  expect((await readCart(w.ctx, site, cart.token)).total).toBe(900);
  await expect(goToPay(w.ctx, site, cart.token, { ...buyer, total: 1000 }, 'site')).rejects.toThrow(/9\.00/);
  await w.till('discounts', []);
  expect((await readCart(w.ctx, site, cart.token)).total).toBe(1000);
});

it('what is taken out of the shop while it lies in carts is told, cannot be paid for, and comes back with the undo', async () => {
  const made = await w.addGoods('Trug', 1000, 5, { pictures: [] });
  await w.addGoods('Line', 200, 5);
  const site = await w.site();
  const one = await addToCart(
    w.ctx,
    site,
    null,
    { goods: 'trug', quantity: 1, placement: null, page: '/' },
    null,
  );
  const { token } = await addToCart(
    w.ctx,
    site,
    one.token,
    { goods: 'line', quantity: 1, placement: null, page: '/' },
    null,
  );
  await removeProduct(w.ctx, site, made.id, 'm');
  const seen = await readCart(w.ctx, site, token);
  expect(seen.lines.map((l) => [l.name, l.available])).toEqual([
    ['Trug', 0],
    ['Line', 5],
  ]);
  await expect(goToPay(w.ctx, site, token, { ...buyer, total: seen.total }, 'site')).rejects.toThrow();
  expect(await w.ctx.store.db.select().from(orders)).toEqual([]);
  const [removed] = (await readSlip(w.ctx, await w.site())).live;
  await undoLive(w.ctx, site, removed?.id ?? 0, 'm');
  expect((await readCart(w.ctx, site, token)).lines.map((l) => l.available)).toEqual([5, 5]);
  await goToPay(w.ctx, site, token, { ...buyer, total: seen.total }, 'site');
  expect((await w.ctx.store.db.select().from(orders))[0]?.total).toBe(1200);
});

it('a cart of another shop is no cart here: nothing of it is shown, held or charged', async () => {
  await w.addGoods('Trug', 1000, 5);
  const site = await w.site();
  const { token } = await addToCart(
    w.ctx,
    site,
    null,
    { goods: 'trug', quantity: 1, placement: null, page: '/' },
    null,
  );
  const other = { ...site, row: { ...site.row, id: 'another', slug: 'another' } };
  await expect(readCart(w.ctx, other, token)).rejects.toThrow();
  await expect(goToPay(w.ctx, other, token, { ...buyer, total: 1000 }, 'site')).rejects.toThrow();
  expect(await w.ctx.store.db.select().from(reservations)).toEqual([]);
});
