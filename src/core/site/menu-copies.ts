import { ancestors, bodyOf, descendants, type Element, isElement } from '../html/tree';
import { type MenuNode, menuNodes } from './menu';
import type { PagePath } from './paths';
import type { ParsedPage } from './read-page';
import { type RegionSpot, regionsOf } from './regions';

/** The same menu once more: for phones, or in a panel that slides in. */
export interface MenuCopy {
  readonly root: Element;
  readonly nodes: readonly MenuNode[];
}

/** Of a copy's items so many are the menu's, and of the menu's so many are in it. Chosen by hand. */
const OWN = 0.8;
const WHOLE = 0.5;

/**
 * Other blocks of a page that hold the items of its menu. Lists in the main part, in a column or in the footer are menus of their own:
 * what stands in them was chosen for there.
 * @param nodes the items of the menu in `root`
 */
export function menuCopies(
  page: ParsedPage,
  root: Element,
  nodes: readonly MenuNode[],
  has: (path: string) => boolean | PagePath | undefined,
): MenuCopy[] {
  const body = bodyOf(page.doc);
  const menu = keysOf(nodes);
  if (!body || menu.size < 2) return [];
  const elsewhere = (['main', 'side', 'side-2', 'footer'] as const).flatMap(
    (r) => regionsOf(page).get(r) ?? [],
  );
  const isApart = (el: Element) =>
    !isWithin(el, root) && !isWithin(root, el) && !elsewhere.some((spot) => isInSpot(el, spot));
  const out: MenuCopy[] = [];
  for (const el of descendants(body)) {
    if (!mayHold(el) || out.some((copy) => isWithin(el, copy.root)) || !isApart(el)) continue;
    const items = menuNodes(el, page.path, page.source, has);
    const own = keysOf(items);
    const shared = [...own].filter((key) => menu.has(key)).length;
    if (own.size > 1 && shared >= own.size * OWN && shared >= menu.size * WHOLE)
      out.push({ root: el, nodes: items });
  }
  return out;
}

const mayHold = (el: Element): boolean =>
  /^(ul|ol|menu|nav)$/.test(el.tagName) ||
  el.attrs.some((a) => a.name === 'role' && a.value === 'navigation');

/** First level alone: what opens below may be left out of a copy. What a script opens leads nowhere, and is not counted. */
const keysOf = (nodes: readonly MenuNode[]): Set<string> =>
  new Set(
    nodes
      .filter((n) => n.link && n.href !== '' && !/^(#$|javascript:)/i.test(n.href))
      .map((n) => `${n.label.toLowerCase()} ${n.page ?? n.href}`),
  );

const isWithin = (el: Element, holder: Element): boolean =>
  el === holder || [...ancestors(el)].includes(holder);

function isInSpot(el: Element, { element, first, last }: RegionSpot): boolean {
  if (!first) return isWithin(el, element);
  const kids = element.childNodes.filter(isElement);
  const run = kids.slice(kids.indexOf(first), kids.indexOf(last ?? first) + 1);
  return run.some((block) => isWithin(el, block));
}
