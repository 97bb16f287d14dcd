import { describe, expect, it } from 'vitest';
import type { PagePath } from '../site/paths';
import { type ParsedPage, parsePageFile } from '../site/read-page';
import type { RegionFact } from '../site/regions';
import { buildShopPage, parsedShopPage } from './shop-page';

/** Pages of a site that differ where pages do: title, lead, crumbs, the ways before and next, the page in another language. */
const band = (n: number, body: string, head = `<title>Chapter ${n} · Osier</title>`) =>
  `<html lang="en"><head>${head}</head><body><header><a href="index.html">Osier</a><nav><a href="index.html">Home</a> <a href="news.html">News</a></nav></header>${body}<footer>The foot of every page <a href="imprint.html">Imprint</a></footer></body></html>`;
const chapter = (n: number) =>
  band(
    n,
    `<div class="band"><h1>Chapter ${n}</h1><p>What chapter ${n} says.</p></div><div class="ways"><a href="c${n - 1}.html">Back</a> | <a href="c${n + 1}.html">Next</a> <a href="index.html">All</a> <a hreflang="de" href="de/c${n}.html">Deutsch</a></div><main><p>Text of ${n}.</p></main><div>Written on day ${n}, <b>in Osierham</b></div>`,
  );

const parse = (html: string, path: string, regions?: RegionFact[]): ParsedPage => {
  const read = parsePageFile(path as PagePath, Buffer.from(html), regions);
  if ('problem' in read) throw new Error(read.problem);
  return read.page;
};
const content = {
  part: 'cart',
  title: 'Your cart',
  heading: 'Your cart',
  main: (titled: boolean) => (titled ? 'CART' : '<h1>Your cart</h1>CART'),
  link: (href: string) => href,
  scripts: 'keep' as const,
};
const built = (model: ParsedPage, others: readonly ParsedPage[], more = {}) =>
  Buffer.from(buildShopPage(model, { ...content, others, ...more })).toString();
const chapters = [4, 5, 6].map((n) => parse(chapter(n), `c${n}.html`));

describe('what stands around the main part of a model page', () => {
  const out = built(parse(chapter(2), 'c2.html'), chapters);

  it('says what the page is in the band where the site says it, and once', () => {
    expect(out).toContain('<div class="band"><h1>Your cart</h1></div>');
    expect(out.match(/<h1/g)).toHaveLength(1);
  });

  it('has no way to the page before and the next, and keeps what leads to the same from everywhere', () => {
    expect(out).not.toMatch(/Back|Next|c1\.html|c3\.html/);
    expect(out).toContain('<a href="index.html">All</a>');
    expect(out).toContain('Deutsch');
  });

  it('loses single words of the model in what is else shared', () => {
    expect(out).toContain('<div><b>in Osierham</b></div>');
    expect(out).not.toMatch(/day 2|Text of 2|chapter 2/i);
  });

  it('keeps header, menu and footer to the byte', () => {
    const [head = ''] = /<header>.*<\/header>/.exec(chapter(2)) ?? [];
    const [foot = ''] = /<footer>.*<\/footer>/.exec(chapter(2)) ?? [];
    expect(out).toContain(head);
    expect(out).toContain(foot);
  });

  it('goes with its title where the content brings one of its own', () => {
    const plain = built(parse(chapter(2), 'c2.html'), chapters, { heading: undefined });
    expect(plain).toContain('<div class="band"></div>');
    expect(plain.match(/<h1>Your cart/g)).toHaveLength(1);
  });

  it('stays as it is while there is no page to compare it with', () => {
    const alone = built(parse(chapter(2), 'c2.html'), []);
    expect(alone).toContain('<p>What chapter 2 says.</p>');
    expect(alone).toContain('>Next</a>');
  });

  it('is not taken apart where the pages are not alike: another language is no reason to lose a header', () => {
    const other = chapter(3)
      .replace('Osier<', 'Weide<')
      .replace('>Home', '>Start')
      .replace('>News', '>Neues');
    const page = built(parse(chapter(2), 'c2.html'), [parse(other, 'de/c3.html')]);
    expect(page).toContain('<header><a href="index.html">Osier</a>');
  });
});

