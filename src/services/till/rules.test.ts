import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { tillRules } from '../../core/till/rules';
import { rateFor } from '../../core/till/tax';
import { discountUses, orders, tills, vouchers } from '../../data/schema';
import { catalogueOf } from '../goods/catalogue';
import { removeProduct, undoLive } from '../goods/goods';
import { readSlip } from '../sites/slip';
import { makeWorld, type World } from '../testing';
import { readBasics, saveBasics } from './basics';
import { addToCart } from './add-to-cart';
import { readCart } from './cart';
import { setCode, setPlace } from './cart-changes';
import { bareCode, readableCode, vouchersIn, vouchersOf } from './codes';
import { goToPay } from './go-to-pay';
import { countriesIn, countryCode, countryName } from '../rules/countries';
import { orderByToken } from './orders';
import { wallClock } from './pricing';
import { HELD_MS } from './reserve';
import { readRules, saveRules } from '../rules/rules';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, null, { variants: [{ stock: null, weight: 800 }] });
});
afterEach(() => w.end());

const rulesNow = async () => readRules(w.ctx.store.db, (await w.site()).row.id);
const set = async (part: 'tax' | 'shipping' | 'discounts', value: unknown) =>
  saveRules(w.ctx, await w.site(), { part, value, from: (await rulesNow())[part] }, 'test');
const ada = {
  email: 'ada@penhallow.example',
  name: 'Ada',
  street: '4 Weir Lane',
  town: 'Osierham',
  postcode: 'WB4 2TR',
  country: 'GB',
};
const cartWith = async (codes: readonly string[] = [], goods = 'trug', quantity = 1) => {
  const { token } = await addToCart(
    w.ctx,
    await w.site(),
    null,
    { goods, quantity, placement: null, page: '/' },
    null,
  );
  for (const code of codes) await setCode(w.ctx, await w.site(), token, code, 'in');
  return token;
};
const pay = async (cart: string, total: number, more: Partial<typeof ada> & { way?: string } = {}) =>
  goToPay(w.ctx, await w.site(), cart, { ...ada, ...more, total }, 'site');
const uk = {
  regions: [
    {
      id: 'uk',
      name: 'United Kingdom',
      areas: [{ country: 'GB' }],
      ways: [
        { id: 'post', name: 'Post', base: 499 },
        { id: 'fast', name: 'By tomorrow', base: 999 },
      ],
    },
  ],
};

describe('the rules of a till', () => {
  it('are set part by part, stand on the slip, and are undone; what another window changed is not lost', async () => {
    const first = (await rulesNow()).shipping;
    await set('shipping', uk);
    expect((await readSlip(w.ctx, await w.site())).live[0]).toMatchObject({
      where: 'Till',
      what: 'Shipping changed',
    });
    const fromElsewhere = async (value: object) =>
      saveRules(w.ctx, await w.site(), { part: 'shipping', value: { ...first, ...value }, from: first }, 't');
    await expect(
      fromElsewhere({ regions: [{ id: 'fr', name: 'France', areas: [{ country: 'FR' }] }] }),
    ).rejects.toThrow('changed in another window');
    // What nobody else touched is no quarrel: both changes hold, and each is undone by itself.
    const both = await fromElsewhere({ closedWeekdays: [0] });
    expect(both.shipping.closedWeekdays).toEqual([0]);
    expect(both.shipping.regions.length).toBe((await rulesNow()).shipping.regions.length);
    expect(both.shipping.regions.length).toBeGreaterThan(0);
    await undoLive(w.ctx, await w.site(), (await readSlip(w.ctx, await w.site())).live[0]?.id ?? 0, 'test');
    await undoLive(w.ctx, await w.site(), (await readSlip(w.ctx, await w.site())).live[0]?.id ?? 0, 'test');
    expect((await rulesNow()).shipping).toEqual(first);
    await expect(
      set('discounts', [
        { id: 'a', name: 'A', code: 'X' },
        { id: 'b', name: 'B', code: 'x' },
      ]),
    ).rejects.toThrow('same code');
    await expect(set('tax', { rates: [{ country: 'GB', percent: 120 }] })).rejects.toThrow('100 per cent');
  });

  it('are what a cart costs: shipping where it goes, tax, a code; and what is charged is what was shown', async () => {
    await set('shipping', uk);
    await set('tax', { included: true, home: { country: 'GB' }, rates: [{ country: 'GB', percent: 20 }] });
    await set('discounts', [{ id: 'ten', name: 'Ten off', code: 'COPPICE', percent: 10 }]);
    const cart = await cartWith(['coppice']);
    expect((await readCart(w.ctx, await w.site(), cart)).total).toBe(3780);
    expect(
      await setPlace(w.ctx, await w.site(), cart, { country: 'GB', state: '', postcode: '' }, 'fast'),
    ).toMatchObject({ total: 4779, way: 'fast', taxes: [{ percent: 20, tax: 797 }] });
    await expect(pay(cart, 3780)).rejects.toThrow('The total is now \u00a342.79');
    await pay(cart, 4779, { way: 'fast' });
    expect(w.provider.asked.at(-1)?.amount).toBe(4779);
    expect((await w.orders())[0]?.steps.map((s) => [s.kind, s.amount])).toEqual([
      ['goods', 4200],
      ['discount', -420],
      ['shipping', 999],
      ['included', 797],
    ]);
    await expect(pay(await cartWith(), 4699, { country: 'FR' })).rejects.toThrow(
      'We do not send this to France yet',
    );
  });
});

