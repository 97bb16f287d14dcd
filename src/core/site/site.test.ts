import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { edgePitch, listPitches } from './pitch';
import { regionsOf } from './regions';
import { resolvePitch } from './resolve-pitch';
import { addressOf, type PagePath, parsePath, rebaseLink, relativeAddress, resolveLink } from './paths';
import { type ParsedPage, parsePageFile } from './read-page';
import { readSite, type SiteReading } from './read-site';

const root = 'demo/withybed';
const path = (name: string): PagePath => {
  const p = parsePath(name);
  if (!p.ok) throw new Error(p.error);
  return p.value;
};
const parse = (html: string | Buffer, name = 'index.html'): ParsedPage => {
  const parsed = parsePageFile(path(name), Buffer.from(html as string));
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
};

describe('names of files', () => {
  it('never leave the site', () => {
    for (const bad of [
      '../x.html',
      'a/../../x',
      '/etc/passwd',
      'C:\\x',
      '\\\\host\\x',
      'a\0b',
      '',
      './',
      'a\\..\\..\\b',
    ])
      expect(parsePath(bad).ok, bad).toBe(false);
    expect(parsePath('a\\b.html')).toEqual({ ok: true, value: 'a/b.html' });
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (name) => {
        const p = parsePath(name);
        if (p.ok) expect(`/${p.value}`).not.toMatch(/\/\.\.(\/|$)|^\/\/|[\0-\x1f]/);
      }),
    );
  });

  it('are addresses as hosts have them', () => {
    expect(addressOf(path('index.html'))).toBe('/');
    expect(addressOf(path('journal/index.html'))).toBe('/journal/');
    expect(addressOf(path('über uns.html'))).toBe('/%C3%BCber%20uns.html');
  });
});

