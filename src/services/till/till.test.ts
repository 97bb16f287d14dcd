import { createHmac } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { sign } from '../../../standins/payments/signature';
import { cartLines, orders, payments, reservations } from '../../data/schema';
import { ledgerSum, listGoods, removeProduct, saveProduct } from '../goods/goods';
import { makeWorld, noticeSecret, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { setQuantity } from './cart-changes';
import { goToPay } from './go-to-pay';
import { parseCheckout } from './checkout-form';
import { takeNotice } from './payment';
import { HELD_MS, releaseExpired } from './reserve';

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
  country: 'United Kingdom',
};
const cartWith = async (goods: string, quantity = 1, key: string | null = null) =>
  addToCart(w.ctx, await w.site(), null, { goods, quantity, placement: null, page: '/' }, key);
const pay = async (cart: string, total: number) =>
  goToPay(w.ctx, await w.site(), cart, { ...buyer, total }, 'site');
const stockOf = async (slug: string) =>
  (await listGoods(w.ctx, (await w.site()).row.id)).find((g) => g.slug === slug)?.variants[0]?.stock;
const reference = () => w.provider.asked.at(-1)?.reference ?? '';

let sent = 0;
/** A notice as the provider sends it; the signature is made by the stand-in's own code, checked by the library's. */
async function notice(
  type: 'approved' | 'declined',
  ref = reference(),
  amount = w.provider.asked.find((a) => a.reference === ref)?.amount ?? 0,
  id = `msg_${++sent}`,
) {
  const body = JSON.stringify({
    type: `payment.${type}`,
    data: { id: `pay_${ref}`, reference: ref, amount, currency: 'GBP', detail: 'card ending 0019' },
  });
  await takeNotice(w.ctx, 'card', sign(noticeSecret, id, Math.floor(Date.now() / 1000), body), body);
}

describe('a cart', () => {
  it('joins the same product from the same placement, and tells apart what came another way', async () => {
    await w.addGoods('Trug', 4200, 10);
    const { token } = await cartWith('trug');
    await addToCart(
      w.ctx,
      await w.site(),
      token,
      { goods: 'trug', quantity: 2, placement: null, page: '/' },
      null,
    );
    const cart = await addToCart(
      w.ctx,
      await w.site(),
      token,
      { goods: 'trug', quantity: 1, placement: 'aaaaaaaa', page: '/x' },
      null,
    );
    expect(cart.lines.map((l) => l.quantity)).toEqual([3, 1]);
    expect(cart).toMatchObject({ total: 16_800, pieces: 4 });
    expect((await setQuantity(w.ctx, await w.site(), token, cart.lines[0]?.id ?? '', 0)).pieces).toBe(1);
  });

  it('adds once when a request comes twice', async () => {
    await w.addGoods('Trug', 4200, 10);
    const first = await cartWith('trug', 1, 'key-12345678');
    const again = await cartWith('trug', 1, 'key-12345678');
    expect(again).toMatchObject({ token: first.token, pieces: 1 });
    // The same key with something else is a mistake, or somebody else: nobody is shown a cart by it.
    await expect(cartWith('trug', 2, 'key-12345678')).rejects.toThrow('another request');
    await expect(
      addToCart(
        w.ctx,
        await w.site(),
        first.token,
        { goods: 'trug', quantity: 1, placement: null, page: '/' },
        'key-12345678',
      ),
    ).rejects.toThrow('another request');
  });

  it('takes no more than there is, and says how many there are', async () => {
    await w.addGoods('Trug', 4200, 2);
    await expect(cartWith('trug', 3)).rejects.toThrow('Only 2 left of Trug.');
    const { token } = await cartWith('trug', 2);
    await expect(
      addToCart(
        w.ctx,
        await w.site(),
        token,
        { goods: 'trug', quantity: 1, placement: 'bbbbbbbb', page: null },
        null,
      ),
    ).rejects.toThrow('All 2 that are left are in your cart already.');
    await expect(cartWith('nothing')).rejects.toThrow('not for sale any more');
  });

  it('of one shop is not known to another', async () => {
    await w.addGoods('Trug', 4200, null);
    const { token } = await cartWith('trug');
    const other = { ...(await w.site()), row: { ...(await w.site()).row, id: 'other' } };
    await expect(readCart(w.ctx, other, token)).rejects.toThrow('no longer kept');
  });
});

