import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Minor } from '../money/minor';
import { applyBulk, type BulkEdit, bulkEdit, endingIn } from './bulk';
import { gtinCheckDigit, gtinFault } from './gtin';
import { lowestBefore, marginOf, offered, percentOff, priceFrom, priceNow, pricePerUnit } from './price';
import { formFaults, type Offer, productInput } from './product';
import { countWords, freeOfBundle, mostOf, availabilityOf } from './stock';
import { canChoose, combinations, findVariant, renameValue, syncRows, syncVariants } from './variants';

const minor = (n: number) => n as Minor;
const day = 86_400_000;

describe('GTIN (GS1 General Specifications, 7.9.1)', () => {
  it('has the check digits that the specification and published numbers have', () => {
    // GS1 General Specifications, figure 7.9.1-1: GTIN-13 629104150021 has check digit 3; GTIN-14 shown there for 1629104150021 is 0 (worked by the same rule).
    expect(gtinCheckDigit('629104150021')).toBe(3);
    // ISBN of the ISBN Users' Manual, 7th edition, section 4: 978-92-95055-12-4. UPC-A of the UCC's first scan, 1974: 0 36000 29145 2.
    expect(gtinFault('978-92-95055-12-4')).toBeUndefined();
    expect(gtinFault('036000291452')).toBeUndefined();
    expect(gtinFault('4006381333931')).toBeUndefined();
  });

  it('notices every single wrong digit, and says which the last should be', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(9), { minLength: 12, maxLength: 12 }),
        fc.nat(12),
        fc.integer({ min: 1, max: 9 }),
        (digits, at, by) => {
          const right = `${digits.join('')}${gtinCheckDigit(digits.join(''))}`;
          const wrong = [...right].map((d, i) => (i === at ? String((Number(d) + by) % 10) : d)).join('');
          expect(gtinFault(right)).toBeUndefined();
          expect(gtinFault(wrong)).toContain('should be');
        },
      ),
    );
    expect(gtinFault('12345')).toContain('has 5');
    expect(gtinFault('40063813339x1')).toContain('digits only');
  });
});

