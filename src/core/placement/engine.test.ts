import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strip } from '../html/fence';
import { readSource } from '../html/source';
import { find, parsePage } from '../html/tree';
import { edgePitch, listPitches, pitchAt } from '../site/pitch';
import type { PagePath } from '../site/paths';
import { type ParsedPage, parsePageFile } from '../site/read-page';
import { readSite } from '../site/read-site';
import { computePage, idsOf, withoutOwn } from './compute-page';
import { menuChange } from './menu-change';
import { holdsTreeLaw, type PlaceContext, placeOnPage } from './place';
import { type Placement, placement } from './placement';
import { planSchema, readPlan } from './plan';
import { pagesIn, reach, reachesShopPages } from './reach';
import { reanchor, type SiteVersion } from './reanchor';
import { buildShopPage } from './shop-page';
import { spellingNames, spellings } from './spelling';
import { judge, mutate, mutations } from './testing';
import { provenPitches } from './tree-law';

const context: PlaceContext = {
  shopUrl: 'https://shop.example/w',
  scriptUrl: 'https://shop.example/stall.js',
  cartHref: 'cart/',
  productName: () => 'Rod--> "basket"',
};
const parse = (html: string | Buffer, path = 'index.html'): ParsedPage => {
  const parsed = parsePageFile(path as PagePath, Buffer.from(html as string));
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
};
const at = (page: ParsedPage, label: string, more: Partial<Placement> = {}): Placement => {
  const pitch = listPitches(page).find((p) => p.label === label);
  if (!pitch)
    throw new Error(
      `no pitch ${label}; there are ${listPitches(page)
        .map((p) => p.label)
        .join(', ')}`,
    );
  return placement.parse({
    id: 'aaaa0000',
    kind: 'buy',
    settings: { goods: 'rod--x' },
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: { to: 'every' },
    order: 0,
    ...more,
  });
};
const root = 'demo/withybed';
const withybed = (readdirSync(root, { recursive: true }) as string[]).filter((f) =>
  f.endsWith('.html'),
) as PagePath[];
const demo = (path: string): ParsedPage => parse(readFileSync(join(root, path)), path);

describe('spellings', () => {
  it.each(spellingNames)('%s keeps the tree law, and comes out again', (spelling) => {
    const page = demo('index.html');
    const p = at(page, 'after “From the bed to the bench”', { spelling });
    const out = placeOnPage(page, [p], context);
    expect(out.placed).toEqual(['aaaa0000']);
    expect(
      holdsTreeLaw(
        page,
        out.edits.map((edit) => ({ edit })),
      ),
    ).toBe(true);
    expect(
      Buffer.from(out.bytes).toString().includes('<script async src="https://shop.example/stall.js">'),
    ).toBe(spellings[spelling].needsScript);
    expect(Buffer.from(strip(out.bytes).bytes)).toEqual(readFileSync(join(root, 'index.html')));
  });

  it('includes are comments that a server or cache understands', () => {
    const html = (spelling: Placement['spelling']) =>
      Buffer.from(
        placeOnPage(
          parse('<main><div>a</div></main>'),
          [at(parse('<main><div>a</div></main>'), 'after “a”', { spelling })],
          context,
        ).bytes,
      ).toString();
    // Apache and nginx document this form of the directive; ESI Language Specification 1.0, sections 3.1 and 3.7.
    expect(html('ssi')).toContain(
      '<!--#include virtual="/stall/fragments/buy?goods=rod--x&via=aaaa0000" -->',
    );
    expect(html('esi')).toMatch(
      /<!--esi <esi:include src="https:\/\/shop\.example\/w\/fragments\/buy\?[^"]*" onerror="continue"\/> -->/,
    );
    expect(html('link')).toContain(
      '<a href="https://shop.example/w/goods/rod--x?via=aaaa0000">Buy: Rod--&gt; &quot;basket&quot;</a>',
    );
  });
});