describe('links', () => {
  const has = (p: string) => ['index.html', 'a/index.html', 'a/b.html', 'c.html'].includes(p);
  it('lead to files as on a host: relative, root-relative, folders, without extension', () => {
    const from = path('a/b.html');
    expect(resolveLink(from, '../c.html#x', has)).toBe('c.html');
    expect(resolveLink(from, '/a/', has)).toBe('a/index.html');
    expect(resolveLink(from, '..', has)).toBe('index.html');
    expect(resolveLink(from, '/c', has)).toBe('c.html');
    for (const out of ['https://x.example/', 'mailto:a@b', '#top', '//x', 'javascript:1', 'gone.html'])
      expect(resolveLink(from, out, has), out).toBeUndefined();
  });

  it('mean the same from another page, as the URL standard resolves them', () => {
    const part = fc.stringMatching(/^[a-z]{1,4}$/);
    const page = fc.array(part, { minLength: 1, maxLength: 4 }).map((p) => path(`${p.join('/')}.html`));
    const href = fc
      .tuple(fc.nat(2), fc.array(part, { maxLength: 3 }), fc.constantFrom('', '?q=1', '#x'))
      .map(([up, down, rest]) => '../'.repeat(up) + down.join('/') + rest);
    fc.assert(
      fc.property(page, page, href, (from, to, link) => {
        const base = 'http://site.example/deep/deep/deep/';
        if (
          from.split('/').length - 1 < (link.match(/\.\.\//g) ?? []).length ||
          link === '' ||
          link.startsWith('#')
        )
          return;
        const wanted = new URL(link, new URL(from, base)).href.replace(/\?q=1(?=#|$)/, '?q=1');
        expect(new URL(rebaseLink(link, from, to), new URL(to, base)).href).toBe(wanted);
      }),
    );
    expect(relativeAddress(path('a/b/c.html'), '/cart/')).toBe('../../cart/');
    expect(relativeAddress(path('index.html'), '/')).toBe('./');
  });
});

describe('the demo site', () => {
  let site: SiteReading;
  beforeAll(async () => {
    const files = (readdirSync(root, { recursive: true }) as string[])
      .filter((f) => statSync(join(root, f)).isFile())
      .map(path);
    site = await readSite({ paths: files, read: async (p) => readFileSync(join(root, p)) });
  });

  it('is read: pages, name, language, nested menu, regions', () => {
    expect(site).toMatchObject({ name: 'Withybed Weavers', lang: 'en-GB', notes: [] });
    expect(site.pages).toHaveLength(9);
    expect(site.menu.map((m) => [m.label, m.page, m.children.map((c) => c.label)])).toEqual([
      ['Home', 'index.html', []],
      ['Our baskets', 'our-baskets/index.html', []],
      ['Workshops', 'workshops/index.html', []],
      ['The withy bed', 'the-withy-bed/index.html', ['Visit us']],
      ['Journal', 'journal/index.html', []],
    ]);
    expect(site.menu[0]?.current).toBe(true);
    const post = site.pages.find((p) => p.path === 'journal/why-we-soak/index.html');
    expect(post?.regions.map((r) => r.region)).toEqual(['header', 'main', 'side', 'footer', 'menu']);
    expect(post?.regions.every((r) => r.confidence > 0.9)).toBe(true);
    expect(post?.links).toContain('the-withy-bed/visit/index.html');
  });

  it('offers pitches that are all found again by their address, surely', () => {
    for (const facts of site.pages) {
      const page = parse(readFileSync(join(root, facts.path)), facts.path);
      const pitches = listPitches(page);
      expect(pitches.length).toBeGreaterThan(8);
      for (const pitch of pitches) {
        const at = resolvePitch(page, pitch.address);
        expect(at.found && at.pitch.offset === pitch.offset, `${facts.path}: ${pitch.label}`).toBe(true);
      }
    }
  });
});

describe('a header that is only a logo, beside the bar of the menu', () => {
  it('is offered no edge from which a widget would go into the bar', () => {
    const item = (to: string) => `<li><a href="${to}.html">${to}</a></li>`;
    const bar = `<nav class="bar"><div class="inner"><a class="brand" href="index.html">Heron</a><button>Menu</button><ul>${['index', 'pots', 'visit'].map(item).join('')}</ul></div></nav>`;
    const html = `<body><div id="header"><a href="index.html"><img src="logo.png" alt="Heron"></a></div>${bar}<main><p>We are in the yard.</p><p>Ring twice.</p></main><footer><p>Heron, 4 Weir Lane</p></footer></body>`;
    const page = parse(Buffer.from(html), 'index.html');
    const pitches = listPitches(page);
    expect(pitches.length).toBeGreaterThan(6);
    for (const pitch of pitches) {
      const at = resolvePitch(page, pitch.address);
      expect([pitch.label, at.found ? at.pitch.offset : pitch.offset]).toEqual([pitch.label, pitch.offset]);
    }
  });
});

describe('pitches', () => {
  const page =
    '<header><a href="/">W</a><nav><ul><li><a href="/">Home</a></ul></nav></header><main><section><h2>One</h2><p>first</p></section><section><h2>Two</h2><p>second</p></section></main><footer><p>f</p></footer>';

  it('never lie inside text, links, lists, tables, forms or controls', () => {
    const messy =
      '<body><p>a<b>b</b></p><ul><li>x</ul><table><tr><td>t</table><form><input><div>in</div></form><a href=x><div>y</div></a><button><span>z</span></button><select><option>1</select><dl><dt>q<dd>r</dl><div>text <i>and</i></div></body>';
    const inside = listPitches(parse(messy)).map((p) =>
      p.address.side === 'start' || p.address.side === 'end' ? `${p.address.path}/edge:0` : p.address.path,
    );
    expect(
      inside.filter((p) =>
        /(^|\/)(p|form|a|button|select|dt):\d+\/|(^|\/)(ul|dl|table|tbody|tr):\d+\/[^/]+$/.test(p),
      ),
    ).toEqual([]);
    expect(inside.filter((p) => /^div:0\//.test(p))).toEqual([]);
    // In items and cells a widget may stand, at their edges.
    expect(
      listPitches(parse(messy))
        .filter((p) => /(li|td|dd):0$/.test(p.address.path))
        .map((p) => p.address.side),
    ).toEqual(['start', 'end', 'start', 'end', 'start', 'end']);
  });

  it('survive edits of the text beside them and blocks that come in, and are lost rather than wrong', () => {
    const pitch = listPitches(parse(page)).find(
      (p) => p.label.startsWith('after “Two”') && p.address.path === 'section:1',
    );
    if (!pitch) throw new Error('no such pitch');
    const edited = resolvePitch(parse(page.replace('second', 'second, much longer')), pitch.address);
    expect(edited.found && edited.pitch.label).toBe('after “Two”');
    const moved = resolvePitch(
      parse(page.replace('<main>', '<main><section><h2>New</h2><p>block</p></section>')),
      pitch.address,
    );
    expect(moved.found && moved.pitch.label).toBe('after “Two”');
    const gone = resolvePitch(
      parse(page.replace(/<section><h2>Two.*?<\/section>/, '<div>other</div>')),
      pitch.address,
    );
    expect(gone.found).toBe(false);
  });

  it('at the end of a header are in the row that its box makes, not under it', () => {
    const page = (header: string) =>
      parse(`<body><header>${header}</header><main><h1>Sails</h1></main></body>`);
    const end = (header: string) => {
      const parsed = page(header);
      const { address } = edgePitch(parsed, 'header', 'end') ?? {};
      const found = address && resolvePitch(parsed, address);
      if (!found?.found) throw new Error('lost');
      return parsed.source.structure.slice(0, found.pitch.offset).split('<header>')[1];
    };
    const nav = '<a href="./">Loft</a><nav><ul><li><a href="a.html">A</a></li></ul></nav>';
    expect(end(`<div class="row">${nav}</div>`)).toBe(`<div class="row">${nav}`);
    expect(end(`<div>\n <div class="row">${nav}</div>\n</div>`)).toContain(`${nav}`);
    // A bar with the site's name beside the list, and a band with the title below it: the bar is the row.
    const bar =
      '<nav><div class="c"><a href="./">Loft</a><div><ul><li><a href="a.html">A</a></li><li><a href="b.html">B</a></li></ul></div></div></nav>';
    const below = parse(
      `<body>${bar}<header><h1>Sails</h1><p>Cut and sewn by the dike.</p></header><main><p>x</p></main></body>`,
    );
    expect(regionsOf(below).get('header')?.element.tagName).toBe('nav');
    const place = edgePitch(below, 'header', 'end');
    expect(below.source.structure.slice(0, place?.offset)).toMatch(/<\/ul><\/div>$/);
    // Two boxes are rows of the owner's own: nobody says which is meant.
    expect(end(`<div>${nav}</div><div>Open till six</div>`)).toBe(
      `<div>${nav}</div><div>Open till six</div>`,
    );
  });

  it('at the edge of a region are the same spot on every page', () => {
    const end = listPitches(parse(page)).find((p) => p.label === 'at the end of the header');
    if (!end) throw new Error('no such pitch');
    const other = parse('<div id="masthead"><img src=x alt=""></div><div id=content><p>x</div>');
    const at = resolvePitch(other, end.address);
    expect(at.found && other.source.structure.slice(at.pitch.offset)).toBe(
      '</div><div id=content><p>x</div>',
    );
    expect(resolvePitch(parse('<p>no header at all'), end.address).found).toBe(false);
  });
});

it('files that only claim to be pages are told, and the rest is read', async () => {
  const files: Record<string, Buffer> = {
    'index.html': Buffer.from('<title>A</title><p>x'),
    'photo.html': Buffer.from([0xff, 0xd8, 0, 0]),
    'notes.htm': Buffer.from('plain'),
  };
  const site = await readSite({
    paths: Object.keys(files).map(path),
    read: async (p) => files[p] ?? Buffer.alloc(0),
  });
  expect(site.pages.map((p) => p.path)).toEqual(['index.html']);
  expect(site.notes).toHaveLength(2);
  expect(site.notes.join()).toContain('photo.html is named like a page but holds binary data');
});
