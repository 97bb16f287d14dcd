import { describe, expect, it } from 'vitest';
import { regionsOf } from './regions';
import type { PagePath } from './paths';
import { parsePageFile } from './read-page';
import { prose, readFiles, regionsIn } from './testing';

/** A table layout of long ago: no names, no meaning, only places. */
const tables = (
  n: number,
) => `<html><head><title>Page ${n} - Tin Whistle Works</title></head><body bgcolor=white><table width=760><tr><td colspan=2><img src="logo.gif" alt="Tin Whistle Works" width=300 height=60></td></tr>
<tr><td width=150 bgcolor="#eeeedd"><a href="index.html">Home</a><br><a href="p1.html">Whistles</a><br><a href="p2.html">Repairs</a><br><a href="p3.html">Visit</a></td><td><h1>Heading ${n}</h1>${prose(`page${n}`)}${prose(`more${n}`)}</td></tr>
<tr><td colspan=2><font size=1>Tin Whistle Works, Quay Lane. Made by hand.</font></td></tr></table></body></html>`;

describe('chrome found by comparing pages', () => {
  it('of a table layout: header, column with the menu, main part and footer', async () => {
    const site = await readFiles({
      'index.html': tables(0),
      'p1.html': tables(1),
      'p2.html': tables(2),
      'p3.html': tables(3),
      'logo.gif': Buffer.from('47494638396138010c00', 'hex'),
    });
    const row = (n: number, cell = 0) => `table:0/tbody:0/tr:${n}/td:${cell}`;
    expect(regionsIn(site, 'p2.html')).toMatchObject({ main: row(1, 1), side: row(1, 0) });
    expect(regionsIn(site, 'p2.html').header).toMatch(/^table:0\/tbody:0\/tr:0/);
    expect(regionsIn(site, 'p2.html').footer).toMatch(/^table:0\/tbody:0\/tr:2/);
    expect(site.menu.map((m) => [m.label, m.page])).toEqual([
      ['Home', 'index.html'],
      ['Whistles', 'p1.html'],
      ['Repairs', 'p2.html'],
      ['Visit', 'p3.html'],
    ]);
    expect(site.chrome).toMatchObject([{ pages: 4 }]);
    expect(site.pictures).toEqual([{ path: 'logo.gif', width: 312, height: 12, pages: 4 }]);
  });

  it('without any element that holds the main part alone: the run of blocks between header and footer', async () => {
    const page = (n: number) =>
      `<body><div id="nav"><a href="index.html">Home</a> <a href="a.html">Ropes</a> <a href="b.html">Knots</a></div><h1>Title ${n}</h1>${prose(`one${n}`)}${prose(`two${n}`)}<div class="foot">Ropewalk, by the harbour since 1902</div></body>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html')).toMatchObject({ main: '[1-3]', footer: 'div:1', menu: 'div:0' });
  });

  it('of a book on one page beside its chapters, however long it is and much of it stands in them too', async () => {
    const head =
      '<div class="top"><ul><li><a href="index.html">Start</a></li><li><a href="book.html">All of it</a></li><li><a href="c1.html">Chapters of rope</a></li></ul></div>';
    const para = (c: number, n: number) =>
      `<p>Chapter ${c} says in place ${n} what nothing else says at all.</p>`;
    const chapter = (c: number) => Array.from({ length: 60 }, (_, n) => para(c, n)).join('');
    const numbers = [1, 2, 3, 4, 5, 6, 7];
    const site = await readFiles({
      ...Object.fromEntries(
        numbers.map((c) => [`c${c}.html`, `<body>${head}<h1>Chapter ${c}</h1>${chapter(c)}`]),
      ),
      'book.html': `<body>${head}<h1>All chapters</h1>${numbers.map(chapter).join('')}`,
    });
    expect(regionsIn(site, 'book.html')).toMatchObject({ header: 'div:0', main: '[1-421]' });
    expect(regionsIn(site, 'book.html').menu).toMatch(/^div:0/);
    expect(site.pages.find((p) => p.path === 'book.html')?.chrome).toBe(
      site.pages.find((p) => p.path === 'c2.html')?.chrome,
    );
  });

  it('without a column that stands between the header and the rest', async () => {
    const page = (n: number) =>
      `<body><div><a href="index.html">Weir Boats</a> <a href="a.html">Boats</a></div><div class="sidebar"><a href="a.html">Hire by the hour</a> <a href="b.html">Hire by the day</a></div><div class="find">Look for a boat by its name</div><div>${prose(`one${n}`)}</div></body>`;
    const site = await readFiles({
      'index.html': page(0),
      'a.html': page(1),
      'b.html': page(2),
      'c.html': page(3),
    });
    expect(regionsIn(site, 'a.html')).toMatchObject({ header: 'div:0', side: 'div:1' });
  });

  it('the list and not the bar, where the bar holds the name and a button as well', async () => {
    const page = (n: number) =>
      `<body><nav id="bar"><a href="index.html">Weir Boats of the upper river</a><button>Menu</button><ul><li><a href="a.html">Boats</a></li><li><a href="b.html">Oars</a></li></ul><ul><li><a href="https://weir.example/">Elsewhere</a></li></ul></nav><main>${prose(`m${n}`)}</main><footer><p>By the weir since the mill</p></footer>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html')).toMatchObject({ menu: 'nav:0/ul:0' });
    expect(site.menu.map((m) => m.label)).toEqual(['Boats', 'Oars']);
  });

  it('the menu that leads to pages, in a column, before a bar that opens panels', async () => {
    const items = ['index', 'a', 'b', 'c', 'd', 'e', 'f', 'g'];
    const page = (n: number) =>
      `<body><aside class="sidebar"><ul>${items.map((i) => `<li><a href="${i}.html">The page of ${i}</a></li>`).join('')}</ul></aside><div><nav><ul><li><a href="#">Letters</a></li><li><a href="#">Notices</a></li><li><a href="#">Me</a></li></ul></nav><div class="content">${prose(`s${n}`)}</div><footer><p>By the weir since the mill</p></footer></div>`;
    const site = await readFiles(Object.fromEntries(items.map((i, n) => [`${i}.html`, page(n)])));
    expect(regionsIn(site, 'c.html')).toMatchObject({ side: 'aside:0', menu: 'aside:0' });
  });

  it('the footer at the end of the main element', async () => {
    const page = (n: number) =>
      `<body><header><a href="index.html">Weir</a> <a href="a.html">Boats</a></header><main><div>${prose(`x${n}`)}</div><footer><p>By the weir since the mill</p></footer></main><div>Settings of the page: light or dark</div>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html').footer).toBe('main:0/footer:0');
  });

  it('of pages whose outlines go down to different depths: a full one and one that is nearly empty', async () => {
    // The bar has more blocks than the budget of a full page leaves for it.
    const panel = (n: number) =>
      `<div><b>Panel ${n}</b>${Array.from({ length: 5 }, (_, k) => `${'<div>'.repeat(8)}<p>row ${n}</p><p>of ${k}</p>${'</div>'.repeat(8)}`).join('')}</div>`;
    const bar = `<nav>${[1, 2, 3, 4, 5].map((n) => `<div><a href="#p${n}">Bar ${n}</a>${panel(n)}</div>`).join('')}</nav>`;
    const column = `<ul class="sidebar">${['index', 'a', 'b', 'c', 'd'].map((i) => `<li><a href="${i}.html">The page of ${i}</a></li>`).join('')}</ul>`;
    const shell = (content: string) =>
      `<body><div>${column}<div><div id="content">${bar}<div class="inside">${content}</div></div></div></div></body>`;
    const cards = (n: number) =>
      Array.from(
        { length: 90 },
        (_, k) => `<div><div><p>Card ${k} of page ${n} has words of its own</p></div></div>`,
      ).join('');
    const site = await readFiles({
      ...Object.fromEntries(['index', 'a', 'b', 'c'].map((i, n) => [`${i}.html`, shell(cards(n))])),
      'd.html': shell('<h1>Nothing here as yet</h1>'),
    });
    expect(new Set(site.pages.map((p) => p.chrome)).size).toBe(1);
    expect(regionsIn(site, 'd.html')).toMatchObject({
      main: 'div:0/div:0/div:0/div:0',
      side: 'div:0/ul:0',
      menu: 'div:0/ul:0',
    });
  });

  it('the menu in a column where one page has a word of its own under it', async () => {
    const items = ['index', 'a', 'b', 'c', 'd', 'e'];
    const page = (n: number) =>
      `<body><div><ul class="sidebar">${items.map((i) => `<li><a href="${i}.html">Page ${i}</a></li>`).join('')}${n === 0 ? '<li><p>Join us at the market</p></li>' : ''}</ul><div><nav><ul><li><a href="#">Letters</a></li><li><a href="#">Notices</a></li><li><a href="#">Me</a></li></ul></nav><div>${prose(`w${n}`)}</div></div></div></body>`;
    const site = await readFiles(Object.fromEntries(items.map((i, n) => [`${i}.html`, page(n)])));
    expect(regionsIn(site, 'index.html').menu).toBe('div:0/ul:0');
  });

  it('ways to the page before and the next as a footer, and no menu', async () => {
    const page = (n: number) =>
      `<body><div class="banner"><b>The Book of Knots</b></div><p class="title">As told on the quay</p><div><h1>Knot ${n}</h1>${prose(`k${n}`)}</div><p><b>Before:</b> <i>Knot ${n - 1}</i></p><ul><li><a href="k${n - 1}.html">Prev</a></li><li><a href="k${n + 1}.html">Next</a></li></ul></body>`;
    const site = await readFiles(Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`k${n}.html`, page(n)])));
    expect(regionsIn(site, 'k3.html')).toMatchObject({ header: '[0-1]', footer: 'ul:0' });
    expect(regionsIn(site, 'k3.html').menu).toBeUndefined();
  });

  it('ways that are told by the word before them', async () => {
    const ways = (n: number) =>
      `<div class="navigation"><b>Next:</b> <a href="n${n + 1}.html">Of hitches ${n + 1}</a> <b>Up:</b> <a href="n1.html">Of ropes</a> <b>Previous:</b> <a href="n${n - 1}.html">Of hitches ${n - 1}</a></div>`;
    const page = (n: number) => `<body>${ways(n)}<h1>Hitch ${n}</h1>${prose(`h${n}`)}</body>`;
    const site = await readFiles(Object.fromEntries([1, 2, 3, 4].map((n) => [`n${n}.html`, page(n)])));
    expect(regionsIn(site, 'n2.html').menu).toBeUndefined();
  });

  it('a list of spots of this very page is a column and not the header', async () => {
    const spots = (n: number) =>
      Array.from({ length: 10 }, (_, k) => `<tr><td><a href="#s${k}">Spot ${k} of ${n}</a></td></tr>`).join(
        '',
      );
    const page = (n: number) =>
      `<body><div><div class="panel"><table>${spots(n)}</table></div><div><table><tr><td><a href="p${n + 1}.html">Forth to ${n + 1}</a></td></tr></table><h1>Sails ${n}</h1>${prose(`a${n}`)}${prose(`b${n}`)}</div></div></body>`;
    const site = await readFiles(Object.fromEntries([1, 2, 3].map((n) => [`p${n}.html`, page(n)])));
    expect(regionsIn(site, 'p2.html').side).toBe('div:0/div:0');
    expect(regionsIn(site, 'p2.html').header ?? '').not.toMatch(/^div:0\/div:0/);
  });

  it('the links in a bar without any list, and not the ways beside them', async () => {
    const page = (n: number) =>
      `<body><div class="hd"><h1><a href="index.html">Of boats</a></h1><div class="all"><a href="index.html">Start</a> <a href="a.html">Hulls</a> <a href="b.html">Sails</a></div><div class="nav"><a href="a.html" rel="prev">previous</a> | <a href="b.html" rel="next">next</a></div></div><div>${prose(`v${n}`)}</div></body>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html').menu).toBe('div:0/div:0');
    expect(site.menu.map((m) => m.label)).toEqual(['Start', 'Hulls', 'Sails']);
  });

  it('all of a footer that says who made it in a block of its own', async () => {
    const page = (n: number) =>
      `<body><main><div>${prose(`z${n}`)}</div></main><section><footer class="low"><div class="copyright">The weir since the mill</div><ul><li><a href="a.html">Boats</a></li><li><a href="b.html">Oars</a></li></ul></footer></section></body>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html').footer).toBe('section:0/footer:0');
  });

  it('keeps pages with another chrome apart, and teasers out of it', async () => {
    const head =
      '<header><a href="/">Mill</a><nav><a href="/">Home</a> <a href="/flour.html">Flour</a> <a href="/journal/">Journal</a></nav></header>';
    const foot = '<footer><p>The mill, upstream of the bridge. Open on market days from spring.</p></footer>';
    const teaser =
      '<div class="t"><h3>Stoneground rye</h3><p>New this week, from the field behind the mill itself.</p></div>';
    const side =
      '<div class="col"><h3>About this journal</h3><p>Written by the miller, when the wheel stands still and the books are done.</p><ul><li><a href="/journal/a.html">The flood</a><li><a href="/journal/b.html">The new stone</a></ul></div>';
    const plain = (n: string, extra = '') =>
      `<body>${head}<div class="m"><h1>${n}</h1>${prose(n)}${extra}</div>${foot}</body>`;
    const post = (n: string) =>
      `<body>${head}<div class="two"><article><h1>${n}</h1><time>2026-03-0${n.length % 9}</time>${prose(n)}</article>${side}</div>${foot}</body>`;
    const site = await readFiles({
      'index.html': plain('home', teaser),
      'flour.html': plain('flour', teaser),
      'visit.html': plain('visit'),
      'oats.html': plain('oats'),
      'landing.html': `<body>${prose('landing')}</body>`,
      'journal/index.html': post('journal'),
      'journal/a.html': post('flood'),
      'journal/b.html': post('stone'),
    });
    const group = (p: string) => site.pages.find((x) => x.path === p)?.chrome;
    expect(['flour.html', 'visit.html', 'oats.html'].map(group)).toEqual(Array(3).fill(group('index.html')));
    expect(['journal/a.html', 'journal/b.html'].map(group)).toEqual(
      Array(2).fill(group('journal/index.html')),
    );
    expect(new Set([group('index.html'), group('journal/a.html'), group('landing.html')]).size).toBe(3);
    expect(site.pages.map((p) => [p.path, p.kind])).toContainEqual(['journal/a.html', 'post']);
    expect(site.sections.map((s) => [s.id, s.pages])).toContainEqual(['/journal/', 3]);
  });

  it('of one long page: by structure alone, and says how sure it is', async () => {
    const site = await readFiles({
      'index.html': `<body><div class="topbar"><b>Kiln Row</b> <a href="#pots">Pots</a> <a href="#visit">Visit</a> <a href="#mail">Write</a></div><div><h2 id=pots>Pots</h2>${prose('pots')}<h2 id=visit>Visit</h2>${prose('visit')}</div><div class="bottom">Kiln Row 2026</div></body>`,
    });
    expect(regionsIn(site, 'index.html')).toMatchObject({ header: 'div:0', main: 'div:1', footer: 'div:2' });
    expect(site.moves).toEqual({ how: 'one page', why: 'index.html is the only page' });
    expect(site.pages[0]?.regions.find((r) => r.region === 'main')?.confidence).toBeLessThan(0.8);
  });

  it('goes by the owner\u2019s word where there is one', async () => {
    const says = [
      {
        page: 'p1.html' as PagePath,
        regions: [
          { region: 'footer' as const, path: 'table:0/tbody:0/tr:0', confidence: 1, by: 'owner' as const },
        ],
      },
    ];
    const site = await readFiles(
      { 'index.html': tables(0), 'p1.html': tables(1), 'p2.html': tables(2) },
      { ownerRegions: says },
    );
    expect(
      site.pages.find((p) => p.path === 'p1.html')?.regions.filter((r) => r.region === 'footer'),
    ).toEqual([{ region: 'footer', path: 'table:0/tbody:0/tr:0', confidence: 1, by: 'owner' }]);
    const parsed = parsePageFile(
      'p1.html' as PagePath,
      Buffer.from(tables(1)),
      site.pages.find((p) => p.path === 'p1.html')?.regions,
    );
    expect('page' in parsed && regionsOf(parsed.page).get('footer')?.element.tagName).toBe('tr');
  });
});

describe('a site as it is', () => {
  it('has links by every way of writing them', async () => {
    const site = await readFiles({
      'index.html':
        '<html lang="fr-FR"><head><base href="/sub/x.html"><link rel=canonical href="https://www.ropes.example/"></head><body><a href="a.html">a</a><a href="../B.HTML#x">b</a><a href="https://ropes.example/sub/c">c</a><a href="./?q=1">q</a><a href="gone.html">g</a><a href="https://elsewhere.example/a.html">e</a><a href="na%C3%AFve%20one.html">n</a></body></html>',
      'sub/a.html': '<a href="../index.html">',
      'b.html': '<p>b',
      'sub/c/index.htm': '<p>c',
      'sub/index.html': '<p>i',
      'sub/na\u00efve one.html': '<p>n',
    });
    const front = site.pages.find((p) => p.path === 'index.html');
    expect(front?.links).toEqual([
      'sub/a.html',
      'b.html',
      'sub/c/index.htm',
      'sub/index.html',
      'sub/na\u00efve one.html',
    ]);
    expect(front?.dead).toEqual(['gone.html']);
    expect(site.lang).toBe('fr-FR');
  });

  it('has style sheets with imports and fonts, round trips cut, what is missing told', async () => {
    const site = await readFiles({
      'index.html': '<link rel=stylesheet href=a.css><link rel="stylesheet" href="none.css"><p>x',
      'a.css': '@import url("css/b.css"); @import "gone.css"; body{color:red',
      'css/b.css':
        '@import "../a.css"; @font-face{font-family:"Quay";src:url(q.woff2) format("woff2"),url(q.woff);font-weight:600} @font-face{font-family:Lost;src:url(lost.woff2)}',
      'css/q.woff2': Buffer.from('x'),
    });
    expect(site.fonts).toEqual([
      { family: 'Quay', weight: '600', style: 'normal', file: 'css/q.woff2', missing: false },
      { family: 'Lost', weight: '400', style: 'normal', file: 'lost.woff2', missing: true },
    ]);
    expect(site.notes.filter((n) => n.includes('no such file'))).toHaveLength(2);
  });

  it('moves by script or by loading pages', async () => {
    const routes =
      'addEventListener("click",e=>{history.pushState({},"",e.target.href);fetch(e.target.href).then(r=>r.text()).then(t=>document.body.innerHTML=t)})';
    expect(
      (await readFiles({ 'index.html': '<p>a<script src=r.js></script>', 'b.html': '<p>b', 'r.js': routes }))
        .moves,
    ).toMatchObject({ how: 'switches', why: expect.stringContaining('r.js') });
    expect(
      (await readFiles({ 'index.html': '<p>a', 'b.html': '<p>b<script>history.length</script>' })).moves.how,
    ).toBe('reloads');
  });

  it('knows kinds of page by what they are', async () => {
    const img = '<img src=x.jpg alt="">'.repeat(14);
    const site = await readFiles({
      'index.html': `<h1>Home</h1>${prose('h')}`,
      'kontakt.html': '<h1>Kontakt</h1><form><input name=a><textarea></textarea></form>',
      'impressum.html': `<h1>Impressum</h1>${prose('i')}`,
      'work.html': `<h1>Work</h1>${img}`,
      'top.html':
        '<html><frameset cols="20%,80%"><frame src="kontakt.html"><frame src="work.html"></frameset></html>',
      'news/2026/03/rain.html': `<h1>Rain</h1>${prose('r')}`,
      'news/2026/04/sun.html': `<h1>Sun</h1>${prose('s')}`,
      'news/index.html': '<h1>News</h1><a href="2026/03/rain.html">r</a><a href="2026/04/sun.html">s</a>',
      'about.html': `<h1>About</h1>${prose('a')}`,
    });
    expect(Object.fromEntries(site.pages.map((p) => [p.path, p.kind]))).toEqual({
      'index.html': 'front',
      'kontakt.html': 'contact',
      'impressum.html': 'legal',
      'work.html': 'gallery',
      'top.html': 'frames',
      'news/2026/03/rain.html': 'post',
      'news/2026/04/sun.html': 'post',
      'news/index.html': 'list',
      'about.html': 'other',
    });
  });

  it('is read past everything that is wrong with it', async () => {
    const site = await readFiles({
      'index.html': '<a href="loop.html">x</a><p>fine',
      'loop.html': '<a href="index.html">round</a>',
      'cut.html': '<html><body><div><p>cut off in the mid',
      'photo.html': Buffer.from([0xff, 0xd8, 0xff, 0, 0, 1]),
      'deep.html': '<div>'.repeat(200_000),
      'huge.html': Buffer.alloc(17 * 1024 * 1024, 0x61),
      'Page.html': '<p>a',
      'page.html': '<p>b',
      'ours.html': '<p>x</p><!--stall abcd1234--><b>y</b><!--/stall abcd1234-->',
      'half.html': '<p>\n<!--stall abcd1234--><b>y</b>',
      '\u0444\u043e\u0442\u043e \u0438 \u0447\u0430\u0439.html': '<p>tea',
    });
    expect(site.pages.map((p) => p.path)).toHaveLength(8);
    const notes = site.notes.join('\n');
    for (const said of [
      'photo.html is named like a page but holds binary data',
      'deep.html, line 1: nests more than 1,000',
      'huge.html is 17 MB: a page may have 16 MB',
      'Page.html and page.html differ by capital letters',
      'ours.html, line 1: a widget of another Green Stall',
      'half.html, line 2: the mark of a widget (abcd1234) is only half there',
    ])
      expect(notes).toContain(said);
    expect((await readFiles({ 'a.txt': 'no page' })).pages).toEqual([]);
  });
});
