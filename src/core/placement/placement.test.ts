import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strip } from '../html/fence';
import { bodyOf, descendants, elementsIn, find, parsePage, rawText } from '../html/tree';
import { readSource, textOf } from '../html/source';
import { listPitches } from '../site/pitch';
import { type PagePath, rebaseLink } from '../site/paths';
import { type ParsedPage, parsePageFile, readPage } from '../site/read-page';
import { wordsIn } from '../languages/languages';
import { kindOf, kinds } from './kinds';
import { holdsTreeLaw, type PlaceContext, placeOnPage } from './place';
import { checkSettings, type Placement, placement, writePlacement } from './placement';

import { buildShopPage, chooseModel } from './shop-page';

const context: PlaceContext = {
  shopUrl: 'https://shop.example/w',
  scriptUrl: 'https://shop.example/stall.js',
  cartHref: 'cart/',
  productName: () => 'Körbchen & "Rod"',
};
const parse = (bytes: Uint8Array, name = 'index.html'): ParsedPage => {
  const p = parsePageFile(name as PagePath, bytes);
  if ('problem' in p) throw new Error(p.problem);
  return p.page;
};

/** Pages as they are: the demo's, and the habits of thirty years. */
const pages: readonly (readonly [string, Buffer])[] = [
  ...(readdirSync('demo/withybed', { recursive: true }) as string[])
    .filter((f) => f.endsWith('.html'))
    .map((f) => [f, readFileSync(join('demo/withybed', f))] as const),
  ['CRLF', Buffer.from('<html>\r\n<body>\r\n<div>one</div>\r\n<div>two\r\n</div>\r\n</body>\r\n</html>\r\n')],
  ['BOM', Buffer.from('\ufeff<!doctype html><main><h1>é</h1><p>x</p></main>')],
  ['UTF-16', Buffer.from('\ufeff<html><body><div>ä</div><p>ö</p></body></html>', 'utf16le')],
  [
    'Windows-1252',
    Buffer.from('<meta charset=windows-1252><div>caf\xe9</div><p>\x93na\xefve\x94</p>', 'latin1'),
  ],
  ['unclosed', Buffer.from('<TITLE>x</TITLE><P>one<P>two<UL><LI>a<LI>b</UL><DIV><P>c</DIV>')],
  [
    'table layout',
    Buffer.from(
      '<table width=100%><tr><td bgcolor=#eee><font size=2>menu</font><td><h1>T</h1><p>x<hr><p>y</table>',
    ),
  ],
  [
    'misnested',
    Buffer.from('<div><b><p>x</b>y</p></div><table><div>foster</div><tr><td><div>in</div></table><p>z'),
  ],
  [
    'frames era',
    Buffer.from('<center><div><img src=a.gif></div><div>hello</div></center><br><center>bye</center>'),
  ],
];

const made = (page: ParsedPage, picks: readonly number[]): Placement[] => {
  const pitches = listPitches(page);
  return picks.flatMap((n, i) => {
    const pitch = pitches[n % Math.max(1, pitches.length)];
    const kind = i % 2 ? 'cart' : 'buy';
    return pitch
      ? [
          {
            id: `aaaaaaa${i}`,
            kind,
            settings: kind === 'buy' ? { goods: 'r\u00f6d' } : {},
            pitch: pitch.address,
            pitchLabel: pitch.label,
            spelling: 'element' as const,
            reach: { to: 'every' as const, except: [] },
            order: i,
          },
        ]
      : [];
  });
};

