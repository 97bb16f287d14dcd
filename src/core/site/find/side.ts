import { type Bands, inside, leadsWithin, type Found } from './bands';

/** Beside the main part rather than above or below it: another cell of its row, or said to be by meaning or name. */
export function isSide(page: Bands, b: number, main: Found | undefined): boolean {
  const { o } = page;
  if (page.o.weight(b) === 0 || page.sign(b) === 'crumbs' || page.isHidden(b)) return false;
  if (isSideBand(page, b)) return true;
  // A long list of links beside the main part, or beside what holds it, is a column, whatever it is called.
  return (
    main !== undefined &&
    (page.compared || isOneOfFew(page, b)) &&
    o.meaning(b) !== 'menu' &&
    o.links(b) >= 8 &&
    o.linked(b) >= o.weight(b) * 0.6 &&
    hasListOrHeading(page, b) &&
    page.sign(b) === undefined
  );
}

export const isSideBand = (page: Bands, b: number): boolean => {
  const { o } = page;
  if (o.tag(b) === 'td' && o.kids(o.parent(b)).filter((k) => o.weight(k) > 0).length > 1) return true;
  if (page.stands(b) === 'aside' && o.meaning(b) === 'menu') return true;
  return o.meaning(b) === 'side' || page.named(b) === 'side';
};

/** A cell of a grid that holds one block and nothing else is as good as that. */
export function columnIn(page: Bands, b: number): number {
  for (let at = b; ; ) {
    if (page.sign(at) !== undefined) return page.sign(at) === 'side' ? at : b;
    const [only, ...others] = page.o.kids(at).filter((k) => page.o.weight(k) > 0);
    if (only === undefined || others.length) return b;
    at = only;
  }
}

/** On a page that stands alone a long row of blocks is a book with its indexes, not a page with columns. */
const isOneOfFew = ({ o }: Bands, b: number): boolean =>
  o.kids(o.parent(b)).filter((k) => o.weight(k) > 0).length <= ROW;
const ROW = 5;

/** A column, or in one. */
export function isInSideBand(page: Bands, b: number): boolean {
  for (let up = b; up > 0; up = page.o.parent(up)) if (isSideBand(page, up)) return true;
  return false;
}

/** A long table of contents of this very page. */
export const isContents = (page: Bands, b: number): boolean =>
  page.o.links(b) >= 8 &&
  leadsWithin(page, b) &&
  page.o.linked(b) >= page.o.weight(b) * 0.6 &&
  page.o.meaning(b) === undefined &&
  hasListOrHeading(page, b);

const hasListOrHeading = (page: Bands, b: number): boolean =>
  inside(page, b).some((k) => /^(ul|ol|dl|tr|h[1-6])$/.test(page.o.tag(k)));
