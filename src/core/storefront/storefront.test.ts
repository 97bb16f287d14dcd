import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import { attr, descendants, rawText } from '../html/tree';
import { gridHeight } from './room';
import {
  categoriesFragment,
  noState,
  readState,
  searchFragment,
  shopFrontFragment,
  stateQuery,
} from './shop-front';
import type { ShopFrontView, ShopState } from './views';
import { fill, wordsIn } from '../languages/languages';

describe('words', () => {
  it('are filled where their gaps are', () => {
    expect(wordsIn('de-AT')).toBe(wordsIn('de'));
    expect(wordsIn('xx')).toBe(wordsIn('en'));
    expect(fill('Page {n} of {x}', { n: 2, x: 3 })).toBe('Page 2 of 3');
  });
});

describe('what a shopper asks of a shop front', () => {
  const state = fc.record({
    goods: fc.string({ maxLength: 20 }),
    category: fc.string({ maxLength: 20 }),
    find: fc.string({ maxLength: 20 }).map((s) => s.trim()),
    price: fc.constant(''),
    sort: fc.constantFrom('', 'name', 'cheapest'),
    page: fc.integer({ min: 1, max: 50 }),
    least: fc.constantFrom('', '5', '12.50'),
    most: fc.constantFrom('', '80'),
    stock: fc.boolean(),
    offer: fc.boolean(),
    tags: fc.uniqueArray(
      fc
        .string({ minLength: 1, maxLength: 20 })
        .map((t) => t.trim())
        .filter(Boolean),
      { maxLength: 8 },
    ),
  });
  it('is a query there and back', () => {
    fc.assert(
      fc.property(state, (s: ShopState) => {
        expect(readState(new URLSearchParams(stateQuery(s)))).toEqual(s);
      }),
    );
  });
  it('is bounded, whatever stands in the address', () => {
    expect(readState(new URLSearchParams({ page: '-4', find: 'x'.repeat(5000) }))).toMatchObject({ page: 1 });
    expect(readState(new URLSearchParams({ page: '1e99' })).page).toBeLessThanOrEqual(10_000);
    expect(readState(new URLSearchParams({ find: 'x'.repeat(5000) })).find).toHaveLength(120);
  });
});

describe('a shop front', () => {
  const en = wordsIn('en');
  const empty: ShopFrontView = {
    heading: '',
    columns: 4,
    level: 3,
    parts: ['name'],
    state: { ...noState, find: 'zz"<' },
    categories: [],
    search: true,
    narrow: null,
    sorts: null,
    products: [],
    found: 0,
    pages: 1,
    product: null,
    base: 'https://s.example/w/goods',
  };
  const tree = (html: { text: string }) => [...descendants(parseFragment(html.text))];

  it('that found nothing says so, escapes what was typed, and leads back', () => {
    const made = tree(shopFrontFragment(empty, en));
    expect(made.map((e) => rawText(e)).join(' ')).toContain('Nothing was found for \u201czz"<\u201d');
    expect(made.filter((e) => e.tagName === 'a').map((a) => attr(a, 'href'))).toContain(
      'https://s.example/w/goods',
    );
  });

  it('has a real address in every link, that asks for the same as its script would', () => {
    const many = {
      ...empty,
      state: { ...empty.state, find: '' },
      found: 30,
      pages: 3,
      categories: [{ name: 'Kits', slug: 'kits', href: '#', count: 2, current: false, children: [] }],
    };
    const links = tree(shopFrontFragment({ ...many, state: { ...many.state, page: 2 } }, en)).filter(
      (e) => attr(e, 'data-go') !== undefined,
    );
    expect(links.length).toBeGreaterThanOrEqual(4);
    for (const a of links)
      expect(attr(a, 'href')).toBe(`${empty.base}${attr(a, 'data-go') ? `?${attr(a, 'data-go')}` : ''}`);
  });

  it('has companions that nest, and a search that goes to it', () => {
    const nested = categoriesFragment(
      {
        heading: 'Ways',
        level: 2,
        counts: true,
        across: false,
        categories: [
          {
            name: 'A',
            slug: 'a',
            href: '/a',
            count: 3,
            current: false,
            children: [{ name: 'B', slug: 'b', href: '/b', count: 1, current: false, children: [] }],
          },
        ],
      },
      en,
    );
    expect(tree(nested).filter((e) => e.tagName === 'ul')).toHaveLength(2);
    const form = tree(searchFragment({ heading: '', level: 3, placeholder: '', action: '/goods' }, en)).find(
      (e) => e.tagName === 'form',
    );
    expect(form && [attr(form, 'role'), attr(form, 'action'), attr(form, 'method')]).toEqual([
      'search',
      '/goods',
      'get',
    ]);
  });
});

describe('the room that is kept for cards', () => {
  /** CSS lengths of calc, min and max, worked out as a browser does: rem of 16 px, cqw of the container. */
  const worked = (css: string, width: number): number => {
    const js = css
      .replace(/(\d+(?:\.\d+)?|\.\d+)cqw/g, (_, n: string) => String((Number(n) * width) / 100))
      .replace(/(\d+(?:\.\d+)?|\.\d+)rem/g, (_, n: string) => String(Number(n) * 16))
      .replace(/0px/g, '0')
      .replace(/calc/g, '')
      .replace(/\bmin\(/g, 'Math.min(')
      .replace(/\bmax\(/g, 'Math.max(');
    return Number(new Function(`return ${js}`)());
  };
  it('is that of as many columns as fit, at every width', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 160, max: 1600 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 24 }),
        (width, columns, count) => {
          const [least, gap] = [9.5 * 16, 1.2 * 16];
          // The definition of repeat(auto-fill, minmax(max(least, share), 1fr)): CSS Grid Level 2, 7.2.3.2.
          const track = Math.max(least, (width - (columns - 1) * gap) / columns);
          const fit = Math.max(1, Math.min(columns, Math.floor((width + gap + 1e-6) / (track + gap))));
          const rows = Math.ceil(count / fit);
          const card = ((width - (fit - 1) * gap) / fit) * 0.75 + (0.7 + 3 + 3.4) * 16;
          const wanted = rows * card + (rows - 1) * gap;
          // On the very width where a column more fits, a step is not upright.
          if ([2, 3, 4, 5, 6].some((n) => Math.abs(width - (n * least + (n - 1) * gap)) < 1)) return;
          expect(
            worked(gridHeight(count, columns, ['picture', 'name', 'price', 'stock', 'button']), width),
          ).toBeCloseTo(wanted, 0);
        },
      ),
    );
  });
});