describe('a manual with ways to the page before and the next in its bar', () => {
  const bar = (n: number) =>
    `<html lang="en"><head><title>Part ${n}</title></head><body><div class="bar"><ul><li><a accesskey="N" href="p${n + 1}.html">next</a> |</li><li><a rel="prev" href="p${n - 1}.html">previous</a> |</li><li><a href="index.html">Manual</a> »</li><li><a href="">Part ${n}</a></li></ul></div><main>Text of ${n}</main><div class="foot"><a href="p${n - 1}.html">Part ${n - 1}</a><a href="index.html">Home</a></div></body></html>`;
  const facts: RegionFact[] = [
    { region: 'header', path: 'div:0', confidence: 0.8, by: 'name' },
    { region: 'menu', path: 'div:0', confidence: 0.8, by: 'name' },
    { region: 'main', path: 'main:0', confidence: 0.8, by: 'meaning' },
    { region: 'footer', path: 'div:1', confidence: 0.8, by: 'name' },
  ];
  const page = (n: number) => parse(bar(n), `p${n}.html`, facts);

  it('keeps of it what every page has', () => {
    const out = built(page(2), [4, 6, 8].map(page));
    expect(out).toContain('<a href="index.html">Manual</a> »');
    expect(out).toContain('<a href="index.html">Home</a>');
    expect(out).not.toMatch(/next|previous|Part|p\d\.html/);
  });
});

it('a header that is of another make elsewhere loses nothing by being compared', () => {
  const about =
    '<body><header class="small"><a href="index.html">Osier</a><a href="index.html">Back to the front page</a></header><main>About</main><footer>Foot</footer></body>';
  const front = (n: number) =>
    `<body><header class="big"><a href="index.html">Osier</a></header><main>Front ${n}</main><footer>Foot</footer></body>`;
  const out = built(
    parse(about, 'about.html'),
    [1, 2, 3].map((n) => parse(front(n), `f${n}.html`)),
  );
  expect(out).toContain('Back to the front page');
});

describe('a menu of spots on the model page', () => {
  const one =
    '<body><nav id="top"><a href="#work">Work</a> <a href="#top">Up</a> <a href="#nowhere">?</a></nav><main><h2 id="work">Work</h2></main></body>';
  it('leads to them from a page of the shop, and to what is on every page as before', () => {
    const out = built(parse(one, 'site/home.html'), []);
    expect(out).toContain('<a href="home.html#work">Work</a> <a href="#top">Up</a> <a href="#nowhere">?</a>');
  });
});

describe('a header, menu or footer that was found within the main region', () => {
  const html = `<body><div id="all"><div id="bar"><a href="a.html">Home</a> <a href="b.html">News</a> <a href="c.html">Us</a></div><h2>Own</h2><p>All that this page says, and it is more than the bar does.</p><div id="foot">Imprint</div></div></body>`;
  const facts = (
    main: RegionFact['path'],
    menu: RegionFact['path'],
    footer: RegionFact['path'],
  ): RegionFact[] => [
    { region: 'main', path: main, confidence: 0.8, by: 'place' },
    { region: 'header', path: menu, confidence: 0.8, by: 'place' },
    { region: 'menu', path: menu, confidence: 0.8, by: 'place' },
    { region: 'footer', path: footer, confidence: 0.8, by: 'place' },
  ];

  it('stays where it is, and the shop stands between', () => {
    const model = parse(html, 'a.html', facts('div:0', 'div:0/div:0', 'div:0/div:1'));
    const out = built(model, []);
    expect(out).toContain(
      '<a href="c.html">Us</a></div><h1>Your cart</h1>CART<div id="foot">Imprint</div></div>',
    );
    const read = parsedShopPage('cart.html' as PagePath, model, content);
    const found = 'problem' in read ? [] : (read.regions ?? []).map((r) => r.region);
    expect(found).toEqual(expect.arrayContaining(['header', 'menu', 'footer']));
  });

  it('stays in the box of boxes that it shares with what the page says', () => {
    const deep = html
      .replace('<h2>', '<div id="text"><h2>')
      .replace('<div id="foot">', '</div><div id="foot">');
    const boxed = `<body><div id="shell">${deep.replace(/<\/?body>/g, '')}<p>x</p></div></body>`;
    const model = parse(boxed, 'a.html', facts('div:0', 'div:0/div:0/div:0', 'div:0/div:0/div:2'));
    const out = built(model, []);
    expect(out).toContain(
      'Us</a></div><h1>Your cart</h1>CART<div id="foot">Imprint</div></div><p>x</p></div>',
    );
  });
});