describe('going to pay', () => {
  it('holds the pieces, and gives them back when the payment is declined', async () => {
    await w.addGoods('Trug', 4200, 1);
    const mine = await cartWith('trug');
    const yours = await cartWith('trug');
    await pay(mine.token, 4200);
    expect((await readCart(w.ctx, await w.site(), yours.token)).lines[0]?.available).toBe(0);
    await expect(pay(yours.token, 4200)).rejects.toThrow(
      'Trug has just been sold to somebody else. Nothing was charged.',
    );
    await notice('declined');
    expect((await readCart(w.ctx, await w.site(), yours.token)).lines[0]?.available).toBe(1);
    await expect(pay(yours.token, 4200)).resolves.toMatchObject({
      url: expect.stringContaining('https://cards.example/'),
    });
    expect(await stockOf('trug')).toBe(1);
  });

  it('charges only the total that was shown', async () => {
    const made = await w.addGoods('Trug', 4200, 5);
    const { token } = await cartWith('trug');
    await saveProduct(w.ctx, await w.site(), made.id, { fields: { price: 4500 } }, 'test');
    await expect(pay(token, 4200)).rejects.toThrow('The total is now £45.00');
    await expect(pay(token, 4500)).resolves.toBeTruthy();
  });

  it('pressed twice is one order and one payment', async () => {
    await w.addGoods('Trug', 4200, 1);
    const { token } = await cartWith('trug');
    const [a, b] = await Promise.all([pay(token, 4200), pay(token, 4200)]);
    expect(a).toEqual(b);
    expect(await w.ctx.store.db.$count(orders)).toBe(1);
    expect(await w.ctx.store.db.$count(payments)).toBe(1);
    expect(await w.ctx.store.db.$count(reservations, eq(reservations.state, 'held'))).toBe(1);
  });

  it('gives everything back at once when the provider does not answer', async () => {
    await w.addGoods('Trug', 4200, 1);
    const { token } = await cartWith('trug');
    w.provider.up = false;
    await expect(pay(token, 4200)).rejects.toThrow('Nothing was charged, and your cart is kept');
    w.provider.up = true;
    await expect(pay(token, 4200)).resolves.toBeTruthy();
  });

  it('says of each field what is missing', () => {
    try {
      parseCheckout({ email: 'no', total: '1', country: 'GB' });
      expect.unreachable();
    } catch (e) {
      expect((e as { detail: { fields: object } }).detail.fields).toMatchObject({
        email: expect.stringContaining('name@example.org'),
        town: 'Enter the town.',
      });
    }
  });
});

