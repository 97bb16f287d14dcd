import { type Bands, grade, inside, isListTag, isShared, isWithin, type Found } from './bands';

/** The block of links that leads through the site: by meaning or name, near the top, shared, mostly links. */
export function pickMenu(
  page: Bands,
  main: Found | undefined,
  footer: Found | undefined,
  hasTop: boolean,
): Found | undefined {
  const { o } = page;
  const mainBlocks = (hasTop && main?.blocks) || [];
  const isLow = (i: number) => isWithin(page, i, footer?.blocks ?? []);
  const best = menusWeighed(page, isLow)
    .filter(({ i }) => !isWithin(page, i, mainBlocks) && (!isLow(i) || o.meaning(i) === 'menu'))
    .reduce<Weighed | undefined>((b, m) => (b === undefined || m.score > b.score ? m : b), undefined);
  if (!best) return undefined;
  const whole = wholeMenu(page, best.i);
  return { blocks: [listIn(page, whole)], ...grade(page, best.i, 'menu', 0.72) };
}

interface Weighed {
  readonly i: number;
  readonly score: number;
}

/** Every block that may be the menu, with what speaks for it. */
export function menusWeighed(page: Bands, isLow: (i: number) => boolean = () => false): Weighed[] {
  const all: Weighed[] = [];
  for (let i = 1; i < page.o.count; i++)
    if (mayBeMenu(page, i)) all.push({ i, score: menuScore(page, i, isLow(i)) });
  return all;
}

/** One of several lists of a menu in folds is not the menu: the block that holds them all is. */
function wholeMenu(page: Bands, list: number): number {
  const { o } = page;
  let whole = list;
  for (let up = o.parent(list); up > 0; up = o.parent(up)) {
    if (o.pages(up) < 2 * o.pages(whole) || o.linked(up) < o.weight(up) * 0.6) continue;
    if (page.compared && !page.isChrome(up)) break;
    whole = up;
  }
  return whole;
}

/**
 * The list in a bar that holds the site's name, a toggle or another list as well: items belong into it. Where there is nothing else the bar
 * itself is the menu.
 */
function listIn(page: Bands, bar: number): number {
  const { o } = page;
  if (isListTag(o.tag(bar))) return bar;
  // Ways through a book that stand beside the menu are no part of it.
  const worth = (i: number) => o.pages(i) * 2 + o.links(i) - 3 * o.ways(i);
  const mayHold = (i: number) =>
    o.links(i) > 1 && (isListTag(o.tag(i)) || (o.ways(bar) > 0 && o.ways(i) === 0));
  const best = inside(page, bar)
    .filter(mayHold)
    .reduce<number | undefined>((b, i) => (b === undefined || worth(i) > worth(b) ? i : b), undefined);
  if (best === undefined || worth(best) < worth(bar) * 0.5) return bar;
  return o.weight(best) < o.weight(bar) * 0.97 || o.links(best) < o.links(bar) ? best : bar;
}

/** Mostly links, no breadcrumbs; what does not call itself a menu is shared by pages, or near the top of one alone. */
function mayBeMenu(page: Bands, i: number): boolean {
  const { o } = page;
  // Menus have titles over their items: what is a list, or says it is a menu, may hold more words that are no links.
  const isLikely = o.meaning(i) === 'menu' || isListTag(o.tag(i));
  if (o.links(i) < 2 || o.linked(i) < o.weight(i) * (isLikely ? 0.4 : 0.6)) return false;
  if (o.meaning(i) === 'crumbs' || o.named(i) === 'crumbs') return false;
  if (o.meaning(i) === 'menu') return true;
  if (o.ways(i) * 2 >= o.links(i)) return false;
  if (o.links(i) === 2 && o.pages(i) < 2) return false;
  if (o.named(i) === 'menu') return true;
  return page.compared ? isShared(page, i) : i <= o.count / 2;
}

/** How much speaks for the menu of the site; weights chosen by hand on the marked pages of `bench/labels`. */
function menuScore(page: Bands, i: number, low: boolean): number {
  const { o } = page;
  const isCell = o.tag(i) === 'td' || o.tag(i) === 'tr';
  const parts: readonly [boolean, number][] = [
    [page.compared && !isShared(page, i), -3],
    [o.meaning(i) === 'menu', 3],
    [o.meaning(i) !== 'menu' && o.named(i) === 'menu', 2],
    [low, -5],
    [isCell, -0.2],
  ];
  const evidence = parts.reduce((sum, [holds, weight]) => sum + (holds ? weight : 0), 0);
  return evidence + Math.min(o.links(i), 8) / 4 + Math.min(o.pages(i), 8) / 2 - (i / o.count) * 2;
}
