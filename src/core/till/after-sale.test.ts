import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { minor, type Minor } from '../money/minor';
import { creditorReference, inFours, isCreditorReference } from './creditor-reference';
import { creditOf, invoiceOf } from './invoice';
import { may, nextActs, orderActs, type OrderFacts, shelfOf, shelves } from './order-life';
import { payKinds } from './pay-kinds';
import { offeredWays, payRules, whyNot } from './paying';
import { lineGross, planRefund, type RefundAsked, shippingGross, worthOf } from './refund';
import { tillRules } from './rules';
import { readTracking, s10CheckDigit } from './s10';
import { daysBetween, takings } from './takings';
import { type BasketLine, workOut } from './worked-sum';

const line = (
  n: number,
  unit: number,
  quantity: number,
  taxClass: BasketLine['taxClass'] = 'standard',
): BasketLine => ({
  id: `l${n}`,
  goodsId: `g${n}`,
  variantId: `v${n}`,
  slug: `g${n}`,
  name: `Thing ${n}`,
  particulars: [],
  unit: minor(unit),
  quantity,
  available: null,
  ships: true,
  grams: 500,
  taxClass,
});
const rules = (included: boolean) =>
  tillRules.parse({
    tax: {
      included,
      home: { country: 'GB' },
      rates: [
        { country: 'GB', class: 'standard', percent: 20 },
        { country: 'GB', class: 'reduced', percent: 5 },
        { country: 'GB', class: 'books', percent: 0 },
      ],
    },
    shipping: {
      regions: [
        { id: 'uk', name: 'UK', areas: [{ country: 'GB' }], ways: [{ id: 'post', name: 'Post', base: 499 }] },
      ],
    },
    discounts: [{ id: 'ten', name: 'Ten', kind: 'percent', percent: 10 }],
  });
const baskets = fc
  .record({
    included: fc.boolean(),
    lines: fc.array(
      fc.tuple(
        fc.integer({ min: 1, max: 50_000 }),
        fc.integer({ min: 1, max: 9 }),
        fc.constantFrom('standard' as const, 'reduced' as const, 'books' as const),
      ),
      { minLength: 1, maxLength: 6 },
    ),
    voucher: fc.integer({ min: 0, max: 60_000 }),
  })
  .map(({ included, lines, voucher }) =>
    workOut({
      currency: 'GBP',
      lines: lines.map(([unit, q, c], n) => line(n, unit, q, c)),
      rules: rules(included),
      buyer: {
        place: { country: 'GB', state: '', postcode: '' },
        codes: ['V'],
        vouchers: voucher ? [{ code: 'V', balance: minor(voucher) }] : [],
      },
    }),
  );

describe('tracking numbers (UPU S10)', () => {
  it('have the check digit of the standard’s worked examples', () => {
    // UPU S10: RR 47312482 9 GB, the number that the standard and most handbooks work through (from memory).
    expect(s10CheckDigit('47312482')).toBe(9);
    expect(readTracking('rr 473 124 829 gb')).toEqual({ kind: 's10', number: 'RR473124829GB' });
    // Remainder 0 is written 5, remainder 1 is written 0 (S10, 5.3).
    expect(s10CheckDigit('00000000')).toBe(5);
    // 8 + 9 leaves 6, and 11 less 6 is 5 as well.
    expect(s10CheckDigit('10000010')).toBe(5);
    expect(s10CheckDigit('00001000')).toBe(11 - 3);
  });

  it('with a wrong digit are told, with the digit they should have; numbers of other shapes are the carrier’s own', () => {
    expect(readTracking('RR473124825GB')).toEqual({ kind: 'wrong', number: 'RR473124825GB', digit: 9 });
    expect(readTracking('  1Z 999  AA1 ')).toEqual({ kind: 'other', number: '1Z 999 AA1' });
    expect(readTracking(' ')).toEqual({ kind: 'none' });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_999 }), (n) => {
        const serial = String(n).padStart(8, '0');
        expect(readTracking(`LX${serial}${s10CheckDigit(serial)}DE`).kind).toBe('s10');
      }),
    );
  });
});

describe('references of transfers (ISO 11649)', () => {
  it('are those of the standard’s example, and fit the check of ISO 7064 MOD 97-10', () => {
    expect(creditorReference('539007547034')).toBe('RF18539007547034');
    expect(inFours('RF18539007547034')).toBe('RF18 5390 0754 7034');
    fc.assert(
      fc.property(fc.stringMatching(/^[A-Z0-9]{1,21}$/), (own) => {
        const made = creditorReference(own);
        expect(isCreditorReference(made)).toBe(true);
        // Independent of our own remainder: the number is one more than a multiple of 97, as BigInt sees it.
        expect(
          BigInt([...made.slice(4), ...made.slice(0, 4)].map((c) => Number.parseInt(c, 36)).join('')) % 97n,
        ).toBe(1n);
      }),
    );
    expect(() => creditorReference('--')).toThrow(RangeError);
  });
});

