import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { groupRows, readRows, toRows } from './csv';
import { formFaults, type Product, productInput } from './product';

const words = fc
  .string({ minLength: 1, maxLength: 12 })
  .map((t) => t.replace(/[|,]/g, '').trim())
  .filter((t) => t !== '');
const amount = fc.nat(1_000_000);
const product = fc
  .record({
    name: words,
    price: amount,
    up: fc.option(fc.integer({ min: 1, max: 9999 })),
    cost: fc.option(amount),
    kind: fc.constantFrom('ships' as const, 'download' as const, 'service' as const),
    event: fc.option(
      fc.record({
        start: fc.constantFrom('2026-12-12T10:00:00+01:00', '2027-01-01T09:30:00Z'),
        end: fc.constantFrom(null, '2027-02-01T09:30:00Z'),
        place: words,
        address: fc.constant(''),
      }),
    ),
    every: fc.option(
      fc.record({
        count: fc.integer({ min: 1, max: 12 }),
        unit: fc.constantFrom('week' as const, 'year' as const),
      }),
    ),
    link: fc.option(fc.record({ url: fc.webUrl(), seller: words })),
    openLeast: fc.option(amount),
    voucherMonths: fc.option(fc.integer({ min: 1, max: 120 })),
    shows: fc.constantFrom('shown' as const, 'link' as const, 'hidden' as const),
    taxClass: fc.constantFrom('standard' as const, 'books' as const),
    tags: fc.uniqueArray(words, { maxLength: 3 }),
    badge: words.map((t) => t.slice(0, 12)),
    sizes: fc.uniqueArray(words, { maxLength: 3 }),
    stock: fc.option(fc.nat(500)),
    difference: fc.option(fc.integer({ min: -999, max: 999 }).filter((n) => n !== 0)),
    weight: fc.option(fc.nat(5000)),
    low: fc.option(fc.nat(9)),
  })
  .map(({ up, sizes, stock, difference, weight, low, ...p }): Product => {
    const form = productInput.parse({
      ...p,
      slug: 'x',
      was: up === null ? null : p.price + up,
      stockRule: { low },
      options: sizes.length ? [{ name: 'Size', values: sizes.map((name) => ({ name })) }] : [],
      variants: sizes.length
        ? sizes.map((s) => ({ values: [s], stock, difference, weight }))
        : [{ stock, difference, weight }],
    });
    return {
      ...form,
      id: 'p',
      plain: '',
      addedAt: 0,
      order: 1,
      rating: null,
      variants: form.variants.map((v, n) => ({ ...v, id: `v${n}` })),
    };
  });

describe('a product as rows', () => {
  it('is read back as it was, in currencies of any digits', () => {
    fc.assert(
      fc.property(product, fc.constantFrom('GBP', 'JPY', 'KWD'), (p, currency) => {
        const rows = toRows(p, currency, (hash) => hash);
        expect(rows.length).toBe(p.variants.length);
        const [group, ...others] = groupRows(rows);
        expect(others).toEqual([]);
        const read = readRows(group as NonNullable<typeof group>, currency);
        if ('fault' in read) throw new Error(read.fault);
        const form = productInput.parse({ ...read.form, slug: read.address, variants: read.variants });
        expect(formFaults(form)).toBeUndefined();
        const { id: _, plain: __, addedAt: ___, order: ____, rating: _____r, variants, ...rest } = p;
        expect(form).toEqual({ ...rest, variants: variants.map(({ id: _____, ...v }) => v) });
      }),
    );
  });

  it('rows belong together by their address, or by having no name', () => {
    const groups = groupRows([
      { address: 'a', name: 'A' },
      { address: 'a', name: '' },
      { address: '', name: 'B' },
      { address: '', name: '' },
      { address: 'a', name: 'A again' },
    ]);
    expect(groups.map((g) => g.lines)).toEqual([[2, 3], [4, 5], [6]]);
  });

  it('says of a row what is wrong with it, all at once', () => {
    const read = readRows(
      { rows: [{ name: 'A', price: 'dear', kind: 'boat', stock: '2.5' }], lines: [2] },
      'GBP',
    );
    expect(read).toEqual({
      lines: [2],
      fault: expect.stringMatching(
        /kind “boat” is none of .*price “dear” is no amount.*stock “2\.5” is no whole number/,
      ),
    });
    expect(readRows({ rows: [{ name: 'A' }, { name: '' }], lines: [2, 3] }, 'GBP')).toMatchObject({
      fault: expect.stringContaining('no option that tells them apart'),
    });
  });
});
