import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Product, productInput } from '../../core/goods/product';
import { blankRow, draftOf, patchOf, readDraft, type Row } from './form';
import { momentOf, typedMoment } from './moment';

const amount = fc.nat(10_000_000);
const variant = fc.record({
  price: fc.option(amount),
  difference: fc.option(fc.integer({ min: -5000, max: 5000 }).filter((n) => n !== 0)),
  sku: fc.constantFrom('', 'RLB-1'),
  stock: fc.option(fc.nat(1000)),
  weight: fc.option(fc.nat(9000)),
});
const product = fc.record({
  name: fc.string({ minLength: 1, maxLength: 60 }).filter((s) => s.trim() === s && s !== ''),
  price: amount,
  up: fc.option(fc.integer({ min: 1, max: 1_000_000 })),
  cost: fc.option(amount),
  open: fc.boolean(),
  categories: fc.array(fc.constantFrom('Baskets', 'Baskets / Trugs', 'Kits'), { maxLength: 3 }),
  badge: fc.constantFrom('', 'New'),
  taxClass: fc.constantFrom('standard' as const, 'books' as const),
  offer: fc.option(
    fc.oneof(
      fc.record({ kind: fc.constant('percent' as const), value: fc.integer({ min: 1, max: 100 }) }),
      fc.record({ kind: fc.constant('amount' as const), value: fc.integer({ min: 1, max: 5000 }) }),
    ),
  ),
  unit: fc.option(
    fc.record({
      amount: fc.integer({ min: 1, max: 999 }),
      measure: fc.constantFrom('g' as const, 'kg' as const),
    }),
  ),
  variants: fc.array(variant, { minLength: 1, maxLength: 4 }),
  low: fc.option(fc.nat(20)),
});
type Sample = typeof product extends fc.Arbitrary<infer T> ? T : never;
const whole = ({ up, open, low, variants, ...p }: Sample): Product => {
  const values = variants.map((_, n) => `v${n}`);
  const form = productInput.parse({
    ...p,
    slug: 'x',
    was: up === null ? null : p.price + up,
    openLeast: open ? p.price : null,
    stockRule: { low },
    options: variants.length > 1 ? [{ name: 'Size', values: values.map((name) => ({ name })) }] : [],
    variants: variants.map((v, n) => ({
      ...v,
      id: `id${n}`,
      values: variants.length > 1 ? [values[n]] : [],
    })),
  });
  return {
    ...form,
    id: 'p',
    plain: '',
    addedAt: 0,
    order: 1,
    rating: null,
    variants: form.variants.map((v, n) => ({ ...v, id: `id${n}` })),
  };
};
const sampleOf = (): Sample => fc.sample(product, 1)[0] as Sample;

describe('the sheet of a product', () => {
  it('reads back what it shows, in currencies of any digits: a sheet that was only opened changes nothing', () => {
    fc.assert(
      fc.property(product, fc.constantFrom('GBP', 'JPY', 'KWD'), (p, currency) => {
        const stored = whole(p);
        const draft = draftOf(stored, currency);
        const read = readDraft(draft, currency);
        expect(read).toHaveProperty('form');
        if ('form' in read)
          expect(patchOf(stored, read.form, draft.rows)).toEqual({ fields: {}, counts: [] });
      }),
    );
  });

  it('sends only what was changed, and counts as they were seen and written', () => {
    const stored = whole({
      ...sampleOf(),
      variants: [{ price: null, difference: null, sku: '', stock: 5, weight: null }],
      name: 'Trug',
      open: false,
    });
    const draft = {
      ...draftOf(stored, 'GBP'),
      name: 'Berry trug',
      rows: [{ ...(draftOf(stored, 'GBP').rows[0] as Row), stock: '8', sku: 'BT' }],
    };
    const read = readDraft(draft, 'GBP');
    if (!('form' in read)) throw new Error(JSON.stringify(read));
    const patch = patchOf(stored, read.form, draft.rows);
    expect(Object.keys(patch.fields)).toEqual(['name', 'variants']);
    expect(patch.counts).toEqual([{ variantId: 'id0', from: 5, to: 8 }]);
  });

  it('says of each field what to do about it', () => {
    const read = (d: object) =>
      readDraft({ ...draftOf(undefined, 'GBP'), name: 'Trug', price: '42', ...d }, 'GBP');
    expect(read({})).toHaveProperty('form');
    expect(read({ name: ' ' })).toEqual({ errors: { name: expect.stringContaining('name') } });
    expect(read({ price: 'dear' })).toEqual({ errors: { price: expect.stringContaining('12.50') } });
    expect(read({ was: '40' })).toEqual({
      errors: { was: expect.stringContaining('more than the price now') },
    });
    expect(read({ price: '-3' })).toEqual({ errors: { price: expect.stringContaining('0 or more') } });
    expect(read({ rows: [{ ...blankRow, stock: '2.5' }] })).toEqual({
      errors: { 'row-0-stock': expect.stringContaining('whole number') },
    });
    expect(read({ rows: [{ ...blankRow, gtin: '4006381333932' }] })).toEqual({
      errors: { 'row-0-gtin': expect.stringContaining('should be 1') },
    });
    expect(read({ offer: { kind: 'percent', value: '150', from: '', until: '' } })).toEqual({
      errors: { offer: expect.stringContaining('1 to 100') },
    });
    expect(read({ rows: [{ ...blankRow, stock: '' }] })).toMatchObject({
      form: { variants: [{ stock: null }] },
    });
    expect(
      Object.keys(
        (read({ name: '', price: '', rows: [{ ...blankRow, stock: 'x' }] }) as { errors: object }).errors,
      ),
    ).toEqual(['name', 'price', 'row-0-stock']);
  });

  it('keeps the clock time that was written', () => {
    expect(momentOf('2026-12-12T10:00')).toMatch(/^2026-12-12T10:00:00[+-]\d\d:\d\d$/);
    expect(typedMoment(momentOf('2026-06-01T09:30'))).toBe('2026-06-01T09:30');
    expect(momentOf('')).toBeNull();
  });
});
