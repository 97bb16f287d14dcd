import fc from 'fast-check';
import { type DefaultTreeAdapterTypes as T, defaultTreeAdapter, parse, parseFragment } from 'parse5';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { ProductInput } from '../../core/goods/product';
import { readState } from '../../core/storefront/shop-front';
import { wordsIn } from '../../core/languages/languages';
import { makeWorld, type World } from '../testing';
import { pageOf, shopHome } from '../sites/addresses';
import { fragmentHtml, framePage } from './embedded';
import { feeds } from './feeds';
import { ordinaryOrderWays, orderPageView } from './order-view';
import { viewMaker } from './product-view';
import { drawWidget } from './widgets';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const draw = async (kind: string, attributes: Record<string, string> = {}, asked = ''): Promise<string> =>
  (
    await drawWidget(w.ctx, await w.site(), {
      kind,
      attributes: new Map(Object.entries(attributes)),
      via: 'abcd1234',
      state: readState(new URLSearchParams(asked)),
    })
  ).text;

function elementsOf(html: string, whole = false): T.Element[] {
  const out: T.Element[] = [];
  const visit = (node: T.Node): void => {
    if (defaultTreeAdapter.isElementNode(node)) out.push(node);
    for (const child of 'childNodes' in node ? node.childNodes : []) visit(child);
  };
  visit(whole ? parse(html) : parseFragment(html));
  return out;
}
const attr = (e: T.Element, name: string): string | undefined => e.attrs.find((a) => a.name === name)?.value;

