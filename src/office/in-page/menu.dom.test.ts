import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { gapWithin, isCut, type Item, itemsOf, rowsIn } from './menu';

/** A menu whose links are 60 px wide and stand in a row, but those that are folded away. */
function menuOf(html: string): Element {
  document.body.innerHTML = html;
  let x = 0;
  for (const a of document.querySelectorAll('a')) {
    const hidden = a.closest('.folded') !== null;
    const box = { left: x, top: 10, width: hidden ? 0 : 60, height: 20 } as DOMRect;
    vi.spyOn(a, 'getBoundingClientRect').mockReturnValue(box);
    vi.spyOn(a, 'getClientRects').mockReturnValue((hidden ? [] : [box]) as unknown as DOMRectList);
    if (!hidden) x += 70;
  }
  return document.body.firstElementChild as Element;
}
const texts = (html: string) => itemsOf(menuOf(html)).map((i) => i.text);
const list =
  '<li><a>Loft</a></li><li><a>Sails</a><ul class="folded"><li><a>Jibs</a></li><li><a>Mains</a></li></ul></li>';

/** The DOM of the tests lays nothing out: how wide the words of a link are is said here. */
const wide = new Map<string, number>();
beforeAll(() => {
  vi.spyOn(document.documentElement, 'clientWidth', 'get').mockReturnValue(1_280);
  Range.prototype.getBoundingClientRect = function () {
    const width = wide.get(this.toString()) ?? 40;
    return { left: 10, right: 10 + width, width, top: 10, height: 20 } as DOMRect;
  };
});

describe('a menu as it stands', () => {
  afterEach(() => vi.clearAllMocks());

  it('is its first level, whether the list itself is the menu or stands in a bar', () => {
    expect(texts(`<ul>${list}</ul>`)).toEqual(['Loft', 'Sails']);
    expect(texts(`<nav><ul>${list}</ul></nav>`)).toEqual(['Loft', 'Sails']);
  });

  it("is not the site's name that stands beside it, and folded where only that is seen", () => {
    expect(texts(`<nav><a>Duinrand</a><ul>${list}</ul></nav>`)).toEqual(['Loft', 'Sails']);
    expect(texts(`<nav><a>Duinrand</a><ul class="folded">${list}</ul></nav>`)).toEqual([]);
  });

  it('stands in one row where its words do, however high a bar that has grown stretches one of its links', () => {
    const menu = menuOf('<div><a>Vannerie</a><div><a>Accueil</a><a>Venir</a></div></div>');
    const [brand] = menu.querySelectorAll('a');
    const stretched = { left: 0, top: 10, width: 60, height: 60 } as DOMRect;
    if (brand) vi.spyOn(brand, 'getBoundingClientRect').mockReturnValue(stretched);
    expect(rowsIn(itemsOf(menu))).toBe(1);
  });

  it('has its items as far apart as they stand, not as far as the site’s name stands from them', () => {
    const at = (x: number, w: number, top = 20): Item => ({ text: '', x, w, top, el: document.body });
    expect(gapWithin([at(50, 190), at(940, 60), at(1020, 70), at(1110, 40)])).toBe(20);
    expect(gapWithin([at(50, 190), at(1110, 40)])).toBe(64);
    expect(gapWithin([at(50, 60), at(105, 60)])).toBe(0);
    expect(gapWithin([at(50, 60), at(50, 60, 60)])).toBe(16);
  });

  it('is without what lies in a closed fold: a box that hides what runs out of it, and has no height', () => {
    const fold = (style: string) =>
      `<nav><a>Loft</a><div><b>Sails</b><div style="${style}"><a>Jibs</a><a>Mains</a></div></div></nav>`;
    expect(texts(fold('overflow-y:hidden'))).toEqual(['Loft']);
    expect(texts(fold('overflow-y:visible'))).toEqual(['Loft', 'Jibs', 'Mains']);
  });

  it('is bare links where there is no list', () => {
    const items = itemsOf(menuOf('<nav><a>Loft</a><a>Sails</a></nav>'));
    expect(items.map((i) => i.text)).toEqual(['Loft', 'Sails']);
    expect(rowsIn(items)).toBe(1);
  });

  it('is cut where the words of one item run out of the window, and those of others do not', () => {
    const items = (label: string) => itemsOf(menuOf(`<ul><li><a>Loft</a></li><li><a>${label}</a></li></ul>`));
    wide.set('All sails that were ever made here', 4_000);
    expect(isCut(items('Sails'), 1_280)).toBe(false);
    expect(isCut(items('All sails that were ever made here'), 1_280)).toBe(true);
  });

  it('is cut where a name runs out of the column that it stands in, over what is beside it', () => {
    const cut = (label: string) => {
      const menu = menuOf(`<ul><li><a>Loft</a></li><li><a>${label}</a></li></ul>`);
      vi.spyOn(menu, 'getBoundingClientRect').mockReturnValue({ left: 0, right: 240 } as DOMRect);
      return isCut(itemsOf(menu), 1_280, menu);
    };
    wide.set('The shop of all our sails', 700);
    expect(cut('Sails')).toBe(false);
    expect(cut('The shop of all our sails')).toBe(true);
  });

  it('is a drawer, and not cut, where all of it lies beyond the window', () => {
    const away = (x: number): Item => ({ text: 'Loft', x, w: 60, top: 10, el: document.body });
    expect(isCut([away(-300), away(-230)], 390)).toBe(false);
    expect(isCut([away(20), away(360)], 390)).toBe(true);
  });
});
