import { afterEach, describe, expect, it, vi } from 'vitest';
import { itemsOf, rowsIn } from './menu';

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

describe('a menu as it stands', () => {
  afterEach(() => vi.restoreAllMocks());

  it('is its first level, whether the list itself is the menu or stands in a bar', () => {
    expect(texts(`<ul>${list}</ul>`)).toEqual(['Loft', 'Sails']);
    expect(texts(`<nav><ul>${list}</ul></nav>`)).toEqual(['Loft', 'Sails']);
  });

  it("is not the site's name that stands beside it, and folded where only that is seen", () => {
    expect(texts(`<nav><a>Duinrand</a><ul>${list}</ul></nav>`)).toEqual(['Loft', 'Sails']);
    expect(texts(`<nav><a>Duinrand</a><ul class="folded">${list}</ul></nav>`)).toEqual([]);
  });

  it('is bare links where there is no list', () => {
    const items = itemsOf(menuOf('<nav><a>Loft</a><a>Sails</a></nav>'));
    expect(items.map((i) => i.text)).toEqual(['Loft', 'Sails']);
    expect(rowsIn(items)).toBe(1);
  });
});
