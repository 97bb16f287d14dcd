import { and, eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { isCreditorReference } from '../../core/till/creditor-reference';
import {
  documents,
  letters,
  orders,
  payments,
  refunds,
  subscriptions,
  variants,
  vouchers,
} from '../../data/schema';
import { makeWorld, type World } from '../testing';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { setCode } from './cart-changes';
import { waysToPay } from './checkout';
import { goToPay } from './go-to-pay';
import { vouchersIn } from './codes';
import { hasDownloads } from './downloads';
import { actOnOrder } from './fulfil';
import { listOrders } from './order-list';
import { refundOrder, resendRefunds } from './refunds';
import { releaseExpired } from './reserve';
import { readRules } from '../rules/rules';
import { tillStatus } from './till-status';
import { takingsOf } from './takings';
import { forgetTestOrders } from './test-orders';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 5);
  await w.addGoods('Pattern', 650, null, { kind: 'download' });
});
afterEach(() => w.end());

const act = async (id: string, body: object) => actOnOrder(w.ctx, await w.site(), id, body, 'Marnie');
const first = async () => {
  const [order] = await w.orders();
  if (!order) throw new Error('there is an order');
  return order;
};
const stock = async () => (await w.ctx.store.db.select({ n: variants.stock }).from(variants))[0]?.n;
const wanted = async () =>
  (await w.ctx.store.db.select({ kind: letters.kind }).from(letters)).map((l) => l.kind).sort();
const transfer = {
  ways: [{ id: 't', kind: 'transfer', words: 'In seven days', iban: 'GB29NWBK60161331926819' }],
};

