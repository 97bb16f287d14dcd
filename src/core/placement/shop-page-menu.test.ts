import { describe, expect, it } from 'vitest';
import type { PagePath } from '../site/paths';
import { FileIndex } from '../site/paths';
import { parsePageFile, type ParsedPage } from '../site/read-page';
import { regionsOf } from '../site/regions';
import { computePage } from './compute-page';
import { parsedShopPage } from './shop-page';

const p = (path: string) => path as PagePath;
const parse = (path: string, html: string, regions?: ParsedPage['regions']): ParsedPage => {
  const read = parsePageFile(p(path), Buffer.from(html), regions);
  if ('problem' in read) throw new Error(read.problem);
  return read.page;
};

/** Menus that mark their current item each in its own way (class on item, on link, ARIA, a suffix). */
const makes: Readonly<Record<string, (label: string, href: string, here: boolean) => string>> = {
  'a class on the item': (l, h, here) => `<li${here ? ' class="on"' : ''}><a href="${h}">${l}</a></li>`,
  'a class on the link': (l, h, here) =>
    `<li><a class="nav${here ? ' active' : ''}" href="${h}">${l}</a></li>`,
  'a suffix': (l, h, here) => `<li class="m${here ? ' m--current' : ''}"><a href="${h}">${l}</a></li>`,
  ARIA: (l, h, here) => `<li><a${here ? ' aria-current="page"' : ''} href="${h}">${l}</a></li>`,
};

describe('the menu of a page that is built for the shop', () => {
  for (const [make, item] of Object.entries(makes)) {
    const page = (path: string) =>
      `<!doctype html><html lang="en"><head><title>x</title></head><body><header><b>Kiln</b><nav><ul>${[
        ['Home', 'index.html'],
        ['Work', 'work.html'],
        ['Contact', 'contact.html'],
      ]
        .map(([l = '', h = '']) => item(l, h, h === path))
        .join(
          '',
        )}</ul></nav></header><main><h1>x</h1><p>words of this page</p></main><footer>foot</footer></body></html>`;
    it(`marks the shop's own item as the current one, by ${make}, and no other`, () => {
      const model = parse('work.html', page('work.html'));
      const built = parsedShopPage(p('shop.html'), model, {
        part: 'shop',
        title: 'Shop',
        main: () => '<h1>Shop</h1>',
        link: (href) => href,
        scripts: 'keep',
      });
      if ('problem' in built) throw new Error(built.problem);
      const out = computePage(
        built,
        {
          placements: [],
          menu: [{ do: 'add', label: 'Shop', to: '/shop.html', at: { under: [], before: 'Contact' } }],
        },
        {} as Parameters<typeof computePage>[2],
        new FileIndex([p('index.html'), p('work.html'), p('contact.html')]).find,
      );
      const html = Buffer.from(out.bytes).toString();
      const menu = html.slice(html.indexOf('<ul>'), html.indexOf('</ul>'));
      expect(menu.replace(/<!--.*?-->/g, '')).toBe(
        `<ul>${item('Home', 'index.html', false)}${item('Work', 'work.html', false)}${item('Shop', 'shop.html', true)}${item('Contact', 'contact.html', false)}`,
      );
    });
  }

  it('is where the site\u2019s reading found it, however little one page alone tells', () => {
    const html =
      '<html><body><table><tr><td>Kiln</td></tr><tr><td><a href="a.html">A</a><br><a href="b.html">B</a></td><td><h1>A</h1><p>words</p></td></tr></table></body></html>';
    const facts = [
      {
        region: 'header' as const,
        path: 'table:0/tbody:0/tr:0/td:0',
        confidence: 0.9,
        by: 'comparison' as const,
      },
      {
        region: 'menu' as const,
        path: 'table:0/tbody:0/tr:1/td:0',
        confidence: 0.9,
        by: 'comparison' as const,
      },
      {
        region: 'main' as const,
        path: 'table:0/tbody:0/tr:1/td:1',
        confidence: 0.9,
        by: 'comparison' as const,
      },
    ];
    const built = parsedShopPage(p('shop.html'), parse('a.html', html, facts), {
      part: 'shop',
      title: 'Shop',
      main: () => '<h1>Shop</h1>',
      link: (href) => href,
      scripts: 'keep',
    });
    if ('problem' in built) throw new Error(built.problem);
    const regions = regionsOf(built);
    expect(regions.get('menu')?.element.tagName).toBe('td');
    expect(regions.get('header')?.element.tagName).toBe('td');
    expect(built.source.structure).not.toContain('data-stall');
  });
});

it('a model of forty thousand elements is built from in one walk', () => {
  // Quadratic work would take minutes here, and the test would be stopped.
  const links = Array.from({ length: 20_000 }, (_, n) => `<li><a href="work.html#w${n}">w</a></li>`).join('');
  const html = `<title>x</title><header><b>Kiln</b><nav><a href="index.html">Home</a> <a href="work.html">Work</a></nav></header><main><p>words</p></main><footer><ul>${links}</ul></footer>`;
  const built = parsedShopPage(p('shop.html'), parse('work.html', html), {
    part: 'shop',
    title: 'Shop',
    main: () => '<p>goods</p>',
    scripts: 'keep',
    link: (value) => value,
  });
  expect('problem' in built).toBe(false);
});
