import { entryAt } from '../entries';
import type { Outline } from './outline';
import type { FoundBy, Landmark, RegionFact } from './regions';
import type { Sign } from './signs';

/**
 * The regions of one page, from its outline and from what is known to be chrome on it.
 *
 * The main part is where the page's own content is: from the body down to the highest block that holds nearly all of
 * it and no chrome, or the run of blocks that do. What stands before it is header, menu or side column, what stands
 * after it footer or side column; meaning comes first, then names, then place.
 */
export function findRegions(o: Outline, core: ReadonlySet<number>): RegionFact[] {
  if (o.count === 0 || o.weight(0) === 0) return [];
  const page = new Bands(o, core);
  const main = findMain(page);
  const bands = bandsAround(page, main);
  const found: RegionFact[] = [];
  const header = pickHeader(page, bands.before);
  const footer = pickFooter(page, bands.after, main);
  const sides = [...bands.before, ...bands.after, ...bands.within]
    .filter((b) => !header?.blocks.includes(b) && !footer?.blocks.includes(b) && isSide(page, b, main))
    .slice(0, 2);
  if (header) found.push(fact(page, 'header', header));
  if (main) found.push(fact(page, 'main', main));
  for (const [n, side] of sides.entries())
    found.push(
      fact(page, n === 0 ? 'side' : 'side-2', { blocks: [side], ...grade(page, side, 'side', 0.72) }),
    );
  if (footer) found.push(fact(page, 'footer', footer));
  const menu = pickMenu(page, main, footer, bands.before.length > 0);
  if (menu) found.push(fact(page, 'menu', menu));
  return found;
}

/** The blocks of the main part alone. */
export const mainBlocks = (o: Outline, core: ReadonlySet<number>): readonly number[] =>
  o.count === 0 || o.weight(0) === 0 ? [] : (findMain(new Bands(o, core))?.blocks ?? []);

interface Found {
  /** One block, or neighbours of one parent. */
  readonly blocks: readonly number[];
  readonly confidence: number;
  readonly by: FoundBy;
}

/** An outline with what of it is chrome, block by block. */
class Bands {
  readonly #chrome: Int32Array;
  readonly compared: boolean;
  constructor(
    readonly o: Outline,
    core: ReadonlySet<number>,
  ) {
    this.compared = core.size > 0;
    const saysMain = Array.from({ length: o.count }, (_, i) => o.meaning(i) ?? o.named(i)).includes('main');
    this.#chrome = new Int32Array(o.count);
    for (let i = o.count - 1; i >= 0; i--) {
      // A block that other pages hold is chrome as a whole, whether its parts were within the budget there or not.
      if (core.has(o.content(i))) this.#chrome[i] = o.weight(i);
      if (!this.compared && looksLikeChrome(o, i, saysMain)) this.#chrome[i] = o.weight(i);
      if (i > 0)
        this.#chrome[o.parent(i)] = Math.min(
          o.weight(o.parent(i)),
          this.chrome(o.parent(i)) + this.chrome(i),
        );
    }
  }
  chrome(i: number): number {
    return entryAt(this.#chrome, i);
  }
  own(i: number): number {
    return this.o.weight(i) - this.chrome(i);
  }
  isChrome(i: number): boolean {
    return this.o.weight(i) > 0 && this.chrome(i) >= this.o.weight(i) * 0.7;
  }
  sign(i: number): Sign | undefined {
    return this.o.meaning(i) ?? this.o.named(i);
  }
}

/** With nothing to compare with: what says it is chrome, or is little else than links. */
function looksLikeChrome(o: Outline, i: number, saysMain: boolean): boolean {
  const sign = o.meaning(i) ?? o.named(i);
  if (sign && sign !== 'main') return saysMain || o.weight(i) < o.weight(0) * 0.9;
  return o.links(i) >= 3 && o.linked(i) >= o.weight(i) * 0.75 && o.weight(i) < o.weight(0) * 0.5;
}

/** What a page's content is made of, as against what holds it. */
const content = new Set([
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'dl',
  'pre',
  'blockquote',
  'figure',
  'hr',
  'img',
  'a',
  'span',
  'b',
  'form',
]);