it('a code limited to ten is used ten times by a hundred buyers at once, and is free again when one does not pay', async () => {
  await set('discounts', [{ id: 'few', name: 'The first ten', code: 'FIRST', percent: 50, limit: 10 }]);
  const carts = await Promise.all(Array.from({ length: 100 }, () => cartWith(['FIRST'])));
  const tried = await Promise.allSettled(
    carts.map((cart, n) => pay(cart, 2100, { email: `b${n}@moor.example` })),
  );
  expect(tried.filter((t) => t.status === 'fulfilled')).toHaveLength(10);
  for (const t of tried)
    if (t.status === 'rejected') expect(String(t.reason.message)).toContain('The total is now \u00a342.00');
  expect(await w.ctx.store.db.$count(discountUses, eq(discountUses.state, 'held'))).toBe(10);
  expect((await readCart(w.ctx, await w.site(), carts[99] ?? '')).codes).toEqual([
    { code: 'FIRST', status: 'used-up' },
  ]);
  w.clock.ms += HELD_MS + 1000;
  await expect(pay(await cartWith(['FIRST']), 2100)).resolves.toBeTruthy();
});

it('a code that each buyer has once is had once, whatever capitals their address has', async () => {
  await set('discounts', [{ id: 'once', name: 'Once', code: 'HELLO', percent: 50, limitEach: 1 }]);
  await pay(await cartWith(['HELLO']), 2100);
  await expect(pay(await cartWith(['HELLO']), 2100, { email: 'ADA@penhallow.example' })).rejects.toThrow(
    'The total is now',
  );
  await expect(pay(await cartWith(['HELLO']), 2100, { email: 'ben@moor.example' })).resolves.toBeTruthy();
});

describe('gift vouchers', () => {
  const make = async (amount: number) => {
    await w.ctx.store.write(async (tx) =>
      tx.insert(vouchers).values({
        id: 'v1',
        siteId: (await w.site()).row.id,
        code: 'ABCDEFGH2345',
        amount,
        currency: 'GBP',
        createdAt: w.ctx.now(),
      }),
    );
  };
  const left = async () =>
    (await vouchersIn(w.ctx.store.db, (await w.site()).row.id, ['abcd-efgh-2345'], w.ctx.now(), ''))[0]
      ?.balance ?? 0;

  it('fifty at once spend one as far as it goes, to the penny', async () => {
    // 420.00 pay for ten trugs; every cart would take all of 42.00.
    await make(42_000);
    const carts = await Promise.all(Array.from({ length: 50 }, () => cartWith(['ABCD EFGH 2345'])));
    const tried = await Promise.allSettled(
      carts.map((cart, n) => pay(cart, 0, { email: `b${n}@moor.example` })),
    );
    expect(tried.filter((t) => t.status === 'fulfilled')).toHaveLength(10);
    expect(await left()).toBe(0);
    const paid = (await w.orders()).filter((o) => o.state === 'paid');
    expect([paid.length, paid.every((o) => o.total === 0), w.provider.asked.length]).toEqual([10, true, 0]);
  });

  it('pay a part; the rest is charged, and comes back on the voucher when it is not paid', async () => {
    await make(1_000);
    const cart = await cartWith(['ABCDEFGH2345']);
    await pay(cart, 3_200);
    expect(await left()).toBe(0);
    w.clock.ms += HELD_MS + 1000;
    expect(await left()).toBe(1_000);
    await pay(cart, 3_200);
    await w.approve();
    expect(await left()).toBe(0);
    w.clock.ms += HELD_MS + 1000;
    expect(await left()).toBe(0);
  });

  it('are made when they are paid for, one to each piece, with the months they hold', async () => {
    await w.addGoods('Voucher', 2_500, null, { kind: 'voucher', voucherMonths: 12 });
    const token = await w.buy([{ goods: 'voucher', quantity: 2 }]);
    const order = await orderByToken(w.ctx, (await w.site()).row.id, token);
    const made = await vouchersOf(w.ctx.store.db, order.id);
    expect(made.map((v) => [v.amount, v.expiresAt?.toISOString().slice(0, 10)])).toEqual([
      [2500, '2027-11-25'],
      [2500, '2027-11-25'],
    ]);
    const [first] = made;
    expect(readableCode(first?.code ?? '')).toMatch(/^[A-HJ-NP-Z2-9]{4}(-[A-HJ-NP-Z2-9]{4}){2}$/);
    expect(bareCode(readableCode(first?.code ?? '').toLowerCase())).toBe(first?.code);
    const cart = await cartWith([first?.code ?? '']);
    expect((await readCart(w.ctx, await w.site(), cart)).total).toBe(1700);
    w.clock.ms += 400 * 86_400_000;
    expect((await readCart(w.ctx, await w.site(), cart)).total).toBe(4200);
  });
});

