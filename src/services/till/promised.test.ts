import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { documents, orders, payments, sites, vouchers, voucherUses } from '../../data/schema';
import { listGoods } from '../goods/goods';
import { buyerOf, makeWorld, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { setCode, setQuantity } from './cart-changes';
import { goToPay } from './go-to-pay';
import { actOnOrder } from './fulfil';
import { HELD_MS, releaseExpired } from './reserve';
import { resendReturns, returnSurplus } from './surplus';

/** What an order was promised is there when it is paid, or nothing of worth is handed out. */
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const email = 'ada@penhallow.example';
const buyer = buyerOf(email);

async function voucher(amount: number, code = 'ABCDEFGH2345'): Promise<string> {
  const [site] = await w.ctx.store.db.select().from(sites);
  await w.ctx.store.db.insert(vouchers).values({
    id: code,
    siteId: site?.id ?? '',
    code,
    amount,
    currency: 'GBP',
    createdAt: w.ctx.now(),
    expiresAt: null,
  });
  return code;
}
const spent = async (id: string): Promise<number> =>
  (await w.ctx.store.db.select().from(voucherUses).where(eq(voucherUses.voucherId, id)))
    .filter((u) => u.state === 'used')
    .reduce((n, u) => n + u.amount, 0);
const issued = async (): Promise<number> =>
  (await w.ctx.store.db.select().from(vouchers)).filter((v) => v.orderId).reduce((n, v) => n + v.amount, 0);

const pay = async (cart: string, total?: number) =>
  goToPay(
    w.ctx,
    await w.site(),
    cart,
    { ...buyer, total: total ?? (await readCart(w.ctx, await w.site(), cart)).total },
    'site',
  );
const reference = () => w.provider.asked.at(-1)?.reference ?? '';
const act = async (id: string, what: object) => actOnOrder(w.ctx, await w.site(), id, what, 'Marnie');

describe('a voucher', () => {
  const giftAmounts = ['65.00', '65.01', '65.02', '65.03', '65.04'];

  it('is spent once, however many payment pages are open: nothing is handed out for money that did not come', async () => {
    const code = await voucher(6000);
    await w.addGoods('Gift', 1000, null, { kind: 'voucher', openLeast: 1000 });
    const site = await w.site();
    let cart = '';
    const pages: string[] = [];
    for (const amount of giftAmounts) {
      if (cart) {
        const [line] = (await readCart(w.ctx, site, cart)).lines;
        await setQuantity(w.ctx, site, cart, line?.id ?? '', 0);
      }
      cart = (
        await addToCart(
          w.ctx,
          site,
          cart || null,
          { goods: 'gift', quantity: 1, placement: null, page: '/', amount },
          null,
        )
      ).token;
      await setCode(w.ctx, site, cart, code, 'in');
      await pay(cart);
      pages.push(reference());
    }
    for (const page of pages) await w.approve(page);
    const came = w.provider.asked.reduce((n, a) => n + a.amount, 0);
    expect(came).toBeLessThan(6000);
    expect(await spent(code)).toBe(6000);
    // One order had the voucher; the others wait, each with what is missing.
    const all = await w.orders();
    expect(all.filter((o) => o.lacks).length).toBe(4);
    expect(
      all.filter((o) => o.lacks).every((o) => o.lacks?.missing === 6000 && o.shelf === 'look-into'),
    ).toBe(true);
    expect(await issued()).toBeLessThanOrEqual(6000 + came);
    // No invoice counts what did not come: those that wait have none yet.
    expect((await w.ctx.store.db.select().from(documents)).length).toBe(1);
  });

  it('that was spent while its order was not paid holds the order; accepted, the invoice says what stays due', async () => {
    const code = await voucher(3000);
    await w.addGoods('Trug', 4000, 5);
    const first = await withCode('trug', code);
    await pay(first);
    const late = reference();
    w.clock.ms += HELD_MS + 1;
    await releaseExpired(w.ctx);
    const second = await withCode('trug', code);
    await pay(second);
    await w.approve();
    await w.approve(late);
    const held = (await w.orders()).find((o) => o.lacks);
    expect(held).toMatchObject({ state: 'paid', lacks: { missing: 3000, over: [] } });
    expect(held?.acts.now).toBeNull();
    expect(held?.acts.or).toEqual(expect.arrayContaining(['accept', 'cancel']));
    expect(held?.events.map((e) => e.detail).join(' ')).toContain(
      '\u00a330.00 of its gift voucher were spent elsewhere',
    );
    for (const what of [{ act: 'pack' }, { act: 'refund', refund: { amount: 100 } }])
      await expect(act(held?.id ?? '', what)).rejects.toThrow();
    await act(held?.id ?? '', { act: 'accept' });
    const [row] = await w.ctx.store.db
      .select()
      .from(orders)
      .where(eq(orders.id, held?.id ?? ''));
    expect(row).toMatchObject({ lacks: null, short: false });
    const [, invoice] = await w.ctx.store.db.select().from(documents);
    expect(invoice?.content.totals).toMatchObject({ withTax: 4000, paid: 1000, due: 3000 });
    expect(await spent(code)).toBe(3000);
    // What came can go back, and no more than that.
    expect((await w.orders()).find((o) => o.id === held?.id)?.refundable).toBe(1000);
  });

  it('whose order waits is refunded whole by cancelling it; nothing had been handed out', async () => {
    const code = await voucher(3000);
    await w.addGoods('Trug', 4000, 5);
    const first = await withCode('trug', code);
    await pay(first);
    const late = reference();
    await changed(first);
    await pay(first);
    await w.approve();
    await w.approve(late);
    const held = (await w.orders()).find((o) => o.lacks);
    await act(held?.id ?? '', { act: 'cancel', text: 'Sorry' });
    expect(w.provider.refunds.map((r) => r.amount)).toEqual([1000]);
    expect(await spent(code)).toBe(3000);
  });
});

describe('an order whose pieces and whose voucher had gone', () => {
  it('puts nothing on the shelf when it is cancelled', async () => {
    const code = await voucher(3000);
    const trug = await w.addGoods('Trug', 4000, 1);
    const lose = async () => {
      const cart = await withCode('trug', code);
      await pay(cart);
      const late = reference();
      w.clock.ms += HELD_MS + 1;
      await releaseExpired(w.ctx);
      const other = await withCode('trug', code);
      await pay(other);
      await w.approve();
      await w.approve(late);
      return (await w.orders()).find((o) => o.lacks)?.id ?? '';
    };
    const id = await lose();
    await act(id, { act: 'cancel' });
    expect(
      (await listGoods(w.ctx, (await w.site()).row.id)).find((g) => g.id === trug.id)?.variants[0]?.stock,
    ).toBe(0);
  });

  it('stays flagged for its pieces when a refund of it does not go through', async () => {
    await w.addGoods('Trug', 4000, 1);
    await pay(await withCode('trug', ''));
    const late = reference();
    w.clock.ms += HELD_MS + 1;
    await releaseExpired(w.ctx);
    await pay(await withCode('trug', ''));
    await w.approve();
    await w.approve(late);
    const id = (await w.orders()).find((o) => o.short)?.id ?? '';
    w.provider.refund = 'failed';
    await expect(act(id, { act: 'refund', refund: { amount: 500 } })).rejects.toThrow('The card is closed');
    expect((await w.orders()).find((o) => o.id === id)?.short).toBe(true);
  });
});

describe('gift vouchers that were bought', () => {
  const gift = async (amount: string) => {
    const site = await w.site();
    const { token } = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'gift', quantity: 1, placement: null, page: '/', amount },
      null,
    );
    await pay(token);
    await w.approve();
    return (await w.orders())[0]?.id ?? '';
  };
  const worth = async () => (await w.ctx.store.db.select().from(vouchers)).map((v) => v.amount);

  it('hold less, or nothing, after a refund by amount: the money is not there twice', async () => {
    await w.addGoods('Gift', 1000, null, { kind: 'voucher', openLeast: 1000 });
    const id = await gift('65.00');
    expect(await worth()).toEqual([6500]);
    await act(id, { act: 'refund', refund: { amount: 3000 } });
    expect(await worth()).toEqual([3500]);
    await act(id, { act: 'refund', refund: { amount: 3500 } });
    expect(await worth()).toEqual([0]);
  });

  it('that were spent are told before a refund, and after', async () => {
    await w.addGoods('Gift', 1000, null, { kind: 'voucher', openLeast: 1000 });
    await w.addGoods('Trug', 4000, 5);
    const id = await gift('65.00');
    const [bought] = await w.ctx.store.db.select().from(vouchers);
    await pay(await withCode('trug', bought?.code ?? ''));
    expect((await w.orders()).find((o) => o.id === id)?.giftsSpent).toBe(4000);
    await act(id, { act: 'refund', refund: { amount: 6500 } });
    const told = (await w.orders()).find((o) => o.id === id)?.events.map((e) => `${e.what}: ${e.detail}`);
    expect(told?.join(' ')).toContain('had been spent: \u00a340.00');
  });
});