function findMain(page: Bands): Found | undefined {
  const { o } = page;
  const byTag = byMeaning(page, 'main');
  if (byTag.length === 1)
    return { blocks: withoutEdges(page, entryAt(byTag, 0)), confidence: 0.98, by: 'meaning' };
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
 * On a page that holds nearly nothing but what others hold too (a sample, a draft, an empty page of a shell): what calls itself so, without the
 * bars in it; else as if it stood alone.
 */
function mainOfShared(page: Bands): Found | undefined {
  const { o } = page;
  const named = Array.from({ length: o.count }, (_, i) => i).filter(
    (i) => i > 0 && o.named(i) === 'main' && o.weight(i) > 0,
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

/** What speaks for a region that nothing speaks for by meaning. */
function foundBy(page: Bands, named: boolean): FoundBy {
  if (page.compared) return 'comparison';
  return named ? 'name' : 'place';
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
    page.own(k) > page.o.weight(k) * 0.5 &&
    !isNavigation(page, k) &&
    (page.sign(k) === undefined || page.sign(k) === 'main') &&
    page.o.tag(k) !== 'td' &&
    page.o.tag(k) !== 'tr';
  let from = kids.indexOf(at);
  let to = from;
  while (mine(kids[from - 1])) from--;
  while (mine(kids[to + 1])) to++;
  return kids.slice(from, to + 1);
}

/** Where chrome and content share one parent: its children from the first that is content to the last. */
function inner(page: Bands, at: number): number[] {
  const kids = page.o.kids(at);
  if (page.chrome(at) === 0 || kids.length === 0) return [at];
  const own = kids.filter(
    (k) =>
      page.own(k) > page.o.weight(k) * 0.5 &&
      !isNavigation(page, k) &&
      !['header', 'footer', 'menu', 'side'].includes(page.sign(k) ?? ''),
  );
  const [first] = own;
  const last = own.at(-1);
  return first === undefined || last === undefined
    ? [at]
    : kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
}

/** Previous, next and up; breadcrumbs; a table of contents: links of the page's own that are not its content. */
const isNavigation = (page: Bands, k: number): boolean => {
  const sign = page.o.meaning(k) ?? page.o.named(k);
  if (sign === 'menu' || sign === 'crumbs') return true;
  return page.o.links(k) >= 2 && page.o.linked(k) >= page.o.weight(k) * 0.8 && page.o.weight(k) < 200;
};

const byMeaning = (page: Bands, sign: Sign): number[] => {
  const out: number[] = [];
  for (let i = 1; i < page.o.count; i++) if (page.o.meaning(i) === sign && page.o.weight(i) > 0) out.push(i);
  return out;
};

interface BandsAround {
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** Side columns that stand inside the main part's own parent or in it. */
  readonly within: readonly number[];
}

/** The siblings of the main part, and of all that holds it, in document order. Whatever holds only such is opened. */
function bandsAround(page: Bands, main: Found | undefined): BandsAround {
  const { o } = page;
  const before: number[] = [];
  const after: number[] = [];
  if (!main) {
    const kids = o.kids(0);
    return {
      before: kids.slice(0, Math.ceil(kids.length / 2)),
      after: kids.slice(Math.ceil(kids.length / 2)),
      within: [],
    };
  }
  const [first = 0] = main.blocks;
  const last = main.blocks.at(-1) ?? first;
  for (let at = first, to = last; at > 0; at = o.parent(at), to = at) {
    const kids = o.kids(o.parent(at)).filter((k) => o.weight(k) > 0);
    before.unshift(...kids.filter((k) => k < at));
    after.push(...kids.filter((k) => k >= o.end(to)));
  }
  const within = main.blocks.flatMap((b) =>
    inside(page, b).filter(
      (k) => o.meaning(k) === 'side' || (page.compared && o.named(k) === 'side' && page.isChrome(k)),
    ),
  );
  return { before, after, within };
}

const inside = (page: Bands, b: number): number[] =>
  Array.from({ length: page.o.end(b) - b - 1 }, (_, n) => b + 1 + n);

function pickHeader(page: Bands, before: readonly number[]): Found | undefined {
  const { o } = page;
  const flat = before.flatMap((b) => (isSideBand(page, b) ? [] : [b, ...opened(page, b)]));
  const bar = menuBar(page, flat);
  const isHead = (b: number) => bar === undefined || b < bar.title;
  // A header that no other page has is the head of this page's own content.
  const header = flat.find(
    (b) => o.meaning(b) === 'header' && isHead(b) && (!page.compared || page.isChrome(b)),
  );
  if (header !== undefined) return { blocks: [header], confidence: 0.97, by: 'meaning' };
  const bands = before.filter(
    (b) =>
      !isSideBand(page, b) &&
      !isContents(page, b) &&
      page.sign(b) !== 'crumbs' &&
      o.tag(b) !== 'a' &&
      isHead(b),
  );
  // A name goes before a place; but what all pages share goes before a name that this page alone has.
  const shared = page.compared ? bands.find((b) => page.isChrome(b)) : undefined;
  const named = flat.find(
    (b) =>
      o.named(b) === 'header' &&
      (!content.has(o.tag(b)) || before.includes(b)) &&
      isHead(b) &&
      (shared === undefined || page.isChrome(b)),
  );
  if (named !== undefined)
    return { blocks: [named, ...linesAfter(page, named)], ...grade(page, named, 'header', 0.85) };
  const first = shared ?? bands[0];
  if (first === undefined) return headOfMain(page);
  if (bar && bar.menu >= first && bar.menu < o.end(first))
    return { blocks: [first], confidence: 0.85, by: 'meaning' };
  const row = o.kids(o.parent(first)).filter((k) => o.weight(k) > 0);
  const beside = row.slice(row.indexOf(first));
  // As far as they stand next to each other: a column between them belongs to neither.
  const end = beside.findIndex((b) => !bands.includes(b) || (page.compared && !page.isChrome(b)));
  const run = end < 0 ? beside : beside.slice(0, end);
  return { blocks: run.length ? run : [first], ...grade(page, first, 'header', 0.7) };
}

/** Lines that all pages share right after a header: the name of the book under its banner. */
function linesAfter(page: Bands, header: number): number[] {
  const { o } = page;
  const row = o.kids(o.parent(header)).filter((k) => o.weight(k) > 0);
  const after = row.slice(row.indexOf(header) + 1);
  const isLine = (k: number) =>
    page.compared &&
    page.isChrome(k) &&
    page.sign(k) === undefined &&
    o.weight(k) < 120 &&
    /^(p|h\d)$/.test(o.tag(k));
  const end = after.findIndex((k) => !isLine(k));
  return end < 0 ? [] : after.slice(0, end);
}

/**
 * The site's menu where a header comes after it and does not hold it: that one is a band of the page itself, large and with its title, and
 * so is all that follows; the site's own is the bar that holds the menu.
 */
function menuBar(page: Bands, flat: readonly number[]): { menu: number; title: number } | undefined {
  const { o } = page;
  const menu = flat.find((b) => o.meaning(b) === 'menu' && o.links(b) > 1);
  if (menu === undefined) return undefined;
  const title = flat.find((b) => o.meaning(b) === 'header' && b >= o.end(menu));
  return title === undefined ? undefined : { menu, title };
}

/** Where the main part holds all there is, its menu at the top is the header. */
function headOfMain(page: Bands): Found | undefined {
  for (let i = 1; i < page.o.count; i++) {
    if (page.sign(i) === 'menu' && page.o.weight(i) > 0 && (!page.compared || page.isChrome(i)))
      return i < page.o.count / 3 ? { blocks: [i], ...grade(page, i, 'menu', 0.6) } : undefined;
  }
  return undefined;
}

function pickFooter(page: Bands, after: readonly number[], main: Found | undefined): Found | undefined {
  const { o } = page;
  const flat = after.flatMap((b) => [b, ...opened(page, b)]);
  const footer = flat.findLast((b) => o.meaning(b) === 'footer');
  if (footer !== undefined)
    return {
      blocks: [footer],
      confidence: page.isChrome(footer) || !page.compared ? 0.97 : 0.7,
      by: 'meaning',
    };
  const isFoot = (b: number) => o.named(b) === 'footer' || o.tag(b) === 'footer';
  const innermost = flat.findLast(isFoot);
  if (innermost !== undefined) {
    let named = innermost;
    for (let up = o.parent(named); up > 0 && flat.includes(up); up = o.parent(up)) if (isFoot(up)) named = up;
    return { blocks: [named], ...grade(page, named, 'footer', 0.85) };
  }
  const inMain = footOfMain(page, main);
  if (inMain) return inMain;
  // Ways to the page before and the next are other ones on each page, and a footer all the same.
  const mayBe = (b: number) =>
    !isSideBand(page, b) && (page.isChrome(b) || !page.compared || isWays(page, b));
  const bands = after.filter(mayBe);
  const last = bands.at(-1);
  if (last === undefined) return undefined;
  const run = bands.filter((b) => o.parent(b) === o.parent(last));
  return { blocks: run.slice(-1 * contiguous(page, run)), ...grade(page, last, 'footer', 0.7) };
}

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

/** A wrapper around header and menu is looked into, two levels deep; what holds nothing but one block is none. */
function opened(page: Bands, b: number): number[] {
  const { o } = page;
  const out: number[] = [];
  let kids = o.kids(b);
  for (; kids.length === 1; kids = o.kids(entryAt(kids, 0))) out.push(...kids);
  return [...out, ...kids.flatMap((k) => [k, ...o.kids(k)])];
}

const grade = (page: Bands, b: number, sign: Sign, base: number): Pick<Found, 'confidence' | 'by'> => {
  const byTag = page.o.meaning(b) === sign;
  const named = page.o.named(b) === sign;
  const shared = page.compared && page.isChrome(b);
  const speaks = (byTag && 0.15) || (named && 0.08) || 0;
  const confidence = (page.compared ? base : base - 0.2) + (shared ? 0.08 : 0) + speaks;
  return { confidence: round(Math.min(0.97, confidence)), by: gradedBy(page, { byTag, shared, named }) };
};

function gradedBy(page: Bands, it: { byTag: boolean; shared: boolean; named: boolean }): FoundBy {
  if (it.byTag) return 'meaning';
  if (it.named && !it.shared) return 'name';
  return page.compared ? 'comparison' : 'place';
}

/** Beside the main part rather than above or below it: another cell of its row, or said to be by meaning or name. */
function isSide(page: Bands, b: number, main: Found | undefined): boolean {
  const { o } = page;
  if (page.o.weight(b) === 0 || page.sign(b) === 'crumbs') return false;
  if (isSideBand(page, b)) return true;
  // A long list of links beside the main part, or beside what holds it, is a column, whatever it is called.
  return (
    main !== undefined &&
    o.meaning(b) !== 'menu' &&
    o.links(b) >= 8 &&
    o.linked(b) >= o.weight(b) * 0.6 &&
    hasListOrHeading(page, b) &&
    page.sign(b) === undefined
  );
}

const isSideBand = (page: Bands, b: number): boolean => {
  const { o } = page;
  if (o.tag(b) === 'td' && o.kids(o.parent(b)).filter((k) => o.weight(k) > 0).length > 1) return true;
  return o.meaning(b) === 'side' || o.named(b) === 'side';
};

/** A table of contents of this very page: a long list of links, none of which leads to another page. */
const isContents = (page: Bands, b: number): boolean =>
  page.o.links(b) >= 8 &&
  page.o.pages(b) === 0 &&
  page.o.linked(b) >= page.o.weight(b) * 0.6 &&
  page.o.meaning(b) === undefined &&
  hasListOrHeading(page, b);

const hasListOrHeading = (page: Bands, b: number): boolean =>
  inside(page, b).some((k) => /^(ul|ol|dl|tr|h[1-6])$/.test(page.o.tag(k)));

/** The block of links that leads through the site: by meaning or name, near the top, shared, mostly links. */
function pickMenu(
  page: Bands,
  main: Found | undefined,
  footer: Found | undefined,
  hasTop: boolean,
): Found | undefined {
  const { o } = page;
  const mainBlocks = (hasTop && main?.blocks) || [];
  let best: { i: number; score: number } | undefined;
  for (let i = 1; i < o.count; i++) {
    const low = isWithin(page, i, footer?.blocks ?? []);
    if (!mayBeMenu(page, i) || isWithin(page, i, mainBlocks) || (low && o.meaning(i) !== 'menu')) continue;
    const score = menuScore(page, i, low);
    if (!best || score > best.score) best = { i, score };
  }
  if (!best) return undefined;
  const whole = wholeMenu(page, best.i);
  return { blocks: [listIn(page, whole)], ...grade(page, best.i, 'menu', 0.72) };
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

const isListTag = (tag: string): boolean => tag === 'ul' || tag === 'ol' || tag === 'menu';

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

const isWithin = (page: Bands, i: number, blocks: readonly number[]): boolean =>
  blocks.some((b) => i >= b && i < page.o.end(b));

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

/** A menu with a few words beside its items that one page alone has is still what pages share. */
const isShared = (page: Bands, i: number): boolean => page.chrome(i) >= page.o.weight(i) * 0.65;

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

function fact(page: Bands, region: Landmark, { blocks, confidence, by }: Found): RegionFact {
  const { o } = page;
  const [first = 0] = blocks;
  // A lone paragraph or heading is not what holds the region, but all there is of it.
  const holds = blocks.length === 1 && !(region === 'main' && content.has(o.tag(first)));
  if (holds || blocks.length === 0) return { region, path: o.path(first), confidence, by };
  return {
    region,
    path: o.path(o.parent(first)),
    from: o.child(first),
    to: o.child(blocks.at(-1) ?? first),
    confidence,
    by,
  };
}

const round = (n: number): number => Math.round(Math.min(0.99, n) * 100) / 100;