describe('an order that is worked on', () => {
  it('is packed and sent with a number, and what was done can be taken back with its letter', async () => {
    await w.buy([{ goods: 'trug' }]);
    const { id } = await first();
    await expect(act(id, { act: 'collect' })).rejects.toThrow('cannot be done');
    await act(id, { act: 'pack' });
    await expect(act(id, { act: 'send', tracking: 'RR473124825GB' })).rejects.toThrow(
      'ninth digit should be 9',
    );
    await act(id, { act: 'send', carrier: 'Post', tracking: 'RR473124829GB' });
    expect(await first()).toMatchObject({
      shelf: 'done',
      parcels: [{ carrier: 'Post', number: 'RR473124829GB' }],
    });
    expect(await wanted()).toContain('sent');
    await act(id, { act: 'take-back' });
    expect(await wanted()).not.toContain('sent');
    expect(await first()).toMatchObject({ shelf: 'to-send', parcels: [] });
    await act(id, { act: 'take-back' });
    expect((await first()).shelf).toBe('to-pack');
    await act(id, { act: 'note', text: 'ring first' });
    expect((await first()).events.at(-1)).toMatchObject({ what: 'Note by Marnie', detail: 'ring first' });
  });

  it('that two windows press at once is packed once', async () => {
    await w.buy([{ goods: 'trug' }]);
    const { id } = await first();
    const tried = await Promise.allSettled([act(id, { act: 'pack' }), act(id, { act: 'pack' })]);
    expect(tried.map((t) => t.status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('that is cancelled gives pieces and money back, and nothing more can be done with it', async () => {
    await w.buy([{ goods: 'trug', quantity: 2 }]);
    expect(await stock()).toBe(3);
    const { id } = await first();
    await act(id, { act: 'cancel', text: 'changed their mind' });
    expect(await stock()).toBe(5);
    expect(await first()).toMatchObject({
      state: 'cancelled',
      shelf: 'nothing',
      refunded: 8400,
      refundable: 0,
      acts: { now: null },
    });
    expect(w.provider.refunds).toMatchObject([{ amount: 8400 }]);
    await expect(act(id, { act: 'pack' })).rejects.toThrow();
  });
});

describe('an order that was given back in part before it is cancelled', () => {
  it('puts only those pieces on the shelf that are still out', async () => {
    await w.buy([{ goods: 'trug', quantity: 3 }]);
    const { id, lines } = await first();
    await act(id, {
      act: 'refund',
      refund: { lines: [{ lineId: lines[0]?.id ?? '', quantity: 1 }], restock: true },
    });
    expect(await stock()).toBe(3);
    await act(id, { act: 'cancel' });
    expect(await stock()).toBe(5);
    expect(w.provider.refunds.map((r) => r.amount)).toEqual([4200, 8400]);
  });
});

describe('an order that is cancelled though its provider refuses the money', () => {
  it('is cancelled, says so, and the money can be given back later', async () => {
    await w.buy([{ goods: 'trug' }]);
    const { id } = await first();
    w.provider.refund = 'failed';
    await expect(act(id, { act: 'cancel' })).rejects.toThrow(
      'The order is cancelled, but its money is not back',
    );
    expect(await first()).toMatchObject({ state: 'cancelled', refundable: 4200, acts: { or: ['refund'] } });
    w.provider.refund = 'done';
    await act(id, { act: 'refund', refund: { amount: 4200 } });
    expect(await first()).toMatchObject({ refunded: 4200, acts: { or: [] } });
  });
});

describe('paying by instruction', () => {
  it('orders for good, holds its pieces, tells the reference, and is paid when the owner says so', async () => {
    await w.till('pay', transfer);
    const { token } = await w.order([{ goods: 'trug' }]);
    expect(w.provider.asked).toEqual([]);
    const placed = await first();
    expect(placed).toMatchObject({
      state: 'placed',
      shelf: 'money',
      number: 1001,
      papers: [],
      acts: { now: 'mark-paid' },
    });
    expect(await stock()).toBe(4);
    expect(await wanted()).toEqual(['confirmation', 'to-owner']);
    // Half an hour later it is still theirs: nobody is paying, so nothing runs out.
    w.clock.ms += 3_600_000;
    await releaseExpired(w.ctx);
    expect((await first()).state).toBe('placed');
    await act(placed.id, { act: 'mark-paid' });
    expect(await first()).toMatchObject({
      state: 'paid',
      number: 1001,
      shelf: 'to-pack',
      papers: [{ series: 'invoice', number: '1' }],
    });
    expect(await stock()).toBe(4);
    // Who marked it is no business of the buyer's.
    expect((await w.ctx.store.db.select().from(documents))[0]?.content.notes).toEqual([
      'Paid: Bank transfer',
    ]);
    await expect(act(placed.id, { act: 'mark-paid' })).rejects.toThrow();
    expect(token).toBeTruthy();
    // Money that came by hand goes back by hand: no provider is asked.
    await refundOrder(w.ctx, await w.site(), placed.id, { amount: 1000 }, 'Marnie');
    expect(w.provider.refunds).toEqual([]);
    expect(await first()).toMatchObject({ refunded: 1000, refundable: 3200 });
  });

  it('gives its reference in the form of ISO 11649', async () => {
    await w.till('pay', transfer);
    await w.order([{ goods: 'trug' }]);
    const { instructionOf } = await import('./instruction');
    const { stepWordsIn } = await import('../../core/languages/languages');
    const o = await first();
    const made = instructionOf(
      await readRules(w.ctx.store.db, (await w.site()).row.id),
      { state: o.state, payBy: 't', number: o.number },
      stepWordsIn('en'),
    );
    expect(isCreditorReference((made?.rows[1]?.value ?? '').replace(/ /g, ''))).toBe(true);
    expect(made?.rows[0]?.value).toBe('GB29 NWBK 6016 1331 9268 19');
  });

  it('an IBAN whose check digits do not fit is not kept (ISO 13616)', async () => {
    await expect(
      w.till('pay', { ways: [{ id: 't', kind: 'transfer', iban: 'GB29NWBK60161331926818' }] }),
    ).rejects.toThrow('not an IBAN');
  });

  it('cancelled before the money came, it gives vouchers and pieces back and asks nobody for money', async () => {
    await w.till('pay', transfer);
    const site = await w.site();
    await w.ctx.store.db.insert(vouchers).values({
      id: 'v',
      siteId: site.row.id,
      code: 'ABCDEFGH2345',
      amount: 1000,
      currency: 'GBP',
      createdAt: w.ctx.now(),
    });
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    const { total } = await setCode(w.ctx, site, cart.token, 'ABCDEFGH2345', 'in');
    await goToPay(
      w.ctx,
      site,
      cart.token,
      { email: 'a@b.example', name: 'A', street: 'S', town: 'T', postcode: 'WB4 2TR', country: 'GB', total },
      'site',
    );
    const left = async () =>
      (await vouchersIn(w.ctx.store.db, site.row.id, ['ABCDEFGH2345'], w.ctx.now(), ''))[0]?.balance;
    expect(await left()).toBeUndefined();
    await act((await first()).id, { act: 'cancel' });
    expect([await left(), await stock(), w.provider.refunds.length]).toEqual([1000, 5, 0]);
  });
});

describe('ways to pay', () => {
  it('none at all: shoppers are told kindly and keep their cart, the owner is told loudly', async () => {
    await w.till('pay', { ways: [{ id: 'c', kind: 'card', active: false }] });
    await expect(w.order([{ goods: 'trug' }])).rejects.toThrow('Your cart is kept');
    expect((await tillStatus(w.ctx, await w.site())).unpayable).toContain('cannot finish an order');
    await w.till('pay', transfer);
    expect((await tillStatus(w.ctx, await w.site())).unpayable).toBe('');
  });

  it('of a provider that is not set up are not offered', async () => {
    const bare = { ...w.ctx, providers: {} };
    const site = await w.site();
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    const rules = await readRules(w.ctx.store.db, site.row.id);
    expect(waysToPay(bare, rules, await readCart(w.ctx, site, cart.token), 'GB')).toEqual([]);
    expect(waysToPay(w.ctx, rules, await readCart(w.ctx, site, cart.token), 'GB').map((x) => x.kind)).toEqual(
      ['card', 'wallet'],
    );
    expect((await tillStatus(bare, site)).unpayable).toContain('No payment provider');
  });

  it('changed from card to wallet, each is asked for a payment of its own', async () => {
    const site = await w.site();
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    const buyer = {
      email: 'a@b.example',
      name: 'A',
      street: 'S',
      town: 'T',
      postcode: 'WB4 2TR',
      country: 'GB',
      total: 4200,
    };
    await goToPay(w.ctx, site, cart.token, { ...buyer, payBy: 'card' }, 'site');
    await goToPay(w.ctx, site, cart.token, { ...buyer, payBy: 'wallet' }, 'site');
    await goToPay(w.ctx, site, cart.token, { ...buyer, payBy: 'wallet' }, 'site');
    const rows = await w.ctx.store.db.select().from(payments);
    expect(rows.map((p) => p.provider).sort()).toEqual(['card', 'wallet']);
    await expect(goToPay(w.ctx, site, cart.token, { ...buyer, payBy: 'cheque' }, 'site')).rejects.toThrow(
      'not available',
    );
  });
});

describe('trying out', () => {
  it('orders have numbers of their own, no invoice and no takings, and go in one act with their pieces back', async () => {
    await w.buy([{ goods: 'trug' }]);
    await w.till('pay', { test: true });
    await w.buy([{ goods: 'trug' }], 'test@b.example');
    expect(w.provider.asked.at(-1)).toMatchObject({ test: true });
    const site = await w.site();
    expect((await w.orders()).map((o) => [o.test, o.number, o.papers.length])).toEqual([
      [true, 1, 0],
      [false, 1001, 1],
    ]);
    expect((await takingsOf(w.ctx, site, {})).all).toMatchObject({ orders: 1, goods: 4200 });
    expect(await listOrders(w.ctx, site)).toMatchObject({
      tests: 1,
      shelves: [{ count: 1, rows: [{ number: 1001 }] }],
    });
    expect(await stock()).toBe(3);
    expect(await forgetTestOrders(w.ctx, site)).toEqual({ gone: 1 });
    expect([await stock(), (await w.orders()).length]).toEqual([4, 1]);
  });
});

describe('an order to try things out', () => {
  it('hands out nothing that anybody could have for nothing: no files, no vouchers, no subscription', async () => {
    await w.addGoods('Gift voucher', 5000, null, { kind: 'voucher' });
    await w.addGoods('Box', 2000, null, { kind: 'subscription', every: { count: 1, unit: 'month' } });
    await w.till('pay', { test: true });
    await w.buy([{ goods: 'gift-voucher' }, { goods: 'pattern' }]);
    await w.buy([{ goods: 'box' }], 'b@x.example');
    expect((await w.orders()).map((o) => o.state)).toEqual(['paid', 'paid']);
    expect([await w.ctx.store.db.$count(vouchers), await w.ctx.store.db.$count(subscriptions)]).toEqual([
      0, 0,
    ]);
    const [row] = await w.ctx.store.db.select().from(orders).where(eq(orders.total, 5650));
    expect(row && (await hasDownloads(w.ctx.store.db, row))).toBe(false);
  });
});

describe('gift vouchers that are given back', () => {
  it('hold nothing any more; one that was spent already is told to the owner', async () => {
    await w.addGoods('Gift voucher', 5000, null, { kind: 'voucher' });
    await w.buy([{ goods: 'gift-voucher', quantity: 2 }]);
    const site = await w.site();
    const made = await w.ctx.store.db.select().from(vouchers);
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    await setCode(w.ctx, site, cart.token, made[0]?.code ?? '', 'in');
    await goToPay(
      w.ctx,
      site,
      cart.token,
      {
        email: 'a@b.example',
        name: 'A',
        street: 'S',
        town: 'T',
        postcode: 'WB4 2TR',
        country: 'GB',
        total: 0,
      },
      'site',
    );
    const order = (await w.orders()).find((o) => o.total === 10_000);
    const give = (quantity: number) =>
      refundOrder(
        w.ctx,
        site,
        order?.id ?? '',
        { lines: [{ lineId: order?.lines[0]?.id ?? '', quantity }] },
        'Marnie',
      );
    const good = async () =>
      (
        await vouchersIn(
          w.ctx.store.db,
          site.row.id,
          made.map((v) => v.code),
          w.ctx.now(),
          '',
        )
      ).map((v) => v.balance);
    expect(await good()).toEqual([800, 5000]);
    await give(1);
    // The one that nobody used goes first.
    expect(await good()).toEqual([800]);
    await give(1);
    expect(await good()).toEqual([]);
    expect((await w.orders()).find((o) => o.id === order?.id)?.events.map((e) => e.what)).toContain(
      'A voucher that was given back had been spent',
    );
  });
});

describe('money that goes back', () => {
  it('goes to the provider once, in parts, with and without pieces, each with a credit note of its own', async () => {
    await w.buy([{ goods: 'trug', quantity: 2 }]);
    const site = await w.site();
    const { id, lines } = await first();
    await refundOrder(
      w.ctx,
      site,
      id,
      { lines: [{ lineId: lines[0]?.id ?? '', quantity: 1 }], restock: true, reason: 'Too large' },
      'Marnie',
    );
    await refundOrder(w.ctx, site, id, { amount: 200 }, 'Marnie');
    expect(w.provider.refunds.map((r) => r.amount)).toEqual([4200, 200]);
    expect(await stock()).toBe(4);
    expect(await first()).toMatchObject({
      refunded: 4400,
      refundable: 4000,
      papers: [
        { series: 'invoice', number: '1' },
        { series: 'credit', number: 'C1' },
        { series: 'credit', number: 'C2' },
      ],
    });
    await expect(refundOrder(w.ctx, site, id, { amount: 4001 }, 'Marnie')).rejects.toThrow('At most £40.00');
    expect((await wanted()).filter((k) => k === 'refund')).toHaveLength(2);
  });

  it('many at once never come to more than was paid', async () => {
    await w.buy([{ goods: 'trug' }]);
    const site = await w.site();
    const { id } = await first();
    const tried = await Promise.allSettled(
      Array.from({ length: 12 }, () => refundOrder(w.ctx, site, id, { amount: 1000 }, 'Marnie')),
    );
    expect(tried.filter((t) => t.status === 'fulfilled')).toHaveLength(4);
    expect(w.provider.refunds.reduce((n, r) => n + r.amount, 0)).toBe(4000);
    expect(await first()).toMatchObject({ refunded: 4000, refundable: 200 });
  });

  it('that the provider refuses changes nothing; one that it never answered is asked for again, once', async () => {
    await w.buy([{ goods: 'trug' }]);
    const site = await w.site();
    const { id } = await first();
    w.provider.refund = 'failed';
    await expect(refundOrder(w.ctx, site, id, { amount: 500 }, 'Marnie')).rejects.toThrow(
      'The card is closed',
    );
    expect(await first()).toMatchObject({ refunded: 0, refundable: 4200 });
    w.provider.up = false;
    expect(await refundOrder(w.ctx, site, id, { amount: 700 }, 'Marnie')).toMatchObject({ state: 'asked' });
    // It counts from the moment it was asked for.
    expect(await first()).toMatchObject({
      refundable: 3500,
      refunds: [{ state: 'failed' }, { state: 'asked' }],
    });
    Object.assign(w.provider, { up: true, refund: 'done' });
    w.clock.ms += 120_000;
    expect(await resendRefunds(w.ctx)).toBe(1);
    expect(await resendRefunds(w.ctx)).toBe(0);
    const [row] = await w.ctx.store.db.select().from(refunds).where(eq(refunds.state, 'done'));
    expect(w.provider.refunds.at(-1)?.reference).toBe(row?.id);
  });

  it('goes back onto the voucher for the part that was paid with it', async () => {
    const site = await w.site();
    await w.ctx.store.db.insert(vouchers).values({
      id: 'v',
      siteId: site.row.id,
      code: 'ABCDEFGH2345',
      amount: 3000,
      currency: 'GBP',
      createdAt: w.ctx.now(),
    });
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    const { total } = await setCode(w.ctx, site, cart.token, 'ABCD-EFGH-2345', 'in');
    await goToPay(
      w.ctx,
      site,
      cart.token,
      { email: 'a@b.example', name: 'A', street: 'S', town: 'T', postcode: 'WB4 2TR', country: 'GB', total },
      'site',
    );
    await w.approve();
    const { id } = await first();
    const left = async () =>
      (await vouchersIn(w.ctx.store.db, site.row.id, ['ABCDEFGH2345'], w.ctx.now(), ''))[0]?.balance ?? 0;
    expect([total, await left()]).toEqual([1200, 0]);
    await refundOrder(w.ctx, site, id, { amount: 2000 }, 'Marnie');
    // Money first: 12.00 to the card, the rest onto the voucher.
    expect([w.provider.refunds.at(-1)?.amount, await left()]).toEqual([1200, 800]);
    await refundOrder(w.ctx, site, id, { amount: 2200 }, 'Marnie');
    expect([w.provider.refunds.length, await left()]).toEqual([1, 3000]);
  });
});

describe('numbers', () => {
  it('of orders and invoices have no gaps, though many pay at once and some do not', async () => {
    await w.addGoods('Bundle', 1400, 100);
    const placed = [];
    for (let n = 0; n < 12; n++) placed.push(await w.order([{ goods: 'bundle' }], `b${n}@x.example`));
    await Promise.all(placed.filter((_, n) => n % 3 !== 0).map((p) => w.approve(p.reference)));
    const numbers = (
      await w.ctx.store.db.select({ n: orders.number }).from(orders).where(eq(orders.state, 'paid'))
    )
      .map((o) => o.n ?? 0)
      .sort((a, b) => a - b);
    expect(numbers).toEqual(Array.from({ length: 8 }, (_, n) => 1001 + n));
    const papers = (
      await w.ctx.store.db
        .select({ n: documents.number })
        .from(documents)
        .where(and(eq(documents.series, 'invoice')))
    )
      .map((d) => d.n)
      .sort((a, b) => a - b);
    expect(papers).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
  });

  it('an invoice never changes, whatever is renamed afterwards', async () => {
    await w.till('seller', { name: 'Old Name', prefix: 'W-' });
    await w.buy([{ goods: 'trug' }]);
    const before = (await w.ctx.store.db.select().from(documents))[0]?.content;
    await w.till('seller', { name: 'New Name', prefix: 'X-' });
    const [after] = await w.ctx.store.db.select().from(documents);
    expect(after?.content).toEqual(before);
    expect(after?.content).toMatchObject({ number: 'W-1', seller: { name: 'Old Name' }, type: 380 });
  });
});