describe('prices', () => {
  it('of common practice: 25.00 to 15.00 is 40 % off; cost 0.50 at 1.00 is a margin of 50 %', () => {
    expect(percentOff(minor(2500), minor(1500))).toBe(40);
    expect(marginOf(minor(100), minor(50), 0, true)).toEqual({ tax: 0, cost: 50, profit: 50, percent: 50 });
  });

  it('margin is net of tax inside the price: VAT fraction 1/6 at 20 % (UK VAT Notice 700, 8.1)', () => {
    const m = marginOf(minor(6800), minor(2740), 20, true);
    expect([m.tax, m.profit, m.percent]).toEqual([1133, 2927, 51.6]);
    expect(m.tax).toBe(Math.round(6800 / 6));
  });

  it('per unit are told for a kilogram, a litre, a metre (98/6/EC, Article 2(b))', () => {
    expect(pricePerUnit(minor(1400), { amount: 1.5, measure: 'kg' })).toEqual({ price: 933, per: 'kg' });
    expect(pricePerUnit(minor(650), { amount: 220, measure: 'g' })).toEqual({ price: 2955, per: 'kg' });
    expect(pricePerUnit(minor(320), { amount: 91.44, measure: 'cm' })).toEqual({ price: 350, per: 'm' });
  });

  it('a base price with differences per option; an own price goes before both (common practice)', () => {
    const p = { price: minor(6800), was: null, offer: null };
    expect(priceNow(p, { price: null, difference: -1400 }, 0).price).toBe(5400);
    expect(priceNow(p, { price: minor(5000), difference: 600 }, 0).price).toBe(5000);
    expect(
      priceFrom(
        {
          ...p,
          variants: [
            { price: null, difference: -1400 },
            { price: null, difference: null },
          ] as never,
        },
        0,
      ),
    ).toEqual({ least: 5400, differs: true });
  });

  it('an offer runs between its dates only, never goes below nought, and takes off what it says', () => {
    const offer = (o: Partial<Offer>): Offer => ({
      kind: 'percent',
      value: 25,
      from: null,
      until: null,
      ...o,
    });
    const p = (o: Offer) => ({ price: minor(1000), was: null, offer: o });
    const dated = offer({ from: '2026-12-01T00:00:00Z', until: '2026-12-24T00:00:00Z' });
    const at = (iso: string) => priceNow(p(dated), { price: null, difference: null }, Date.parse(iso));
    expect([
      at('2026-11-30T23:59:59Z').price,
      at('2026-12-01T00:00:00Z'),
      at('2026-12-24T00:00:00Z').price,
    ]).toEqual([1000, { price: 750, was: 1000 }, 1000]);
    fc.assert(
      fc.property(
        fc.nat(1_000_000),
        fc.oneof(
          fc.record({
            kind: fc.constant('percent' as const),
            value: fc.double({ min: 0.1, max: 100, noNaN: true }),
          }),
          fc.record({ kind: fc.constant('amount' as const), value: fc.integer({ min: 1, max: 2_000_000 }) }),
        ),
        (price, o) => {
          const now = offered(minor(price), offer(o));
          expect(now).toBeGreaterThanOrEqual(0);
          expect(now).toBeLessThanOrEqual(price);
          expect(Number.isSafeInteger(now)).toBe(true);
        },
      ),
    );
  });

  it('the price before is never higher than the lowest of the thirty days before (98/6/EC, Article 6a(2))', () => {
    const history = [
      { at: 0, price: minor(5000) },
      { at: 40 * day, price: minor(4000) },
      { at: 45 * day, price: minor(4500) },
    ];
    expect(lowestBefore(history, 50 * day)).toBe(4000);
    // Forty days later the time at 4000 is past; what held at the start of the thirty days counts.
    expect(lowestBefore(history, 76 * day)).toBe(4500);
    expect(lowestBefore(history, 40 * day)).toBe(5000);
    expect(lowestBefore([], 40 * day)).toBeUndefined();
    fc.assert(
      fc.property(
        fc.array(fc.record({ gap: fc.integer({ min: 1, max: 20 }), price: fc.nat(10_000) }), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.nat(10_000),
        fc.nat(20_000),
        (points, price, was) => {
          let at = 0;
          const h = points.map((p) => ({ at: (at += p.gap * day), price: minor(p.price) }));
          const start = at + day;
          // The plain way: every day of the thirty, what held then.
          const held = Array.from({ length: 30 }, (_, n) => start - (n + 1) * day + 1).flatMap(
            (t) => [...h].reverse().find((x) => x.at <= t)?.price ?? [],
          );
          const lowest = lowestBefore(h, start);
          expect(lowest).toBe(held.length ? Math.min(...held) : undefined);
          const told = priceNow(
            { price: minor(price), was: was > price ? minor(was) : null, offer: null },
            { price: null, difference: null },
            start,
            lowest,
          ).was;
          if (told !== null) {
            expect(told).toBeGreaterThan(price);
            if (lowest !== undefined) expect(told).toBeLessThanOrEqual(lowest);
          }
        },
      ),
    );
  });
});

describe('options and variants', () => {
  const names = (prefix: string) =>
    fc
      .integer({ min: 1, max: 4 })
      .map((n) => Array.from({ length: n }, (_, i) => ({ name: `${prefix}${i}`, colour: '' })));
  const options = fc
    .array(
      names('v').map((values) => ({ name: 'x', as: 'list' as const, values })),
      { maxLength: 3 },
    )
    .map((list) => list.map((o, n) => ({ ...o, name: `o${n}` })));

  it('make every choice once, in order; what is known stays, and going back brings back the same', () => {
    fc.assert(
      fc.property(options, options, (a, b) => {
        const first = syncVariants(a, []);
        expect(first.length).toBe(a.reduce((n, o) => n * o.values.length, 1));
        expect(new Set(first.map((v) => v.values.join('|'))).size).toBe(first.length);
        const marked = first.map((v, n) => ({ ...v, sku: `s${n}`, stock: n }));
        expect(syncVariants(a, marked)).toEqual(marked);
        const other = syncVariants(b, marked);
        for (const v of other) {
          const known = marked.find((m) => JSON.stringify(m.values) === JSON.stringify(v.values));
          if (known) expect(v).toBe(known);
        }
      }),
    );
    expect(combinations([])).toEqual([[]]);
  });

  it('are found by their choice, and only when it is whole', () => {
    const variants = syncRows(
      [
        {
          values: [
            { name: 'S', colour: '' },
            { name: 'L', colour: '' },
          ],
        },
      ],
      [],
      (values) => ({
        ...(productInput.parse({ name: 'x', price: 1 }).variants[0] as object),
        id: values.join(),
        values,
      }),
    ) as never;
    const p = {
      options: [
        {
          name: 'Size',
          as: 'list' as const,
          values: [
            { name: 'S', colour: '' },
            { name: 'L', colour: '' },
          ],
        },
      ],
      variants,
    };
    expect(findVariant(p, { values: ['L'] })?.id).toBe('L');
    expect(findVariant(p, { values: ['M'] })).toBeUndefined();
    expect(findVariant(p, {})).toBeUndefined();
    expect(
      canChoose(
        p,
        [undefined],
        0,
        'L',
        new Map([
          ['S', 1],
          ['L', 0],
        ]),
      ),
    ).toBe(false);
    expect(renameValue([{ values: ['S', 'red'] }, { values: ['L', 'red'] }], 0, 'S', 'Small')).toEqual([
      { values: ['Small', 'red'] },
      { values: ['L', 'red'] },
    ]);
  });
});

describe('stock', () => {
  const rule = (more: object = {}) => ({ low: null, whenOut: 'refuse' as const, expected: null, ...more });
  it('is told in words that fit it', () => {
    expect(availabilityOf(null, rule())).toEqual({ is: 'there' });
    expect(availabilityOf(3, rule())).toEqual({ is: 'few', left: 3 });
    expect(availabilityOf(3, rule({ low: 2 }))).toEqual({ is: 'there' });
    expect(availabilityOf(0, rule())).toEqual({ is: 'out' });
    expect(availabilityOf(-2, rule({ whenOut: 'sell-on' }))).toEqual({ is: 'later', on: null });
    expect(mostOf(-2, rule())).toBe(0);
    expect(mostOf(0, rule({ whenOut: 'sell-on' }))).toBeNull();
    expect(
      countWords({
        variants: [
          { values: ['M', 'dyed'], stock: 0 },
          { values: ['S', 'dyed'], stock: 2 },
          { values: ['L'], stock: null },
        ],
        stockRule: rule(),
      }),
    ).toEqual({ out: ['M dyed'], low: ['S dyed'] });
  });

  it('of a bundle is what its scarcest part allows', () => {
    const part = fc.record({
      variantId: fc.constantFrom('a', 'b', 'c'),
      quantity: fc.integer({ min: 1, max: 5 }),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(part, { minLength: 1, selector: (p) => p.variantId }),
        fc.record({
          a: fc.option(fc.integer({ min: -3, max: 40 })),
          b: fc.option(fc.nat(40)),
          c: fc.option(fc.nat(40)),
        }),
        (parts, stock) => {
          const free = new Map(Object.entries(stock));
          const can = freeOfBundle(parts, free);
          const enough = (n: number) =>
            parts.every(
              (p) =>
                stock[p.variantId as 'a'] === null ||
                Math.max(0, stock[p.variantId as 'a'] ?? 0) >= n * p.quantity,
            );
          if (can === null) expect(parts.every((p) => stock[p.variantId as 'a'] === null)).toBe(true);
          else {
            expect(enough(can)).toBe(true);
            expect(enough(can + 1)).toBe(false);
          }
        },
      ),
    );
    expect(freeOfBundle([{ variantId: 'gone', quantity: 1 }], new Map())).toBe(0);
  });
});

describe('a change to many', () => {
  const form = productInput.parse({
    name: 'Trug',
    price: 4137,
    was: 5000,
    categories: ['Baskets'],
    tags: ['oak'],
  });
  const apply = (e: unknown) => applyBulk(form, bulkEdit.parse(e) as BulkEdit, 'GBP');

  it('moves prices by per cent or amount, to the ending that is asked for', () => {
    expect(apply({ do: 'price', by: 'percent', value: 10 }).price).toBe(4551);
    expect(apply({ do: 'price', by: 'amount', value: -500 }).price).toBe(3637);
    expect([
      endingIn(4137, '99', 'GBP'),
      endingIn(4151, '99', 'GBP'),
      endingIn(4137, '00', 'GBP'),
      endingIn(10, '99', 'GBP'),
      endingIn(4137, '99', 'JPY'),
    ]).toEqual([4099, 4199, 4100, 99, 4137]);
    expect(apply({ do: 'price', by: 'percent', value: 50 }).was).toBeNull();
    expect(() => bulkEdit.parse({ do: 'offer', percent: 0 })).toThrow();
  });

  it('done twice is done once, where it sets; and what it makes can be kept', () => {
    const edits = [
      { do: 'offer', percent: 20 },
      { do: 'offer-end' },
      { do: 'category', how: 'in', path: 'Kits / New' },
      { do: 'category', how: 'out', path: 'Baskets' },
      { do: 'tag', how: 'in', tag: 'new' },
      { do: 'tag', how: 'out', tag: 'oak' },
      { do: 'shows', shows: 'hidden' },
      { do: 'badge', badge: 'New' },
      { do: 'tax', taxClass: 'books' },
      { do: 'remove' },
    ];
    for (const e of edits) {
      const once = apply(e);
      expect(applyBulk(once, bulkEdit.parse(e) as BulkEdit, 'GBP')).toEqual(once);
      expect(formFaults(once)).toBeUndefined();
    }
  });
});

describe('per cents off a price', () => {
  it('are exact, and rounded once: 10.75 less 6 % is 10.105, so 10.11', () => {
    expect(offered(1075 as Minor, { kind: 'percent', value: 6, from: null, until: null })).toBe(1011);
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2_000_000 }),
        fc.integer({ min: 1, max: 100_000 }),
        (full, thousandths) => {
          const price = offered(full as Minor, {
            kind: 'percent',
            value: thousandths / 1000,
            from: null,
            until: null,
          });
          // Twice the exact price lies within one of twice the answer: the nearest minor unit, halves up.
          const exact = BigInt(full) * BigInt(100_000 - thousandths);
          const off = BigInt(price) * 100_000n - exact;
          expect(2n * off > -100_000n && 2n * off <= 100_000n).toBe(true);
        },
      ),
    );
  });
});