describe('notices of payment', () => {
  it('approve once, however often and in whatever order they come', async () => {
    await w.addGoods('Trug', 4200, 3);
    const { token } = await cartWith('trug', 2);
    await pay(token, 8400);
    await notice('approved', reference(), 8400, 'msg_same');
    await notice('approved', reference(), 8400, 'msg_same');
    await notice('approved');
    await notice('declined');
    expect(await stockOf('trug')).toBe(1);
    const [order] = await w.orders();
    expect(order).toMatchObject({ state: 'paid', number: 1001, total: 8400, short: false });
    expect(
      await ledgerSum(w.ctx, (await listGoods(w.ctx, (await w.site()).row.id))[0]?.variants[0]?.id ?? ''),
    ).toBe(1);
    expect(await w.ctx.store.db.$count(cartLines, eq(cartLines.cart, token))).toBe(0);
  });

  it('that are not signed, or signed by another, or about another amount, change nothing', async () => {
    await w.addGoods('Trug', 4200, 3);
    await pay((await cartWith('trug')).token, 4200);
    const body = JSON.stringify({
      type: 'payment.approved',
      data: { id: 'x', reference: reference(), amount: 4200, currency: 'GBP' },
    });
    const now = Math.floor(Date.now() / 1000);
    const others = `whsec_${Buffer.from('somebody elses secret!!!').toString('base64')}`;
    for (const headers of [{}, sign(others, 'a', now, body), sign(noticeSecret, 'b', now - 3600, body)])
      await expect(takeNotice(w.ctx, 'card', headers as Record<string, string>, body)).rejects.toThrow(
        'signature',
      );
    await notice('approved', reference(), 1);
    expect((await w.orders())[0]).toMatchObject({ state: 'waiting', number: null });
    expect(await stockOf('trug')).toBe(3);
  });

  it('are signed as the Standard Webhooks specification writes it down', () => {
    // Standard Webhooks 1.0.0, "Signature scheme": base64 of HMAC-SHA256 over "{id}.{timestamp}.{body}".
    const expected = createHmac('sha256', Buffer.from(noticeSecret.slice(6), 'base64'))
      .update('msg_1.1700000000.{"a":1}')
      .digest('base64');
    expect(sign(noticeSecret, 'msg_1', 1_700_000_000, '{"a":1}')['webhook-signature']).toBe(`v1,${expected}`);
  });

  it('that come after the hold ran out still sell, if the pieces are there', async () => {
    await w.addGoods('Trug', 4200, 1);
    await pay((await cartWith('trug')).token, 4200);
    w.clock.ms += HELD_MS + 1000;
    expect(await releaseExpired(w.ctx)).toBe(1);
    expect((await w.orders())[0]?.state).toBe('failed');
    await notice('approved');
    expect((await w.orders())[0]).toMatchObject({ state: 'paid', short: false });
    expect(await stockOf('trug')).toBe(0);
  });

  it('that come when others have the pieces are told to the owner; stock never goes below nought', async () => {
    await w.addGoods('Trug', 4200, 1);
    await pay((await cartWith('trug')).token, 4200);
    const late = reference();
    w.clock.ms += HELD_MS + 1000;
    await pay((await cartWith('trug')).token, 4200);
    await notice('approved');
    await notice('approved', late);
    const [second, first] = await w.orders();
    expect([first?.short, second?.short]).toEqual([true, false]);
    expect(first?.events.at(-1)?.what).toBe('Paid too late');
    expect(await stockOf('trug')).toBe(0);
    expect([first?.number, second?.number].sort()).toEqual([1001, 1002]);
  });

  it('leave in the cart what was put there while paying', async () => {
    await w.addGoods('Trug', 4200, null);
    await w.addGoods('Bundle', 1400, null);
    const { token } = await cartWith('trug');
    await pay(token, 4200);
    await addToCart(
      w.ctx,
      await w.site(),
      token,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    await addToCart(
      w.ctx,
      await w.site(),
      token,
      { goods: 'bundle', quantity: 1, placement: null, page: '/' },
      null,
    );
    await notice('approved');
    expect((await readCart(w.ctx, await w.site(), token)).lines.map((l) => [l.slug, l.quantity])).toEqual([
      ['trug', 1],
      ['bundle', 1],
    ]);
  });
});

it('sixty buyers of twenty pieces at once: twenty get one, forty are told, and the books agree', async () => {
  await w.addGoods('Trug', 4200, 20);
  const carts = await Promise.all(Array.from({ length: 60 }, () => cartWith('trug')));
  const tried = await Promise.allSettled(carts.map((c) => pay(c.token, 4200)));
  expect(tried.filter((t) => t.status === 'fulfilled')).toHaveLength(20);
  for (const t of tried)
    if (t.status === 'rejected') expect(String(t.reason.message)).toContain('just been sold');
  await Promise.all(w.provider.asked.map((a) => notice('approved', a.reference, a.amount)));
  expect(await stockOf('trug')).toBe(0);
  const all = (await w.orders()).filter((o) => o.state === 'paid');
  expect(all.map((o) => o.number).sort()).toEqual(Array.from({ length: 20 }, (_, i) => 1001 + i));
  expect(await w.ctx.store.db.$count(reservations, and(eq(reservations.state, 'held')))).toBe(0);
});

it('a product that was removed cannot be bought, though it stays in old carts', async () => {
  const made = await w.addGoods('Trug', 4200, 5);
  const { token } = await cartWith('trug');
  await removeProduct(w.ctx, await w.site(), made.id, 'test');
  expect((await readCart(w.ctx, await w.site(), token)).lines[0]?.available).toBe(0);
  await expect(pay(token, 4200)).rejects.toThrow('just been sold');
});
