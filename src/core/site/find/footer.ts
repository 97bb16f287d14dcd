import { entryAt } from '../../entries';
import { type Bands, grade, isCrumbs, opened, type Found } from './bands';
import { isSideBand } from './side';

export function pickFooter(
  page: Bands,
  after: readonly number[],
  main: Found | undefined,
): Found | undefined {
  const { o } = page;
  const flat = after.flatMap((b) => [b, ...opened(page, b)]).filter((b) => !page.isHidden(b));
  const isFoot = (b: number) => page.named(b) === 'footer' || o.tag(b) === 'footer';
  // A footer in a footer (its role said once more inside) is the outer one.
  const outermost = (b: number): number => {
    let foot = b;
    for (let up = o.parent(b); up > 0 && flat.includes(up); up = o.parent(up)) if (isFoot(up)) foot = up;
    return foot;
  };
  const said = flat.findLast((b) => o.meaning(b) === 'footer');
  const footer = said === undefined ? undefined : outermost(said);
  if (footer !== undefined)
    return {
      blocks: [...rowsBefore(page, footer, after), footer],
      confidence: page.isChrome(footer) || !page.compared ? 0.97 : 0.7,
      by: 'meaning',
    };
  const innermost = flat.findLast(isFoot);
  if (innermost !== undefined) {
    const named = outermost(innermost);
    return { blocks: [...rowsBefore(page, named, after), named], ...grade(page, named, 'footer', 0.85) };
  }
  const inMain = footOfMain(page, main);
  if (inMain) return inMain;
  // Ways to the page before and the next are other ones on each page, and a footer all the same.
  const mayBe = (b: number) =>
    !isSideBand(page, b) &&
    !page.isHidden(b) &&
    !isHeading(page, b) &&
    (page.isChrome(b) || !page.compared || isWays(page, b) || isCrumbs(page, b));
  const bands = after.filter(mayBe);
  const last = bands.at(-1);
  if (last === undefined) return undefined;
  const run = bands.filter((b) => o.parent(b) === o.parent(last));
  return { blocks: run.slice(-1 * contiguous(page, run)), ...grade(page, last, 'footer', 0.7) };
}

/** What all pages share right above a footer and is named as one, too. */
function rowsBefore(page: Bands, footer: number, after: readonly number[]): number[] {
  const { o } = page;
  const row = o.kids(o.parent(footer)).filter((k) => o.weight(k) > 0);
  const before = row.slice(0, row.indexOf(footer));
  const isAfterMain = (k: number) => after.some((b) => k >= b && k < o.end(b));
  const isRow = (k: number) =>
    isAfterMain(k) && page.compared && page.isChrome(k) && page.sign(k) === 'footer' && !page.isHidden(k);
  return before.slice(before.findLastIndex((k) => !isRow(k)) + 1);
}

/** A heading heads what comes after it: shared by pages or not, it ends none. */
const isHeading = (page: Bands, b: number): boolean => /^h\d$/.test(page.o.tag(b)) && page.o.links(b) === 0;

/** Links to the page before, the next, the one above and little else. */
const isWays = (page: Bands, b: number): boolean =>
  page.o.ways(b) > 0 &&
  page.o.links(b) <= 8 &&
  page.o.ways(b) * 2 >= page.o.links(b) &&
  page.o.weight(b) < 300;

/** The footer at the end of the main element: no landmark of the page there (HTML-AAM), but the page's footer all the same. */
function footOfMain(page: Bands, main: Found | undefined): Found | undefined {
  const { o } = page;
  const last = main?.blocks.at(-1) ?? 0;
  const end = main ? o.end(o.parent(last)) : 0;
  for (let i = o.end(last); i < end; i++)
    if ((page.sign(i) === 'footer' || o.tag(i) === 'footer') && (!page.compared || page.isChrome(i)))
      return { blocks: [i], ...grade(page, i, 'footer', 0.75) };
  return undefined;
}

/** How many at the end of a run stand next to each other. */
function contiguous(page: Bands, run: readonly number[]): number {
  const kids = page.o.kids(page.o.parent(run[0] ?? 0)).filter((k) => page.o.weight(k) > 0);
  let n = 1;
  while (
    n < run.length &&
    kids.indexOf(entryAt(run, run.length - n - 1)) === kids.indexOf(entryAt(run, run.length - n)) - 1
  )
    n++;
  return n;
}
