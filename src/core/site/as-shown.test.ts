import { describe, expect, it } from 'vitest';
import { bodyOf, type Element } from '../html/tree';
import { readRules } from '../look/cascade/rules';
import { desktop, shownBlocks } from './as-shown';
import { buildOutline } from './outline';
import type { PagePath } from './paths';
import { parsePageFile } from './read-page';
import { prose, readFiles, regionsIn } from './testing';

/** How the first block of each name stands, by the style sheet alone. */
function shown(html: string, css: string): Record<string, string | undefined> {
  const parsed = parsePageFile('a.html' as PagePath, Buffer.from(`<body>${html}</body>`));
  if ('problem' in parsed) throw new Error(parsed.problem);
  const outline = buildOutline(bodyOf(parsed.page.doc) as Element);
  const found = shownBlocks(parsed.page.doc, outline, readRules([css], desktop));
  return Object.fromEntries(outline.kids(0).map((i) => [outline.path(i), found.get(outline.key(i))]));
}

describe('how blocks stand on a wide screen', () => {
  it('is told by display, position, float and width, in rules that hold there', () => {
    const html = ['gone', 'phone', 'off', 'top', 'low', 'rail', 'float', 'wide', 'plain']
      .map((name) => `<div class="${name}">a</div>`)
      .join('');
    const css = `
      .gone{display:none} @media (max-width:600px){.wide{display:none}} @media (min-width:900px){.phone{display:none}}
      .off{position:absolute;left:-9999px} .top{position:absolute;inset:0 0 auto 0} .low{position:fixed;bottom:0;left:0;width:100%}
      .rail{position:fixed;left:0;top:0;width:14rem} .float{float:left;width:25%} .wide{float:left;width:80%}`;
    expect(Object.values(shown(html, css))).toEqual([
      ...['hidden', 'hidden', 'hidden', 'top', undefined],
      ...['aside', 'aside', undefined, undefined],
    ]);
  });

  it('tells nothing of names that stand in several ways', () => {
    const html = '<div class="box">a</div><section><div class="box" style="display:none">b</div></section>';
    expect(shown(html, '.x{color:red}')['div:0']).toBeUndefined();
  });
});

describe('regions of a site with style sheets', () => {
  const page = (n: number) => `<head><link rel=stylesheet href=a.css></head><body>
    <div class="phonebar"><a href="index.html">Duinrand</a></div>
    <div class="text"><h1>Title ${n}</h1>${prose(`one${n}`)}${prose(`two${n}`)}</div>
    <div class="bar"><a href="index.html">Duinrand</a><ul><li><a href="index.html">Home</a></li><li><a href="a.html">Rope</a></li><li><a href="b.html">Nets</a></li></ul></div>
    <div class="foot">Made on the quay since 1902</div></body>`;
  const site = (css: string) =>
    readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2), 'a.css': css });

  it('a bar that comes last in the source and stands on top is the header; one for phones alone is none', async () => {
    const css =
      '.bar{position:absolute;top:0;left:0;width:100%} .phonebar{display:none} @media (max-width:700px){.phonebar{display:block}}';
    expect(regionsIn(await site(css), 'a.html')).toMatchObject({
      header: 'div:2',
      main: 'div:1',
      footer: 'div:3',
      menu: 'div:2/ul:0',
    });
  });

  it('sheets beyond all measure are left aside: the site is read by its source', async () => {
    const bar = '.bar{position:absolute;top:0;left:0;width:100%} .phonebar{display:none}';
    const found = await site(`${bar}/*${'x'.repeat(3_000_000)}*/`);
    expect(regionsIn(found, 'a.html')).toMatchObject({ header: 'div:0', main: 'div:1' });
  });

  it('without them it is read by its source', async () => {
    expect(regionsIn(await site('.text{color:#333}'), 'a.html')).toMatchObject({
      header: 'div:0',
      main: 'div:1',
    });
  });
});