describe('where a widget lands', () => {
  it('between paragraphs whose end tags were left out it stands between them, not in the first', () => {
    const page = parse('<body><div><p>one<p>two</div></body>');
    const out = placeOnPage(
      page,
      [at(page, 'after “one”'), at(page, 'after “one”', { id: 'bbbb0000', order: 1 })],
      context,
    );
    const doc = parsePage(readSource(out.bytes));
    expect(find(doc, (e) => e.tagName === 'stall-buy')?.parentNode?.nodeName).toBe('div');
    expect(Buffer.from(out.bytes).toString().match(/<\/p>/g)).toHaveLength(1);
    expect(Buffer.from(strip(out.bytes).bytes).toString()).toBe('<body><div><p>one<p>two</div></body>');
  });

  it('is proven: what the parser would move is not offered', () => {
    const page = parse(
      '<body><table><tr><td>x</td></tr><div>fostered</div></table><div><b><p>open</b> text</p></div><p>end</p></body>',
    );
    const proven = provenPitches(page, listPitches(page));
    expect(proven.length).toBeGreaterThan(3);
    for (const p of proven)
      expect(placeOnPage(page, [at(page, p.label, { pitch: p.address })], context).lost, p.label).toEqual([]);
  });

  it('never comes between a row of menu that is written anew and itself', () => {
    const page = parse(
      '<body><header><a href=/>W</a><nav><ul><li><a href=/>Home</a></li><li><a href=b>B</a></li></ul></nav></header><main><p>x</p></main></body>',
    );
    const menu = [menuChange.parse({ do: 'move', item: ['B'], at: { before: 'Home' } })];
    const out = computePage(page, { placements: [at(page, 'after “x”')], menu }, context, () => false);
    expect(out.placed).toEqual(['aaaa0000']);
    expect(Buffer.from(withoutOwn(out.bytes, idsOf([{ id: 'aaaa0000' }])))).toEqual(
      Buffer.from(page.source.bytes),
    );
  });
});

describe('a menu that changes under placements', () => {
  it('takes out only what stands in the piece that is written anew, and keeps the rest', () => {
    const page = parse(
      '<body><header><a href=/>W</a><ul class="nav"><li><a href=/>Home</a><div>note</div></li><li><a href=b>B</a></li></ul></header><main><p>x</p></main></body>',
    );
    const inMenu = listPitches(page).find((p) => /ul:0\/li:0/.test(p.address.path));
    if (!inMenu) throw new Error('no pitch in the menu');
    const menu = [menuChange.parse({ do: 'move', item: ['B'], at: { before: 'Home' } })];
    const out = computePage(
      page,
      {
        placements: [
          at(page, 'after “x”'),
          { ...at(page, 'after “x”'), id: 'inmenu00', pitch: inMenu.address },
        ],
        menu,
      },
      context,
      () => false,
    );
    expect(out).toMatchObject({
      placed: ['aaaa0000'],
      lost: [{ id: 'inmenu00', why: expect.stringContaining('written anew') }],
    });
    expect(Buffer.from(out.bytes).toString()).toMatch(/B<\/a><\/li><li><a href=\/>Home/);
    expect(Buffer.from(strip(out.bytes).bytes)).toEqual(Buffer.from(page.source.bytes));
  });
});

describe('reach', () => {
  it('takes in sections, kinds, pages of one chrome, with exceptions', async () => {
    const site = await readSite({ paths: withybed, read: async (p) => readFileSync(join(root, p)) });
    const within = (r: unknown) => pagesIn(site, reach.parse(r));
    const posts = withybed.filter((p) => /^journal\/./.test(p) && p !== 'journal/index.html').sort();
    expect(within({ to: 'kind', kind: 'post' }).sort()).toEqual(posts);
    expect(within({ to: 'section', section: '/journal/', except: ['journal/index.html'] }).sort()).toEqual(
      posts,
    );
    expect(within({ to: 'chrome', like: 'journal/index.html' }).sort()).toEqual(
      ['journal/index.html', ...posts].sort(),
    );
    expect(within({ to: 'every', except: posts })).toHaveLength(withybed.length - posts.length);
    expect(within({ to: 'section', section: '/nothing/' })).toEqual([]);
    expect([
      reachesShopPages(reach.parse({ to: 'every' }), 'header'),
      reachesShopPages(reach.parse({ to: 'every' }), 'main'),
      reachesShopPages(reach.parse({ to: 'kind', kind: 'shop' }), 'main'),
    ]).toEqual([true, false, true]);
  });
});

