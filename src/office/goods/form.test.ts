import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Product } from '../../core/goods/product';
import { minor } from '../../core/money/minor';
import { blank, draftOf, readDraft } from './form';

const product = fc.record({
  name: fc.string({ minLength: 1, maxLength: 60 }).filter((s) => s.trim() === s && s !== ''),
  description: fc.string(),
  price: fc.nat(10_000_000),
  offer: fc.option(fc.integer({ min: 1, max: 10_000_000 })),
  open: fc.boolean(),
  categories: fc.array(fc.constantFrom('Baskets', 'Baskets / Trugs', 'Kits'), { maxLength: 3 }),
  stock: fc.option(fc.nat(1000)),
  pictureAlt: fc.string(),
});

describe('the sheet of a product', () => {
  it('reads back what it shows, in currencies of any digits', () => {
    fc.assert(
      fc.property(product, fc.constantFrom('GBP', 'JPY', 'KWD'), ({ offer, open, ...p }, currency) => {
        const was = offer === null ? null : minor(p.price + offer);
        const openLeast = open ? minor(p.price) : null;
        const whole: Product = { ...p, was, openLeast, id: 'x', slug: 'x', picture: null, price: minor(p.price), addedAt: 0 };
        expect(readDraft(draftOf(whole, currency), currency)).toEqual({ input: { ...p, was, openLeast } });
      }),
    );
  });

  it('says of each field what to do about it', () => {
    const read = (d: object) => readDraft({ ...blank, name: 'Trug', price: '42', ...d }, 'GBP');
    expect(read({})).toHaveProperty('input');
    expect(read({ name: ' ' })).toEqual({ errors: { name: expect.stringContaining('name') } });
    expect(read({ price: 'dear' })).toEqual({ errors: { price: expect.stringContaining('12.50') } });
    expect(read({ was: '40' })).toEqual({ errors: { was: expect.stringContaining('more than the price now') } });
    expect(read({ price: '-3' })).toEqual({ errors: { price: expect.stringContaining('nought') } });
    expect(read({ stock: '2.5' })).toEqual({ errors: { stock: expect.stringContaining('whole pieces') } });
    expect(read({ stock: '' })).toMatchObject({ input: { stock: null } });
    expect(Object.keys((read({ name: '', price: '', stock: 'x' }) as { errors: object }).errors)).toEqual(['name', 'price', 'stock']);
  });
});
