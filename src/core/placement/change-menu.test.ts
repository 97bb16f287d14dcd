import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strip } from '../html/fence';
import { applyEdits } from '../html/edits';
import { type MenuItem, readMenu } from '../site/menu';
import type { PagePath } from '../site/paths';
import { type ParsedPage, parsePageFile } from '../site/read-page';
import { regionsOf } from '../site/regions';
import { changeMenu } from './change-menu';
import { type MenuChange, menuChange } from './menu-change';

const page = (html: string | Buffer, path = 'index.html'): ParsedPage => {
  const parsed = parsePageFile(path as PagePath, Buffer.from(html as string));
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
};
const menuOf = (p: ParsedPage): MenuItem[] => {
  const root = regionsOf(p).get('menu')?.element;
  return root ? readMenu(root, p.path, p.source, () => false) : [];
};
const labels = (items: readonly MenuItem[]): unknown[] =>
  items.map((i) => (i.children.length ? [i.label, labels(i.children)] : i.label));

function change(
  html: string | Buffer,
  ...changes: unknown[]
): { html: string; labels: unknown[]; before: Buffer; bytes: Buffer } {
  const before = page(html);
  const done = changeMenu(
    before,
    changes.map((c) => menuChange.parse(c)),
    () => false,
  );
  if (!done.ok) throw new Error(done.error);
  const bytes = Buffer.from(applyEdits(before.source, done.value?.edits ?? []));
  return {
    html: bytes.toString(),
    labels: labels(menuOf(page(bytes))),
    before: Buffer.from(html as string),
    bytes,
  };
}
const bare = (html: string): string => html.replace(/<!--\/?stall[^>]*-->/g, '');

/** Menus as they are made: lists, nested lists, rows of links with bars, tables, definition lists, pictures. */
const menus: readonly (readonly [string, string])[] = [
  [
    'a list',
    '<body><nav><ul class="m"><li class="i"><a href="a.html" class="l">Home</a></li>\n  <li class="i current"><a class="l active" href="b.html" aria-current="page">About</a></li>\n  <li class="i last"><a href="c.html" class="l" id="cc" title="to c">Contact</a></li></ul></nav><main><h1>T</h1><p>text of the page itself</p></main></body>',
  ],
  [
    'a nested list',
    '<body><div id="nav"><UL><LI><A HREF="a.html">Home</A>\n<LI><A HREF="j.html">Journal</A><UL class=sub><LI><A HREF="j1.html">One</A><LI><A HREF="j2.html">Two</A></UL>\n<LI><A HREF="c.html">Contact</A></UL></div><div id="content"><p>text of the page</p></div></body>',
  ],
  [
    'a row with bars',
    '<body><div class="menu"><a href="a.html">Home</a> | <b>About</b> | <a href="c.html">Contact</a></div><div id="main"><p>text of the page and more of it</p></div></body>',
  ],
  [
    'a table',
    '<body><table id="nav"><tr><td class=n><a href="a.html"><font size=2>Home</font></a></td><td class=n><a href="b.html"><font size=2>About</font></a></td><td class=n><a href="c.html"><font size=2>Contact</font></a></td></tr></table><div id="main"><p>text of the page and more of it</p></div></body>',
  ],
];