describe('pages of the shop', () => {
  const chrome = (main: string, extra = '') =>
    `<html lang="en"><head><title>P</title><meta name="description" content="own"><meta name="author" content="own"><link rel="canonical" href="https://x.example/p"><link rel="next" href="q"><script type="application/ld+json">{"own":1}</script><script src="a.js"></script></head><body class="b"><header><a href="./">W</a><nav><ul><li><a href="./">Home</a></li><li class="on"><a href="p.html" aria-current="page">P</a></li></ul></nav></header><div class="breadcrumb"><a href="./">Home</a> own crumb</div><main>${main}</main><aside class="sidebar">own side</aside>${extra}<footer>the foot of every page</footer></body></html>`;
  it('hold nothing of the model page\u2019s own: crumbs, columns, comments, structured data, marks', () => {
    const model = parse(
      chrome(
        '<p>own text</p>',
        '<section id="comments">own comment</section><div class="strange">own afterthought</div>',
      ),
      'p.html',
    );
    const other = parse(chrome('<p>of another</p>').replace('own crumb', 'other crumb'), 'q.html');
    const out = Buffer.from(
      buildShopPage(model, {
        part: 'cart',
        title: 'Cart',
        description: 'Your cart',
        canonical: 'https://x.example/cart/',
        lang: 'de',
        main: () => '<h1>Cart</h1>',
        link: (h) => h,
        scripts: 'keep',
        others: [other],
      }),
    ).toString();
    expect(out).not.toMatch(/own|aria-current|class="on"|ld\+json|rel="next"/);
    expect(out).toContain('<html lang="de">');
    expect(out).toContain('<meta name="description" content="Your cart">');
    expect(out).toContain('<link rel="canonical" href="https://x.example/cart/">');
    expect(out).toContain('<script src="a.js"></script>');
    expect(out).toContain('<footer>the foot of every page</footer>');
    expect(out).toContain('<li><a href="p.html">P</a></li>');
  });
});

describe('a model page with a base of its own', () => {
  it('moves the base, and leaves the links that start from it', () => {
    const model = parse(
      '<html><head><title>P</title><base href="../root/"><link rel=stylesheet href="a.css"></head><body><header><a href="p.html">W</a></header><main><p>own</p></main><footer>f</footer></body></html>',
      'x/p.html',
    );
    const out = Buffer.from(
      buildShopPage(model, {
        part: 'cart',
        title: 'C',
        main: () => 'M',
        link: (h) => `moved/${h}`,
        scripts: 'keep',
      }),
    ).toString();
    expect(out).toContain('<base href="moved/../root/">');
    expect(out).toContain('href="a.css"');
    expect(out).toContain('<a href="p.html">');
  });
});