describe('refunds', () => {
  const asked = (more: Partial<RefundAsked>): RefundAsked => ({
    lines: [],
    shipping: false,
    amount: null,
    ...more,
  });
  const nothing = { amount: 0, toVouchers: 0, lines: [] };

  it('of every piece and the shipping are all that was paid, however they are cut', () => {
    fc.assert(
      fc.property(baskets, fc.array(fc.nat(), { maxLength: 12 }), (worked, cuts) => {
        const paid = worked.total + (worked.totals?.paid ?? 0);
        let before: {
          amount: number;
          toVouchers: number;
          lines: { lineId: string; quantity: number }[];
          shipping: boolean;
        } = { amount: 0, toVouchers: 0, lines: [], shipping: false };
        const steps: RefundAsked[] = [
          ...cuts.map((n) => asked({ lines: [{ lineId: `l${n % worked.lines.length}`, quantity: 1 }] })),
          asked({ shipping: true }),
        ];
        const rest = () =>
          asked({
            lines: worked.lines.map((l) => ({
              lineId: l.id,
              quantity:
                l.quantity -
                before.lines.filter((b) => b.lineId === l.id).reduce((s, b) => s + b.quantity, 0),
            })),
          });
        for (const step of [...steps, null]) {
          const now = step ?? rest();
          const plan = planRefund(worked, now, before);
          if (!plan.ok) continue;
          before = {
            amount: before.amount + plan.amount,
            toVouchers: before.toVouchers + plan.toVouchers,
            lines: [...before.lines, ...now.lines],
            shipping: before.shipping || now.shipping,
          };
          expect(before.amount).toBeLessThanOrEqual(paid);
          // Money back is never more than money paid; vouchers get no more than they gave.
          expect(before.amount - before.toVouchers).toBeLessThanOrEqual(worked.total);
          expect(before.toVouchers).toBeLessThanOrEqual(worked.totals?.paid ?? 0);
        }
        expect(before.amount).toBe(paid);
      }),
    );
  });

  it('of pieces one by one come to the whole line, to the penny', () => {
    fc.assert(
      fc.property(baskets, (worked) => {
        for (const l of worked.lines) {
          let sum = 0;
          for (let n = 0; n < l.quantity; n++) sum += worthOf(l, n, 1);
          expect(sum).toBe(lineGross(l));
        }
        expect(worked.lines.reduce((n, l) => n + lineGross(l), 0) + shippingGross(worked)).toBe(
          worked.totals?.withTax,
        );
      }),
    );
  });

  it('never come to more than is left, nor to nothing, nor to pieces that were not bought', () => {
    const worked = workOut({ currency: 'GBP', lines: [line(0, 1000, 2)] });
    expect(planRefund(worked, asked({ amount: 2001 }), nothing)).toMatchObject({
      ok: false,
      why: 'too-much',
      most: 2000,
    });
    expect(planRefund(worked, asked({}), nothing)).toMatchObject({ ok: false, why: 'nothing' });
    expect(planRefund(worked, asked({ lines: [{ lineId: 'l0', quantity: 3 }] }), nothing)).toMatchObject({
      ok: false,
      why: 'too-many-pieces',
    });
    expect(planRefund(worked, asked({ lines: [{ lineId: 'x', quantity: 1 }] }), nothing)).toMatchObject({
      ok: false,
      why: 'unknown-line',
    });
    expect(
      planRefund(worked, asked({ lines: [{ lineId: 'l0', quantity: 2 }] }), { ...nothing, amount: 500 }),
    ).toMatchObject({ ok: true, amount: 1500 });
  });
});

