import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Minor } from '../money/minor';
import { type Category, categoryTree, isIn, namesIn, pathOfNames, withPaths } from './category';
import { chooseProducts, type Choice, productsOf, sources } from './choose';
import { isOnOffer, type Product, productInput } from './product';

const product = (slug: string, more: Partial<Product> = {}): Product => ({
  ...productInput.parse({ name: slug, price: 100 }),
  id: slug,
  slug,
  plain: '',
  addedAt: 0,
  order: 0,
  rating: null,
  variants: [
    {
      id: slug,
      values: [],
      price: null,
      difference: null,
      sku: '',
      gtin: '',
      stock: null,
      weight: null,
      picture: null,
    },
  ],
  ...more,
});
const names = fc.array(fc.constantFrom('Baskets', 'Trugs', 'Kits', 'Oval', 'Willow'), {
  minLength: 1,
  maxLength: 4,
});

describe('categories', () => {
  it('are named by their path, there and back', () => {
    fc.assert(
      fc.property(names, (list) => {
        expect(namesIn(pathOfNames(list))).toEqual(list);
      }),
    );
    expect(namesIn(' Baskets /Trugs/  Oval ones ')).toEqual(['Baskets', 'Trugs', 'Oval ones']);
  });

  it('that lead round in a circle, or below one that is gone, are told apart all the same', () => {
    const rows = [
      { id: 'a', slug: 'a', name: 'A', parent: 'b', order: 1, former: [] },
      { id: 'b', slug: 'b', name: 'B', parent: 'a', order: 2, former: [] },
      { id: 'c', slug: 'c', name: 'C', parent: 'gone', order: 3, former: [] },
    ];
    expect(withPaths(rows).map((c) => c.path)).toEqual(['B / A', 'A / B', 'C']);
  });

  it('count a product once, for each they hold it in or below', () => {
    const all: Category[] = withPaths([
      { id: 'b', slug: 'b', name: 'Baskets', parent: null, order: 1, former: [] },
      { id: 't', slug: 't', name: 'Trugs', parent: 'b', order: 2, former: [] },
      { id: 'e', slug: 'e', name: 'Empty', parent: null, order: 3, former: [] },
    ]);
    const goods = [
      product('one', { categories: ['Baskets', 'Baskets / Trugs'] }),
      product('two', { categories: ['Baskets / Trugs'] }),
      product('three'),
    ];
    expect(
      categoryTree(all, goods, true).map((c) => [c.name, c.count, c.children.map((k) => [k.name, k.count])]),
    ).toEqual([['Baskets', 2, [['Trugs', 2]]]]);
    expect(categoryTree(all, goods, false).map((c) => c.name)).toEqual(['Baskets', 'Empty']);
    expect(isIn({ categories: ['Basketry'] }, 'Basket')).toBe(false);
  });
});

describe('the products of a row', () => {
  const goods = fc
    .array(
      fc.record({
        price: fc.nat(500),
        was: fc.option(fc.integer({ min: 1, max: 500 })),
        addedAt: fc.nat(1000),
        categories: fc.array(names.map(pathOfNames), { maxLength: 2 }),
      }),
      { maxLength: 12 },
    )
    .map((list) =>
      list.map((p, n) => product(`p${n}`, { ...p, price: p.price as Minor, was: p.was as Minor | null })),
    );
  const choice = fc.record({
    source: fc.constantFrom(...sources),
    goods: fc.array(fc.constantFrom('p0', 'p1', 'p2', 'gone'), { maxLength: 4 }),
    category: fc.constantFrom('', 'Baskets', 'Kits'),
    of: fc.constantFrom('p0', 'gone'),
    order: fc.constantFrom(
      'hand' as const,
      'newest' as const,
      'name' as const,
      'cheapest' as const,
      'dearest' as const,
    ),
    limit: fc.integer({ min: 1, max: 5 }),
  });

  it('are some of the goods, no more than asked for, in the order asked for', () => {
    fc.assert(
      fc.property(goods, choice, (all, c: Choice) => {
        const chosen = chooseProducts(all, c, 0);
        expect(chosen.length).toBeLessThanOrEqual(c.limit);
        for (const p of chosen) expect(all).toContain(p);
        if (c.source === 'offer') expect(chosen.every((p) => isOnOffer(p, 0))).toBe(true);
        if (c.source === 'category' && c.category)
          expect(chosen.every((p) => isIn(p, c.category))).toBe(true);
        if (c.source === 'related') expect(chosen.map((p) => p.slug)).not.toContain(c.of);
        if (c.order === 'cheapest')
          expect(chosen.map((p) => p.price)).toEqual(chosen.map((p) => p.price).sort((a, b) => a - b));
        if (c.order === 'newest')
          expect(chosen.map((p) => p.addedAt)).toEqual(chosen.map((p) => p.addedAt).sort((a, b) => b - a));
      }),
    );
  });

  it('chosen by hand keep the order they were chosen in', () => {
    const all = ['a', 'b', 'c'].map((s) => product(s));
    expect(
      chooseProducts(
        all,
        { source: 'chosen', goods: ['c', 'gone', 'a'], category: '', of: '', order: 'hand', limit: 9 },
        0,
      ).map((p) => p.slug),
    ).toEqual(['c', 'a']);
  });

  it('of a row are meant by former addresses too, and one sold by its link stands where it was chosen alone', () => {
    const [a, b] = [product('a-new'), product('b')];
    const secret = { ...product('c'), shows: 'link' as const };
    const gone = { ...product('d'), shows: 'hidden' as const };
    const goods = {
      shown: [a, b],
      bySlug: new Map([
        ['a', a],
        ['a-new', a],
        ['b', b],
        ['c', secret],
        ['d', gone],
      ]),
      pathNow: (path: string) => path,
    };
    const row = {
      source: 'chosen' as const,
      goods: ['c', 'a', 'd'],
      category: '',
      of: '',
      order: 'hand' as const,
      limit: 9,
    };
    expect(productsOf(goods, row, 0).map((p) => p.slug)).toEqual(['c', 'a-new']);
    expect(productsOf(goods, { ...row, source: 'all' }, 0).map((p) => p.slug)).toEqual(['a-new', 'b']);
    const related = { ...a, related: ['b'] };
    const now = { ...goods, shown: [related, b], bySlug: new Map([...goods.bySlug, ['a', related]]) };
    expect(productsOf(now, { ...row, source: 'related', of: 'a' }, 0)).toEqual([b]);
  });
});
