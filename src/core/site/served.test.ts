import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PagePath } from './paths';
import { addressesIn, closureOf, isDressing, isOfSite } from './served';

const p = (path: string) => path as PagePath;

describe('files that others may have', () => {
  it('are of a kind that pages are made of; what owners keep beside their pages is none', () => {
    for (const path of ['a.css', 'img/B.JPG', 'fonts/x.woff2', 'favicon.ico'])
      expect([path, isDressing(path)]).toEqual([path, true]);
    for (const path of ['index.html', 'app/main.js', 'data/prices.json', 'film.mp4', 'robots.txt'])
      expect([path, isOfSite(path)]).toEqual([path, true]);
    // Names that OWASP's testing guide (WSTG-CONF-04) looks for behind public pages.
    for (const path of [
      '.env',
      '.htpasswd',
      '.git/config',
      'a/.well/x.css',
      'config.php',
      'wp-config.php.bak',
      'backup.sql',
      'stall.db',
      'secrets.json',
      'package.json',
      'site.zip',
      'id_rsa',
      'index.php~',
      'old.html.bak',
      'dump.tar.gz',
      'web.config',
    ])
      expect([path, isOfSite(path)]).toEqual([path, false]);
  });

  it('never have a dot before their name, wherever it stands', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{1,5}$/)), fc.nat(4), (parts, at) => {
        const path = [...parts, 'x.css'].map((s, n) => (n === at ? `.${s}` : s)).join('/');
        expect(isOfSite(path)).toBe(at > parts.length);
      }),
    );
  });
});

describe('what a style sheet refers to', () => {
  it('is found in imports, urls quoted or not, and in fonts', () => {
    const css = `@import "a.css"; @import url(b.css) screen; .x{background:url("c.png"),url(d.svg)} @font-face{src:url('e.woff2') format("woff2")}`;
    expect(addressesIn(css).sort()).toEqual(['a.css', 'b.css', 'c.png', 'd.svg', 'e.woff2']);
    expect(addressesIn('}}}{ not css')).toEqual([]);
  });

  it('is followed through sheets that bring in others, once, and never to another kind', async () => {
    const sheets: Record<string, string> = {
      'a.css': '@import "b.css";.x{background:url(x.png)}.y{background:url(.env)}',
      'b.css': '@import "a.css";.z{background:url(backup.sql)}',
    };
    const found = await closureOf(
      [p('a.css'), p('logo.svg'), p('config.php')],
      async (path) => sheets[path] ?? '',
      (_, address) => p(address),
    );
    expect([...found].sort()).toEqual(['a.css', 'b.css', 'logo.svg', 'x.png']);
  });
});
