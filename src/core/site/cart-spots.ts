import { ancestors, type Element, elementsIn } from '../html/tree';
import { isContainer, isInvisible } from '../html/content-model';
import { edgePitch, type Pitch, pitchAt } from './pitch';
import type { ParsedPage } from './read-page';
import { regionsOf } from './regions';
import type { Side } from './spot';

/** So many are tried in a browser at most. */
const MOST = 10;

/**
 * Where in and about its header a page could hold a cart: at its end, at the end of each box that the menu stands in, beside the menu, and at
 * the end of each row of the header. By the rules of HTML alone, and in an order that does not change: whether there is room is seen in a
 * browser.
 */
export function cartSpots(page: ParsedPage): Pitch[] {
  const regions = regionsOf(page);
  const header = regions.get('header');
  const menu = regions.get('menu')?.element;
  const edge = edgePitch(page, 'header', 'end');
  const boxes = menu ? boxesAround(menu, header?.element) : [];
  const found = [
    ...(edge ? [edge] : []),
    ...boxes.flatMap(({ box, holds }) => [
      ...spot(page, box, 'end'),
      ...spot(page, holds, 'after'),
      ...spot(page, holds, 'before'),
    ]),
    ...(header && !header.first ? rowsIn(header.element) : []).flatMap((row) => spot(page, row, 'end')),
  ];
  return found.filter((p, n) => found.findIndex((o) => o.offset === p.offset) === n).slice(0, MOST);
}

/** The boxes that the menu stands in up to the header, from the inside, each with what of it holds the menu. */
function boxesAround(menu: Element, header: Element | undefined): { box: Element; holds: Element }[] {
  const all: { box: Element; holds: Element }[] = [];
  let holds = menu;
  for (const box of ancestors(menu)) {
    if (box.tagName === 'body' || all.length === 4) break;
    // A menu that is all of its bar stands in nothing but itself.
    if (isContainer(box)) all.push({ box, holds });
    if (box === header) break;
    holds = box;
  }
  // Beside a menu that stands outside of the header there is only its own bar.
  const isWithin = header !== undefined && all.some(({ box }) => box === header);
  return isWithin || header === undefined || header === menu ? all : all.slice(0, 2);
}

/** Boxes of a header that stand side by side or one below the other, down to the second level. */
function rowsIn(header: Element): Element[] {
  const seen = (el: Element) => elementsIn(el).filter((e) => !isInvisible(e) && isContainer(e));
  const first = seen(header);
  return [...first, ...first.flatMap(seen)];
}

const spot = (page: ParsedPage, el: Element, side: Side): Pitch[] => {
  const pitch = pitchAt(page, el, side);
  return pitch && isContainer(sideHolder(el, side)) ? [pitch] : [];
};

const sideHolder = (el: Element, side: Side): Element => {
  if (side === 'start' || side === 'end') return el;
  const [around] = ancestors(el);
  return around ?? el;
};
