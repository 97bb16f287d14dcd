import { type Bands, content, grade, isCrumbs, opened, type Found } from './bands';
import { isContents, isInSideBand, isSideBand } from './side';

export function pickHeader(page: Bands, before: readonly number[]): Found | undefined {
  const { o } = page;
  const seen = before.filter((b) => !page.isHidden(b));
  const flat = seen
    .flatMap((b) => (isSideBand(page, b) ? [] : [b, ...opened(page, b)]))
    .filter((b) => !page.isHidden(b));
  const bar = menuBar(page, flat);
  const isHead = (b: number) => bar === undefined || b < bar.title;
  // A header that no other page has is the head of this page's own content.
  const header = flat.find(
    (b) => o.meaning(b) === 'header' && isHead(b) && (!page.compared || page.isChrome(b)),
  );
  if (header !== undefined) return { blocks: [header], confidence: 0.97, by: 'meaning' };
  const bands = seen.filter(
    (b) =>
      !isSideBand(page, b) && !isContents(page, b) && !isCrumbs(page, b) && o.tag(b) !== 'a' && isHead(b),
  );
  // A name goes before a place; but what all pages share goes before a name that this page alone has.
  const shared = page.compared ? bands.find((b) => page.isChrome(b) && !isLaterHeading(page, b)) : undefined;
  const named = flat.find(
    (b) =>
      page.named(b) === 'header' &&
      (!content.has(o.tag(b)) || before.includes(b)) &&
      isHead(b) &&
      (shared === undefined || page.isChrome(b)),
  );
  if (named !== undefined)
    return { blocks: [named, ...rowsAfter(page, named)], ...grade(page, named, 'header', 0.85) };
  const first = shared ?? bands[0];
  if (first === undefined) return headOfMain(page);
  if (bar && bar.menu >= first && bar.menu < o.end(first))
    return { blocks: [first], confidence: 0.85, by: 'meaning' };
  const row = o.kids(o.parent(first)).filter((k) => o.weight(k) > 0);
  const beside = row.slice(row.indexOf(first));
  // As far as they stand next to each other: a column between them belongs to neither.
  const end = beside.findIndex(
    (b) => !bands.includes(b) || (page.compared && (!page.isChrome(b) || isLaterHeading(page, b))),
  );
  const run = end < 0 ? beside : beside.slice(0, end);
  return { blocks: run.length ? run : [first], ...grade(page, first, 'header', 0.7) };
}

/**
 * What all pages share right after a block called header and belongs to it: a second bar, the name of the book under its
 * banner.
 */
function rowsAfter(page: Bands, header: number): number[] {
  const { o } = page;
  const row = o.kids(o.parent(header)).filter((k) => o.weight(k) > 0);
  const after = row.slice(row.indexOf(header) + 1);
  const isLine = (k: number) => page.sign(k) === undefined && o.weight(k) < 120 && /^(p|h\d)$/.test(o.tag(k));
  const isBar = (k: number) =>
    (page.sign(k) === 'header' || page.sign(k) === 'menu') &&
    o.ways(k) * 2 < Math.max(1, o.links(k)) &&
    page.stands(k) !== 'aside' &&
    !page.isHidden(k);
  const end = after.findIndex((k) => !page.compared || !page.isChrome(k) || !(isLine(k) || isBar(k)));
  return end < 0 ? [] : after.slice(0, end);
}

/**
 * The site's menu where a header comes after it and does not hold it: that one is a band of the page itself, large and with
 * its title, and so is all that follows; the site's own is the bar that holds the menu.
 */
function menuBar(page: Bands, flat: readonly number[]): { menu: number; title: number } | undefined {
  const { o } = page;
  const menu = flat.find((b) => o.meaning(b) === 'menu' && o.links(b) > 1);
  if (menu === undefined) return undefined;
  const title = flat.find((b) => o.meaning(b) === 'header' && b >= o.end(menu));
  return title === undefined ? undefined : { menu, title };
}

/**
 * A heading that many pages have ("Name", "Synopsis") is a part of their text, unless it is the first thing on the page: the
 * site's title.
 */
function isLaterHeading({ o }: Bands, b: number): boolean {
  if (!/^h\d$/.test(o.tag(b)) || o.links(b) > 0) return false;
  for (let i = 1; i < b; i++) if (o.weight(i) > 0 && o.end(i) <= b) return true;
  return false;
}

/** Where the main part holds all there is, its menu at the top is the header. One in a column is none. */
function headOfMain(page: Bands): Found | undefined {
  const mayBe = (i: number) =>
    page.sign(i) === 'menu' &&
    page.o.weight(i) > 0 &&
    (!page.compared || page.isChrome(i)) &&
    !page.isHidden(i) &&
    !isInSideBand(page, i);
  for (let i = 1; i < page.o.count; i++) {
    if (mayBe(i)) return i < page.o.count / 3 ? { blocks: [i], ...grade(page, i, 'menu', 0.6) } : undefined;
  }
  return undefined;
}