describe('invoices and credit notes', () => {
  const head = {
    number: '1',
    issued: '2026-11-26',
    supplied: '2026-11-26',
    order: '1001',
    locale: 'en',
    seller: { name: 'S', lines: [], taxNumber: '', email: '' },
    buyer: { name: 'B', lines: [] },
    included: true,
    notes: [],
  };

  it('hold the arithmetic of EN 16931: BR-CO-10, BR-CO-13, BR-CO-14, BR-CO-15, BR-CO-16', () => {
    fc.assert(
      fc.property(
        baskets,
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.boolean(),
        (worked, part, withLines) => {
          const paid = worked.total + (worked.totals?.paid ?? 0);
          const amount = minor(Math.max(1, Math.floor(paid * part)));
          const first = worked.lines[0];
          const lines =
            withLines && first && lineGross(first) <= amount && lineGross(first) > 0
              ? [{ lineId: first.id, quantity: first.quantity, gross: lineGross(first) }]
              : [];
          for (const i of [
            invoiceOf(worked, head),
            creditOf(worked, { amount, lines, rest: 'Beside' }, { ...head, about: '1' }),
          ]) {
            const { totals: t } = i;
            expect(i.lines.reduce((n, l) => n + l.net, 0)).toBe(t.lines); // BR-CO-10: BT-106 = sum of BT-131
            expect(i.charges.reduce((n, c) => n + c.net, 0)).toBe(t.charges); // BR-CO-12: BT-108 = sum of BT-99
            expect(t.lines + t.charges).toBe(t.withoutTax); // BR-CO-13
            expect(i.rows.reduce((n, r) => n + r.tax, 0)).toBe(t.tax); // BR-CO-14
            expect(t.withoutTax + t.tax).toBe(t.withTax); // BR-CO-15
            expect(t.withTax - t.paid).toBe(t.due); // BR-CO-16
            expect(i.rows.reduce((n, r) => n + r.taxable, 0)).toBe(t.withoutTax);
          }
        },
      ),
    );
  });

  it('of a whole order gives back exactly the tax that was charged, where prices hold it', () => {
    // 1/6 of a price at 20 % (UK VAT Notice 700, 7.3.1): 120.00 hold 20.00.
    const worked = workOut({
      currency: 'GBP',
      lines: [line(0, 12_000, 1)],
      rules: tillRules.parse({ tax: { home: { country: 'GB' }, rates: [{ country: 'GB', percent: 20 }] } }),
    });
    const credit = creditOf(
      worked,
      { amount: minor(12_000), lines: [{ lineId: 'l0', quantity: 1, gross: minor(12_000) }], rest: '' },
      { ...head, about: '1' },
    );
    expect([credit.type, credit.totals.tax, credit.totals.withoutTax, credit.charges]).toEqual([
      381,
      2000,
      10_000,
      [],
    ]);
  });
});

describe('the life of an order', () => {
  const facts: fc.Arbitrary<OrderFacts> = fc.record({
    state: fc.constantFrom(
      'waiting' as const,
      'placed' as const,
      'paid' as const,
      'failed' as const,
      'cancelled' as const,
    ),
    short: fc.boolean(),
    lacks: fc.boolean(),
    goes: fc.constantFrom('post' as const, 'local' as const, 'collect' as const, null),
    payLater: fc.boolean(),
    packed: fc.boolean(),
    sent: fc.boolean(),
    collected: fc.boolean(),
    refundable: fc.nat(10_000),
  });

  it('what is offered is what is allowed, and nothing is offered twice', () => {
    fc.assert(
      fc.property(facts, (f) => {
        const { now, later, or } = nextActs(f);
        const all = [...(now ? [now] : []), ...later, ...or];
        expect(new Set(all).size).toBe(all.length);
        for (const act of all) expect(may(act, f), act).toBe(true);
        expect(orderActs.filter((a) => a !== 'note' && may(a, f)).sort()).toEqual([...all].sort());
      }),
    );
  });

  it('every order stands on one shelf; one that came to nothing is never worked on, one that is not paid is not packed unless it is paid on delivery', () => {
    fc.assert(
      fc.property(facts, (f) => {
        expect(shelves).toContain(shelfOf(f));
        // Money may have come for one that failed, or was cancelled: then it is looked into.
        if (f.state === 'failed' || f.state === 'cancelled')
          expect(shelfOf(f)).toBe(f.short ? 'look-into' : 'nothing');
        if (f.state === 'failed' || f.state === 'waiting') expect(nextActs(f).now).toBeNull();
        if (f.state === 'placed' && !f.payLater) expect(may('pack', f)).toBe(false);
        if (f.sent) expect(may('send', f) || may('cancel', f)).toBe(false);
      }),
    );
  });

  it('goes from packing to sending to done', () => {
    const start: OrderFacts = {
      state: 'paid',
      short: false,
      lacks: false,
      goes: 'post',
      payLater: false,
      packed: false,
      sent: false,
      collected: false,
      refundable: 100,
    };
    expect([shelfOf(start), nextActs(start).now, nextActs(start).later]).toEqual([
      'to-pack',
      'pack',
      ['send'],
    ]);
    expect([shelfOf({ ...start, packed: true }), nextActs({ ...start, packed: true }).now]).toEqual([
      'to-send',
      'send',
    ]);
    expect([
      shelfOf({ ...start, packed: true, sent: true }),
      nextActs({ ...start, packed: true, sent: true }).now,
    ]).toEqual(['done', null]);
    expect(
      shelfOf({ ...start, state: 'placed', payLater: true, goes: 'collect', packed: true, collected: true }),
    ).toBe('money');
  });
});

