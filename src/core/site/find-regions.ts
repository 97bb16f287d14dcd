import { Bands, content, grade, inside, type Found } from './find/bands';
import { explain, type Explained } from './find/explain';
import { findMain } from './find/main';
import { columnIn, isSide } from './find/side';
import { pickHeader } from './find/header';
import { pickFooter } from './find/footer';
import { pickMenu } from './find/menu';
import type { ShownBlocks } from './as-shown';
import type { Outline } from './outline';
import type { Landmark, RegionFact } from './regions';

/**
 * The regions of one page, from its outline and from what is known to be chrome on it.
 *
 * The main part is where the page's own content is: from the body down to the highest block that holds nearly all of it and
 * no chrome, or the run of blocks that do. What stands before it is header, menu or side column, what stands after it footer
 * or side column; meaning comes first, then names, then place. What style sheets hide on a wide screen is none of them, and
 * what they put over the top stands before, wherever it is in the source.
 */
export function findRegions(o: Outline, core: ReadonlySet<number>, shown?: ShownBlocks): RegionFact[] {
  const page = bandsOf(o, core, shown);
  return page ? regionsIn(page).map(([region, found]) => fact(page, region, found)) : [];
}

/** The same with what speaks for each: figures of the block, and for the menu what else was weighed. For people who ask why. */
export function explainRegions(o: Outline, core: ReadonlySet<number>, shown?: ShownBlocks): Explained[] {
  const page = bandsOf(o, core, shown);
  return page ? regionsIn(page).map(([region, found]) => explain(page, region, found)) : [];
}

const bandsOf = (o: Outline, core: ReadonlySet<number>, shown?: ShownBlocks): Bands | undefined =>
  o.count === 0 || o.weight(0) === 0 ? undefined : new Bands(o, core, shown);

function regionsIn(page: Bands): [Landmark, Found][] {
  const main = findMain(page);
  const bands = bandsAround(page, main);
  const header = pickHeader(page, bands.before);
  const footer = pickFooter(page, bands.after, main);
  const sides = [...bands.before, ...bands.after, ...bands.within]
    .map((b) => columnIn(page, b))
    .filter((b) => !header?.blocks.includes(b) && !footer?.blocks.includes(b) && isSide(page, b, main))
    .slice(0, 2)
    .map((side): Found => ({ blocks: [side], ...grade(page, side, 'side', 0.72) }));
  const menu = pickMenu(page, main, footer, bands.before.length > 0);
  const all: readonly [Landmark, Found | undefined][] = [
    ['header', header],
    ['main', main],
    ['side', sides[0]],
    ['side-2', sides[1]],
    ['footer', footer],
    ['menu', menu],
  ];
  return all.flatMap(([region, found]): [Landmark, Found][] => (found ? [[region, found]] : []));
}

/** The blocks of the main part alone. */
export const mainBlocks = (o: Outline, core: ReadonlySet<number>): readonly number[] =>
  o.count === 0 || o.weight(0) === 0 ? [] : (findMain(new Bands(o, core))?.blocks ?? []);

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
    const behind = kids.filter((k) => k >= o.end(to));
    const isTop = (k: number) => page.stands(k) === 'top' && (!page.compared || page.isChrome(k));
    before.unshift(...behind.filter(isTop), ...kids.filter((k) => k < at));
    after.push(...behind.filter((k) => !isTop(k)));
  }
  const within = main.blocks.flatMap((b) =>
    inside(page, b).filter(
      (k) => o.meaning(k) === 'side' || (page.compared && page.named(k) === 'side' && page.isChrome(k)),
    ),
  );
  return { before, after, within };
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