describe('a provider that takes another amount', () => {
  it('is flagged where the owner looks, whatever becomes of the order', async () => {
    await w.addGoods('Trug', 4000, 5);
    const cart = await withCode('trug', '');
    await pay(cart);
    const asked = w.provider.asked.at(-1);
    if (asked) asked.amount = 1234;
    await w.approve();
    expect((await w.orders())[0]).toMatchObject({ state: 'waiting', shelf: 'look-into' });
    w.clock.ms += HELD_MS + 1;
    await releaseExpired(w.ctx);
    expect((await w.orders())[0]).toMatchObject({ state: 'failed', shelf: 'look-into' });
  });
});

describe('money that an order did not want', () => {
  const surplusOf = async (n = 0) => (await w.orders())[n]?.surplus ?? [];
  const giveBack = async (n = 0) => {
    const [order] = (await w.orders()).slice(n);
    const [one] = order?.surplus ?? [];
    return returnSurplus(w.ctx, await w.site(), order?.id ?? '', { payment: one?.payment }, 'Marnie');
  };
  /** Two pages of one order, both paid: by card, and by the wallet while the card\u2019s page was open. */
  async function paidTwice(): Promise<string> {
    await w.addGoods('Trug', 4000, 5);
    const cart = await withCode('trug', '');
    await pay(cart);
    const first = reference();
    await w.notice('payment.declined', first);
    await pay(cart);
    await w.approve();
    // The first page was tried again, with another card: an approval wins over a decline.
    await w.notice('payment.approved', first);
    return first;
  }

  it('is a second payment: refunded in one press, once, and the order stays paid', async () => {
    const first = await paidTwice();
    expect((await w.orders())[0]).toMatchObject({ state: 'paid', shelf: 'look-into', refundable: 4000 });
    expect(await surplusOf()).toEqual([{ payment: first, amount: 4000, provider: 'card', returning: false }]);
    await Promise.allSettled([giveBack(), giveBack(), giveBack()]);
    expect(w.provider.refunds).toMatchObject([{ payment: `pay_${first}`, amount: 4000 }]);
    expect((await w.orders())[0]).toMatchObject({
      state: 'paid',
      shelf: 'to-pack',
      refunded: 0,
      surplus: [],
    });
    await expect(giveBack()).rejects.toThrow('Say which payment');
    // What is refunded of the order itself comes from the payment that pays for it.
    await act((await w.orders())[0]?.id ?? '', { act: 'refund', refund: { amount: 4000 } });
    expect(w.provider.refunds.at(-1)?.payment).not.toBe(`pay_${first}`);
    // Told again, it changes nothing.
    await w.notice('payment.approved', first, { id: 'again' });
    expect(await surplusOf()).toEqual([]);
  });

  it('waits while the provider does not answer, and is asked for again under the same reference', async () => {
    await paidTwice();
    w.provider.refund = 'open';
    expect(await giveBack()).toEqual({ state: 'returning' });
    w.clock.ms += 61_000;
    await resendReturns(w.ctx);
    const references = w.provider.refunds.map((r) => r.reference);
    expect(new Set(references).size).toBe(1);
    await w.notice('refund.done', references[0] ?? '');
    expect((await w.orders())[0]).toMatchObject({ shelf: 'to-pack', surplus: [] });
    await w.notice('refund.failed', references[0] ?? '');
    expect((await w.orders())[0]).toMatchObject({ shelf: 'to-pack', surplus: [] });
  });

  it('and money that pays for an order go back also where the machine stopped before it knew their names', async () => {
    await w.addGoods('Trug', 4000, 5);
    await pay(await withCode('trug', ''));
    await w.ctx.store.db.update(payments).set({ providerRef: null });
    await w.approve();
    await act((await w.orders())[0]?.id ?? '', { act: 'refund', refund: { amount: 4000 } });
    expect(w.provider.refunds).toMatchObject([{ payment: `pay_${reference()}` }]);
  });

  it('that cannot go back says so, and can be tried again', async () => {
    await paidTwice();
    w.provider.refund = 'failed';
    await expect(giveBack()).rejects.toThrow('The card is closed');
    expect((await w.orders())[0]).toMatchObject({ shelf: 'look-into', surplus: [{ returning: false }] });
    w.provider.refund = 'done';
    w.clock.ms += 1_000;
    expect(await giveBack()).toEqual({ state: 'returned' });
  });

  it('is what came after the order was cancelled: it stands where the owner looks', async () => {
    await w.addGoods('Trug', 4000, 5);
    await w.till('pay', {
      ways: [
        { id: 'card', name: 'Card', kind: 'card' },
        { id: 'bank', name: 'Bank', kind: 'transfer', accountName: 'Tiny', iban: 'GB33BUKB20201555555555' },
      ],
    });
    const cart = await withCode('trug', '');
    await pay(cart);
    const card = reference();
    await goToPay(w.ctx, await w.site(), cart, { ...buyer, payBy: 'bank', total: 4000 }, 'site');
    const [order] = await w.orders();
    // The owner's word about the transfer is not the card's: its page is still open.
    await act(order?.id ?? '', { act: 'mark-paid' });
    await act(order?.id ?? '', { act: 'cancel' });
    await w.notice('payment.approved', card);
    expect((await w.orders())[0]).toMatchObject({
      state: 'cancelled',
      shelf: 'look-into',
      surplus: [{ amount: 4000 }],
    });
    await giveBack();
    expect((await w.orders())[0]).toMatchObject({ state: 'cancelled', shelf: 'nothing', surplus: [] });
  });

  it('is another amount than was asked for: the order is not paid, and what came goes back', async () => {
    await w.addGoods('Trug', 4000, 5);
    await pay(await withCode('trug', ''));
    await w.notice('payment.approved', reference(), { amount: 1234 });
    expect((await w.orders())[0]).toMatchObject({ state: 'waiting', surplus: [{ amount: 1234 }] });
    await giveBack();
    expect(w.provider.refunds).toMatchObject([{ amount: 1234 }]);
    expect((await w.orders())[0]).toMatchObject({ state: 'waiting', shelf: 'paying', surplus: [] });
  });

  it('belongs to its order: nobody sends back what pays for another, or another shop\u2019s', async () => {
    await paidTwice();
    const [order] = await w.orders();
    const back = async (payment: unknown) =>
      returnSurplus(w.ctx, await w.site(), order?.id ?? '', payment, 'Marnie');
    await expect(back({ payment: 'nobody' })).rejects.toThrow('not known');
    await expect(back('text')).rejects.toThrow('Say which payment');
    await expect(back({ payment: w.provider.asked.at(-1)?.reference })).rejects.toThrow('pays for the order');
  });
});

