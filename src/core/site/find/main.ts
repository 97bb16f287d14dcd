import { entryAt } from '../../entries';
import { Bands, byMeaning, content, foundBy, inside, isNavigation, round, type Found } from './bands';

export function findMain(page: Bands): Found | undefined {
  const { o } = page;
  const byTag = byMeaning(page, 'main');
  if (byTag.length === 1)
    return { blocks: withoutEdges(page, entryAt(byTag, 0)), confidence: 0.98, by: 'meaning' };
  const [empty, ...others] = byTag.length === 0 ? inside(page, 0).filter((i) => o.meaning(i) === 'main') : [];
  // A script fills it later, or a search has found nothing yet.
  if (empty !== undefined && others.length === 0) return { blocks: [empty], confidence: 0.9, by: 'meaning' };
  if (page.own(0) <= o.weight(0) * 0.03) return mainOfShared(page);
  let at = 0;
  for (let next = descend(page, at); next !== undefined; next = descend(page, at)) at = next;
  // Back up through wrappers that hold nothing else.
  while (at > 0 && page.chrome(o.parent(at)) === page.chrome(at) && o.parent(at) > 0) at = o.parent(at);
  const run = at > 0 ? neighboursOf(page, at) : [];
  const blocks = run.length > 1 ? run : inner(page, at);
  const named = blocks.length === 1 && page.sign(entryAt(blocks, 0)) === 'main';
  const held = blocks.reduce((sum, b) => sum + page.own(b), 0) / Math.max(1, page.own(0));
  const clean = 1 - blocks.reduce((sum, b) => sum + page.chrome(b), 0) / Math.max(1, o.weight(0));
  return {
    blocks,
    confidence: round((page.compared ? 0.5 : 0.3) + 0.3 * held * clean + (named ? 0.15 : 0)),
    by: foundBy(page, named),
  };
}

/**
 * On a page that holds nearly nothing but what others hold too (a sample, a draft, an empty page of a shell): what calls
 * itself so, without the bars in it; else as if it stood alone.
 */
function mainOfShared(page: Bands): Found | undefined {
  const { o } = page;
  const named = Array.from({ length: o.count }, (_, i) => i).filter(
    (i) => i > 0 && page.named(i) === 'main' && o.weight(i) > 0,
  );
  const innermost = named.findLast((i) => o.meaning(i) === undefined && !isInLandmark(page, i));
  if (innermost !== undefined) return { blocks: withoutEdges(page, innermost), confidence: 0.6, by: 'name' };
  return page.compared ? findMain(new Bands(o, new Set())) : undefined;
}

/** Header, footer, menu or side column by meaning, or in one. */
function isInLandmark(page: Bands, i: number): boolean {
  for (let at = i; at > 0; at = page.o.parent(at)) {
    const sign = page.o.meaning(at);
    if (sign && sign !== 'main' && sign !== 'crumbs') return true;
  }
  return false;
}

/** Some pages put their menu at the top of the main element, or their footer at its end: the main part is between them. */
function withoutEdges(page: Bands, main: number): number[] {
  const { o } = page;
  const kids = o.kids(main);
  const isMenu = (k: number) => o.weight(k) === 0 || o.meaning(k) === 'menu';
  const isFoot = (k: number) => o.tag(k) === 'footer' || page.sign(k) === 'footer';
  const from = kids.findIndex((k) => !isMenu(k));
  const to = kids.findLastIndex((k) => o.weight(k) > 0 && !isFoot(k));
  const run = kids.slice(Math.max(0, from), to + 1);
  const isWhole = run.length === kids.length;
  const [only] = run.filter((k) => o.weight(k) > 0);
  // A wrapper of all that is left may hold the footer in its turn.
  if (only !== undefined && run.every((k) => k === only || o.weight(k) === 0)) {
    const inner = withoutEdges(page, only);
    if (inner[0] !== only) return inner;
  }
  return isWhole || run.length === 0 ? [main] : run;
}

/** The one child that holds most of the page's own content, while it can hold blocks. */
function descend(page: Bands, at: number): number | undefined {
  if (isRun(page, at)) return undefined;
  // What a menu or a footer holds that no other page does (a count, a name) is no content of the page.
  const isLandmark = (k: number) => ['menu', 'footer', 'side'].includes(page.o.meaning(k) ?? '');
  const kids = page.o.kids(at).filter((k) => !isLandmark(k));
  const held = page.own(at) - page.o.kids(at).reduce((sum, k) => sum + (isLandmark(k) ? page.own(k) : 0), 0);
  const best = kids.reduce<number | undefined>(
    (b, k) => (b === undefined || page.own(k) > page.own(b) ? k : b),
    undefined,
  );
  if (best === undefined || content.has(page.o.tag(best)) || page.own(best) < held * 0.7) return undefined;
  // A wrapper without chrome in it is as good as what it wraps; stop where everything below is the page's own.
  return page.chrome(at) === 0 && at > 0 ? undefined : best;
}

/** A heading or a lead beside the block that holds the rest: they are one main part. */
function neighboursOf(page: Bands, at: number): number[] {
  const kids = page.o.kids(page.o.parent(at));
  const mine = (k: number | undefined): k is number =>
    k !== undefined &&
    isContent(page, k) &&
    (page.sign(k) === undefined || page.sign(k) === 'main' || isOwnTitle(page, k)) &&
    page.o.tag(k) !== 'td' &&
    page.o.tag(k) !== 'tr';
  let from = kids.indexOf(at);
  let to = from;
  while (mine(kids[from - 1])) from--;
  while (mine(kids[to + 1])) to++;
  return kids.slice(from, to + 1);
}

/** Of the page's own, no navigation, and no dialog that waits for a press. */
const isContent = (page: Bands, k: number): boolean =>
  (page.own(k) > page.o.weight(k) * 0.5 || (!page.compared && isOwnTitle(page, k))) &&
  !isNavigation(page, k) &&
  !page.isHidden(k);

/** A band with the page's own title that is called a header, under the one that all pages share. */
function isOwnTitle(page: Bands, k: number): boolean {
  const { o } = page;
  if (o.ways(k) > 0 || page.sign(k) !== 'header') return false;
  if (page.compared && o.meaning(k) !== undefined) return false;
  const isBar = (b: number) =>
    o.end(b) <= k && o.links(b) > 1 && (page.compared ? page.isChrome(b) : o.meaning(b) === 'menu');
  return inside(page, 0).some(isBar);
}

/**
 * So many blocks of one kind, and little else, are one text (lines of a listing, rows of a table), whatever of it other pages
 * hold as well.
 */
const RUN = 12;

function isRun({ o }: Bands, at: number): boolean {
  const kids = o.kids(at).filter((k) => o.weight(k) > 0);
  if (at === 0 || kids.length < RUN) return false;
  const counts = new Map<number, number>();
  for (const k of kids) counts.set(o.key(k), (counts.get(o.key(k)) ?? 0) + 1);
  return Math.max(...counts.values()) >= kids.length * 0.8;
}

/** Where chrome and content share one parent: its children from the first that is content to the last. */
function inner(page: Bands, at: number): number[] {
  const kids = page.o.kids(at);
  if (page.chrome(at) === 0 || kids.length === 0 || isRun(page, at)) return [at];
  const own = kids.filter(
    (k) =>
      isContent(page, k) &&
      (!['header', 'footer', 'menu', 'side'].includes(page.sign(k) ?? '') || isOwnTitle(page, k)),
  );
  const [first] = own;
  const last = own.at(-1);
  return first === undefined || last === undefined
    ? [at]
    : kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
}