/** What must not be in a drawing, whatever a product says. */
function faultsIn(html: string): string[] {
  const faults: string[] = [];
  parseFragment(html, { onParseError: (e) => faults.push(e.code) });
  const elements = elementsOf(html);
  for (const e of elements) {
    if (
      ['script', 'object', 'embed', 'base', 'meta', 'svg', 'math'].includes(e.tagName) &&
      attr(e, 'type') !== 'application/ld+json'
    )
      faults.push(`<${e.tagName}>`);
    for (const { name, value } of e.attrs) {
      if (name.startsWith('on')) faults.push(name);
      if (
        ['href', 'src', 'action', 'formaction'].includes(name) &&
        !/^(https?:\/\/|mailto:|[/?#]|$)/.test(value)
      )
        faults.push(`${name}=${value}`);
    }
  }
  // A tag that the parser dropped stood where it must not: a form in a form, a link in a link.
  for (const tag of ['form', 'a', 'button', 'li', 'h3', 'table', 'tr']) {
    const written = html.match(new RegExp(`<${tag}[\\s>]`, 'g'))?.length ?? 0;
    const found = elements.filter((e) => e.tagName === tag).length;
    if (written !== found) faults.push(`${written} <${tag}> written, ${found} found`);
  }
  return faults;
}

const cut = (text: string, most: number): string => [...text].slice(0, Math.floor(most / 2)).join('');
const hostile = (most: number) =>
  fc
    .array(
      fc.oneof(
        fc.string({ unit: 'grapheme', maxLength: 8 }),
        fc.constantFrom(
          '<script>alert(1)</script>',
          '"><img src=x onerror=alert(1)>',
          "' onmouseover='x",
          '</form><form action=//evil.example>',
          '</li></ul>',
          'javascript:alert(1)',
          '<!--',
          ']]>',
          '&lt;b&gt;',
          '{{x}}',
          '<a href="javascript:x">',
          '\u202e',
        ),
      ),
      { minLength: 1, maxLength: 4 },
    )
    .map((parts) => cut(parts.join(' '), most).trim() || 'x');

const hostileProduct: fc.Arbitrary<Partial<ProductInput> & { name: string }> = fc.record({
  name: hostile(140),
  description: hostile(400),
  badge: hostile(24),
  searchWords: hostile(100),
  tags: fc.array(hostile(40), { maxLength: 2 }),
  categories: fc.array(
    hostile(60).map((c) => c.replaceAll('/', ' ').trim() || 'c'),
    { maxLength: 2 },
  ),
  sections: fc.array(fc.record({ title: hostile(80), text: hostile(200) }), { maxLength: 2 }),
  texts: fc.array(fc.record({ label: hostile(60) }), { maxLength: 2 }),
  options: fc.array(
    fc.record({
      name: hostile(40),
      values: fc.array(
        hostile(60).map((name) => ({ name })),
        { minLength: 1, maxLength: 1 },
      ),
    }),
    { maxLength: 1 },
  ),
});

describe('what the server draws', () => {
  it('is sound HTML in which nothing of a product runs, whatever the product says', async () => {
    await fc.assert(
      fc.asyncProperty(
        hostileProduct,
        fc.constantFrom('en', 'de', 'fr'),
        async ({ name, options = [], ...more }, lang) => {
          const added = await w.addGoods(name, 1200, 3, {
            ...more,
            options,
            variants: [{ stock: 3, values: options.map((o) => o.values[0]?.name ?? '') }],
          });
          const drawings = [
            ...(await Promise.all(
              ['grid', 'row', 'slider', 'list', 'table'].map((form) =>
                draw('row', {
                  source: 'newest',
                  form,
                  heading: cut(name, 60),
                  lang,
                  parts: 'picture,name,description,price,stock,button',
                }),
              ),
            )),
            await draw('card', { goods: added.slug, lang }),
            await draw('shop', { lang }, `find=${encodeURIComponent(name)}`),
            await draw('shop', { lang }, `goods=${encodeURIComponent(added.slug)}`),
            await draw('categories', { lang, counts: 'yes' }),
            await draw('search', { lang, placeholder: cut(name, 40) }),
            await draw('lookup', { lang }),
            await draw('reviews', { goods: added.slug, lang }),
          ];
          for (const html of drawings) expect(faultsIn(html)).toEqual([]);
          expect(drawings[5]).toContain(`data-card="${added.slug}"`);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('in frames and includes is ASCII, and says so in every encoding', async () => {
    await w.addGoods('K\u00f6rbchen \u2014 \u7af9', 1200, 3);
    const site = await w.site();
    const asked = { kind: 'row', attributes: new Map([['source', 'all']]), via: 'abcd1234' };
    const [fragment, frame] = [await fragmentHtml(w.ctx, site, asked), await framePage(w.ctx, site, asked)];
    for (const text of [fragment, frame]) expect(text).toMatch(/^[\x00-\x7f]*$/);
    expect(
      elementsOf(fragment).map((e) =>
        e.childNodes[0] && defaultTreeAdapter.isTextNode(e.childNodes[0]) ? e.childNodes[0].value : '',
      ),
    ).toContain('K\u00f6rbchen \u2014 \u7af9');
    const inFrame = elementsOf(frame, true);
    expect(inFrame.find((e) => e.tagName === 'base')?.attrs).toEqual([{ name: 'target', value: '_top' }]);
    expect(inFrame.filter((e) => e.tagName === 'script').map((e) => attr(e, 'src'))).toEqual([
      'http://shop.test/stall.js',
    ]);
  });

  it('works without script: every button sends a form to the shop, or is hidden until script wakes it', async () => {
    await w.addGoods('Plain trug', 1200, 3);
    await w.addGoods('Open gift', 0, null, { openLeast: 500 as never });
    await w.addGoods('Sized', 900, 2, {
      options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'M' }] }],
      variants: [
        { values: ['S'], stock: 1 },
        { values: ['M'], stock: 0 },
      ],
    });
    for (const html of [
      await draw('row', { source: 'all' }),
      await draw('shop'),
      await draw('shop', {}, 'goods=sized'),
      await draw('search'),
      await draw('lookup'),
    ]) {
      const forms = elementsOf(html).filter((e) => e.tagName === 'form');
      for (const f of forms) expect(attr(f, 'action')).toMatch(/^http:\/\/shop\.test\/tiny\//);
      const outside = (n: T.Element): boolean => {
        for (let p: T.Node | null = n; p && 'parentNode' in p; p = p.parentNode)
          if (defaultTreeAdapter.isElementNode(p) && p.tagName === 'form') return false;
        return true;
      };
      for (const b of elementsOf(html).filter((e) => e.tagName === 'button' && outside(e)))
        expect(e2s(b)).toMatch(/hidden|data-slide/);
    }
    const row = elementsOf(await draw('row', { source: 'all' }));
    const toCart = row.filter((e) => attr(e, 'data-add') !== undefined);
    expect(toCart.map((e) => [attr(e, 'method'), attr(e, 'action')])).toEqual([
      ['post', 'http://shop.test/tiny/goods/plain-trug'],
    ]);
    // What has to be chosen or named first leads to its own page.
    expect(
      row.filter((e) => e.tagName === 'a' && attr(e, 'class') === 'stall-button').map((e) => attr(e, 'href')),
    ).toEqual(['open-gift', 'sized'].map((s) => `http://shop.test/tiny/goods/${s}?via=abcd1234`));
  });
});

const e2s = (e: T.Element): string => e.attrs.map((a) => `${a.name}=${a.value}`).join(' ');
const cardsIn = (html: string): string[] => elementsOf(html).flatMap((e) => attr(e, 'data-card') ?? []);

describe('lists', () => {
  it('a shop front shows every product once over its pages, in the order that was asked for', async () => {
    const prices = [900, 300, 700, 300, 500, 100, 1100];
    for (const [n, price] of prices.entries()) await w.addGoods(`Thing ${n}`, price, 5);
    for (const perPage of [1, 2, 3, 7, 50]) {
      const pages = Math.ceil(prices.length / perPage);
      const all: string[] = [];
      for (let page = 1; page <= pages; page++)
        all.push(
          ...cardsIn(await draw('shop', { 'per-page': String(perPage) }, `page=${page}&sort=cheapest`)),
        );
      expect([...all].sort()).toEqual(prices.map((_, n) => `thing-${n}`));
      expect(all.map((slug) => prices[Number(slug.slice(6))])).toEqual([...prices].sort((a, b) => a - b));
    }
  });

  it('narrowed they hold what fits, and what fits is in them', async () => {
    const goods = Array.from({ length: 12 }, (_, n) => ({
      n,
      price: 200 + n * 150,
      stock: n % 3,
      tags: n % 2 ? ['willow'] : ['hazel'],
    }));
    for (const g of goods) await w.addGoods(`Thing ${g.n}`, g.price, g.stock, { tags: g.tags });
    const asked = fc.record({
      least: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
      most: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
      stock: fc.boolean(),
      tag: fc.constantFrom(undefined, 'willow', 'HAZEL'),
    });
    await fc.assert(
      fc.asyncProperty(asked, async ({ least, most, stock, tag }) => {
        const query = new URLSearchParams({
          ...(least !== undefined && { least: String(least) }),
          ...(most !== undefined && { most: String(most) }),
          ...(stock && { stock: '1' }),
          ...(tag && { tag }),
        });
        const fits = goods.filter(
          (g) =>
            (least === undefined || g.price >= least * 100) &&
            (most === undefined || g.price <= most * 100) &&
            (!stock || g.stock > 0) &&
            (!tag || g.tags.includes(tag.toLowerCase())),
        );
        expect(cardsIn(await draw('shop', { 'per-page': '96' }, query.toString())).sort()).toEqual(
          fits.map((g) => `thing-${g.n}`).sort(),
        );
      }),
      { numRuns: 30 },
    );
  });

  it('hold what is by link only where it was chosen by hand, and what is hidden nowhere', async () => {
    await w.addGoods('Shown', 100, 1);
    await w.addGoods('By link', 100, 1, { shows: 'link' });
    await w.addGoods('Hidden', 100, 1, { shows: 'hidden' });
    for (const source of ['all', 'newest']) expect(cardsIn(await draw('row', { source }))).toEqual(['shown']);
    expect(cardsIn(await draw('row', { source: 'chosen', goods: 'by-link,hidden,shown' }))).toEqual([
      'by-link',
      'shown',
    ]);
    expect(cardsIn(await draw('shop'))).toEqual(['shown']);
    expect(cardsIn(await draw('shop', {}, 'find=hidden'))).toEqual([]);
    expect(await draw('card', { goods: 'hidden' })).toContain(wordsIn('en').gone);
    expect(cardsIn(await draw('card', { goods: 'by-link' }))).toEqual(['by-link']);
    for (const name of ['feed.atom', 'feed.json', 'sitemap.xml'] as const) {
      const { body } = await feeds[name](w.ctx, await w.site());
      expect([body.includes('/goods/shown'), body.includes('by-link'), body.includes('hidden')]).toEqual([
        true,
        false,
        false,
      ]);
    }
  });
});

describe('a product as shoppers see it', () => {
  const viewOf = async (slug: string) => {
    const site = await w.site();
    const { catalogueOf } = await import('../goods/catalogue');
    const product = (await catalogueOf(w.ctx, site.row.id)).bySlug.get(slug);
    if (!product) throw new Error(`no ${slug}`);
    return (await viewMaker(w.ctx, site, [product], wordsIn('en'), '')).view(product);
  };

  it('says what there is now, though its card is kept: after a sale, a hold and a change', async () => {
    await w.addGoods('Trug', 4200, 2);
    expect((await viewOf('trug')).stock).toBe('Only 2 left');
    await w.buy([{ goods: 'trug' }]);
    expect((await viewOf('trug')).stock).toBe('Only 1 left');
    await w.order([{ goods: 'trug' }]);
    expect(await viewOf('trug')).toMatchObject({ soldOut: true, max: 0 });
    // The hold of whoever did not pay runs out.
    w.clock.ms += 31 * 60_000;
    expect(await viewOf('trug')).toMatchObject({ soldOut: false, max: 1 });
  });

  it('on offer tells the lowest price of the thirty days before (Directive 98/6/EC, Article 6a), and stops when the offer does', async () => {
    const at = w.clock.ms;
    const iso = (days: number) => new Date(at + days * 86_400_000).toISOString();
    await w.addGoods('Trug', 4000, 5, { offer: { kind: 'percent', value: 25, from: iso(2), until: iso(4) } });
    expect(await viewOf('trug')).toMatchObject({ price: '£40.00', was: '' });
    w.clock.ms = at + 3 * 86_400_000;
    expect(await viewOf('trug')).toMatchObject({
      price: '£30.00',
      was: '£40.00',
      badge: expect.stringContaining('25'),
      lowest: expect.stringContaining('£40.00'),
    });
    w.clock.ms = at + 5 * 86_400_000;
    expect(await viewOf('trug')).toMatchObject({ price: '£40.00', was: '' });
  });

  it('leads to the plain page until the site is live, then to the site itself', async () => {
    await w.addGoods('Trug', 4000, 5);
    const site = await w.site();
    expect([shopHome(w.ctx, site), pageOf(w.ctx, site, 'trug')]).toEqual([
      'http://shop.test/tiny/goods',
      'http://shop.test/tiny/goods/trug',
    ]);
    const live = {
      ...site,
      liveShop: {
        slug: 'shop',
        name: 'Shop',
        front: false,
        old: [],
        pages: [],
        made: { cart: null, carts: [], line: null, menu: false },
      },
    };
    expect([shopHome(w.ctx, live), pageOf(w.ctx, live, 'trug')]).toEqual([
      'https://tiny.example/shop/',
      'https://tiny.example/shop/?goods=trug',
    ]);
    // A site whose pages are files has the shop as a file too; the draft may have moved it, the live site has not.
    const files = {
      ...live,
      row: { ...live.row, shop: { ...live.liveShop, slug: 'moved' } },
      reading: { ...live.reading, pages: live.reading.pages.filter((p) => p.path === 'index.html') },
    };
    expect(pageOf(w.ctx, files, 'trug')).toBe('https://tiny.example/shop.html?goods=trug');
  });
});

describe('an order as its buyer sees it', () => {
  const seen = async (token: string) => {
    const site = await w.site();
    return orderPageView(w.ctx, site, token, ordinaryOrderWays(w.ctx, site));
  };

  it('goes from paying to paid with its papers, and back to where it came from', async () => {
    await w.addGoods('Trug', 4200, 3);
    const { token, reference } = await w.order([{ goods: 'trug', quantity: 2 }]);
    expect(await seen(token)).toMatchObject({
      state: 'waiting',
      number: '',
      papers: [],
      vouchers: [],
      todo: null,
    });
    await w.approve(reference);
    const paid = await seen(token);
    expect(paid).toMatchObject({
      state: 'paid',
      number: '1001',
      total: '£84.00',
      lines: [{ name: 'Trug', quantity: 2, amount: '£84.00' }],
      back: 'http://shop.test/tiny/goods',
    });
    expect(
      paid.papers.map((p) => [
        p.name,
        p.href.startsWith(`http://shop.test/tiny/papers/${token}/`),
        p.pdf === `${p.href}/pdf`,
      ]),
    ).toEqual([['Invoice 1', true, true]]);
    await expect(seen('no such token')).rejects.toThrow();
  });

  it('that waits for a transfer says what to send where', async () => {
    await w.addGoods('Trug', 4200, 3);
    await w.till('pay', {
      ways: [{ id: 'bank', kind: 'transfer', name: '', iban: 'DE89370400440532013000', holder: 'A Weaver' }],
    });
    const { token } = await w.order([{ goods: 'trug' }], undefined, { payBy: 'bank' });
    const { state, todo } = await seen(token);
    expect(state).toBe('placed');
    expect(todo?.rows.map((r) => r.value).join(' ')).toMatch(/£42\.00.*DE89 3704 0044 0532 0130 00.*RF\d\d/);
  });
});