describe('a newer version of the site', () => {
  const seed = (n: number) => {
    let a = n;
    return (below: number) => (a = (Math.imul(a, 1103515245) + 12345) & 0x7fffffff) % below;
  };
  it.each(Object.keys(mutations))('%s: every pitch is found right or reported, none is wrong', (name) => {
    fc.assert(
      fc.property(fc.constantFrom(...withybed), fc.integer({ min: 1, max: 1e6 }), (path, n) => {
        const page = demo(path);
        const after = mutate(page, mutations[name] as (typeof mutations)[string], seed(n));
        if (!after) return;
        for (const pitch of listPitches(page))
          if (pitch.address.path !== '')
            expect(judge(page, pitch, after).verdict, `${path} ${pitch.label}`).not.toBe('wrong');
      }),
      { numRuns: 12, seed: 20261125 },
    );
  });

  it('has its renamed pages found by what they say, and what is gone told', async () => {
    const version = async (
      rename: (p: PagePath) => PagePath,
      leave: (p: PagePath) => boolean,
    ): Promise<SiteVersion> => {
      const back = new Map(withybed.filter(leave).map((p) => [rename(p), p]));
      const read = async (p: PagePath) => readFileSync(join(root, back.get(p) ?? p));
      const reading = await readSite({ paths: [...back.keys()], read });
      return { reading, load: async (p) => parse(await read(p), p) };
    };
    const before = await version(
      (p) => p,
      () => true,
    );
    const after = await version(
      (p) => (p.startsWith('workshops') ? ('courses.html' as PagePath) : p),
      (p) => !p.includes('visit'),
    );
    const one = (page: string, n: number) =>
      placement.parse({
        ...at(demo(page), listPitches(demo(page)).filter((p) => p.region === 'main')[n]?.label ?? ''),
        id: `page000${n}`,
        reach: { to: 'page', page },
      });
    const done = await reanchor(before, after, [
      one('workshops/index.html', 4),
      one('the-withy-bed/visit/index.html', 5),
    ]);
    expect(done.placements[0]?.reach).toEqual({ to: 'page', page: 'courses.html' });
    expect(done.anchorings).toMatchObject([
      { found: true, page: 'courses.html' },
      { found: false, why: 'the page the-withy-bed/visit/index.html is gone' },
    ]);
  });
});

describe('a plan', () => {
  it('has the schema that docs/plan.schema.json publishes', () => {
    expect(JSON.parse(readFileSync('docs/plan.schema.json', 'utf8'))).toEqual(planSchema());
  });
  it('says where it does not fit', () => {
    const shop = { url: 'https://shop.example/w' };
    const error = (data: unknown) => (readPlan(data) as { error?: string }).error;
    expect(error({ version: 1, shop: { url: 'shop' } })).toContain('at shop.url');
    expect(error({ version: 1, shop, menu: [{ do: 'paint' }] })).toContain('at menu.0.do');
    const p = at(demo('index.html'), 'after “Grown”');
    expect(error({ version: 1, shop, placements: [p, p] })).toContain('used twice');
    expect(error({ version: 1, shop, placements: [{ ...p, kind: 'questions' }] })).toContain(
      'is not built yet',
    );
    expect(readPlan({ version: 1, shop, placements: [p] })).toMatchObject({
      ok: true,
      value: { placements: [{ id: 'aaaa0000' }] },
    });
  });
});

describe('the demo site of tables', () => {
  it("has its header's edge in a cell, because nothing stands in a row", async () => {
    const root = 'demo/sites/quillfeather';
    const paths = readdirSync(root).filter((f) => f.endsWith('.html')) as PagePath[];
    const read = async (path: PagePath) => readFileSync(join(root, path));
    const reading = await readSite({ paths, read });
    for (const facts of reading.pages) {
      const parsed = parsePageFile(facts.path, await read(facts.path), facts.regions);
      if ('problem' in parsed) throw new Error(parsed.problem);
      const pitch = edgePitch(parsed.page, 'header', 'end');
      if (!pitch) throw new Error('no header');
      const cart = placement.parse({
        id: 'tablecart',
        kind: 'cart',
        settings: {},
        pitch: pitch.address,
        pitchLabel: pitch.label,
        reach: { to: 'every', except: [] },
        order: 1,
      });
      const out = placeOnPage(parsed.page, [cart], context);
      expect(out.lost).toEqual([]);
      const doc = parsePage(readSource(out.bytes));
      expect(
        find(doc, (e) => e.tagName === 'td')?.childNodes.some(
          (n) => 'tagName' in n && n.tagName === 'stall-cart',
        ),
      ).toBe(true);
    }
  });

  it('refuses a row as the place of a widget, where an address names one', () => {
    const page = parse('<!doctype html><title>t</title><body><table><tr><td>a</td></tr></table>');
    const tr = find(page.doc, (e) => e.tagName === 'tr');
    const pitch = tr && pitchAt(page, tr, 'end');
    expect(pitch && provenPitches(page, [pitch])).toEqual([]);
  });
});
