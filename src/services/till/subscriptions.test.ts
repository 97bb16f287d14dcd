import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { orderEvents, orders, payments, subscriptions } from '../../data/schema';
import { listGoods, saveProduct } from '../goods/goods';
import { makeWorld, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { setPlace } from './cart-changes';
import { goToPay } from './go-to-pay';
import { readRules, saveRules } from '../rules/rules';
import { orderByToken } from './orders';
import { chargeDue, resumeSubscription, stopSubscription, subscriptionsOf } from './subscriptions';

let w: World;
const DAY = 86_400_000;
beforeEach(async () => {
  w = await makeWorld();
  // 31 January, so that months of other lengths follow.
  w.clock.ms = Date.UTC(2027, 0, 31, 9);
  await w.addGoods('Rods', 1650, 10, { kind: 'subscription', every: { count: 1, unit: 'month' } });
});
afterEach(() => w.end());

const site = () => w.site();
const mine = async () => (await subscriptionsOf(w.ctx, (await site()).row.id, 'ADA@penhallow.example'))[0];
const at = (iso: string) => {
  w.clock.ms = Date.parse(`${iso}T10:00:00Z`);
};
const stock = async () =>
  (await listGoods(w.ctx, (await site()).row.id)).find((p) => p.slug === 'rods')?.variants[0]?.stock;

describe('a subscription', () => {
  it('begins when it is paid, and is charged on the day, at the price it began with, as an order of its own', async () => {
    const token = await w.buy([{ goods: 'rods', quantity: 2 }]);
    expect(w.provider.asked[0]?.again).toBe(true);
    expect(await mine()).toMatchObject({
      name: 'Rods',
      amount: 3300,
      running: true,
      nextAt: '2027-02-28T09:00:00.000Z',
      charges: 0,
    });
    const [product] = await listGoods(w.ctx, (await site()).row.id);
    await saveProduct(w.ctx, await site(), product?.id ?? '', { fields: { price: 9900 } }, 'test');
    at('2027-02-27');
    expect(await chargeDue(w.ctx)).toBe(0);
    at('2027-02-28');
    expect(await chargeDue(w.ctx)).toBe(1);
    expect(await chargeDue(w.ctx)).toBe(0);
    expect(w.provider.charges).toMatchObject([{ amount: 3300, mandate: expect.stringMatching(/^man_/) }]);
    const [again, first] = await w.orders();
    expect(again).toMatchObject({ state: 'paid', number: 1002, total: 3300 });
    expect(first?.number).toBe(1001);
    expect(await mine()).toMatchObject({ charges: 1, nextAt: '2027-03-31T09:00:00.000Z' });
    expect(await stock()).toBe(6);
    expect((await orderByToken(w.ctx, (await site()).row.id, token)).subscriptionId).toBeNull();
  });

  it('is not begun for goods that are bought once; no card is kept for them', async () => {
    await w.addGoods('Trug', 4200, null);
    await w.buy([{ goods: 'trug' }]);
    expect(w.provider.asked[0]?.again).toBeUndefined();
    expect(await w.ctx.store.db.$count(subscriptions)).toBe(0);
    const { token } = await w.order([{ goods: 'rods' }, { goods: 'trug' }]);
    const order = await orderByToken(w.ctx, (await site()).row.id, token);
    expect((await readCart(w.ctx, await site(), order.cart)).lines.map((l) => l.every)).toEqual([
      { count: 1, unit: 'month' },
      undefined,
    ]);
  });

  it('charges once, though the machine stops after it was sent and the round comes again', async () => {
    await w.buy([{ goods: 'rods' }]);
    at('2027-02-28');
    w.provider.up = false;
    await chargeDue(w.ctx);
    await chargeDue(w.ctx);
    expect(await w.ctx.store.db.$count(orders)).toBe(2);
    w.provider.up = true;
    w.provider.again = 'open';
    await chargeDue(w.ctx);
    await chargeDue(w.ctx);
    w.provider.again = 'approved';
    await chargeDue(w.ctx);
    expect(new Set(w.provider.charges.map((c) => c.reference)).size).toBe(1);
    expect(await w.ctx.store.db.$count(payments, eq(payments.state, 'paid'))).toBe(2);
    expect(await mine()).toMatchObject({ charges: 1 });
  });

  it('is told at the checkout with the shipping that it will cost, and charged that', async () => {
    const rules = await readRules(w.ctx.store.db, (await site()).row.id);
    await saveRules(
      w.ctx,
      await site(),
      {
        part: 'shipping',
        value: {
          regions: [
            { id: 'r', name: 'R', areas: [{ country: 'GB' }], ways: [{ id: 'w', name: 'Post', base: 420 }] },
          ],
        },
        from: rules.shipping,
      },
      'test',
    );
    const { token } = await addToCart(
      w.ctx,
      await site(),
      null,
      { goods: 'rods', quantity: 1, placement: null, page: '/' },
      null,
    );
    const cart = await setPlace(w.ctx, await site(), token, { country: 'GB', state: '', postcode: '' }, '');
    expect([cart.total, cart.again]).toEqual([2070, [{ every: { count: 1, unit: 'month' }, amount: 2070 }]]);
    await goToPay(
      w.ctx,
      await site(),
      token,
      {
        email: 'ada@penhallow.example',
        name: 'Ada',
        street: 'S',
        town: 'T',
        postcode: 'WB4',
        country: 'GB',
        total: 2070,
      },
      'site',
    );
    await w.approve();
    expect((await mine())?.amount).toBe(2070);
    at('2027-02-28');
    await chargeDue(w.ctx);
    expect(w.provider.charges.map((c) => c.amount)).toEqual([2070]);
  });

  it('that is declined is tried again on later days, and then stopped; the owner reads why', async () => {
    const token = await w.buy([{ goods: 'rods' }]);
    w.provider.again = 'declined';
    const days: string[] = [];
    for (w.clock.ms = Date.UTC(2027, 1, 27, 10); w.clock.ms < Date.UTC(2027, 3, 1); w.clock.ms += DAY)
      if (await chargeDue(w.ctx)) days.push(new Date(w.clock.ms).toISOString().slice(0, 10));
    expect(days).toEqual(['2027-02-28', '2027-03-01', '2027-03-04', '2027-03-09']);
    expect(await mine()).toMatchObject({
      running: false,
      reason: expect.stringContaining('declined 4 times'),
      charges: 0,
    });
    const order = await orderByToken(w.ctx, (await site()).row.id, token);
    const events = await w.ctx.store.db.select().from(orderEvents).where(eq(orderEvents.orderId, order.id));
    expect(events.at(-1)).toMatchObject({ what: 'Subscription stopped' });
    expect(await stock()).toBe(9);
  });

  it('leaves out turns that passed while nothing could be charged', async () => {
    await w.buy([{ goods: 'rods' }]);
    at('2027-06-15');
    expect(await chargeDue(w.ctx)).toBe(1);
    expect(await chargeDue(w.ctx)).toBe(0);
    expect(await mine()).toMatchObject({ charges: 1, nextAt: '2027-06-30T09:00:00.000Z' });
  });

  it('waits a day when there is none left, and charges nothing for it', async () => {
    await w.buy([{ goods: 'rods', quantity: 8 }]);
    at('2027-02-28');
    expect(await chargeDue(w.ctx)).toBe(0);
    expect(w.provider.charges).toEqual([]);
    expect((await mine())?.nextAt.slice(0, 10)).toBe('2027-03-01');
  });

  it('is stopped by its buyer or by the owner, by nobody else, and runs again from its next turn', async () => {
    await w.buy([{ goods: 'rods' }]);
    const id = (await mine())?.id ?? '';
    await expect(stopSubscription(w.ctx, await site(), id, 'the buyer', 'eve@moor.example')).rejects.toThrow(
      'not known',
    );
    await stopSubscription(w.ctx, await site(), id, 'the buyer', 'Ada@penhallow.example');
    at('2027-04-15');
    expect(await chargeDue(w.ctx)).toBe(0);
    expect(await mine()).toMatchObject({ running: false, reason: 'Stopped by the buyer' });
    await resumeSubscription(w.ctx, await site(), id);
    expect(await chargeDue(w.ctx)).toBe(0);
    at('2027-04-30');
    expect(await chargeDue(w.ctx)).toBe(1);
  });
});
