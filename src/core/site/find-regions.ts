import { Bands, content, grade, inside, type Found } from './find/bands';
import { findMain } from './find/main';
import { isSide } from './find/side';
import { pickHeader } from './find/header';
import { pickFooter } from './find/footer';
import { pickMenu } from './find/menu';
import type { Outline } from './outline';
import type { Landmark, RegionFact } from './regions';

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