it('the shop\u2019s clock is that of its zone, in summer and in winter', () => {
  expect([
    wallClock(new Date('2026-07-01T23:30:00Z'), 'Europe/London'),
    wallClock(new Date('2026-12-01T23:30:00Z'), 'Europe/London'),
    wallClock(new Date('2026-12-01T23:30:00Z'), 'Asia/Tokyo'),
  ]).toEqual(['2026-07-02T00:30', '2026-12-01T23:30', '2026-12-02T08:30']);
});

it('countries are known by code and by name (ISO 3166-1)', () => {
  expect(
    ['GB', 'gb', 'United Kingdom', 'UK', 'Germany', 'France', 'Atlantis', 'XX'].map(countryCode),
  ).toEqual(['GB', 'GB', 'GB', 'GB', 'DE', 'FR', undefined, undefined]);
  expect([countryName('DE', 'de'), countryName('Narnia', 'en')]).toEqual(['Deutschland', 'Narnia']);
  expect(countriesIn('en').length).toBeGreaterThan(240);
});

it('orders of before, with a country by its name, are read on', async () => {
  const token = await w.buy([{ goods: 'trug' }]);
  await w.ctx.store.write((tx) => tx.update(orders).set({ buyer: { ...ada, country: 'United Kingdom' } }));
  expect((await orderByToken(w.ctx, (await w.site()).row.id, token)).buyer.country).toBe('United Kingdom');
});

describe('states in rules', () => {
  it('are kept by their codes, however they were written: what the checkout sends is what they hold for', async () => {
    const rate = (state: string) => ({ country: 'US', state, class: 'standard', percent: 4 });
    await w.till('tax', { charged: true, home: { country: 'US', state: 'texas' }, rates: [rate('Georgia')] });
    const { tax } = await readRules(w.ctx.store.db, (await w.site()).row.id);
    expect([tax.home.state, tax.rates.map((r) => r.state)]).toEqual(['TX', ['GA']]);
    const place = { country: 'US', state: 'GA', postcode: '' };
    expect(rateFor({ ...tax, goodsBy: 'buyer' }, 'standard', false, place).percent).toBe(4);
    await expect(w.till('tax', { charged: true, rates: [rate('Gorgia')] })).rejects.toThrow(
      'United States has no state called \u201cGorgia\u201d',
    );
  });

  it('written as names by an earlier release are read as their codes', async () => {
    const site = await w.site();
    const old = tillRules.parse({ tax: { rates: [{ country: 'US', state: 'GEORGIA', percent: 4 }] } });
    await w.ctx.store.write((tx) =>
      tx
        .insert(tills)
        .values({ siteId: site.row.id, rules: old, updatedAt: new Date() })
        .onConflictDoUpdate({ target: tills.siteId, set: { rules: old } }),
    );
    expect((await readRules(w.ctx.store.db, site.row.id)).tax.rates[0]?.state).toBe('GA');
  });
});

describe('the currency of a shop', () => {
  it('may become another until something is sold; prices keep their figures', async () => {
    const fresh = await makeWorld();
    try {
      const made = await fresh.addGoods('Creel', 4200, 3);
      await saveBasics(fresh.ctx, await fresh.site(), { currency: 'EUR' });
      expect((await fresh.site()).row.currency).toBe('EUR');
      const now = (await catalogueOf(fresh.ctx, (await fresh.site()).row.id)).byId.get(made.id);
      expect(now?.price).toBe(4200);
      // What was removed is priced no longer; what nothing goes by yet is not asked.
      const gone = await fresh.addGoods('Old trug', 100, 1);
      await removeProduct(fresh.ctx, await fresh.site(), gone.id, 't');
      expect(await readBasics(fresh.ctx, await fresh.site())).toMatchObject({
        priced: 1,
        orders: 0,
        sells: null,
      });
      await expect(saveBasics(fresh.ctx, await fresh.site(), { currency: 'JPY' })).rejects.toThrow('digits');
      await fresh.order([{ goods: 'creel' }]);
      await expect(saveBasics(fresh.ctx, await fresh.site(), { currency: 'GBP' })).rejects.toThrow(
        'There are orders in EUR',
      );
    } finally {
      await fresh.end();
    }
  });
});
