import { type Bands, grade, inside, isListTag, isShared, isWithin, leadsWithin, type Found } from './bands';

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
  if (!best) return navColumn(page);
  const whole = wholeMenu(page, best.i);
  return { blocks: [listIn(page, whole)], ...grade(page, best.i, 'menu', 0.72) };
}

/** A column that is a `nav` and leads to other pages. */
const isNavColumn = ({ o }: Bands, i: number): boolean =>
  o.tag(i) === 'nav' && o.meaning(i) === 'side' && o.links(i) > 1 && o.pages(i) * 2 > o.links(i);

/** The same where it holds more than links: on a page without another menu it is where one gets on. */
function navColumn(page: Bands): Found | undefined {
  for (let i = 1; i < page.o.count; i++)
    if (isNavColumn(page, i) && !page.isHidden(i)) return { blocks: [i], ...grade(page, i, 'side', 0.55) };
  return undefined;
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
 * The list in a bar that holds the site's name, a toggle or another list as well: items belong into it. Where there is
 * nothing else the bar itself is the menu.
 */
function listIn(page: Bands, bar: number): number {
  const { o } = page;
  if (isListTag(o.tag(bar)) || hasTitledLists(page, bar)) return bar;
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

/** Several lists in a column, each under a title of its own, are one menu. */
function hasTitledLists(page: Bands, bar: number): boolean {
  const { o } = page;
  const isTitle = (k: number | undefined) => k !== undefined && o.links(k) === 0 && !isListTag(o.tag(k));
  return [bar, ...inside(page, bar)].some((at) => {
    const kids = o.kids(at).filter((k) => o.weight(k) > 0);
    const lists = kids.filter((k) => isListTag(o.tag(k)));
    const titled = lists.filter((k) => isTitle(kids[kids.indexOf(k) - 1]));
    // The first needs no title where all others have one.
    return titled.length > 1 || (titled.length === 1 && lists.length === 2 && kids[0] === lists[0]);
  });
}

/** Mostly links; what does not call itself a menu is shared by pages, or near the top of one alone. */
function mayBeMenu(page: Bands, i: number): boolean {
  const { o } = page;
  // Menus have titles over their items: what is a list, or says it is a menu, may hold more words that are no links.
  const isLikely = o.meaning(i) === 'menu' || isListTag(o.tag(i)) || isNavColumn(page, i);
  if (o.links(i) < 2 || o.linked(i) < o.weight(i) * (isLikely ? 0.4 : 0.6)) return false;
  if (isAnotherThing(page, i)) return false;
  if (o.meaning(i) === 'menu') return true;
  if (o.ways(i) * 3 >= o.links(i)) return false;
  if (o.links(i) === 2 && o.pages(i) < 2) return false;
  if (page.named(i) === 'menu' || isNavColumn(page, i)) return true;
  return page.compared ? isShared(page, i) : i <= o.count / 2;
}

/** Crumbs, ways through a book that nobody sees, a page's contents, or a header with the site's name and little else. */
function isAnotherThing(page: Bands, i: number): boolean {
  const { o } = page;
  if (o.meaning(i) === 'crumbs' || page.named(i) === 'crumbs') return true;
  if (o.ways(i) > 0 && page.isHidden(i)) return true;
  if (o.meaning(i) === 'header' && o.links(i) < 3 && o.linked(i) < o.weight(i) * 0.9) return true;
  return isNoMenuWithin(page, i);
}

/** On a page that stands alone, links to parts of it that come after so many letters are its contents. Chosen by hand. */
const PREFACE = 120;

/** Letters of all that stands before a block, in its row and in those around it. */
function lettersBefore({ o }: Bands, i: number): number {
  let sum = 0;
  for (let at = i; at > 0; at = o.parent(at))
    for (const k of o.kids(o.parent(at))) if (k < at) sum += o.weight(k);
  return sum;
}

/**
 * What leads to places on this very page alone is its contents where other pages have others, or where much is said before. A
 * site that is one page has its menu at the top of it.
 */
function isNoMenuWithin(page: Bands, i: number): boolean {
  const { o } = page;
  if (!leadsWithin(page, i)) return false;
  if (page.compared) return o.meaning(i) !== 'menu' || !isShared(page, i);
  return o.meaning(i) !== 'menu' && page.named(i) !== 'menu' && lettersBefore(page, i) >= PREFACE;
}

/** How much speaks for the menu of the site; weights chosen by hand on the marked pages of `bench/labels`. */
function menuScore(page: Bands, i: number, low: boolean): number {
  const { o } = page;
  const isCell = o.tag(i) === 'td' || o.tag(i) === 'tr';
  const parts: readonly [boolean, number][] = [
    [page.compared && !isShared(page, i), -3],
    [o.meaning(i) === 'menu', 3],
    [o.meaning(i) !== 'menu' && page.named(i) === 'menu', 2],
    [o.meaning(i) !== 'menu' && page.named(i) !== 'menu' && isNavColumn(page, i), 1.5],
    [low, -5],
    [isCell, -0.2],
    [page.isHidden(i), -4],
  ];
  const evidence = parts.reduce((sum, [holds, weight]) => sum + (holds ? weight : 0), 0);
  return evidence + Math.min(o.links(i), 8) / 4 + Math.min(o.pages(i), 8) / 2 - (i / o.count) * 2;
}