describe('placing', () => {
  it.each(pages)(
    '%s: whatever is placed, the tree is the old one plus ours, and strip gives the bytes back',
    (_, bytes) => {
      const page = parse(bytes);
      fc.assert(
        fc.property(fc.array(fc.nat(200), { maxLength: 5 }), (picks) => {
          const placements = made(page, picks);
          const out = placeOnPage(page, placements, context);
          expect(out.placed.length + out.lost.length).toBe(placements.length);
          expect(
            holdsTreeLaw(
              page,
              out.edits.map((edit) => ({ edit })),
            ),
          ).toBe(true);
          expect(Buffer.from(strip(out.bytes).bytes)).toEqual(bytes);
          // Placing is a function of page and placements: again is the same.
          expect(Buffer.from(placeOnPage(page, placements, context).bytes)).toEqual(Buffer.from(out.bytes));
        }),
        { numRuns: 25 },
      );
    },
  );

  it('sets nearly every pitch it offers; the rest are told, not set', () => {
    let offered = 0;
    let set = 0;
    for (const [, bytes] of pages) {
      const page = parse(bytes);
      for (const [n] of listPitches(page).entries()) {
        offered++;
        set += placeOnPage(page, made(page, [n]), context).placed.length;
      }
    }
    expect(set / offered).toBeGreaterThan(0.95);
  });

  it('keeps the order of two at one pitch, and brings the script once', () => {
    const page = parse(Buffer.from('<body><div>a</div></body>'));
    const [first] = made(page, [1]);
    if (!first) throw new Error('no pitch');
    const html = Buffer.from(
      placeOnPage(
        page,
        [
          { ...first, id: 'second00', order: 2 },
          { ...first, id: 'first000', order: 1 },
        ],
        context,
      ).bytes,
    ).toString();
    expect(html.indexOf('first000')).toBeLessThan(html.indexOf('second00'));
    expect(html.match(/<script async/g)).toHaveLength(1);
  });

  it('is right in any encoding, because what is inserted is ASCII', () => {
    const page = parse(pages.find(([n]) => n === 'Windows-1252')?.[1] ?? Buffer.alloc(0));
    const out = placeOnPage(page, made(page, [0]), context).bytes;
    const source = readSource(out);
    const link = find(parsePage(source), (e) => e.tagName === 'a');
    expect(source.encoding).toBe('windows-1252');
    expect(textOf(source, link ? rawText(link) : '')).toBe('Buy: Körbchen & "Rod"');
  });

  it('every widget speaks the shop’s language before its script has run, or the language it was told', () => {
    const said = (settings: Record<string, unknown>, kind: string, lang?: string) =>
      kindOf(kind)?.writable(settings, { ...context, placementId: 'a', productName: () => 'Korb', lang })
        ?.link.text;
    const german = wordsIn('de');
    const table: [string, Record<string, unknown>, string][] = [
      ['buy', { goods: 'korb' }, 'Kaufen: Korb'],
      ['buy', { goods: 'korb', choice: 'groß, natur' }, 'Kaufen: Korb, groß, natur'],
      ['cart', {}, german.cart],
      ['account', {}, german.account],
      ['lookup', {}, german.lookUp],
      ['search', {}, german.searchFor],
      ['row', {}, german.all],
      ['shop', {}, german.all],
      ['categories', {}, german.all],
      ['reviews', { goods: 'korb' }, german.reviews],
      ['releases', { goods: 'korb' }, `${german.releases}: Korb`],
    ];
    for (const [kind, settings, text] of table) {
      expect([kind, said(settings, kind, 'de-AT')]).toEqual([kind, text]);
      expect([kind, said({ ...settings, lang: 'de' }, kind)]).toEqual([kind, text]);
      expect(said(settings, kind)).not.toBe(text);
    }
  });

  it('leaves out what no longer fits, with the reason', () => {
    const page = parse(Buffer.from('<main><p>a</p></main>'));
    const [p] = made(page, [0]);
    if (!p) throw new Error('no pitch');
    const out = placeOnPage(
      page,
      [
        { ...p, pitch: { ...p.pitch, path: 'section:4/div:2', row: 'x', around: ['', 'p:x:', 'p:y:', ''] } },
        { ...p, id: 'bbbbbbbb', settings: { goods: '' } },
      ],
      context,
    );
    expect(out.lost.map((l) => l.why)).toEqual([
      expect.stringContaining('not surely found'),
      expect.stringContaining('do not fit'),
    ]);
    expect(Buffer.from(out.bytes).toString()).toBe('<main><p>a</p></main>');
  });
});

const nowhere: Placement = placement.parse({
  id: 'aaaaaaaa',
  kind: 'buy',
  settings: {},
  pitch: {
    region: 'page',
    path: '',
    side: 'start',
    around: ['', '', '', ''],
    outside: ['', ''],
    heading: '',
    row: '',
    twin: '1/1',
    repeats: 1,
    alike: false,
  },
  pitchLabel: '',
  reach: { to: 'every' },
  order: 0,
});