describe('changes to a menu', () => {
  it('add an item in that menu\u2019s own markup, without what belongs to one item alone', () => {
    const add = { do: 'add', label: 'Shop & cart', to: '/shop/', at: { before: 'Contact' } };
    const outs = menus.map(([, html]) => change(html, add));
    expect(outs.map((o) => o.labels)).toEqual([
      ['Home', 'About', 'Shop & cart', 'Contact'],
      ['Home', ['Journal', ['One', 'Two']], 'Shop & cart', 'Contact'],
      ['Home', 'About', 'Shop & cart', 'Contact'],
      ['Home', 'About', 'Shop & cart', 'Contact'],
    ]);
    expect(bare(outs[0]?.html ?? '')).toContain(
      '<li class="i"><a href="shop/" class="l">Shop &amp; cart</a></li>\n  <li class="i last">',
    );
    expect(bare(outs[1]?.html ?? '')).toContain('<LI><A HREF="shop/">Shop &amp; cart</A>');
    expect(bare(outs[2]?.html ?? '')).toContain(
      '<b>About</b> | <a href="shop/">Shop &amp; cart</a> | <a href="c.html">',
    );
    expect(bare(outs[3]?.html ?? '')).toContain(
      '<td class=n><a href="shop/"><font size=2>Shop &amp; cart</font></a></td><td class=n><a href="c.html">',
    );
  });

  it('add an item and take nothing away, whatever hangs in the others', () => {
    // What an item opens may hold no item that is read: a form, words, a picture, a list of none of these.
    const inside = fc.constantFrom(
      '<li>\u2013</li>',
      '<div><form><input name="q"></form></div>',
      '<div><ul><li><p>&nbsp;</p></li></ul></div>',
      '<div><ul><li><a href="x.html">X</a></li></ul></div>',
      '<li><a href="y.html">Y</a></li>',
      '',
    );
    fc.assert(
      fc.property(fc.array(inside, { maxLength: 3 }), fc.boolean(), (held, linked) => {
        const opener = linked ? '<a href="d.html">Docs</a>' : '<a aria-expanded="false">Docs</a>';
        const html = `<body><nav><ul><li><a href="a.html">Home</a></li><li>${opener}<ul class="sub">${held.join('')}</ul></li><li><a href="c.html">Contact</a></li></ul></nav><main><p>text of the page</p></main></body>`;
        const done = changeMenu(
          page(html),
          [menuChange.parse({ do: 'add', label: 'Shop', to: '/shop/' })],
          () => false,
        );
        expect(done.ok && done.value?.edits.map((e) => e.removed)).toEqual(['']);
      }),
    );
  });

  it('leave what else is in a panel when its last item goes', () => {
    const html =
      '<body><nav><ul><li><a href="a.html">Home</a></li><li><a href="d.html">Docs</a><div class="panel"><h6>Read</h6><ul><li><a href="x.html">One</a></li></ul><form><input name="q"></form></div></li><li><a href="c.html">Contact</a></li></ul></nav><main><p>text of the page</p></main></body>';
    const moved = change(html, { do: 'move', item: ['Docs', 'One'], at: { before: 'Contact' } });
    expect(moved.labels).toEqual(['Home', 'Docs', 'One', 'Contact']);
    expect(bare(moved.html)).toMatch(/<h6>Read<\/h6>.*<input name="q">/s);
    expect(Buffer.from(strip(moved.bytes).bytes).toString()).toBe(html);
  });

  it('rename, move, nest and remove', () => {
    const [, [, nested]] = menus as [unknown, readonly [string, string]];
    expect(
      change(nested, { do: 'rename', item: ['Journal', 'Two'], label: 'Zwei \u00fcber' }).labels,
    ).toEqual(['Home', ['Journal', ['One', 'Zwei \u00fcber']], 'Contact']);
    expect(change(nested, { do: 'move', item: ['Contact'], at: { before: 'Home' } }).labels).toEqual([
      'Contact',
      'Home',
      ['Journal', ['One', 'Two']],
    ]);
    expect(
      change(nested, { do: 'move', item: ['Contact'], at: { under: ['Journal'], after: 'One' } }).labels,
    ).toEqual(['Home', ['Journal', ['One', 'Contact', 'Two']]]);
    expect(change(nested, { do: 'move', item: ['Contact'], at: { under: ['Home'] } }).labels).toEqual([
      ['Home', ['Contact']],
      ['Journal', ['One', 'Two']],
    ]);
    expect(change(nested, { do: 'remove', item: ['Journal'] }).labels).toEqual(['Home', 'Contact']);
    expect(
      change(nested, { do: 'remove', item: ['Journal', 'One'] }, { do: 'remove', item: ['Journal', 'Two'] })
        .labels,
    ).toEqual(['Home', 'Journal', 'Contact']);
    expect(
      change(
        menus[0]?.[1] ?? '',
        { do: 'add', label: 'Shop', to: '/shop/' },
        { do: 'add', label: 'Cart', to: '/cart/', at: { under: ['Shop'] } },
      ).labels,
    ).toEqual(['Home', 'About', 'Contact', ['Shop', ['Cart']]]);
  });

  it('mark the new item as the current one on its own page, the way this menu does it', () => {
    const before = page(
      '<body><nav><ul><li><a href="../a.html">Home</a></li><li class="on"><a href="../b.html" aria-current="page">About</a></li></ul></nav><main><p>text</p></main></body>',
      'shop/index.html',
    );
    const done = changeMenu(
      before,
      [menuChange.parse({ do: 'add', label: 'Shop', to: '/shop/' })],
      () => false,
    );
    expect(
      done.ok && bare(Buffer.from(applyEdits(before.source, done.value?.edits ?? [])).toString()),
    ).toContain('<li class="on"><a aria-current="page" href="../shop/">Shop</a></li>');
  });

  it('say what is not there, and touch nothing', () => {
    const tried = (html: string, c: unknown) => changeMenu(page(html), [menuChange.parse(c)], () => false);
    expect(tried(menus[0]?.[1] ?? '', { do: 'remove', item: ['Shop'] })).toMatchObject({
      ok: false,
      error: 'its menu has no item "Shop"',
    });
    expect(
      tried(menus[2]?.[1] ?? '', { do: 'move', item: ['Contact'], at: { under: ['Home'] } }),
    ).toMatchObject({ ok: false, error: expect.stringContaining('no form for items below another') });
    expect(
      tried(menus[1]?.[1] ?? '', { do: 'move', item: ['Journal'], at: { under: ['Journal', 'One'] } }),
    ).toMatchObject({ ok: false, error: expect.stringContaining('below itself') });
    expect(tried('<body><p>no menu here</p></body>', { do: 'remove', item: ['Shop'] })).toMatchObject({
      ok: false,
      error: expect.stringContaining('no menu was found'),
    });
    expect(
      tried(
        '<body><nav><a href=a><img src=h.gif alt=Home></a> <a href=b><img src=b.gif alt=B></a></nav><main><p>x</p></main></body>',
        { do: 'rename', item: ['Home'], label: 'Start' },
      ),
    ).toMatchObject({ ok: false, error: expect.stringContaining('is a picture') });
  });

  it('come out again byte for byte, whatever they were', () => {
    const label = fc.constantFrom('Home', 'About', 'Contact', 'Journal', 'Shop', 'One');
    const at = fc.record(
      { under: fc.constantFrom<string[]>([], ['Journal'], ['Home']), before: label },
      { requiredKeys: [] },
    );
    const one: fc.Arbitrary<unknown> = fc.oneof(
      fc.record({
        do: fc.constant('add'),
        label: fc.constantFrom('Shop', 'K\u00f6rbe <x>', 'Cart'),
        to: fc.constantFrom('/shop/', 'https://x.example/'),
        at,
      }),
      fc.record({
        do: fc.constant('rename'),
        item: label.map((l) => [l]),
        label: fc.constantFrom('Start', '\u00dcber'),
      }),
      fc.record({ do: fc.constant('move'), item: label.map((l) => [l]), at }),
      fc.record({ do: fc.constant('remove'), item: label.map((l) => [l]) }),
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...menus),
        fc.constantFrom('utf8', 'utf16le'),
        fc.array(one, { minLength: 1, maxLength: 4 }),
        ([, html], how, changes) => {
          const bytes = Buffer.from(how === 'utf16le' ? `\ufeff${html}` : html, how as BufferEncoding);
          const before = page(bytes);
          const done = changeMenu(
            before,
            changes.map((c): MenuChange => menuChange.parse(c)),
            () => false,
          );
          if (!done.ok || !done.value) return;
          const after = applyEdits(before.source, done.value.edits);
          expect(Buffer.from(strip(after).bytes)).toEqual(bytes);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('a new item', () => {
  const bar = (items: string) =>
    `<body><header><b>Weir Boats</b><nav><ul>${items}</ul></nav></header><main><p>words</p></main>`;
  const add = (items: string) =>
    change(bar(items), { do: 'add', label: 'Shop', to: '/shop.html', at: { under: [] } }).html;

  it('is a plain link, whatever the items beside it open, count or draw', () => {
    const html = add(
      '<li class="item"><a href="work.html" role="button" data-toggle="panel" data-target="#work" aria-expanded="false" onclick="open()"><i class="sign boat"></i> Work <b>3</b></a></li><li class="item"><a href="boats.html" role="button" data-toggle="panel"><i class="sign oar"></i> Oars <b>7</b></a></li>',
    );
    expect(html).toMatch(/<li class="item"><a href="shop.html"> Shop\s/);
    expect(html.match(/data-toggle/g)).toHaveLength(2);
    expect(html.match(/<i class="sign/g)).toHaveLength(2);
  });

  it('is like most of the items, and not like a button among them or one that leads elsewhere', () => {
    const html = add(
      '<li class="cta"><a class="btn" href="book.html">Book</a></li><li class="wide"><a href="https://weir.example/">Weir</a></li><li class="item"><a href="work.html">Work</a></li><li class="item"><a href="visit.html">Visit</a></li>',
    );
    expect(html).toContain('<li class="item"><a href="shop.html">Shop</a></li>');
  });
});

describe('menus of strangers', () => {
  const text = '<main><h1>T</h1><p>text of the page itself, and enough of it to be one</p></main>';
  const item = (href: string, said: string, more = '') => `<li${more}><a href="${href}">${said}</a></li>`;
  const add = { do: 'add', label: 'Shop', to: '/shop/', at: { under: [], after: 'Ropes' } };

  it('a change goes into every copy of the menu: the one for phones as well, and not into lists of other places', () => {
    const list = `${item('a.html', 'Ropes')}${item('b.html', 'Nets')}${item('c.html', 'Visit')}`;
    const html = `<body><header><nav><ul>${item('index.html', 'Home')}${list}</ul></nav><div class="slides-in"><ul>${list}</ul></div></header>${text}<footer><p>Hemp and Tar</p><ul>${list}</ul></footer></body>`;
    const done = change(html, add);
    expect(done.labels).toEqual(['Home', 'Ropes', 'Shop', 'Nets', 'Visit']);
    expect(bare(done.html).match(/Ropes<\/a><\/li><li><a href="shop\/">Shop/g)).toHaveLength(2);
    expect(done.html.slice(done.html.indexOf('<footer>'))).not.toContain('Shop');
    expect(new Set(done.html.match(/<!--stall menu-\d+-->/g)).size).toBe(2);
    expect(Buffer.from(strip(done.bytes).bytes)).toEqual(done.before);
    // What it hangs on is not in the copy: nothing is done there, and nothing is lost.
    const moved = change(html, { do: 'move', item: ['Nets'], at: { under: [], before: 'Home' } });
    expect(moved.labels).toEqual(['Nets', 'Home', 'Ropes', 'Visit']);
    expect(bare(moved.html).split('slides-in')[1]).toContain(list);
    // Renamed, it is renamed in both.
    const renamed = change(html, { do: 'rename', item: ['Nets'], label: 'Netting' });
    expect(bare(renamed.html).match(/>Netting</g)).toHaveLength(2);
  });

  it('a copy that browsers read otherwise than it is written keeps the menu itself from nothing', () => {
    const list = `${item('a.html', 'Ropes')}${item('b.html', 'Nets')}`;
    // A table cell is missing: what is put into its row stands before the table.
    const html = `<body><nav><ul>${list}</ul></nav><nav class="phone"><table><tr><a href="a.html">Ropes</a><a href="b.html">Nets</a></tr></table></nav>${text}</body>`;
    expect(change(html, add).labels).toEqual(['Ropes', 'Shop', 'Nets']);
  });

  it('where the neighbour is not in the menu of a page, a new item stands at its end', () => {
    const html = `<body><nav><ul>${item('index.html', 'Back')}${item('d.html', 'Terms')}</ul></nav>${text}</body>`;
    expect(change(html, add).labels).toEqual(['Back', 'Terms', 'Shop']);
    const lost = changeMenu(page(html), [menuChange.parse({ do: 'remove', item: ['Ropes'] })], () => false);
    expect(lost).toMatchObject({ ok: false });
  });

  it('an item of a sign and a word that wide screens hide has its word seen', () => {
    const sign = (href: string, said: string) =>
      `<li class="i"><a class="l" href="${href}"><i class="sign"></i><p class="d-lg-none word">${said}</p></a></li>`;
    const html = `<body><nav><ul>${sign('a.html', 'Ropes')}${sign('b.html', 'Nets')}</ul></nav>${text}</body>`;
    expect(change(html, add).html).toContain('<p class="word">Shop</p>');
  });
});