describe('regions of sites that nobody here made', () => {
  const three = (page: (n: number) => string) =>
    readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
  const nav = '<a href="index.html">Home</a> <a href="a.html">Rope</a> <a href="b.html">Nets</a>';

  it('two bars that are called header are one, and two feet one', async () => {
    const found = await three(
      (n) =>
        `<div class="header"><a href="index.html">Duinrand</a></div><div class="header" id="second"><ul><li>${nav.replaceAll('</a> ', '</a></li><li>')}</li></ul></div>
        <div class="text">${prose(`one${n}`)}${prose(`two${n}`)}</div><div class="footer">Opening hours on the quay</div><footer>Made by hand since 1902</footer>`,
    );
    const of = (region: string) => found.pages[1]?.regions.find((r) => r.region === region);
    expect(of('header')).toMatchObject({ from: 0, to: 1 });
    expect(of('footer')).toMatchObject({ from: 3, to: 4 });
  });

  it('a column is known by the last word of its name, and its lists under titles are one menu', async () => {
    const list = (...all: string[]) =>
      `<ul>${all.map((h) => `<li><a href="${h}.html">${h} of the quay</a></li>`).join('')}</ul>`;
    const found = await three(
      (n) =>
        `<nav class="my-nav-side"><a href="index.html">Duinrand</a><div role="navigation"><p>Goods</p>${list('index', 'a')}<p>More</p>${list('b', 'c')}</div></nav><div class="text"><h1>T${n}</h1>${prose(`one${n}`)}${prose(`two${n}`)}</div>`,
    );
    expect(regionsIn(found, 'a.html')).toMatchObject({ side: 'nav:0', menu: 'nav:0/div:0', main: 'div:0' });
    expect(regionsIn(found, 'a.html').header).toBeUndefined();
    expect(found.menu.filter((m) => m.href).map((m) => m.href)).toEqual([
      'index.html',
      'a.html',
      'b.html',
      'c.html',
    ]);
  });

  it('contents of a page are no menu, in a nav or not', async () => {
    const contents = (n: number, tag: string) =>
      `<${tag}><ul><li><a href="#how${n}">How ${n}</a></li><li><a href="#why${n}">Why ${n}</a></li><li><a href="#who${n}">Who ${n}</a></li></ul></${tag}>`;
    const found = await three(
      (n) =>
        `<div class="links">${nav}</div><div class="text"><h1>T${n}</h1>${contents(n, 'nav')}${prose(`one${n}`)}${prose(`two${n}`)}</div>`,
    );
    expect(regionsIn(found, 'a.html').menu).toBe('div:0');
    const alone = await readFiles({
      'index.html': `<h1>Rope</h1>${prose('one')}${contents(1, 'div')}${prose('two')}`,
    });
    expect(regionsIn(alone, 'index.html').menu).toBeUndefined();
  });

  it('headings that all pages have are parts of their text', async () => {
    const found = await three(
      (n) =>
        `<div class="links">${nav}</div><h1>Name</h1>${prose(`one${n}`)}<h1>Synopsis</h1>${prose(`two${n}`)}<h1>Copyright</h1>`,
    );
    const of = (region: string) => found.pages[1]?.regions.find((r) => r.region === region);
    expect(of('header')?.path).toBe('div:0');
    expect(of('footer')).toBeUndefined();
  });

  it('lines of a listing are one text, though others begin with the same ones', async () => {
    const line = (text: string) => `<div class="line">${text}</div>`;
    const found = await three((n) => {
      const lines = Array.from({ length: 14 }, (_, i) => line(`line ${i} of page ${n} alone, knots and all`));
      return `<div class="links">${nav}</div><div class="listing">${line('Free for all to use')}${line('and to change')}${lines.join('')}</div>`;
    });
    expect(found.pages[1]?.regions.find((r) => r.region === 'main')).toMatchObject({ path: 'div:1' });
  });

  it('leads by files whose names have dots in them count as pages', async () => {
    const found = await three(
      (n) =>
        `<div class="box"><a href="class.Rope.html">Rope</a> <a href="class.Net.html">Net</a></div><div class="text">${prose(`one${n}`)}${prose(`two${n}`)}</div>`,
    );
    expect(regionsIn(found, 'a.html').menu).toBe('div:0');
  });

  it('a title that says what its menu item says is the page’s own, in a wrapper or not', async () => {
    const names = ['Welcome', 'Rope', 'Nets'];
    const items = names.map((name) => `<li><a href="${name}.html">${name}</a></li>`).join('');
    for (const title of ['<h1>%</h1>', '<div class="head"><h1>%</h1></div>']) {
      const found = await three(
        (n) =>
          `<div class="bar"><ul>${items}</ul></div><div class="text">${title.replace('%', names[n] ?? '')}${prose(`one${n}`)}${prose(`two${n}`)}</div>`,
      );
      for (const page of ['index.html', 'a.html', 'b.html'])
        expect(regionsIn(found, page)).toMatchObject({ main: 'div:1', menu: 'div:0' });
      expect(found.pages[1]?.regions.find((r) => r.region === 'main')?.from).toBeUndefined();
    }
  });
});