describe('kinds and reach', () => {
  it('check settings by their own tables, and escape them in what they write', () => {
    expect(checkSettings('buy', {})).toMatchObject({ ok: false });
    expect(checkSettings('nothing', {})).toMatchObject({
      ok: false,
      error: expect.stringContaining('"nothing"'),
    });
    for (const kind of kinds.filter((k) => k.built)) {
      const html =
        writePlacement(
          {
            ...nowhere,
            kind: kind.kind,
            settings: {
              ...(kind.kind !== 'row' && { goods: '"><script>' }),
              text: '<i onclick="x">',
              heading: '<i onclick="x">',
            },
          },
          context,
        ) ?? '';
      // Whatever was written into a setting, the widget is one element, and in it only what its table writes.
      const body = bodyOf(parse(Buffer.from(`<!doctype html><title>t</title><body>${html}</body>`)).doc);
      expect(body && elementsIn(body).map((e) => e.tagName)).toEqual([kind.element]);
      expect(
        body &&
          [...descendants(body)].filter(
            (e) => ['script', 'i'].includes(e.tagName) || e.attrs.some((a) => a.name.startsWith('on')),
          ),
      ).toEqual([]);
    }
  });

  it('are JSON there and back', () => {
    fc.assert(
      fc.property(fc.constantFrom(...pages), fc.array(fc.nat(50), { maxLength: 3 }), ([, bytes], picks) => {
        for (const p of made(parse(bytes), picks))
          expect(placement.parse(JSON.parse(JSON.stringify(p)))).toEqual(p);
      }),
      { numRuns: 20 },
    );
  });
});

describe('shop pages', () => {
  const facts = pages.slice(0, 9).map(([f, b]) => readPage(parse(b, f), () => false));
  const model = chooseModel(facts);

  it('take their chrome from a plain page, and nothing of its own', () => {
    expect(model?.regions.map((r) => r.region)).not.toContain('side');
    const page = parse(
      Buffer.from(
        '<html lang=de><head><title>A</title><meta name=description content=own><meta property="og:title" content=own><link rel=canonical href=own><script type="application/ld+json">{"own":1}</script><script src="../site.js"></script><link rel=stylesheet href="../a.css"></head><body><header><a href="../">W</a><a href=here aria-current=page>own</a></header><main class=m><p>own</p></main><footer style="background:url(../f.png)">F</footer></body></html>',
      ),
      'x/p.html',
    );
    const out = Buffer.from(
      buildShopPage(page, {
        part: 'cart',
        title: 'Käse',
        main: () => '<h1>K</h1>',
        link: (h) => rebaseLink(h, 'x/p.html' as PagePath, 'cart/index.html' as PagePath),
        scripts: 'keep',
      }),
    ).toString();
    expect(out).toBe(
      '<html lang=de><head><title>K&#228;se</title><script src="../site.js"></script><link rel=stylesheet href="../a.css"><!--stall-page cart-->\n</head><body><header><a href="../">W</a><a href="../x/here">own</a></header><main class=m><h1>K</h1></main><footer style="background:url(../f.png)">F</footer></body></html>',
    );
    const plain = Buffer.from(
      buildShopPage(page, {
        part: 'cart',
        title: 'x',
        main: () => '',
        link: (h, kind) => (kind === 'file' ? `/f/${h}` : `https://live/${h}`),
        scripts: 'drop',
      }),
    ).toString();
    expect(plain).not.toContain('<script');
    expect(plain).toContain('href="/f/../a.css"');
    expect(plain).toContain('href="https://live/here"');
  });

  it('are built even where the page names no main region', () => {
    const out = (html: string) =>
      Buffer.from(
        buildShopPage(parse(Buffer.from(html)), {
          part: 'cart',
          title: 'x',
          main: () => 'NEW',
          link: (h) => h,
          scripts: 'keep',
        }),
      ).toString();
    expect(out('<div id=header>h</div><p>own</p><div id=footer>f</div>')).toBe(
      '<!--stall-page cart-->\n<title>x</title><div id=header>h</div>NEW<div id=footer>f</div>',
    );
    expect(out('<body><p>own</p></body>')).toBe('<body><!--stall-page cart-->\n<title>x</title>NEW</body>');
  });
});
