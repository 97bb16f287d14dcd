import { describe, expect, it } from 'vitest';
import { find } from '../html/tree';
import { type MenuItem, readMenu } from './menu';
import type { PagePath } from './paths';
import { parsePageFile } from './read-page';

const read = (menu: string, path = 'index.html'): MenuItem[] => {
  const parsed = parsePageFile(path as PagePath, Buffer.from(`<body>${menu}`));
  if ('problem' in parsed) throw new Error(parsed.problem);
  const root = find(parsed.page.doc, (e) => e.tagName === 'nav');
  return root ? readMenu(root, parsed.page.path, parsed.page.source, (p) => p as PagePath) : [];
};

const rows = (items: readonly MenuItem[]): unknown[] =>
  items.map((i) => [i.label + (i.current ? ' *' : ''), ...(i.children.length ? [rows(i.children)] : [])]);

describe('a menu', () => {
  it('knows the page one is on by a word that is no link, where there is one', () => {
    const site = '<li><a href="/">Home</a></li><li>Boats</li><li><a href="visit.html">Visit</a></li>';
    expect(rows(read(`<nav><ul>${site}</ul></nav>`, 'boats.html'))).toEqual([
      ['Home'],
      ['Boats *'],
      ['Visit'],
    ]);
  });

  it('knows it by an address that is empty, too', () => {
    const html = '<nav><a href="/">Home</a> <a href="">Boats</a> <a href="visit.html">Visit</a></nav>';
    expect(rows(read(html, 'boats.html'))).toEqual([['Home'], ['Boats *'], ['Visit']]);
  });

  it('reads a list in a box in a list, as panels for wide windows have it', () => {
    const panel =
      '<ul><div class="wide"><ul><li><a href="a.html">Oars</a></li><li><a href="b.html">Sails</a></li></ul></div></ul>';
    const html = `<nav><ul><li><a href="/">Home</a></li><li><a aria-expanded="false">Gear</a>${panel}</li></ul></nav>`;
    expect(rows(read(html, 'x.html'))).toEqual([['Home'], ['Gear', [['Oars'], ['Sails']]]]);
  });

  it('does not take what opens something for it', () => {
    const opener = (label: string, more = '') => `<li><a ${more}>${label}</a></li>`;
    const one = opener('Boats', 'aria-expanded="false"');
    const home = '<li><a href="/">Home</a></li>';
    expect(rows(read(`<nav><ul>${home}${one}</ul></nav>`, 'x.html'))).toEqual([['Home'], ['Boats']]);
    expect(rows(read(`<nav><ul>${home}${opener('Boats')}${opener('Oars')}</ul></nav>`, 'x.html'))).toEqual([
      ['Home'],
      ['Boats'],
      ['Oars'],
    ]);
  });

  it('does not take titles in a panel for it', () => {
    const panel =
      '<div><h6>Landing</h6><a href="b.html">Beech</a><h6>Account</h6><a href="c.html">Cherry</a></div>';
    const items = read(
      `<nav><ul><li><a href="a.html">Ash</a></li><li><a href="#">More</a>${panel}</li></ul></nav>`,
    );
    const all = items.flatMap((i) => [i, ...i.children]);
    expect(all.filter((i) => i.current).map((i) => i.label)).toEqual([]);
    expect(all.map((i) => i.label)).toEqual(['Ash', 'More', 'Landing', 'Beech', 'Account', 'Cherry']);
  });

  it('reads items that stand in columns of a wide list', () => {
    const column = (label: string) => `<div class="col"><li><a href="${label}.html">${label}</a></li></div>`;
    const html = `<nav><ul><li><span>Goods</span><ul>${column('Creels')}${column('Oars')}</ul></li><li><a href="visit.html">Visit</a></li></ul></nav>`;
    expect(rows(read(html))).toEqual([['Goods', [['Creels'], ['Oars']]], ['Visit']]);
  });

  it('reads what an item opens where that is no list', () => {
    const panel =
      '<div class="panel"><div><a href="creels.html">Creels</a></div><div><a href="oars.html">Oars</a> <a href="rope.html">Rope</a></div></div>';
    expect(
      rows(
        read(
          `<nav><ul><li><a aria-expanded="false">Goods</a>${panel}</li><li><a href="visit.html">Visit</a></li></ul></nav>`,
        ),
      ),
    ).toEqual([['Goods', [['Creels'], ['Oars'], ['Rope']]], ['Visit']]);
  });

  it('reads every list of a menu in folds, each under its title', () => {
    const fold = (title: string, ...items: string[]) =>
      `<div class="fold"><input type="checkbox" hidden><label>${title}</label><div><ul>${items.map((i) => `<li><a href="${i}.html">${i}</a></li>`).join('')}</ul></div></div>`;
    expect(
      rows(read(`<nav>${fold('Goods', 'Creels', 'Oars')}${fold('Yard', 'Hours', 'Way')}</nav>`)),
    ).toEqual([
      ['Goods', [['Creels'], ['Oars']]],
      ['Yard', [['Hours'], ['Way']]],
    ]);
  });
});