describe('a code with a limit', () => {
  it('is never exceeded without the owner being told', async () => {
    await w.till('discounts', [
      { id: 'once', name: 'First of all', code: 'ONCE', kind: 'percent', percent: 50, limit: 1 },
    ]);
    await w.addGoods('Trug', 4000, 9);
    const cart = await withCode('trug', 'ONCE');
    const pages: string[] = [];
    for (let n = 0; n < 4; n++) {
      await pay(cart);
      pages.push(reference());
      await changed(cart);
    }
    for (const page of pages) await w.approve(page);
    const all = await w.orders();
    const paid = all.filter((o) => o.state === 'paid');
    expect(paid.length).toBe(4);
    expect(paid.filter((o) => o.lacks === null).length).toBe(1);
    for (const o of paid.filter((x) => x.lacks))
      expect(o.lacks?.over).toEqual([{ name: 'First of all', amount: expect.any(Number) }]);
  });
});

describe('the back button from the payment page', () => {
  it('finds the cart as it was: its own voucher, its own last piece, the same total', async () => {
    const code = await voucher(3000);
    await w.addGoods('Trug', 4000, 1);
    const site = await w.site();
    const cart = await withCode('trug', code);
    await pay(cart);
    const again = await readCart(w.ctx, site, cart);
    expect(again.total).toBe(1000);
    expect(again.lines[0]).toMatchObject({ quantity: 1, available: 1 });
    expect(again.codes?.map((c) => c.status)).toEqual(['voucher']);
    // Pressed again and again it is one order, and one page.
    for (let n = 0; n < 3; n++) await pay(cart, 1000);
    expect((await w.orders()).length).toBe(1);
    // Somebody else does not have what is held for this shopper.
    await expect(withCode('trug', '')).rejects.toThrow('sold out');
    await w.approve();
    expect((await w.orders())[0]).toMatchObject({ state: 'paid', lacks: null });
  });

  it('with another basket takes the page of the first back, where the provider can', async () => {
    w.provider.closes = true;
    await w.addGoods('Trug', 4000, 5);
    const cart = await withCode('trug', '');
    await pay(cart);
    const first = reference();
    await changed(cart);
    await pay(cart);
    expect(w.provider.closed).toEqual([first]);
  });
});

async function withCode(goods: string, code: string): Promise<string> {
  const site = await w.site();
  const { token } = await addToCart(
    w.ctx,
    site,
    null,
    { goods, quantity: 1, placement: null, page: '/' },
    null,
  );
  if (code) await setCode(w.ctx, site, token, code, 'in');
  return token;
}

/** One piece more: another basket, so another order. */
async function changed(cart: string): Promise<void> {
  const site = await w.site();
  const [line] = (await readCart(w.ctx, site, cart)).lines;
  await setQuantity(w.ctx, site, cart, line?.id ?? '', (line?.quantity ?? 0) + 1);
}
