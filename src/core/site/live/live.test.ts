import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FileIndex, pagePath, resolveLink } from '../paths';
import { parsePageFile } from '../read-page';
import { filePathOf, isOnHost, mayBePage, pagePathOf, samePlace, scopeOf } from './address';
import { inSet, referredBy } from './referred';

const at = (path: string) => new URL(path, 'https://www.yarn.example/');

describe('where a page that answers at an address stands among files', () => {
  it.each([
    ['/', 'index.html'],
    ['/about', 'about.html'],
    ['/about/', 'about/index.html'],
    ['/about.html', 'about.html'],
    ['/old/page.htm', 'old/page.htm'],
    ['/about.php', 'about.php.html'],
    ['/v1.2', 'v1.2.html'],
    ['/caf%C3%A9', 'caf\u00e9.html'],
    ['/a%20b/', 'a b/index.html'],
  ])('%s is %s', (address, path) => {
    expect(pagePathOf(at(address))).toBe(path);
  });
  it.each(['/..%2f..%2fetc/passwd', '/a//b', '/%00', '/a%5cb', '/%ff'])('%s has no file', (address) => {
    expect(pagePathOf(at(address))).toBeUndefined();
    expect(filePathOf(at(address))).toBeUndefined();
  });
  it('a link to the address leads to the file, from any page', () => {
    const step = fc.stringMatching(/^[a-z][a-z0-9-]{0,6}(\.[0-9])?$/);
    const address = fc
      .tuple(
        fc.array(step, { minLength: 1, maxLength: 3 }),
        fc.constantFrom('', '/', '.html', '.php', '.aspx'),
      )
      .map(([steps, end]) => `/${steps.join('/')}${end}`);
    fc.assert(
      fc.property(address, address, (to, from) => {
        const [path, page] = [pagePathOf(at(to)), pagePathOf(at(from))];
        if (!path || !page) return;
        expect(resolveLink(page, to, new FileIndex([path, page]).find)).toBe(path);
      }),
    );
  });
});

describe('what belongs to a site', () => {
  const scope = scopeOf(new URL('https://www.yarn.example/~jane/'));
  it.each([
    ['http://yarn.example/~jane/x', true],
    ['https://yarn.example/~john/x', false],
    ['https://shop.yarn.example/~jane/x', false],
    ['https://www.yarn.example/~jane/x.pdf', false],
    ['https://www.yarn.example/~jane/style.css', false],
    ['ftp://yarn.example/~jane/x', false],
    [`https://yarn.example/~jane/${'a/'.repeat(20)}`, false],
  ])('%s: %s', (address, is) => {
    expect(mayBePage(scope, new URL(address))).toBe(is);
  });
  it('another port is another site', () => {
    expect(isOnHost(scopeOf(new URL('http://localhost:1/')), new URL('http://localhost:2/'))).toBe(false);
  });
  it('addresses of one place differ in slashes, indices, endings and capitals alone', () => {
    expect(samePlace(at('/About'), at('/about/'))).toBe(true);
    expect(samePlace(at('/about/index.html'), at('/about'))).toBe(true);
    expect(samePlace(at('/about.html'), at('/about'))).toBe(true);
    expect(samePlace(at('/about'), at('/'))).toBe(false);
  });
});

describe('what a page refers to', () => {
  const read = (html: string, where = 'https://yarn.example/a/b') => {
    const parsed = parsePageFile(pagePath('a/b.html'), Buffer.from(html));
    if ('problem' in parsed) throw new Error(parsed.problem);
    return referredBy(parsed.page, new URL(where));
  };
  const hrefs = (all: readonly URL[]) => all.map((u) => u.href);
  it('links and files, from its address or from its base', () => {
    const body =
      '<a href="c?x=1#y">1</a><a href="/d">2</a><a href="mailto:a@b.example">3</a><a href="#e">4</a><img src="p.png" srcset="q.png 1x, r.png 2x">';
    expect(hrefs(read(body).links)).toEqual(['https://yarn.example/a/c?x=1', 'https://yarn.example/d']);
    expect(hrefs(read(body).files)).toEqual(
      ['p.png', 'q.png', 'r.png'].map((f) => `https://yarn.example/a/${f}`),
    );
    expect(hrefs(read(`<base href="/z/">${body}`).links)[0]).toBe('https://yarn.example/z/c?x=1');
  });
  it('style sheets, scripts, what styles in the page bring, and the address it calls its own', () => {
    const all = read(
      '<link rel="stylesheet" href="s.css"><link rel=canonical href="/own"><link rel="alternate" href="feed"><script src="t.js"></script><style>@import "i.css";a{background:url(u.png)}</style><p style="background:url(v.png)">',
    );
    expect(
      hrefs(all.files)
        .map((f) => f.replace('https://yarn.example/a/', ''))
        .sort(),
    ).toEqual(['i.css', 's.css', 't.js', 'u.png', 'v.png']);
    expect(all.canonical?.href).toBe('https://yarn.example/own');
  });
  it('a page that a script draws is told', () => {
    expect(
      read(
        '<div id="root"></div><noscript>You need to enable JavaScript to run this app, please do so, and then come back here to see it.</noscript><script src="app.js"></script>',
      ).drawnByScript,
    ).toBe(true);
    expect(read(`<p>${'words '.repeat(40)}</p><script src="app.js"></script>`).drawnByScript).toBe(false);
    expect(read('<img src="one.png"><script src="app.js"></script>').drawnByScript).toBe(false);
    expect(read('<p>Soon.</p>').drawnByScript).toBe(false);
  });
  // HTML Living Standard, 4.8.4.2.1: an address goes up to white space; commas at its end part candidates, those inside are its own.
  it.each([
    ['a.png', ['a.png']],
    ['a.png 1x, b.png 2x', ['a.png', 'b.png']],
    ['a.png, b.png 100w', ['a.png', 'b.png']],
    ['data:,x 1x, b.png', ['data:,x', 'b.png']],
    ['a,b.png 1x,c.png', ['a,b.png', 'c.png']],
    [' , ', []],
  ])('the addresses of srcset="%s"', (set, addresses) => {
    expect(inSet(set)).toEqual(addresses);
  });
});