describe('ways to pay', () => {
  const rulesOf = (...ways: object[]) =>
    payRules.parse({ ways: ways.map((w, n) => ({ id: `w${n}`, kind: 'card', ...w })) });
  const facts = {
    country: 'GB',
    total: 5000,
    goes: 'post' as const,
    again: false,
    connected: ['card', 'wallet'],
  };

  it('follow country, amount, what is sent, and what is set up', () => {
    const all = rulesOf(
      { kind: 'card' },
      { kind: 'wallet', least: 6000 },
      { kind: 'transfer', countries: ['DE'], words: 'To account 1234 5678.' },
      { kind: 'delivery' },
      { kind: 'person' },
    );
    expect(offeredWays(all, facts).map((w) => w.kind)).toEqual(['card', 'delivery']);
    expect(
      offeredWays(all, { ...facts, total: 6000, country: 'DE', goes: 'collect' }).map((w) => w.kind),
    ).toEqual(['card', 'wallet', 'transfer', 'person']);
    expect(offeredWays(all, { ...facts, connected: [] }).map((w) => w.kind)).toEqual(['delivery']);
    // A transfer to nowhere cannot be made: the owner is told, and shoppers are not offered it.
    const nowhere = rulesOf({ kind: 'transfer', words: 'Within 7 days, please.' });
    expect(nowhere.ways.map((w) => whyNot(w, facts))).toEqual(['no-account']);
    // What is charged again needs a card that can be.
    expect(offeredWays(all, { ...facts, total: 9000, again: true }).map((w) => w.kind)).toEqual(['card']);
  });

  it('a way is offered exactly when there is no reason against it, and amounts count up to and with their ends', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...payKinds),
        fc.option(fc.nat(9000)),
        fc.option(fc.nat(9000)),
        fc.nat(9000),
        (kind, least, most, total) => {
          const own = rulesOf({ kind, least, most });
          const f = { ...facts, total };
          expect(offeredWays(own, f).length === 1).toBe(
            whyNot(own.ways[0] as (typeof own.ways)[number], f) === null,
          );
          if (least !== null && total < least) expect(offeredWays(own, f)).toEqual([]);
          if (kind === 'card' && (least === null || total >= least) && (most === null || total <= most))
            expect(offeredWays(own, f)).toHaveLength(1);
        },
      ),
    );
  });
});

describe('takings', () => {
  const order = fc.record({
    day: fc.constantFrom('2026-11-01', '2026-11-02', '2026-11-05', '2026-12-01'),
    shipping: fc.nat(900),
    tax: fc.nat(900),
    lines: fc.array(
      fc.record({
        goodsId: fc.constantFrom('a', 'b', 'c'),
        name: fc.constant('x'),
        pieces: fc.integer({ min: 1, max: 9 }),
        amount: fc.nat(9000),
        categories: fc.constantFrom([], ['Willow'], ['Baskets', 'Willow']),
        placementId: fc.constantFrom(null, 'p1'),
        page: fc.constantFrom(null, '/', '/shop/'),
      }),
      { minLength: 1, maxLength: 4 },
    ),
  });

  it('parts come to the whole: days, products, categories, pages and placements', () => {
    fc.assert(
      fc.property(
        fc.array(order, { maxLength: 12 }),
        fc.array(fc.record({ day: fc.constantFrom('2026-11-02', '2026-12-01'), amount: fc.nat(500) }), {
          maxLength: 4,
        }),
        (orders, given) => {
          const days = daysBetween('2026-11-01', '2026-11-05');
          const t = takings(
            orders.map((o, n) => ({ ...o, id: String(n) })),
            given,
            days,
          );
          expect(t.days.map((d) => d.day)).toEqual(days);
          for (const key of ['orders', 'pieces', 'goods', 'shipping', 'refunded', 'total'] as const)
            expect(
              t.days.reduce((n, d) => n + d[key], 0),
              key,
            ).toBe(t.all[key]);
          for (const by of ['products', 'categories', 'pages', 'placements'] as const)
            expect(
              t[by].reduce((n, s) => n + s.amount, 0),
              by,
            ).toBe(t.all.goods);
          expect(t.all.total).toBe(t.all.goods + t.all.shipping - t.all.refunded);
        },
      ),
    );
  });

  it('days follow each other over months and leap days', () => {
    expect(daysBetween('2028-02-28', '2028-03-01')).toEqual(['2028-02-28', '2028-02-29', '2028-03-01']);
    expect(daysBetween('2026-11-02', '2026-11-01')).toEqual([]);
  });
});

describe('amounts in minor units', () => {
  it('of refunds stay whole', () => {
    fc.assert(
      fc.property(baskets, (worked) => {
        for (const l of worked.lines) expect(Number.isSafeInteger(worthOf(l, 0, 1) as Minor)).toBe(true);
      }),
    );
  });
});
